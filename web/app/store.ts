import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { api } from './api.ts';
import { autosave } from './autosave.ts';
import { editorSlice } from './editor.ts';

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer },
  middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
});

autosave(store);

export type RootState = ReturnType<typeof store.getState>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
export const useAppSelector = useSelector.withTypes<RootState>();
