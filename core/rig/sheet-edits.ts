import { z } from 'zod';
import { phases, type Phase } from '../block/index.ts';
import { textUpTo } from '../field/index.ts';

const stepIdSchema = textUpTo(60).regex(/^[a-z0-9-]+$/, {
  error: () => 'must be the id of a step: small letters, digits, hyphens',
});
const phaseSchema = z.enum(phases, { error: () => `must be one of ${phases.join(', ')}` });

const secondsSchema = z
  .number({ error: () => 'must be a time from 1 s to 1 h' })
  .min(1, { error: () => 'must be a time from 1 s to 1 h' })
  .max(3600, { error: () => 'must be a time from 1 s to 1 h' });

/** A step that a person added to the run sheet of a rig. */
const addedStepSchema = z.strictObject({
  id: stepIdSchema,
  phase: phaseSchema,
  text: textUpTo(500)
    .trim()
    .min(1, { error: () => 'must not be empty' }),
  hold: textUpTo(300).trim().default(''),
});

const nameSchema = textUpTo(60)
  .trim()
  .min(2, { error: () => 'must be a name of at least two letters' });
const reasonSchema = textUpTo(300)
  .trim()
  .min(10, { error: () => 'must be a reason of at least ten letters' });

/** A rating that nobody entered, and that somebody answers for. */
const waiverSchema = z.strictObject({
  limit: stepIdSchema,
  by: nameSchema,
  reason: reasonSchema,
  /** What it was waived up to, in SI units; with more than that it is asked again. Null where the stress itself was not known. */
  upTo: z
    .number({ error: () => 'must be a number' })
    .min(0, { error: () => 'must not be negative' })
    .nullable(),
});

/** Nobody runs a rig alone, unless somebody of a name answers for it and calls in. */
const aloneSchema = z.strictObject({
  by: nameSchema,
  reason: reasonSchema,
  /** min between two calls to somebody outside. */
  callIn: z
    .number({ error: () => 'must be from 5 to 120 min' })
    .min(5, { error: () => 'must be from 5 to 120 min' })
    .max(120, { error: () => 'must be from 5 to 120 min' }),
});

/** What a person made of the run sheet of a rig. The sheet itself follows from the rig; this is laid over it. */
export const sheetEditsSchema = z.strictObject({
  /** How many run it: one alone, or one who acts and one who reads. */
  people: z.enum(['one', 'two'], { error: () => 'must be one or two' }).default('two'),
  added: z
    .array(addedStepSchema)
    .max(60, { error: () => 'has more than 60 steps' })
    .default([]),
  /** Steps in the order a person wants them, by phase; steps not named keep their place. */
  order: z.partialRecord(phaseSchema, z.array(stepIdSchema).max(120, { error: () => 'has more than 120 steps' })).default({}),
  notes: z.record(stepIdSchema, textUpTo(2000)).default({}),
  /** Whom to call in an emergency, as it stands on the card; empty until somebody fills it in. */
  call: textUpTo(60).trim().default(''),
  /** s that a step takes these people, where that is not what is usual; holds are not shortened by it. */
  seconds: z.record(stepIdSchema, secondsSchema).default({}),
  /** s that every other act of theirs takes; null: what is usual for each. */
  pace: secondsSchema.nullable().default(null),
  /** Ratings that are missing and answered for, each once. */
  waivers: z
    .array(waiverSchema)
    .max(200, { error: () => 'has more than 200 waivers' })
    .default([]),
  alone: aloneSchema.nullable().default(null),
  /** What each step said when a person last looked at all of them; null where nobody has yet. */
  seen: z.record(stepIdSchema, textUpTo(4000)).nullable().default(null),
});

export type AddedStep = Readonly<z.infer<typeof addedStepSchema>>;

export type Waiver = Readonly<z.infer<typeof waiverSchema>>;
export type Alone = Readonly<z.infer<typeof aloneSchema>>;

export interface SheetEdits {
  readonly people: 'one' | 'two';
  readonly added: readonly AddedStep[];
  readonly order: Readonly<Partial<Record<Phase, readonly string[]>>>;
  readonly notes: Readonly<Record<string, string>>;
  readonly call: string;
  readonly seconds: Readonly<Record<string, number>>;
  readonly pace: number | null;
  readonly waivers: readonly Waiver[];
  readonly alone: Alone | null;
  readonly seen: Readonly<Record<string, string>> | null;
}

export const noSheetEdits: SheetEdits = {
  people: 'two',
  added: [],
  order: {},
  notes: {},
  call: '',
  seconds: {},
  pace: null,
  waivers: [],
  alone: null,
  seen: null,
};

const counted = (n: number, one: string, many: string): string | null => (n === 0 ? null : n === 1 ? `1 ${one}` : `${n} ${many}`);

/** As a person reads it: "two persons, 2 steps added, 1 note". */
export const sheetWords = ({ people, added, order, notes, call, seconds, pace, waivers, alone, seen }: SheetEdits): string =>
  [
    people === 'one' ? 'one person' : 'two persons',
    counted(added.length, 'step added', 'steps added'),
    counted(Object.keys(order).length, 'phase in another order', 'phases in another order'),
    counted(Object.keys(notes).length, 'note', 'notes'),
    counted(Object.keys(seconds).length, 'step with its own time', 'steps with their own time'),
    call === '' ? null : `calls ${call}`,
    pace === null ? null : `${pace} s for each act`,
    counted(waivers.length, 'rating waived', 'ratings waived'),
    alone === null ? null : `alone by the word of ${alone.by}`,
    seen === null ? null : 'looked over',
  ]
    .filter((word) => word !== null)
    .join(', ');

const sorted = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(sorted)
    : typeof value === 'object' && value !== null
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([key, v]) => [key, sorted(v)]),
        )
      : value;

export const sameSheetEdits = (a: SheetEdits, b: SheetEdits): boolean =>
  a === b || JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
