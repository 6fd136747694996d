import { mean, quantileSorted, standardDeviation } from 'simple-statistics';
import { readQuantityText } from '../../field/index.ts';
import { FormulaError, withErrors } from '../../formula/index.ts';
import { RigReading, type Scattered, type ShotDrawn } from '../../figure/index.ts';
import { binomialInterval, normalAt, uniformAt } from '../../numeric/index.ts';
import { inSI, printAsTyped } from '../../quantity/index.ts';
import { blockIn, quantityAt, withBlock, type Rig } from '../../rig/index.ts';
import { askedOf, drawnFor, type Asked, type Drawn, type Uncertain } from './inputs.ts';

/**
 * How values lie within a tolerance. `uniform`: all alike likely, as of what is known by its limits alone (JCGM 100:2008, 4.3.7). `normal`: the
 * tolerance is two standard deviations, as of a batch that was made about its middle; one in twenty then lies beyond it.
 */
export const distributions = ['uniform', 'normal'] as const;
export type Distribution = (typeof distributions)[number];

export interface Scatter {
  readonly outputs: readonly string[];
  readonly samples: number;
  readonly seed: number;
  readonly distribution: Distribution;
  /** Whether formulas are off as well, by as much as they say of themselves. */
  readonly withModel: boolean;
  /** Whether every sample is a shot: gaps break down and triggers fire about their means. What leaves room for that scatter leaves none then. */
  readonly withShots: boolean;
}

export const leastSamples = 100;
export const mostSamples = 1_000_000;

/** A place within −1 to 1 for what a sample draws. */
const place = (seed: number, sample: number, dimension: number, distribution: Distribution): number =>
  distribution === 'uniform' ? 2 * uniformAt(seed, sample, dimension) - 1 : normalAt(seed, sample, dimension) / 2;

/** The value at a place of the tolerance, −1 to 1; beyond its low end never below a millionth of it. */
export const valueOf = ({ value, low, high }: Uncertain, at: number): number =>
  at >= 0 ? value + at * (high - value) : Math.max(value * 1e-6, value + at * (value - low));

/** A number below a million for a name: FNV-1a. */
function numberOf(name: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < name.length; i++) h = Math.imul(h ^ name.charCodeAt(i), 0x01000193);
  return (h >>> 0) % 1_000_000;
}

/** A number of its own for each formula, however many there are: its errors are drawn by it. */
const dimensionOf = (formula: string): number => 1_000_000 + numberOf(formula);

/** What lies elsewhere in every shot has dimensions of its own, one for each of those of which the lowest counts. */
const mostAlike = 1024;
const firstOf = ({ id }: Scattered): number => 2_000_000 + numberOf(id) * mostAlike;

/** As far as the formulas of a scatter go; of a million shots fewer than one lies beyond. */
export const farthest = 5;

/** A shot by its number. */
const shotOf =
  (seed: number, sample: number): ShotDrawn =>
  (scattered) => {
    let lowest = Infinity;
    for (let i = 0; i < Math.min(scattered.of, mostAlike); i++)
      lowest = Math.min(lowest, normalAt(seed, sample, firstOf(scattered) + i));
    return Math.max(-farthest, Math.min(farthest, lowest));
  };

/** What a sampler of a rig needs, made once. */
export interface Sampler extends Drawn {
  readonly asked: readonly Asked[];
  /** Values of the inputs of a sample, SI. */
  drawn(sample: number): number[];
  /** Where what scatters from shot to shot lies in a sample, in standard deviations from its mean. */
  shot(sample: number): number[];
  /** What is asked, with the inputs at these values and in this shot, else that of its number; NaN where a sample has no such number. */
  read(values: readonly number[], sample: number, shot?: ShotDrawn): number[];
}

/** What scatters from shot to shot of all that these outputs depend on. @throws RangeError as {@link samplerOf} */
export const scatteredOf = (rig: Rig, outputs: readonly string[]): readonly Scattered[] =>
  drawnFor(
    rig,
    outputs.map((id) => askedOf(rig, id)),
    true,
  ).scattered;

/** @throws RangeError where something is asked that a sample cannot say */
export function samplerOf(rig: Rig, { outputs, seed, distribution, withModel, withShots }: Omit<Scatter, 'samples'>): Sampler {
  const asked = outputs.map((id) => askedOf(rig, id));
  const { inputs, scattered } = drawnFor(rig, asked, withShots);
  const nominal = new RigReading(rig);
  // What no sample changes is worked out once.
  for (const { of } of asked) of(nominal);
  return {
    inputs,
    scattered,
    asked,
    shot: (sample) => scattered.map(shotOf(seed, sample)),
    drawn: (sample) => inputs.map((input, k) => valueOf(input, place(seed, sample, k, distribution))),
    read: (values, sample, shot = shotOf(seed, sample)) => {
      const overrides = new Map(inputs.map(({ path }, k) => [path, values[k] ?? NaN]));
      const reading = new RigReading(rig, overrides, nominal, scattered.length > 0 ? shot : null);
      const draws = (formula: string) => place(seed, sample, dimensionOf(formula), distribution);
      const memo = new Map();
      return asked.map(({ of, join }) => {
        const trees = of(reading);
        if (!withModel) return join(trees.map(({ value }) => value));
        try {
          return join(trees.map((tree) => withErrors(tree, draws, memo)));
        } catch (error) {
          if (error instanceof FormulaError) return NaN;
          throw error;
        }
      });
    },
  };
}

/**
 * A sample as a rig: its values as a person would type them, to six digits, each known as it is. A value that its field does not let
 * through stays what it was.
 */
export const rigOfSample = (rig: Rig, drawn: readonly (readonly [path: string, value: number])[]): Rig =>
  drawn.reduce((made, [path, value]) => {
    const at = quantityAt<string>(made, path);
    if (!at) return made;
    const text = inSI(() => printAsTyped(value, at.field.unit, at.value?.text ?? '', { digits: 6, trim: true }));
    const read = readQuantityText(at.field, text);
    if (!read.ok || !read.value) return made;
    const block = blockIn(made, at.spot);
    return withBlock(made, at.spot, { ...block, fields: { ...block.fields, [at.id]: read.value } });
  }, rig);

/** Samples from one to before another, a column for each output: the same bytes whoever draws them. */
export function scatterChunk(rig: Rig, scatter: Omit<Scatter, 'samples'>, from: number, to: number): Float64Array[] {
  const sampler = samplerOf(rig, scatter);
  const columns = scatter.outputs.map(() => new Float64Array(Math.max(0, to - from)));
  for (let i = from; i < to; i++)
    sampler.read(sampler.drawn(i), i).forEach((value, k) => {
      const column = columns[k];
      if (column) column[i - from] = value;
    });
  return columns;
}

/** A percentile with what it lies between 19 times out of 20. */
export interface Percentile {
  readonly share: number;
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

export interface Spread {
  /** Samples that had the number. */
  readonly n: number;
  readonly missing: number;
  readonly mean: number;
  readonly deviation: number;
  readonly percentiles: readonly Percentile[];
  readonly bars: readonly { readonly from: number; readonly to: number; readonly count: number }[];
}

const shares = [0.01, 0.05, 0.25, 0.5, 0.75, 0.95, 0.99] as const;
const confidence = 1.959964;

/** Between which of the sorted samples a percentile lies. Source: Hahn and Meeker, Statistical Intervals, section 5.2 (from memory). */
function ranks(n: number, share: number): readonly [number, number] {
  const [middle, half] = [n * share, confidence * Math.sqrt(n * share * (1 - share))];
  return [Math.max(0, Math.floor(middle - half) - 1), Math.min(n - 1, Math.ceil(middle + half))];
}

/** What samples come to; null where none had the number. Width of the bars by Freedman and Diaconis (1981). */
export function spreadOf(samples: Float64Array): Spread | null {
  const sorted = samples.filter((value) => Number.isFinite(value)).sort();
  const n = sorted.length;
  if (n === 0) return null;
  const list = Array.from(sorted);
  const at = (i: number) => list[i] ?? NaN;
  const percentiles = shares.map((share): Percentile => {
    const [a, b] = ranks(n, share);
    return { share, value: quantileSorted(list, share), low: at(a), high: at(b) };
  });
  const [least, most] = [at(0), at(n - 1)];
  const middle = quantileSorted(list, 0.75) - quantileSorted(list, 0.25);
  const width = (2 * middle) / Math.cbrt(n);
  const count = most > least ? Math.min(80, Math.max(8, width > 0 ? Math.ceil((most - least) / width) : 8)) : 1;
  const bars = Array.from({ length: count }, (_, i) => ({
    from: least + ((most - least) * i) / count,
    to: least + ((most - least) * (i + 1)) / count,
    count: 0,
  }));
  for (const value of list) {
    const bar = bars[Math.min(count - 1, Math.floor(((value - least) / (most - least || 1)) * count))];
    if (bar) bar.count += 1;
  }
  return { n, missing: samples.length - n, mean: mean(list), deviation: n > 1 ? standardDeviation(list) : 0, percentiles, bars };
}

/** What a goal wants of an output. */
export interface Goal {
  readonly from: number | null;
  readonly to: number | null;
}

/** How many samples meet a goal, and the share of all that do, 19 times out of 20; a sample without the number does not. */
export function yieldOf(
  samples: Float64Array,
  { from, to }: Goal,
): { readonly met: number; readonly low: number; readonly high: number } {
  let met = 0;
  for (const value of samples)
    if (Number.isFinite(value) && (from === null || value >= from) && (to === null || value <= to)) met += 1;
  return { met, ...binomialInterval(met, Math.max(1, samples.length), 0.95) };
}

/** The samples with the greatest value, worst first: to be opened as a rig. */
export function greatest(samples: Float64Array, count: number): number[] {
  const order = Array.from(samples.keys()).filter((i) => Number.isFinite(samples[i] ?? NaN));
  return order.sort((a, b) => (samples[b] ?? 0) - (samples[a] ?? 0)).slice(0, count);
}
