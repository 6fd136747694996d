import { z } from 'zod';
import { textUpTo } from '../field/index.ts';
import type { UnitId } from '../quantity/index.ts';
import { outcomes } from '../run/index.ts';

/** What may be set and measured of a shot, in SI units. */
export const measures = {
  voltage: { title: 'Voltage at the shot', unit: 'V', most: 1e7 },
  current: { title: 'Peak current', unit: 'A', most: 1e8 },
  time: { title: 'Time to the peak', unit: 's', most: 1e4 },
  speed: { title: 'Muzzle speed', unit: 'm/s', most: 1e5 },
  spark: { title: 'Spark length', unit: 'm', most: 100 },
  pressure: { title: 'Gap pressure, gauge', unit: 'Pa', most: 1e8 },
  spacing: { title: 'Spacing of the gap', unit: 'm', most: 10 },
} as const satisfies Record<string, { title: string; unit: UnitId; most: number }>;
export type MeasureId = keyof typeof measures;
export const measureIds = Object.keys(measures) as [MeasureId, ...MeasureId[]];

/** What a person sets before a shot; the rest follows from it. */
export const settable: readonly MeasureId[] = ['voltage', 'spacing', 'pressure'];

const valueSchema = (id: MeasureId) => {
  const { most, unit } = measures[id];
  const words = `must be from 0 to ${most} ${unit}`;
  return z
    .number({ error: () => words })
    .min(0, { error: () => words })
    .max(most, { error: () => words });
};

const valuesSchema = z.strictObject(
  Object.fromEntries(measureIds.map((id) => [id, valueSchema(id).optional()])) as Record<MeasureId, z.ZodOptional<z.ZodNumber>>,
);

/** Values by measure, in SI units; what is not there was not set, predicted or measured. */
export type Values = Readonly<Partial<Record<MeasureId, number | undefined>>>;

/** One shot as it is kept. What was predicted is worked out when it is written down, and stays. */
export const shotSchema = z.strictObject({
  at: z.iso.datetime({ error: () => 'must be a date and time in UTC' }),
  outcome: z.enum(outcomes, { error: () => `must be one of ${outcomes.join(', ')}` }),
  set: valuesSchema,
  measured: valuesSchema,
  /** What it sounded like. */
  sound: textUpTo(200).default(''),
  remarks: textUpTo(4000).default(''),
});
export interface Shot {
  readonly at: string;
  readonly outcome: (typeof outcomes)[number];
  readonly set: Values;
  readonly measured: Values;
  readonly sound: string;
  readonly remarks: string;
}

/** What was calculated for a shot: it may lie beyond what can be measured. */
export const predictedSchema = z.strictObject(
  Object.fromEntries(measureIds.map((id) => [id, z.number().optional()])) as Record<MeasureId, z.ZodOptional<z.ZodNumber>>,
);
