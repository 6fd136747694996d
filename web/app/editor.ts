import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { StoredRig } from '@vast-surge/contract';
import { blockDefinition, changeKind, type FieldValue, type Slot } from '@vast-surge/core/block';
import type { RigDocument } from '@vast-surge/core/format';
import { blockIn, withBlock } from '@vast-surge/core/rig';

/** Where the edits of the open rig are: with the server, on the way, or only here. */
export type SaveState =
  | { readonly at: 'saved'; readonly when: number | null }
  | { readonly at: 'waiting' }
  | { readonly at: 'saving' }
  | { readonly at: 'failed'; readonly message: string }
  | { readonly at: 'conflict' };

export interface EditorState {
  readonly id: string | null;
  readonly version: number;
  readonly document: RigDocument | null;
  /** Counts the edits, so that a save knows whether it saved the last one. */
  readonly edits: number;
  readonly save: SaveState;
  readonly selected: Slot;
  /** Text that is not yet a value, by field path; the rig keeps its last value meanwhile. */
  readonly drafts: Readonly<Record<string, string>>;
  /** The figure or limit whose working is shown. */
  readonly focus: string;
  readonly workingOpen: boolean;
}

const initialState: EditorState = {
  id: null,
  version: 0,
  document: null,
  edits: 0,
  save: { at: 'saved', when: null },
  selected: 'store',
  drafts: {},
  focus: 'figure:stored-energy',
  workingOpen: false,
};

function edited(state: EditorState, document: RigDocument): EditorState {
  const save: SaveState = state.save.at === 'conflict' ? state.save : { at: 'waiting' };
  return { ...state, document, edits: state.edits + 1, save };
}

const withoutDraft = (drafts: EditorState['drafts'], path: string) =>
  Object.fromEntries(Object.entries(drafts).filter(([key]) => key !== path));

export const editorSlice = createSlice({
  name: 'editor',
  initialState: initialState as EditorState,
  reducers: {
    rigOpened: (_state, { payload }: PayloadAction<StoredRig>): EditorState => ({
      ...initialState,
      id: payload.id,
      version: payload.version,
      document: payload.document,
    }),
    fieldTyped: (state, { payload }: PayloadAction<{ slot: Slot; field: string; value: FieldValue }>): EditorState => {
      if (!state.document) return state as EditorState;
      const document = state.document as RigDocument;
      const block = blockIn(document.rig, payload.slot);
      const rig = withBlock(document.rig, payload.slot, {
        ...block,
        fields: { ...block.fields, [payload.field]: payload.value },
      });
      const drafts = withoutDraft(state.drafts, `${payload.slot}.${payload.field}`);
      return { ...edited(state as EditorState, { ...document, rig }), drafts };
    },
    fieldDrafted: (state, { payload }: PayloadAction<{ path: string; text: string }>): EditorState => ({
      ...(state as EditorState),
      drafts: { ...state.drafts, [payload.path]: payload.text },
    }),
    draftDropped: (state, { payload }: PayloadAction<string>): EditorState => ({
      ...(state as EditorState),
      drafts: withoutDraft(state.drafts, payload),
    }),
    kindChosen: (state, { payload }: PayloadAction<{ slot: Slot; kind: string }>): EditorState => {
      if (!state.document) return state as EditorState;
      const document = state.document as RigDocument;
      const block = blockIn(document.rig, payload.slot);
      const next = changeKind(block, blockDefinition(payload.slot, block.kind), blockDefinition(payload.slot, payload.kind));
      const drafts = Object.fromEntries(Object.entries(state.drafts).filter(([path]) => !path.startsWith(`${payload.slot}.`)));
      return { ...edited(state as EditorState, { ...document, rig: withBlock(document.rig, payload.slot, next) }), drafts };
    },
    renamed: (state, { payload }: PayloadAction<string>): EditorState =>
      state.document
        ? edited(state as EditorState, { ...(state.document as RigDocument), name: payload })
        : (state as EditorState),
    noteWritten: (state, { payload }: PayloadAction<string>): EditorState =>
      state.document
        ? edited(state as EditorState, { ...(state.document as RigDocument), note: payload })
        : (state as EditorState),
    saveBegun: (state): EditorState => ({ ...(state as EditorState), save: { at: 'saving' } }),
    saveDone: (state, { payload }: PayloadAction<{ id: string; version: number; edits: number; when: number }>): EditorState => {
      if (state.id !== payload.id) return state as EditorState;
      const save: SaveState = state.edits === payload.edits ? { at: 'saved', when: payload.when } : { at: 'waiting' };
      return { ...(state as EditorState), version: payload.version, save };
    },
    saveFailed: (state, { payload }: PayloadAction<{ code: string; message: string }>): EditorState => ({
      ...(state as EditorState),
      save: payload.code === 'conflict' ? { at: 'conflict' } : { at: 'failed', message: payload.message },
    }),
    blockSelected: (state, { payload }: PayloadAction<Slot>): EditorState => ({ ...(state as EditorState), selected: payload }),
    numberTouched: (state, { payload }: PayloadAction<{ focus: string; open: boolean }>): EditorState => ({
      ...(state as EditorState),
      focus: payload.focus,
      workingOpen: payload.open || state.workingOpen,
    }),
    workingToggled: (state, { payload }: PayloadAction<boolean>): EditorState => ({
      ...(state as EditorState),
      workingOpen: payload,
    }),
  },
});

export const {
  rigOpened,
  fieldTyped,
  fieldDrafted,
  draftDropped,
  kindChosen,
  renamed,
  noteWritten,
  saveBegun,
  saveDone,
  saveFailed,
  blockSelected,
  numberTouched,
  workingToggled,
} = editorSlice.actions;
