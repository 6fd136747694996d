import { z } from 'zod';
import { rigSchema, type Rig } from './schema.ts';

/** A rig with its name and note: what is edited, kept, sent and filed as one. */
export interface RigDocument {
  readonly name: string;
  readonly note: string;
  readonly rig: Rig;
}

/** Text that every store and file can hold: no NUL, no half of a surrogate pair. */
export const textSchema = z
  .string({ error: () => 'must be a text' })
  .refine((text) => !/[\0\p{Surrogate}]/u.test(text), { error: () => 'holds a character that is none' });

export const rigNameSchema = textSchema
  .trim()
  .min(1, { error: () => 'must not be empty' })
  .max(80, { error: () => 'must not be longer than 80 characters' });

export const rigNoteSchema = textSchema.max(10_000, { error: () => 'must not be longer than 10 000 characters' });

export const rigDocumentSchema = z.strictObject({
  name: rigNameSchema,
  note: rigNoteSchema.default(''),
  rig: rigSchema,
});

/** A name for a copy that still fits: "Anvil (copy)". */
export const copyName = (name: string, suffix = 'copy'): string => `${name.slice(0, 80 - suffix.length - 3)} (${suffix})`;
