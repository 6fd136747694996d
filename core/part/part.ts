import { mean, sampleStandardDeviation } from 'simple-statistics';
import { z } from 'zod';
import { fieldSchema, initialValue, ownQuantities, textUpTo, type FieldValue, type OwnQuantity } from '../field/index.ts';
import { printExact } from '../quantity/index.ts';
import { designSchema, type Design } from './home-made/design.ts';
import {
  conditions,
  type Condition,
  type Measure,
  type Measured,
  type PartKind,
  type PartReading,
  type Verdict,
} from './kind/define.ts';
import { partKind, partKinds } from './kind/registry.ts';

/** One reading of one measure. SI values. */
export interface MeterReading {
  readonly measure: string;
  /** Which element of the case, from 1. */
  readonly element: number;
  readonly value: number;
  /** Date and time, UTC. */
  readonly at: string;
  readonly instrument: string;
  /** Frequency, voltage or current at which it was taken, as its measure says; null where it was not noted. */
  readonly under: number | null;
  readonly by: string;
  /** Struck out: a slip that is kept and not counted. */
  readonly struck?: true;
}

/** A part, or several alike, on the bench. */
export interface Part {
  readonly kind: string;
  /** What is written on its label: short, and no two parts of the bench have the same. */
  readonly tag: string;
  readonly name: string;
  /** How many of these there are. */
  readonly quantity: number;
  readonly condition: Condition;
  readonly place: string;
  /** What one of them costs or is worth, in the workshop's own currency; null where it is not known. */
  readonly price: number | null;
  /** The lot it came with; null where that is not known. */
  readonly lot: string | null;
  readonly note: string;
  /** What the label says. */
  readonly fields: Readonly<Record<string, FieldValue>>;
  /** In the order in which they were taken. */
  readonly readings: readonly MeterReading[];
  /** What a person wrote of it that its kind has no field for. */
  readonly own?: readonly OwnQuantity[];
  /** How a home-made capacitor was made, and what was fitted from its measurement. */
  readonly design?: Design;
}

const measureOf = (kind: PartKind, id: string): Measure | undefined => kind.measures.find((measure) => measure.id === id);

const rangeWords = ({ min, max, unit }: Measure): string => `must be from ${printExact(min, unit)} to ${printExact(max, unit)}`;

/** Why a value is no reading of a measure; null if it is one. A reading of nought is a fault of the meter, never a value. */
export function readingIssue(kind: string, measure: string, value: number): string | null {
  const found = measureOf(partKind(kind), measure);
  if (!found)
    return `must be one of ${partKind(kind)
      .measures.map((m) => m.id)
      .join(', ')}`;
  return value >= found.min && value <= found.max ? null : rangeWords(found);
}

const readingSchema = (kind: PartKind) =>
  z
    .strictObject({
      measure: z.enum(
        kind.measures.map((measure) => measure.id),
        { error: () => `must be one of ${kind.measures.map((measure) => measure.id).join(', ')}` },
      ),
      element: z.int().min(1).max(12).default(1),
      value: z.number(),
      at: z.iso.datetime({ error: () => 'must be a date and time in UTC' }),
      instrument: textUpTo(80).default(''),
      under: z.number().nullable().default(null),
      by: textUpTo(40).default(''),
      struck: z.literal(true).optional(),
    })
    .superRefine((reading, ctx) => {
      const issue = readingIssue(kind.kind, reading.measure, reading.value);
      if (issue !== null) ctx.addIssue({ code: 'custom', path: ['value'], message: issue });
    });

/** More readings than anybody takes of one part. */
const readingsLimit = 1000;

const ofKind = (kind: PartKind) =>
  z.strictObject({
    kind: z.literal(kind.kind),
    tag: textUpTo(24)
      .trim()
      .min(1, { error: () => 'must not be empty' }),
    name: textUpTo(80)
      .trim()
      .min(1, { error: () => 'must not be empty' }),
    quantity: z
      .int({ error: () => 'must be a whole number' })
      .min(0, { error: () => 'must be from 0 to 100000' })
      .max(100_000, { error: () => 'must be from 0 to 100000' })
      .default(1),
    condition: z.enum(conditions, { error: () => `must be one of ${conditions.join(', ')}` }).default('unknown'),
    place: textUpTo(120).default(''),
    price: z
      .number({ error: () => 'must be a number' })
      .min(0, { error: () => 'must not be below 0' })
      .max(1e9, { error: () => 'must not be above 1e9' })
      .nullable()
      .default(null),
    lot: z
      .uuid({ error: () => 'must be the id of a lot, or null' })
      .nullable()
      .default(null),
    note: textUpTo(10_000).default(''),
    fields: z
      .strictObject(Object.fromEntries(Object.entries(kind.fields).map(([id, field]) => [id, fieldSchema(field)])))
      .prefault({}),
    readings: z
      .array(readingSchema(kind))
      .max(readingsLimit, { error: () => `must be at most ${readingsLimit}` })
      .default([]),
    own: ownQuantities().optional(),
    ...(kind.kind === 'capacitor' ? { design: designSchema.optional() } : {}),
  });

const [firstKind, ...otherKinds] = partKinds.map(ofKind);
if (!firstKind) throw new Error('no kind of part is registered');

/** The file schema of a part: one of the kinds registered. */
export const partSchema = z
  .discriminatedUnion('kind', [firstKind, ...otherKinds], {
    error: (issue) =>
      issue.code === 'invalid_union' ? `kind must be one of ${partKinds.map((k) => k.kind).join(', ')}` : undefined,
  })
  .transform((part) => part as Part);

/** A new part of a kind, nothing known of it yet. */
export function newPart(kind: string, name: string, tag = name): Part {
  const fields = Object.fromEntries(Object.entries(partKind(kind).fields).map(([id, field]) => [id, initialValue(field)]));
  return {
    kind,
    tag,
    name,
    quantity: 1,
    condition: 'unknown',
    place: '',
    price: null,
    lot: null,
    note: '',
    fields,
    readings: [],
  };
}

/** SI value of a field of the label; null where the label does not say. */
export const labelOf = (part: Part, field: string): number | null => {
  const value = part.fields[field];
  return typeof value === 'object' && value !== null ? value.value : null;
};

export const choiceOf = (part: Part, field: string): string => {
  const value = part.fields[field];
  return typeof value === 'string' ? value : '';
};

/** Elements of its case: 1 for kinds that have none. */
export const elementsOf = (part: Part): number => Math.max(1, labelOf(part, 'elements') ?? 1);

const countedOf = (part: Part, measure: string, element?: number): MeterReading[] =>
  part.readings.filter(
    (r) => r.measure === measure && r.struck === undefined && (element === undefined || r.element === element),
  );

/** Readings of a measure as values of elements: those of a delta can are sums of two, and are taken apart. */
function valuesRead(part: Part, measure: string, element?: number): readonly number[] {
  const readings = countedOf(part, measure, element);
  const kind = partKind(part.kind);
  if (element !== undefined || elementsOf(part) === 1 || readings.length === 0) return readings.map((r) => r.value);
  const numbers = [...new Set(readings.map((r) => r.element))].sort((a, b) => a - b);
  const means = new Map(numbers.map((n) => [n, mean(readings.filter((r) => r.element === n).map((r) => r.value))]));
  return kind.elements?.(sight(part), measure, means) ?? readings.map((r) => r.value);
}

/** The mean of each element that was measured, in their order; of a delta can its elements, taken out of the readings. */
export function elementValues(part: Part, measure: string): readonly number[] {
  const own = Array.from({ length: elementsOf(part) }, (_, i) => measuredOf(part, measure, i + 1)?.mean ?? null);
  const means = new Map(own.flatMap((m, i) => (m === null ? [] : [[i + 1, m] as const])));
  return partKind(part.kind).elements?.(sight(part), measure, means) ?? [...means.values()];
}

/** Statistics of the readings of a measure: of all elements, or those of one as they were read. Null where there is none. */
export function measuredOf(part: Part, measure: string, element?: number): Measured | null {
  const values = valuesRead(part, measure, element);
  const count = countedOf(part, measure, element).length;
  if (count === 0 || values.length === 0) return null;
  const middle = mean(values);
  const spread = values.length === 1 ? 0 : sampleStandardDeviation([...values]);
  const field = measureOf(partKind(part.kind), measure)?.field;
  const label = field === undefined ? null : labelOf(part, field);
  return {
    measure,
    count,
    mean: middle,
    spread,
    low: Math.min(...values),
    high: Math.max(...values),
    fromLabel: label === null ? null : middle / label - 1,
  };
}

const sight = (part: Part): PartReading => ({
  label: (field) => labelOf(part, field),
  choice: (field) => choiceOf(part, field),
  measured: (measure) => measuredOf(part, measure),
});

/** What the readings of a part say of its condition; null where they say nothing yet. The person decides. */
export const verdictOf = (part: Part): Verdict | null => partKind(part.kind).verdict?.(sight(part)) ?? null;

/** Between what the reading of an element is taken: "terminal 1 against 2 and 3 joined"; null where it is the element itself. */
export const elementTitle = (part: Part, element: number): string | null =>
  partKind(part.kind).elementTitle?.(sight(part), element) ?? null;
