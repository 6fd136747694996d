import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { editorSlice } from './editor.ts';
import { historyReducer } from './history.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer, history: historyReducer },
  middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();

/** The open rig as it stands in this page; null where none is open. */
export const useOpenDocument = () => useAppSelector((s) => s.history.present);
