import { configureStore } from '@reduxjs/toolkit';
import { useMemo } from 'react';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { editorSlice } from './editor.ts';
import { inChannel, type Rig, type RigDocument } from '@vast-surge/core/rig';
import { inShownChannel } from './shown-channel.ts';
import { historyReducer } from './history.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer, history: historyReducer },
  middleware: (getDefault) =>
    getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware, inShownChannel),
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
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
