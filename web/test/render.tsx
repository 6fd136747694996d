import { configureStore } from '@reduxjs/toolkit';
import { cleanup, render as draw } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { vi } from 'vitest';
import type { RigDocument } from '@vast-surge/core/rig';
import { api } from '../app/api.ts';
import { editorSlice } from '../app/editor.ts';
import { rigOpened } from '../app/edits.ts';
import { historyReducer } from '../app/history.ts';
import { inShownChannel } from '../app/shown-channel.ts';

const rigId = '33333333-3333-4333-8333-333333333333';

/** Nothing is laid out here: what watches sizes hears of none. */
export function withoutLayout(): void {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe = () => undefined;
      unobserve = () => undefined;
      disconnect = () => undefined;
    },
  );
  Object.defineProperty(document, 'fonts', { configurable: true, value: { ready: Promise.resolve() } });
}

/** A page without a server: whatever it asks for is not there yet, and what it shows has to stand all the same. */
export function page(document: RigDocument) {
  vi.stubGlobal('fetch', () => new Promise(() => undefined));
  withoutLayout();
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer, history: historyReducer },
    middleware: (getDefault) =>
      getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware, inShownChannel),
  });
  store.dispatch(rigOpened({ id: rigId, base: { version: 1, document }, document, drafts: {} }));
  const drawn = (children: ReactNode) =>
    draw(
      <Provider store={store}>
        <MemoryRouter>{children}</MemoryRouter>
      </Provider>,
    );
  return { store, rigId, drawn, present: (): RigDocument => store.getState().history.present ?? document };
}

/** Takes what was drawn off the screen, and gives back what was put in the place of the browser's own. */
export function clear(): void {
  cleanup();
  vi.unstubAllGlobals();
}
