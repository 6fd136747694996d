import { z } from 'zod';
import { textUpTo } from '../field/index.ts';

/** A part of the bench that a block stands on. The tag stays readable where the part itself is gone. */
export interface PartRef {
  readonly id: string;
  readonly tag: string;
  /** Which group in series it stands in, from 1. */
  readonly group?: number;
  /** How many pieces of it; one where it is left out. */
  readonly count?: number;
}

export const partRefsSchema = z
  .array(
    z.strictObject({
      id: z.uuid({ error: () => 'must be the id of a part' }),
      tag: textUpTo(24).min(1),
      group: z.int().min(1).max(1000).optional(),
      count: z.int().min(1).max(100_000).optional(),
    }),
  )
  .max(1000, { error: () => 'must be at most 1000' })
  .meta({ id: 'parts' });
