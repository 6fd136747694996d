import { z } from 'zod';

/** Text that every store and file can hold: no NUL, no half of a surrogate pair. */
const textSchema = z
  .string({ error: () => 'must be a text' })
  .refine((text) => !/[\0\p{Surrogate}]/u.test(text), { error: () => 'holds a character that is none' });

/** Such a text of at most so many characters. */
export const textUpTo = (most: number) =>
  textSchema.max(most, { error: () => `must not be longer than ${most.toLocaleString('en').replace(',', ' ')} characters` });
