import { z } from 'zod';
import { fieldSchema, initialValue, textUpTo, type FieldValue } from '../field/index.ts';
import { printExact } from '../quantity/index.ts';
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
}

/** A part, or several alike, on the bench. */
export interface Part {
  readonly kind: string;
  readonly name: string;
  /** How many of these there are. */
  readonly quantity: number;
  readonly condition: Condition;
  readonly place: string;
  /** What was paid for all of them, in the workshop's own currency; null where it is not known. */
  readonly price: number | null;
  readonly note: string;
  /** What the label says. */
  readonly fields: Readonly<Record<string, FieldValue>>;
  /** In the order in which they were taken. */
  readonly readings: readonly MeterReading[];
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
    })
    .superRefine((reading, ctx) => {
      const issue = readingIssue(kind.kind, reading.measure, reading.value);
      if (issue !== null) ctx.addIssue({ code: 'custom', path: ['value'], message: issue });
    });

const ofKind = (kind: PartKind) =>
  z.strictObject({
    kind: z.literal(kind.kind),
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
    note: textUpTo(10_000).default(''),
    fields: z
      .strictObject(Object.fromEntries(Object.entries(kind.fields).map(([id, field]) => [id, fieldSchema(field)])))
      .prefault({}),
    readings: z.array(readingSchema(kind)).max(1000).default([]),
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
export function newPart(kind: string, name: string): Part {
  const fields = Object.fromEntries(Object.entries(partKind(kind).fields).map(([id, field]) => [id, initialValue(field)]));
  return { kind, name, quantity: 1, condition: 'unknown', place: '', price: null, note: '', fields, readings: [] };
}

const labelOf = (part: Part, field: string): number | null => {
  const value = part.fields[field];
  return typeof value === 'object' && value !== null ? value.value : null;
};

/** Statistics of the readings of a measure: of all elements, or of one. Null where there is none. */
export function measuredOf(part: Part, measure: string, element?: number): Measured | null {
  const values = part.readings
    .filter((r) => r.measure === measure && (element === undefined || r.element === element))
    .map((r) => r.value);
  const count = values.length;
  if (count === 0) return null;
  const mean = values.reduce((a, b) => a + b, 0) / count;
  const spread = count === 1 ? 0 : Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (count - 1));
  const field = measureOf(partKind(part.kind), measure)?.field;
  const label = field === undefined ? null : labelOf(part, field);
  return {
    measure,
    count,
    mean,
    spread,
    low: Math.min(...values),
    high: Math.max(...values),
    fromLabel: label === null ? null : mean / label - 1,
  };
}

/** What the readings of a part say of its condition; null where they say nothing yet. The person decides. */
export function verdictOf(part: Part): Verdict | null {
  const reading: PartReading = {
    label: (field) => labelOf(part, field),
    choice: (field) => {
      const value = part.fields[field];
      return typeof value === 'string' ? value : '';
    },
    measured: (measure) => measuredOf(part, measure),
  };
  return partKind(part.kind).verdict?.(reading) ?? null;
}

/** A step of the guided test. Nothing is measured on a part that may hold a charge before it is discharged and verified. */
export type TestStep =
  | { readonly step: 'discharge'; readonly text: string }
  | { readonly step: 'verify'; readonly text: string }
  | { readonly step: 'measure'; readonly measure: Measure; readonly element: number };

/** The guided test of a part, in the order that is enforced: discharge, verify, then every measure of every element. */
export function guidedTest(part: Part): TestStep[] {
  const kind = partKind(part.kind);
  const elements = Math.max(1, labelOf(part, 'elements') ?? 1);
  const first: TestStep[] = kind.holdsCharge
    ? [
        { step: 'discharge', text: 'Discharge it through a resistor tool, terminal by terminal and to the case, then strap it.' },
        {
          step: 'verify',
          text: 'Strap off: a meter rated for its voltage, between every two terminals and to the case. It must read below 1 V and stay there.',
        },
      ]
    : [];
  const measured = kind.measures.flatMap((measure) =>
    Array.from({ length: measure.perElement ? elements : 1 }, (_, i): TestStep => ({ step: 'measure', measure, element: i + 1 })),
  );
  return [...first, ...measured];
}
