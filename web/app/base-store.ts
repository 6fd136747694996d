import { combineSlices, configureStore, createDynamicMiddleware } from '@reduxjs/toolkit';
import { useDispatch } from 'react-redux';
import { baseApi } from './base-api.ts';
import type { editorSlice } from './editor.ts';
import type { historyReducer } from './history.ts';

/** What is put in once a rig can be opened: the first page does without. */
interface LaterSlices {
  readonly editor: ReturnType<typeof editorSlice.reducer>;
  readonly history: ReturnType<typeof historyReducer>;
}

export const rootReducer = combineSlices(baseApi).withLazyLoadedSlices<LaterSlices>();
export const laterMiddleware = createDynamicMiddleware();

export const store = configureStore({
  reducer: rootReducer,
  middleware: (getDefault) =>
    getDefault({ serializableCheck: false, immutableCheck: false }).concat(baseApi.middleware, laterMiddleware.middleware),
});

export type RootState = Required<ReturnType<typeof rootReducer>>;
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();
