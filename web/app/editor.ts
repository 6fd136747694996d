import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Slot } from '@vast-surge/core/block';
import { spotAt, spotIn } from '@vast-surge/core/rig';
import {
  blockReplaced,
  channelRemoved,
  fieldTyped,
  followed,
  kindChosen,
  restored,
  rigOpened,
  rigReplaced,
  valueSet,
  type Base,
} from './edits.ts';

/** How the sending of edits stands. Whether there is anything to send is seen by comparing the rig with its base. */
export type SendState =
  | { readonly at: 'idle'; readonly when: number | null }
  | { readonly at: 'sending' }
  | { readonly at: 'away'; readonly message: string; readonly kept: boolean }
  | { readonly at: 'refused'; readonly message: string }
  | { readonly at: 'conflict'; readonly theirs: Base };

export interface EditorState {
  readonly id: string | null;
  readonly base: Base | null;
  readonly send: SendState;
  readonly selected: Slot;
  /** The channel that pages of the rig show, from 0. */
  readonly channel: number;
  /** Text that is not yet a value, by field path; the rig keeps its last value meanwhile. */
  readonly drafts: Readonly<Record<string, string>>;
  /** The figure or limit whose working is shown. */
  readonly focus: string;
  readonly workingOpen: boolean;
}

const initialState: EditorState = {
  id: null,
  base: null,
  send: { at: 'idle', when: null },
  selected: 'store',
  channel: 0,
  drafts: {},
  focus: 'figure:stored-energy',
  workingOpen: false,
};

const dropDrafts = (drafts: EditorState['drafts'], drop: (path: string) => boolean): EditorState['drafts'] =>
  Object.fromEntries(Object.entries(drafts).filter(([path]) => !drop(path)));

type OfRig<P = object> = PayloadAction<P & { readonly id: string }>;

export const editorSlice = createSlice({
  name: 'editor',
  initialState,
  reducers: {
    sendBegun: (state, { payload }: OfRig) => {
      if (state.id === payload.id && state.send.at !== 'conflict') state.send = { at: 'sending' };
    },
    /** The server has acknowledged what `base` holds. */
    sent: (state, { payload: { id, base, when } }: OfRig<{ base: Base; when: number }>) =>
      state.id === id ? { ...(state as EditorState), base, send: { at: 'idle' as const, when } } : undefined,
    sendFailed: (state, { payload: { id, ...failure } }: OfRig<{ at: 'away' | 'refused'; message: string; kept: boolean }>) => {
      if (state.id !== id) return;
      state.send =
        failure.at === 'away'
          ? { at: 'away', message: failure.message, kept: failure.kept }
          : { at: 'refused', message: failure.message };
    },
    /** Another hand changed what was changed here: a person has to decide. */
    conflictFound: (state, { payload: { id, theirs } }: OfRig<{ theirs: Base }>) =>
      state.id === id ? { ...(state as EditorState), send: { at: 'conflict' as const, theirs } } : undefined,
    fieldDrafted: (state, { payload: { path, text } }: PayloadAction<{ path: string; text: string }>) => ({
      ...(state as EditorState),
      drafts: { ...state.drafts, [path]: text },
    }),
    draftsDropped: (state, { payload }: PayloadAction<readonly string[]>) => {
      state.drafts = dropDrafts(state.drafts, (path) => payload.includes(path));
    },
    blockSelected: (state, { payload }: PayloadAction<Slot>) => {
      state.selected = payload;
    },
    /** A place of the rig, such as `store@2`: its channel and its block. */
    spotSelected: (state, { payload }: PayloadAction<string>) => {
      const { slot, channel } = spotAt(payload);
      state.selected = slot;
      state.channel = channel ?? 0;
    },
    channelSelected: (state, { payload }: PayloadAction<number>) => {
      state.channel = payload;
    },
    numberTouched: (state, { payload }: PayloadAction<string>) => {
      state.focus = payload;
      state.workingOpen = true;
    },
    workingToggled: (state, { payload }: PayloadAction<boolean>) => {
      state.workingOpen = payload;
    },
  },
  extraReducers: (build) => {
    build
      .addCase(rigOpened, (state, { payload: { id, base, drafts } }) => ({
        ...initialState,
        // The same rig opened anew keeps the place one was at.
        ...(state.id === id ? { selected: state.selected, channel: state.channel, focus: state.focus } : {}),
        id,
        base,
        drafts,
      }))
      .addCase(followed, (state, { payload: { id, theirs } }) =>
        state.id === id ? { ...(state as EditorState), base: theirs, send: { at: 'idle' as const, when: null } } : undefined,
      )
      .addCase(fieldTyped, (state, { payload: { slot, field } }) => {
        state.drafts = dropDrafts(state.drafts, (path) => path === `${spotIn(slot, state.channel)}.${field}`);
      })
      .addCase(blockReplaced, (state, { payload: { slot } }) => {
        state.drafts = dropDrafts(state.drafts, (path) => path.startsWith(`${spotIn(slot, state.channel)}.`));
      })
      .addCase(kindChosen, (state, { payload: { slot } }) => {
        state.drafts = dropDrafts(state.drafts, (path) => path.startsWith(`${spotIn(slot, state.channel)}.`));
      })
      .addCase(channelRemoved, (state, { payload }) => {
        if (state.channel >= payload) state.channel -= 1;
        state.drafts = {};
      })
      .addCase(rigReplaced, (state) => {
        state.drafts = {};
      })
      .addCase(restored, (state) => {
        state.drafts = {};
      })
      .addCase(valueSet, (state, { payload: { path } }) => {
        const { slot, channel } = spotAt(path.split('.')[0] ?? '');
        state.selected = slot;
        state.channel = channel ?? state.channel;
        const spot = spotIn(slot, state.channel);
        state.drafts = dropDrafts(state.drafts, (draft) => draft === `${spot}.${path.split('.')[1] ?? ''}`);
      });
  },
});

export const {
  sendBegun,
  sent,
  sendFailed,
  conflictFound,
  fieldDrafted,
  draftsDropped,
  blockSelected,
  spotSelected,
  channelSelected,
  numberTouched,
  workingToggled,
} = editorSlice.actions;
