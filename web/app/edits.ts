import { createAction, type UnknownAction } from '@reduxjs/toolkit';
import type { Slot } from '@vast-surge/core/block';
import type { Block } from '@vast-surge/core/kind';
import type { FieldValue } from '@vast-surge/core/field';
import type { Rig, RigDocument, SheetEdits } from '@vast-surge/core/rig';

/** A state of a rig that the server has acknowledged: what the edits here build on. */
export interface Base {
  readonly version: number;
  readonly document: RigDocument;
}

/** What the store puts on every edit: the channel that the page shows, from 0, which slots and paths are of. */
export interface EditMeta {
  readonly channel: number;
}

export const isEdit = (action: unknown): action is UnknownAction & { readonly meta?: EditMeta } =>
  typeof action === 'object' && action !== null && 'type' in action && String(action.type).startsWith('edit/');

/**
 * Edits of the open rig. `burst` names the edits that one undo takes back together: the key strokes of one visit to a
 * field.
 */
export const fieldTyped = createAction<{ slot: Slot; field: string; value: FieldValue; burst?: string }>('edit/fieldTyped');
/** Values of one burst are one step of undo. */
export const valueSet = createAction<{ path: string; value: number; burst?: string }>('edit/valueSet');
export const kindChosen = createAction<{ slot: Slot; kind: string }>('edit/kindChosen');
/** The block stands on a part now, or on none, or takes what its part has come to say. */
export const blockReplaced = createAction<{ slot: Slot; block: Block }>('edit/blockReplaced');
/** One more channel at the end of the rig, like the last; and one behind the first taken out, from 1. */
export const channelAdded = createAction('edit/channelAdded');
export const channelRemoved = createAction<number>('edit/channelRemoved');
/** Several blocks at once, worked out together: the whole rig as it is then. */
export const rigReplaced = createAction<Rig>('edit/rigReplaced');
/** Whether the rig stands on the bench. */
export const builtSet = createAction<boolean>('edit/builtSet');
export const renamed = createAction<string>('edit/renamed');
export const noteWritten = createAction<{ note: string; burst?: string }>('edit/noteWritten');

/** What a person makes of the run sheet. */
export const sheetEdited = createAction<{ sheet: SheetEdits; burst?: string }>('edit/sheetEdited');

/** The whole rig becomes what a revision of it holds. */
export const restored = createAction<RigDocument>('edit/restored');

/** Another rig is opened, as the server has it or with edits of it that were kept on this device. */
export const rigOpened = createAction<{
  id: string;
  base: Base;
  document: RigDocument;
  drafts: Readonly<Record<string, string>>;
}>('rig/opened');

/**
 * Another hand saved the rig: its state becomes what the edits here build on. `document` is what both together make of
 * the present state, where a person decided it; without one the two merge by themselves.
 */
export const followed = createAction<{ id: string; was: RigDocument; theirs: Base; document?: RigDocument }>('rig/followed');
