import { z } from 'zod';
import { textUpTo } from '../field/index.ts';
import { rigSchema, type Rig } from './schema.ts';

/** A rig with its name and note: what is edited, kept, sent and filed as one. */
export interface RigDocument {
  readonly name: string;
  readonly note: string;
  readonly rig: Rig;
}

export const rigNameSchema = textUpTo(80)
  .trim()
  .min(1, { error: () => 'must not be empty' });

export const rigNoteSchema = textUpTo(10_000);

export const rigDocumentSchema = z.strictObject({
  name: rigNameSchema,
  note: rigNoteSchema.default(''),
  rig: rigSchema,
});

/** A name for a copy that still fits: "Anvil (copy)". */
export const copyName = (name: string, suffix = 'copy'): string => `${name.slice(0, 80 - suffix.length - 3)} (${suffix})`;
