import { z } from 'zod';
import { textUpTo } from '../field/index.ts';
import { noSheetEdits, sheetEditsSchema, type SheetEdits } from './sheet-edits.ts';
import { newRig, rigSchema, type Rig } from './schema.ts';

/** A rig with its name and note: what is edited, kept, sent and filed as one. */
export interface RigDocument {
  readonly name: string;
  readonly note: string;
  /** Whether it stands on the bench: its parts are in it and in no other. */
  readonly built: boolean;
  /** What a person made of its run sheet. */
  readonly sheet: SheetEdits;
  readonly rig: Rig;
}

export const rigNameSchema = textUpTo(80)
  .trim()
  .min(1, { error: () => 'must not be empty' });

export const rigNoteSchema = textUpTo(10_000);

export const rigDocumentSchema = z.strictObject({
  name: rigNameSchema,
  note: rigNoteSchema.default(''),
  built: z.boolean({ error: () => 'must be true or false' }).default(false),
  sheet: sheetEditsSchema.prefault({}),
  rig: rigSchema,
});

/** A rig that is nowhere yet, under a name. */
export const newDocument = (name: string, rig: Rig = newRig()): RigDocument => ({
  name,
  note: '',
  built: false,
  sheet: noSheetEdits,
  rig,
});

/** A name for a copy that still fits: "Anvil (copy)". */
export const copyName = (name: string, suffix = 'copy'): string => `${name.slice(0, 80 - suffix.length - 3)} (${suffix})`;

/** A copy of a rig: a plan on the same parts, for they stand in one bank only. */
export const copyOf = (document: RigDocument, name = copyName(document.name)): RigDocument => ({
  ...document,
  name,
  built: false,
});
