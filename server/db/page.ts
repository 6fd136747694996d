import { z } from 'zod';

/** Where a page of a list begins: behind a row, by what the list is sorted by and its id. */
export interface Behind {
  readonly key: string | number;
  readonly id: string;
}

const behindSchema = z.tuple([z.union([z.string().max(200), z.number()]), z.uuid()]);

/** A place in a list as text that a caller gives back. */
export const cursorOf = ({ key, id }: Behind): string => Buffer.from(JSON.stringify([key, id])).toString('base64url');

/** The place that a text names, or null where it names none. */
export function behindOf(cursor: string): Behind | null {
  try {
    const read = behindSchema.safeParse(JSON.parse(Buffer.from(cursor, 'base64url').toString()));
    return read.success ? { key: read.data[0], id: read.data[1] } : null;
  } catch {
    return null;
  }
}

/** Every word that is looked for, as a pattern of `like`. */
export const patternsOf = (words: string): string[] =>
  words
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, 8)
    .map((word) => `%${word.replace(/[\\%_]/g, '\\$&')}%`);

/** The day of a moment as lists write it, in SQL: by the clock of the server, whose day is the workshop's. */
export const dayOf = (column: string) => `to_char(${column}, 'FMDD Mon YYYY')`;
