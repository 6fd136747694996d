import { z } from 'zod';
import { printQuantity } from '../quantity/index.ts';
import { textUpTo } from './text.ts';

/** Something that a person sets, measures or reads off a label and this program has no name for: energy of a laser, depth of a dent. */
export interface OwnQuantity {
  readonly name: string;
  /** As the person writes it, "mJ"; what has none is in "1". The value is in it. */
  readonly unit: string;
  readonly value: number;
}

/** Nothing has more of them. */
export const mostOwn = 12;

/** Says of a name that it means something already; null where it is free. */
export type Taken = (name: string) => string | null;

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** What stands against a name among others, in words; null where nothing does. */
export function nameTrouble(name: string, others: readonly string[], taken: Taken = () => null): string | null {
  if (name.trim() === '') return 'needs a name, such as "laser energy"';
  return (
    taken(name) ?? (others.some((other) => sameName(other, name)) ? 'is there twice: each quantity has a name of its own' : null)
  );
}

/** The file schema of a list of them. */
export const ownQuantities = (taken: Taken = () => null) =>
  z
    .array(
      z.strictObject({
        name: textUpTo(40),
        unit: textUpTo(16),
        value: z
          .number({ error: () => 'must be a number' })
          .min(-1e15, 'must be from -1e15 to 1e15')
          .max(1e15, 'must be from -1e15 to 1e15'),
      }),
    )
    .max(mostOwn, `has at most ${mostOwn} quantities of its own`)
    .check((ctx) => {
      for (const [i, { name, unit }] of ctx.value.entries()) {
        const say = (field: string, message: string) =>
          ctx.issues.push({ code: 'custom', message, input: ctx.value, path: [i, field] });
        const others = ctx.value.slice(0, i).map((one) => one.name);
        const trouble = nameTrouble(name, others, taken);
        if (trouble) say('name', trouble);
        if (unit.trim() === '') say('unit', 'needs a unit, such as "mJ"; write "1" for a plain number or a share');
      }
    })
    .readonly();

/** A number in a unit of one's own; one without a unit is in "1". */
export const printOwn = (value: number, unit: string): string =>
  `${printQuantity(value, '1', { digits: 4, trim: true })}${unit === '1' ? '' : ` ${unit}`}`;
