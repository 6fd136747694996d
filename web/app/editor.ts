import { createSlice, original, type Draft, type PayloadAction } from '@reduxjs/toolkit';
import type { StoredRig } from '@vast-surge/contract';
import { blockDefinition, changeKind, type FieldValue, type Slot } from '@vast-surge/core/block';
import type { RigDocument } from '@vast-surge/core/format';
import { blockIn, quantityAt, typedAt, withBlock } from '@vast-surge/core/rig';

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

/** A reducer that makes the next state from the plain one: rigs are never changed in place. */
const pure =
  <P>(next: (state: EditorState, payload: P) => EditorState) =>
  (state: Draft<EditorState>, { payload }: PayloadAction<P>): EditorState =>
    next(original(state) as EditorState, payload);

function edited(state: EditorState, change: Partial<RigDocument>): EditorState {
  if (!state.document) return state;
  const save: SaveState = state.save.at === 'conflict' ? state.save : { at: 'waiting' };
  return { ...state, document: { ...state.document, ...change }, edits: state.edits + 1, save };
}

const dropDrafts = (drafts: EditorState['drafts'], drop: (path: string) => boolean): EditorState['drafts'] =>
  Object.fromEntries(Object.entries(drafts).filter(([path]) => !drop(path)));

function withField(state: EditorState, { slot, field, value }: { slot: Slot; field: string; value: FieldValue }): EditorState {
  if (!state.document) return state;
  const { rig } = state.document;
  const block = blockIn(rig, slot);
  const next = withBlock(rig, slot, { ...block, fields: { ...block.fields, [field]: value } });
  return { ...edited(state, { rig: next }), drafts: dropDrafts(state.drafts, (path) => path === `${slot}.${field}`) };
}

function withKind(state: EditorState, { slot, kind }: { slot: Slot; kind: string }): EditorState {
  if (!state.document) return state;
  const { rig } = state.document;
  const block = blockIn(rig, slot);
  const next = changeKind(block, blockDefinition(slot, block.kind), blockDefinition(slot, kind));
  const drafts = dropDrafts(state.drafts, (path) => path.startsWith(`${slot}.`));
  return { ...edited(state, { rig: withBlock(rig, slot, next) }), drafts };
}

/** A number that was worked out, put into its field as if it had been typed there. */
function withWorkedValue(state: EditorState, { path, value }: { path: string; value: number }): EditorState {
  const at = state.document && quantityAt(state.document.rig, path);
  const typed = state.document && typedAt(state.document.rig, path, value);
  if (!at || !typed) return state;
  return { ...withField(state, { slot: at.slot, field: at.id, value: typed }), selected: at.slot };
}

function afterSave(state: EditorState, done: { id: string; version: number; edits: number; when: number }): EditorState {
  if (state.id !== done.id) return state;
  const save: SaveState = state.edits === done.edits ? { at: 'saved', when: done.when } : { at: 'waiting' };
  return { ...state, version: done.version, save };
}

export const editorSlice = createSlice({
  name: 'editor',
  initialState,
  reducers: {
    rigOpened: pure<{ rig: StoredRig; drafts: Record<string, string> }>((_state, { rig: { id, version, document }, drafts }) => ({
      ...initialState,
      id,
      version,
      document,
      drafts,
    })),
    fieldTyped: pure(withField),
    valueSet: pure(withWorkedValue),
    fieldDrafted: pure<{ path: string; text: string }>((state, { path, text }) => ({
      ...state,
      drafts: { ...state.drafts, [path]: text },
    })),
    kindChosen: pure(withKind),
    renamed: pure<string>((state, name) => edited(state, { name })),
    noteWritten: pure<string>((state, note) => edited(state, { note })),
    saveBegun: pure<undefined>((state) => ({ ...state, save: { at: 'saving' } })),
    saveDone: pure(afterSave),
    saveFailed: pure<{ code: string; message: string }>((state, { code, message }) => ({
      ...state,
      save: code === 'conflict' ? { at: 'conflict' } : { at: 'failed', message },
    })),
    blockSelected: pure<Slot>((state, selected) => ({ ...state, selected })),
    numberTouched: pure<string>((state, focus) => ({ ...state, focus, workingOpen: true })),
    workingToggled: pure<boolean>((state, workingOpen) => ({ ...state, workingOpen })),
  },
});

export const {
  rigOpened,
  fieldTyped,
  valueSet,
  fieldDrafted,
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
