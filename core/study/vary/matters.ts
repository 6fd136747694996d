import { uniformAt } from '../../numeric/index.ts';
import type { Rig } from '../../rig/index.ts';
import { samplerOf } from './scatter.ts';
import type { Uncertain } from './inputs.ts';

/** What one field alone does to a number, at both ends of its tolerance. */
export interface Swing {
  readonly input: Uncertain;
  readonly atLow: number;
  readonly atHigh: number;
}

/** The swings of an output over every field with a tolerance, the widest first: a tornado. */
export function swingsOf(rig: Rig, output: string): { readonly nominal: number; readonly swings: readonly Swing[] } {
  const { inputs, read } = samplerOf(rig, { outputs: [output], seed: 1, distribution: 'uniform', withModel: false });
  const values = inputs.map(({ value }) => value);
  const at = (k: number, value: number): number => read(values.with(k, value), 0)[0] ?? NaN;
  const swings = inputs.map((input, k) => ({ input, atLow: at(k, input.low), atHigh: at(k, input.high) }));
  const width = ({ atLow, atHigh }: Swing) => Math.abs(atHigh - atLow) || 0;
  return { nominal: read(values, 0)[0] ?? NaN, swings: swings.sort((a, b) => width(b) - width(a)) };
}

/** Shares of the variance of a number, 0 to 1. */
export interface Share {
  readonly index: number;
  /** Of the field by itself, and with all in which it takes part; each with its standard error. */
  readonly first: number;
  readonly firstError: number;
  readonly total: number;
  readonly totalError: number;
}

/**
 * Shares of variance by Sobol's method over the unit cube. First-order effects by Saltelli et al., Comput. Phys. Commun. 181 (2010) 259,
 * total ones by Jansen, Comput. Phys. Commun. 117 (1999) 35. It costs `samples · (dimensions + 2)` values.
 *
 * @param of a value at a point of the cube; NaN leaves its row out
 */
export function varianceShares(
  of: (point: readonly number[]) => number,
  dimensions: number,
  samples: number,
  seed: number,
  onProgress: (share: number) => void = () => undefined,
): { readonly mean: number; readonly variance: number; readonly shares: readonly Share[] } {
  const rows: { readonly a: number; readonly b: number; readonly mixed: readonly number[] }[] = [];
  for (let i = 0; i < samples; i++) {
    const a = Array.from({ length: dimensions }, (_, k) => uniformAt(seed, i, 2 * k));
    const b = Array.from({ length: dimensions }, (_, k) => uniformAt(seed, i, 2 * k + 1));
    const row = { a: of(a), b: of(b), mixed: a.map((_, k) => of(a.with(k, b[k] ?? 0))) };
    if ([row.a, row.b, ...row.mixed].every(Number.isFinite)) rows.push(row);
    if (i % 32 === 0) onProgress(i / samples);
  }
  const n = rows.length;
  const all = rows.flatMap(({ a, b }) => [a, b]);
  const middle = all.reduce((sum, y) => sum + y, 0) / all.length;
  const variance = all.reduce((sum, y) => sum + (y - middle) ** 2, 0) / Math.max(1, all.length - 1);
  const shares = Array.from({ length: dimensions }, (_, k): Share => {
    // About the mean: what is far from nought would drown in the product.
    const first = rows.map(({ a, b, mixed }) => (b - middle) * ((mixed[k] ?? 0) - a));
    const total = rows.map(({ a, mixed }) => (a - (mixed[k] ?? 0)) ** 2 / 2);
    const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / n;
    const error = (list: readonly number[], at: number) =>
      Math.sqrt(list.reduce((sum, x) => sum + (x - at) ** 2, 0) / Math.max(1, n * (n - 1)));
    const [f, t] = [mean(first), mean(total)];
    const share = (x: number) => (variance > 0 ? x / variance : 0);
    return {
      index: k,
      first: share(f),
      firstError: share(error(first, f)),
      total: share(t),
      totalError: share(error(total, t)),
    };
  });
  return { mean: middle, variance, shares };
}

export interface Matters {
  readonly inputs: readonly Uncertain[];
  readonly nominal: number;
  readonly swings: readonly Swing[];
  readonly mean: number;
  readonly deviation: number;
  readonly shares: readonly Share[];
}

/** Points of one question at the most: shares of variance want some thousand values. */
const usualRows = 512;

/** What a number depends on: each field alone, and its share of the variance where several act together. */
export function mattersOf(
  rig: Rig,
  output: string,
  { seed = 1, rows = usualRows, onProgress = (_share: number): void => undefined } = {},
): Matters {
  const sampler = samplerOf(rig, { outputs: [output], seed, distribution: 'uniform', withModel: false });
  const { inputs } = sampler;
  const { nominal, swings } = swingsOf(rig, output);
  const valueAt = (point: readonly number[]): number =>
    sampler.read(
      inputs.map(({ low, value, high }, k) => {
        const at = 2 * (point[k] ?? 0.5) - 1;
        return at >= 0 ? value + at * (high - value) : value + at * (value - low);
      }),
      0,
    )[0] ?? NaN;
  const { mean, variance, shares } =
    inputs.length === 0
      ? { mean: nominal, variance: 0, shares: [] }
      : varianceShares(valueAt, inputs.length, rows, seed, onProgress);
  return { inputs, nominal, swings, mean, deviation: Math.sqrt(variance), shares };
}
