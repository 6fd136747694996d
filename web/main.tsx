import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router';
import { Toaster } from 'sonner';
import { askFailedAgain } from './app/again.ts';
import { applySavedManner } from './app/manner.ts';
import { fetchPages, router } from './app/routes.tsx';
import { setupListeners } from '@reduxjs/toolkit/query';
import { store } from './app/base-store.ts';
import { goLive } from './app/live.ts';
import { sessionStarted } from './app/session-start.ts';
import { applyTheme, savedTheme } from './app/theme.ts';
import './styles.css';

applyTheme(savedTheme());
applySavedManner();

// What is asked for again and again rests while the page is not looked at, and comes at once when it is.
setupListeners(store.dispatch);

const root = document.getElementById('root');
if (!root) throw new Error('the page has no root element');
createRoot(root).render(
  <Provider store={store}>
    <RouterProvider router={router} />
    <Toaster
      position="bottom-center"
      toastOptions={{
        classNames: { actionButton: '!rounded-none' },
        className: '!rounded-none !border !border-ink !bg-plate !text-ink !shadow-none !font-sans',
      }}
    />
  </Provider>,
);

// Whatever waits on this device is sent as soon as its script is here; who goes on before waits for it.
sessionStarted().catch(() => undefined);

// What others write comes by itself from here on; nothing of the first page waits for it.
goLive();
askFailedAgain();

// A visit of a moment need not pay for pages that nobody goes to.
setTimeout(() => void fetchPages(), 10_000);
