import { useMemo } from 'react';
import { useSelector } from 'react-redux';
import { laterMiddleware, rootReducer, store as baseStore, type RootState } from './base-store.ts';
import { editorSlice } from './editor.ts';
import { inChannel, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { inShownChannel } from './shown-channel.ts';
import { historyReducer } from './history.ts';

rootReducer.inject(editorSlice).inject({ reducerPath: 'history', reducer: historyReducer });
laterMiddleware.addMiddleware(inShownChannel);
// What was put in begins with the next action: this is one.
baseStore.replaceReducer(rootReducer);

export { useAppDispatch, type RootState } from './base-store.ts';
/** The store with what a rig needs in it. */
export const store = baseStore as Omit<typeof baseStore, 'getState'> & { readonly getState: () => RootState };
export const useAppSelector = useSelector.withTypes<RootState>();

/** The open rig as it stands in this page; null where none is open. */
export const useOpenDocument = () => useAppSelector((s) => s.history.present);

/** The channel of a rig that pages show, from 0. */
export const useShownChannel = (rig: Rig): number =>
  Math.min(
    useAppSelector((s) => s.editor.channel),
    rig.channels.length - 1,
  );

/** A document with its rig as seen from the channel that pages show. */
export function useSeen(document: RigDocument): RigDocument {
  const channel = useShownChannel(document.rig);
  return useMemo(() => (channel === 0 ? document : { ...document, rig: inChannel(document.rig, channel) }), [document, channel]);
}
