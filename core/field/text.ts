import { z } from 'zod';

/** Text that every store and file can hold: no NUL, no half of a surrogate pair. */
const textSchema = z
  .string({ error: () => 'must be a text' })
  .refine((text) => !/[\0\p{Surrogate}]/u.test(text), { error: () => 'holds a character that is none' });

/** Such a text of at most so many characters. */
/**
 * Characters that stand in nobody's name on purpose: controls, and those that turn the direction of what comes after them, which make one
 * name look like another.
 */
const unseen = /[\p{Cc}\u061C\u200E\u200F\u202A-\u202E\u2066-\u2069\uFFF9-\uFFFB]/u;
/** Whether anything of a text can be seen. */
const hasVisible = (text: string): boolean => /[^\p{Cc}\p{Cf}\p{Z}\u115F\u1160\u2800\u3164\uFFA0]/u.test(text);

/** A name of at most so many characters: one line, with something in it that can be seen, and nothing that turns its direction. */
export const nameUpTo = (most: number) =>
  textUpTo(most)
    .trim()
    .min(1, { error: () => 'must not be empty' })
    .refine((text) => text === '' || hasVisible(text), { error: () => 'must have a character that can be seen' })
    .refine((text) => !/[\r\n\u2028\u2029]/.test(text), { error: () => 'must be one line' })
    .refine((text) => !unseen.test(text), {
      error: () => 'must not have control characters or characters that turn the direction of the text',
    });

export const textUpTo = (most: number) =>
  textSchema.max(most, { error: () => `must not be longer than ${most.toLocaleString('en').replace(',', ' ')} characters` });
