import type { FigureId, Settings, Tuned } from '../../block/index.ts';
import { errorsOf, rigOfSettings, withTuned } from '../../evaluation/index.ts';
import { ifKnown, RigReading } from '../../figure/index.ts';
import { gapFor, triggeredAt } from '../../kind/index.ts';
import { root } from '../../numeric/index.ts';
import { dischargeTraces } from '../../simulate/index.ts';
import { blockIn, withBlock, type Rig } from '../../rig/index.ts';
import { withAssumed } from './banks.ts';
import type { Made, Measure } from './goal.ts';

/** Switches of a bank that are tried, by what it is charged to. */
export const switchesFor = (V: number): string[] => [
  ...(V <= 3500 ? ['thyristor', 'thyristor-pair'] : []),
  ...(V >= 2000 ? ['spark-gap'] : []),
];

export const switchTitle: Readonly<Record<string, string>> = {
  thyristor: 'thyristor',
  'thyristor-pair': 'two thyristors, both ways',
  'spark-gap': 'triggered spark gap',
};

/** A switch as a new rig has it. */
export function switchSettings(id: string, V: number): Settings {
  if (id === 'spark-gap')
    return { switch: { kind: 'spark-gap', fields: gapFor(V * triggeredAt) }, trigger: { kind: 'trigger-generator' } };
  return {
    switch: { kind: 'thyristor', fields: { direction: id === 'thyristor' ? 'one-way' : 'both-ways' } },
    trigger: { kind: 'none' },
  };
}

/** A figure of a rig; NaN where it has none. */
export const figureOf = (rig: Rig, id: FigureId): number => ifKnown(() => new RigReading(rig).figure(id).value) ?? NaN;

/** What a figure of a rig has to come to. */
export const figureMeasure = (figure: FigureId, wanted: Pick<Measure, 'title' | 'unit' | 'wish' | 'least'>): Measure => ({
  ...wanted,
  figure,
  of: (rig) => figureOf(rig, figure),
});

export const withVoltage = (rig: Rig, V: number): Rig =>
  withBlock(rig, 'store', withAssumed(blockIn(rig, 'store'), 'store', { V0: V }));

/** Three digits, not below. */
export const upTo3 = (x: number): number => {
  const step = 10 ** (Math.floor(Math.log10(x)) - 2);
  return Number((Math.ceil(x / step - 1e-9) * step).toPrecision(3));
};

/** The voltage at which a number of the rig is what is wanted, between two; NaN where it is not there. */
export function voltageFor(rig: Rig, of: (at: Rig) => number, wanted: number, low: number, high: number): number {
  const off = (V: number) => Math.log(of(withVoltage(rig, V)) / wanted);
  const [a, b] = [off(low), off(high)];
  if (!Number.isFinite(a) || !Number.isFinite(b)) return NaN;
  return a > 0 ? low : root(off, low, high, { within: 2e-4 });
}

/** A gap so far above what it is charged to that it has room below its self-break as well. */
const gapWithRoom = (margin: number): Tuned => ({
  path: 'switch.d',
  figure: 'self-break',
  is: (V0) => V0 * triggeredAt * Math.min(1.6, 1 + 1.1 * margin),
});

/** A rig of settings with its store put in, its gap set by its own figures; or what is wrong in it. */
export function made(settings: Settings, withStore: (rig: Rig) => Rig | null, margin: number): Made {
  const rig = withStore(rigOfSettings(settings));
  if (!rig) return { ok: false, reason: 'the bank takes more capacitors than are looked for' };
  const isGap = blockIn(rig, 'switch').kind === 'spark-gap';
  return checked(isGap ? withTuned(rig, gapWithRoom(margin)) : rig);
}

export function checked(rig: Rig): Made {
  const [error] = errorsOf(rig);
  return error ? { ok: false, reason: error.text } : { ok: true, rig };
}

/** s for which the current stays above half of its peak, the first time. */
export function pulseWidth(rig: Rig): number {
  const { traces } = dischargeTraces(rig);
  const current = traces.find(({ id }) => id === 'current');
  if (!current) return NaN;
  const { t, y } = current;
  const size = y.map(Math.abs);
  const half = size.reduce((most, one) => Math.max(most, one), 0) / 2;
  const from = size.findIndex((one) => one >= half);
  let to = from;
  while (to < size.length && (size[to] ?? 0) >= half) to += 1;
  const cross = (k: number): number => {
    const [a, b, ta, tb] = [size[k - 1] ?? 0, size[k] ?? 0, t[k - 1] ?? 0, t[k] ?? 0];
    return k === 0 || a === b ? (t[k] ?? 0) : ta + ((tb - ta) * (half - a)) / (b - a);
  };
  return from < 0 || to >= size.length ? NaN : cross(to) - cross(from);
}
