import { errorFunction, probit } from 'simple-statistics';
import type { Scattered } from '../../figure/index.ts';
import { uniformAt } from '../../numeric/index.ts';
import type { Rig } from '../../rig/index.ts';
import { farthest, samplerOf, valueOf } from './scatter.ts';
import type { Uncertain } from './inputs.ts';

/** What moves a number: a field within its tolerance, or what lies elsewhere in every shot. */
export type Cause =
  | { readonly of: 'field'; readonly title: string; readonly field: Uncertain }
  | { readonly of: 'shots'; readonly title: string; readonly scattered: Scattered };

/** What one cause alone does to a number: at both ends of a tolerance, or two standard deviations either way. */
export interface Swing {
  /** Its place among all causes. */
  readonly index: number;
  readonly cause: Cause;
  readonly atLow: number;
  readonly atHigh: number;
}

/** What each cause does alone; what all of them do together is not known yet. */
export interface Alone {
  readonly causes: readonly Cause[];
  readonly nominal: number;
  /** The widest first: a tornado. */
  readonly swings: readonly Swing[];
}

const densityAt = (z: number): number => Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
const below = (z: number): number => (1 + errorFunction(z / Math.SQRT2)) / 2;

/** Standard deviations below which a share of all lies: what the package has within some thousandths, made good by Newton's steps. */
function normalQuantile(share: number): number {
  let z = probit(share);
  for (let k = 0; k < 3; k++) z -= (below(z) - share) / densityAt(z);
  return Math.max(-farthest, Math.min(farthest, z));
}

/** Where the lowest of so many lies at a place from 0 to 1 of its own distribution, in standard deviations of one. */
export const lowestAt = (place: number, many: number): number =>
  normalQuantile(Math.min(1 - 1e-7, Math.max(1e-7, -Math.expm1(Math.log1p(-place) / many))));

/** Two standard deviations either way, as places: of what is one of many as far out in its own distribution. */
const ends = [below(-2), below(2)] as const;

/** A number with each cause at a place from 0 to 1; at null it stands as the rig says. */
function placed(rig: Rig, output: string) {
  const { inputs, scattered, read } = samplerOf(rig, {
    outputs: [output],
    seed: 1,
    distribution: 'uniform',
    withModel: false,
    withShots: true,
  });
  const causes: Cause[] = [
    ...inputs.map((field): Cause => ({ of: 'field', title: field.title, field })),
    ...scattered.map((one): Cause => ({ of: 'shots', title: one.title, scattered: one })),
  ];
  const at = (places: readonly (number | null)[]): number => {
    const values = inputs.map((input, k) => {
      const place = places[k] ?? null;
      return place === null ? input.value : valueOf(input, 2 * place - 1);
    });
    const shot = ({ id, of }: Scattered): number => {
      const place = places[inputs.length + scattered.findIndex((one) => one.id === id)] ?? null;
      return place === null ? 0 : lowestAt(place, of);
    };
    return read(values, 0, shot)[0] ?? NaN;
  };
  return { causes, at };
}

/** The swings of an output over every field with a tolerance, and over what scatters from shot to shot. */
export function swingsOf(rig: Rig, output: string): Alone {
  const { causes, at } = placed(rig, output);
  const still: readonly (number | null)[] = causes.map(() => null);
  const swings = causes.map((cause, index): Swing => {
    const [low, high] = cause.of === 'field' ? [0, 1] : ends;
    return { index, cause, atLow: at(still.with(index, low)), atHigh: at(still.with(index, high)) };
  });
  const width = ({ atLow, atHigh }: Swing) => Math.abs(atHigh - atLow) || 0;
  return { causes, nominal: at(still), swings: swings.sort((a, b) => width(b) - width(a)) };
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
  const { causes, at } = placed(rig, output);
  return Array.from({ length: Math.max(0, to - from) }, (_, i) => varianceRow(at, causes.length, seed, from + i));
}

/** What a number depends on: each cause alone, and its share of the variance where several act together, from the rows there are. */
export function mattersFrom(alone: Alone, rows: readonly VarianceRow[]): Matters {
  const { mean, variance, shares } =
    alone.causes.length === 0 ? { mean: alone.nominal, variance: 0, shares: [] } : sharesOfRows(rows, alone.causes.length);
  return { ...alone, mean, deviation: Math.sqrt(variance), shares };
}

export const mattersOf = (rig: Rig, output: string, { seed = 1, rows = matterRows } = {}): Matters =>
  mattersFrom(swingsOf(rig, output), matterRowsChunk(rig, output, seed, 0, rows));
