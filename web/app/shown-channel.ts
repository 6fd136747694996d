import type { Middleware } from '@reduxjs/toolkit';
import { isEdit } from './edits.ts';
import type { EditorState } from './editor.ts';

/** Slots and paths of an edit are of the channel that the page shows. */
export const inShownChannel: Middleware<object, { editor: EditorState }> = (api) => (next) => (action) =>
  next(isEdit(action) ? { ...action, meta: { channel: api.getState().editor.channel } } : action);
