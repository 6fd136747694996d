import { z } from 'zod';
import { ownQuantities, textUpTo, type OwnQuantity } from '../field/index.ts';
import type { UnitId } from '../quantity/index.ts';
import { midSentence } from '../rig/index.ts';
import { outcomes } from '../run/index.ts';

/** What may be set and measured of a shot, in SI units. */
export const measures = {
  voltage: { title: 'Voltage at the shot', unit: 'V', most: 1e7 },
  current: { title: 'Peak current', unit: 'A', most: 1e8 },
  time: { title: 'Time to the peak', unit: 's', most: 1e4 },
  speed: { title: 'Muzzle speed', unit: 'm/s', most: 1e5 },
  spark: { title: 'Spark length', unit: 'm', most: 100 },
  residual: { title: 'Residual voltage after the bleed', unit: 'V', most: 1e7 },
  pressure: { title: 'Gap pressure, gauge', unit: 'Pa', most: 1e8 },
  spacing: { title: 'Spacing of the gap', unit: 'm', most: 10 },
  airPressure: { title: 'Air pressure, absolute', unit: 'Pa', least: 58e3, most: 110e3 },
  airTemperature: { title: 'Air temperature', unit: 'K', least: 243.15, most: 323.15 },
  humidity: { title: 'Relative humidity', unit: '1', least: 0.05, most: 1 },
} as const satisfies Record<string, { title: string; unit: UnitId; least?: number; most: number }>;
export type MeasureId = keyof typeof measures;
export const measureIds = Object.keys(measures) as [MeasureId, ...MeasureId[]];

/** The air of the day: the same for every shot of an afternoon. */
export const ofTheAir: readonly MeasureId[] = ['airPressure', 'airTemperature', 'humidity'];
/** What a person sets before a shot, or reads off the air; the rest follows from it. */
export const settable: readonly MeasureId[] = ['voltage', 'spacing', 'pressure', ...ofTheAir];
/** What it is called where it was set and not measured. The air is read off, and by its own name. */
export const settingTitle = (id: MeasureId): string =>
  id === 'voltage' ? 'Set voltage' : ofTheAir.includes(id) ? measures[id].title : `Set ${midSentence(measures[id].title)}`;
export const measurable: readonly MeasureId[] = measureIds.filter((id) => !ofTheAir.includes(id));

/** Least and most that may be entered, in the SI unit. */
export const rangeOf = (id: MeasureId): { readonly least: number; readonly most: number } => {
  const one: { least?: number; most: number } = measures[id];
  return { least: one.least ?? 0, most: one.most };
};

const valueSchema = (id: MeasureId) => {
  const { unit } = measures[id];
  const { least, most } = rangeOf(id);
  const words = `must be from ${least} to ${most} ${unit}`;
  return z
    .number({ error: () => words })
    .min(least, { error: () => words })
    .max(most, { error: () => words });
};

const valuesSchema = z.strictObject(
  Object.fromEntries(measureIds.map((id) => [id, valueSchema(id).optional()])) as Record<MeasureId, z.ZodOptional<z.ZodNumber>>,
);

/** Values by measure, in SI units; what is not there was not set, predicted or measured. */
export type Values = Readonly<Partial<Record<MeasureId, number | undefined>>>;

/** What a name would be taken for that every shot has already; null where it is free. */
export function measureNamed(name: string): string | null {
  const same = (other: string) => other.toLowerCase() === name.trim().toLowerCase();
  const taken = measureIds.find((id) => same(measures[id].title) || same(id));
  return taken ? `is the name of a value that every shot has: enter it under "${measures[taken].title}"` : null;
}

/** One shot as it is kept. What was predicted is worked out when it is written down, and stays. */
export const shotSchema = z.strictObject({
  at: z.iso.datetime({ error: () => 'must be a date and time in UTC' }),
  outcome: z.enum(outcomes, { error: () => `must be one of ${outcomes.join(', ')}` }),
  set: valuesSchema,
  measured: valuesSchema,
  own: ownQuantities(measureNamed).default([]),
  /** What it sounded like. */
  sound: textUpTo(200).default(''),
  remarks: textUpTo(4000).default(''),
  /** The campaign it was fired for, and its place in the order of that. */
  campaign: z
    .strictObject({
      id: z.uuid({ error: () => 'must be the id of a campaign' }),
      place: z.int().min(0).max(1999),
      /** Where it was fired at another setting than the one planned for its place: which. */
      setting: z.int().min(0).max(399).optional(),
    })
    .nullable()
    .default(null),
});
export interface Shot {
  readonly at: string;
  readonly outcome: (typeof outcomes)[number];
  readonly set: Values;
  readonly measured: Values;
  readonly own: readonly OwnQuantity[];
  readonly sound: string;
  readonly remarks: string;
  readonly campaign: { readonly id: string; readonly place: number; readonly setting?: number | undefined } | null;
}

/** What was calculated for a shot: it may lie beyond what can be measured. */
export const predictedSchema = z.strictObject(
  Object.fromEntries(measureIds.map((id) => [id, z.number().optional()])) as Record<MeasureId, z.ZodOptional<z.ZodNumber>>,
);
