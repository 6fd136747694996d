import { sum } from 'simple-statistics';
import { z } from 'zod';
import { textUpTo } from '../../field/index.ts';
import type { Part } from '../part.ts';
import { lotSources } from './source.ts';

/** A purchase or a salvage: where parts came from. */
export interface Lot {
  readonly name: string;
  readonly source: string;
  /** Date, YYYY-MM-DD; null where it was not noted. */
  readonly date: string | null;
  /** What was paid for all of it, in the workshop's own currency. */
  readonly paid: number | null;
  /** Hours of work to get the parts out. */
  readonly hours: number | null;
  /** Things that came in: ovens, boards, boxes. */
  readonly units: number;
  /** Pieces that broke on the way and are on no shelf. */
  readonly broken: number;
  readonly note: string;
}

const amount = (most: number) =>
  z
    .number({ error: () => 'must be a number' })
    .min(0, { error: () => `must be from 0 to ${most}` })
    .max(most, { error: () => `must be from 0 to ${most}` })
    .nullable()
    .default(null);

const whole = (initial: number) =>
  z
    .int({ error: () => 'must be a whole number' })
    .min(0, { error: () => 'must be from 0 to 100000' })
    .max(100_000, { error: () => 'must be from 0 to 100000' })
    .default(initial);

export const lotSchema = z.strictObject({
  name: textUpTo(80)
    .trim()
    .min(1, { error: () => 'must not be empty' }),
  source: z
    .enum(
      lotSources.map((s) => s.id),
      { error: () => `must be one of ${lotSources.map((s) => s.id).join(', ')}` },
    )
    .default('other'),
  date: z.iso
    .date({ error: () => 'must be a date such as 2026-03-31' })
    .nullable()
    .default(null),
  paid: amount(1e9),
  hours: amount(1e6),
  units: whole(1),
  broken: whole(0),
  note: textUpTo(10_000).default(''),
});

export const newLot = (name: string): Lot => lotSchema.parse({ name });

/** What came of a lot, or of all lots of a kind of source. */
export interface LotTotals {
  readonly lots: number;
  readonly units: number;
  /** Pieces that are on the shelf or were. */
  readonly pieces: number;
  readonly good: number;
  readonly suspect: number;
  readonly unknown: number;
  /** Failed on the bench, and broken on the way. */
  readonly lost: number;
  /** Good pieces as a fraction of all that have been judged or lost; null before any was. */
  readonly yield: number | null;
  readonly paid: number;
  /** Price of all pieces that have not failed; those without a price count nothing. */
  readonly worth: number;
  /** Pieces without a price. */
  readonly unpriced: number;
  readonly hours: number;
  /** Worth above what was paid, for an hour; null without hours. */
  readonly perHour: number | null;
}

/** Totals over lots and the parts that came with them. */
export function totalsOf(lots: readonly Lot[], parts: readonly Part[]): LotTotals {
  const count = (condition: Part['condition']) => sum(parts.filter((p) => p.condition === condition).map((p) => p.quantity));
  const [good, suspect, unknown, failed] = [count('good'), count('suspect'), count('unknown'), count('failed')];
  const lost = failed + sum(lots.map((l) => l.broken));
  const judged = good + suspect + lost;
  const usable = parts.filter((p) => p.condition !== 'failed');
  const [paid, worth, hours] = [
    sum(lots.map((l) => l.paid ?? 0)),
    sum(usable.map((p) => (p.price ?? 0) * p.quantity)),
    sum(lots.map((l) => l.hours ?? 0)),
  ];
  return {
    lots: lots.length,
    units: sum(lots.map((l) => l.units)),
    pieces: good + suspect + unknown + failed,
    good,
    suspect,
    unknown,
    lost,
    yield: judged === 0 ? null : good / judged,
    paid,
    worth,
    unpriced: sum(usable.filter((p) => p.price === null).map((p) => p.quantity)),
    hours,
    perHour: hours > 0 ? (worth - paid) / hours : null,
  };
}
