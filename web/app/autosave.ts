import type { ThunkDispatch, UnknownAction } from '@reduxjs/toolkit';
import { api, failureOf } from './api.ts';
import { keepDrafts } from './drafts.ts';
import { saveBegun, saveDone, saveFailed, type EditorState } from './editor.ts';

interface EditorStore {
  getState(): { editor: EditorState };
  subscribe(listener: () => void): () => void;
  dispatch: ThunkDispatch<unknown, unknown, UnknownAction>;
}

const quietTime = 600;
const retryTime = 3000;

/**
 * Saves the open rig a moment after the last edit, one save at a time, and goes on trying while the server is away. A
 * conflict stops it: only the user can say which version stands.
 */
export function autosave(store: EditorStore): void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let busy = false;
  let seen = -1;
  let seenId: string | null = null;
  let seenDrafts: EditorState['drafts'] = {};

  const later = (delay: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void save(), delay);
  };

  async function save(): Promise<void> {
    const { id, document, version, edits, save: state } = store.getState().editor;
    if (busy || !id || !document || state.at === 'saved' || state.at === 'conflict') return;
    busy = true;
    store.dispatch(saveBegun(undefined));
    try {
      const stored = await store.dispatch(api.endpoints.saveRig.initiate({ id, version, document })).unwrap();
      store.dispatch(saveDone({ id, version: stored.version, edits, when: Date.now() }));
    } catch (error) {
      const failure = failureOf(error);
      if (store.getState().editor.id === id) store.dispatch(saveFailed(failure));
      if (failure.code !== 'conflict' && failure.code !== 'bad_input') later(retryTime);
    } finally {
      busy = false;
    }
    if (store.getState().editor.save.at === 'waiting') later(quietTime);
  }

  store.subscribe(() => {
    const { edits, id, drafts } = store.getState().editor;
    if (id && id === seenId && drafts !== seenDrafts) keepDrafts(id, drafts);
    seenDrafts = drafts;
    const changed = edits !== seen && id === seenId && edits > 0;
    seen = edits;
    seenId = id;
    if (changed) later(quietTime);
  });

  const pending = () => ['waiting', 'saving', 'failed'].includes(store.getState().editor.save.at);
  window.addEventListener('beforeunload', (event) => {
    if (pending()) event.preventDefault();
  });
  window.addEventListener('online', () => void save());
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') void save();
  });
}
