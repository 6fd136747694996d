import { uniformAt } from '../../numeric/index.ts';
import type { Rig } from '../../rig/index.ts';
import { samplerOf, valueOf } from './scatter.ts';
import type { Uncertain } from './inputs.ts';

/** What one field alone does to a number, at both ends of its tolerance. */
export interface Swing {
  readonly input: Uncertain;
  readonly atLow: number;
  readonly atHigh: number;
}

/** What each field does alone; what all of them do together is not known yet. */
export interface Alone {
  readonly inputs: readonly Uncertain[];
  readonly nominal: number;
  /** The widest first: a tornado. */
  readonly swings: readonly Swing[];
}

const samplerFor = (rig: Rig, output: string, seed = 1) =>
  samplerOf(rig, { outputs: [output], seed, distribution: 'uniform', withModel: false, withShots: false });

/** The swings of an output over every field with a tolerance. */
export function swingsOf(rig: Rig, output: string): Alone {
  const { inputs, read } = samplerFor(rig, output);
  const values = inputs.map(({ value }) => value);
  const at = (k: number, value: number): number => read(values.with(k, value), 0)[0] ?? NaN;
  const swings = inputs.map((input, k) => ({ input, atLow: at(k, input.low), atHigh: at(k, input.high) }));
  const width = ({ atLow, atHigh }: Swing) => Math.abs(atHigh - atLow) || 0;
  return { inputs, nominal: read(values, 0)[0] ?? NaN, swings: swings.sort((a, b) => width(b) - width(a)) };
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

/** Values at a point of the unit cube, at another, and with one coordinate after the other taken from that. */
export interface VarianceRow {
  readonly a: number;
  readonly b: number;
  readonly mixed: readonly number[];
}

/** A row by its number: the same whoever asks for it. */
function varianceRow(of: (point: readonly number[]) => number, dimensions: number, seed: number, i: number): VarianceRow {
  const a = Array.from({ length: dimensions }, (_, k) => uniformAt(seed, i, 2 * k));
  const b = Array.from({ length: dimensions }, (_, k) => uniformAt(seed, i, 2 * k + 1));
  return { a: of(a), b: of(b), mixed: a.map((_, k) => of(a.with(k, b[k] ?? 0))) };
}

export interface VarianceShares {
  readonly mean: number;
  readonly variance: number;
  readonly shares: readonly Share[];
}

/**
 * Shares of variance by Sobol's method from rows over the unit cube; a row with a value that is none is left out. First-order effects by
 * Saltelli et al., Comput. Phys. Commun. 181 (2010) 259, total ones by Jansen, Comput. Phys. Commun. 117 (1999) 35.
 */
function sharesOfRows(all: readonly VarianceRow[], dimensions: number): VarianceShares {
  const rows = all.filter(({ a, b, mixed }) => [a, b, ...mixed].every(Number.isFinite));
  const n = rows.length;
  const values = rows.flatMap(({ a, b }) => [a, b]);
  const middle = values.reduce((sum, y) => sum + y, 0) / values.length;
  const variance = values.reduce((sum, y) => sum + (y - middle) ** 2, 0) / Math.max(1, values.length - 1);
  const mean = (list: readonly number[]) => list.reduce((sum, x) => sum + x, 0) / n;
  const error = (list: readonly number[], at: number) =>
    Math.sqrt(list.reduce((sum, x) => sum + (x - at) ** 2, 0) / Math.max(1, n * (n - 1)));
  const share = (x: number) => (variance > 0 ? x / variance : 0);
  const shares = Array.from({ length: dimensions }, (_, k): Share => {
    // About the mean: what is far from nought would drown in the product.
    const first = rows.map(({ a, b, mixed }) => (b - middle) * ((mixed[k] ?? 0) - a));
    const total = rows.map(({ a, mixed }) => (a - (mixed[k] ?? 0)) ** 2 / 2);
    const [f, t] = [mean(first), mean(total)];
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

/**
 * Shares of variance of a function over the unit cube. It costs `samples · (dimensions + 2)` values.
 *
 * @param of a value at a point of the cube; NaN leaves its row out
 */
export const varianceShares = (
  of: (point: readonly number[]) => number,
  dimensions: number,
  samples: number,
  seed: number,
): VarianceShares =>
  sharesOfRows(
    Array.from({ length: samples }, (_, i) => varianceRow(of, dimensions, seed, i)),
    dimensions,
  );

export interface Matters extends Alone {
  readonly mean: number;
  readonly deviation: number;
  readonly shares: readonly Share[];
}

/** Rows of one question: shares of variance want some thousand values. */
export const matterRows = 512;

/** Rows from one to before another, of what a number of a rig depends on: the same whoever works them out. */
export function matterRowsChunk(rig: Rig, output: string, seed: number, from: number, to: number): VarianceRow[] {
  const { inputs, read } = samplerFor(rig, output, seed);
  const valueAt = (point: readonly number[]): number =>
    read(
      inputs.map((input, k) => valueOf(input, 2 * (point[k] ?? 0.5) - 1)),
      0,
    )[0] ?? NaN;
  return Array.from({ length: Math.max(0, to - from) }, (_, i) => varianceRow(valueAt, inputs.length, seed, from + i));
}

/** What a number depends on: each field alone, and its share of the variance where several act together, from the rows there are. */
export function mattersFrom(alone: Alone, rows: readonly VarianceRow[]): Matters {
  const { mean, variance, shares } =
    alone.inputs.length === 0 ? { mean: alone.nominal, variance: 0, shares: [] } : sharesOfRows(rows, alone.inputs.length);
  return { ...alone, mean, deviation: Math.sqrt(variance), shares };
}

export const mattersOf = (rig: Rig, output: string, { seed = 1, rows = matterRows } = {}): Matters =>
  mattersFrom(swingsOf(rig, output), matterRowsChunk(rig, output, seed, 0, rows));
