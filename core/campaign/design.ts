import { uniforms } from '../numeric/index.ts';

/** Points of an experiment, in the levels of its factors. */

/** Every combination of levels, the last factor changing fastest: indices into each. @param levels how many each factor has */
export function factorial(levels: readonly number[]): number[][] {
  return levels.reduce<number[][]>(
    (points, n) => points.flatMap((point) => Array.from({ length: n }, (_, i) => [...point, i])),
    [[]],
  );
}

/**
 * A central composite design in coded units: the corners at ±1, the axes at ±α, the middle at 0. Rotatable: α = 2^(k/4), so that a fitted
 * surface is known as well in every direction. Source: Box and Wilson, J. R. Stat. Soc. B 13 (1951); table of α: Montgomery, Design and
 * Analysis of Experiments; from memory.
 *
 * @param k factors, 2 to 6
 * @param centres points in the middle, which tell the scatter
 */
export function centralComposite(
  k: number,
  centres: number,
): { readonly alpha: number; readonly points: readonly (readonly number[])[] } {
  if (!Number.isInteger(k) || k < 2 || k > 6) throw new RangeError('a central composite design has 2 to 6 factors');
  const alpha = 2 ** (k / 4);
  const corners = factorial(Array.from({ length: k }, () => 2)).map((point) => point.map((i) => 2 * i - 1));
  const axes = Array.from({ length: k }, (_, at) =>
    [-alpha, alpha].map((x) => Array.from({ length: k }, (_unused, i) => (i === at ? x : 0))),
  ).flat();
  const middle = Array.from({ length: centres }, () => Array.from({ length: k }, () => 0));
  return { alpha, points: [...corners, ...axes, ...middle] };
}

/**
 * A Latin square: row by row which treatment comes in each column, each once in every row and column, rows and columns by chance. For as many
 * sessions as levels: what drifts from session to session and within one is then the same for all of them.
 */
export function latinSquare(n: number, seed: number): number[][] {
  const draw = uniforms(seed);
  const [rows, columns] = [shuffled(count(n), draw), shuffled(count(n), draw)];
  return rows.map((r) => columns.map((c) => (r + c) % n));
}

const count = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

/** In an order by chance. Source: Durstenfeld, Comm. ACM 7 (1964). */
function shuffled<T>(all: readonly T[], draw: () => number): T[] {
  const made = [...all];
  for (let i = made.length - 1; i > 0; i--) {
    const j = Math.floor(draw() * (i + 1));
    [made[i], made[j]] = [made[j] as T, made[i] as T];
  }
  return made;
}

export const designs = ['factorial', 'central-composite', 'next-best'] as const;

/** Values of a central composite design whose axes end at the ends of each range, the middle as often as is usual. */
export function compositeValues(ranges: readonly { readonly low: number; readonly high: number }[]): number[][] {
  const { alpha, points } = centralComposite(ranges.length, 1);
  return points.map((point) =>
    point.map((x, i) => {
      const { low = NaN, high = NaN } = ranges[i] ?? {};
      return (low + high) / 2 + ((high - low) / 2) * (x / alpha);
    }),
  );
}

export const orders = ['blocks', 'rising', 'random', 'latin', 'as-taught'] as const;
/** Orders of a design that is laid out before the first shot. */
export type FixedOrder = Exclude<(typeof orders)[number], 'as-taught'>;

/**
 * The order of the shots: each point so many times.
 *
 * @param by `blocks`: a setting is kept for all of its shots, so that hands change little, and the blocks come by chance; `rising`: blocks as
 *   they are listed, for a rig that has not been there before; `random`: every
 *   shot by chance, which a drift within the day cannot fool; `latin`: rows of a Latin square, so that every point comes once in each
 *   round and, over as many rounds as points, once at each place in it
 */
export function ordered<T>(points: readonly T[], replicates: number, by: FixedOrder, seed: number): T[] {
  const draw = uniforms(seed);
  const again = <P>(point: P): P[] => Array.from({ length: replicates }, () => point);
  if (by === 'latin') {
    const rows = latinSquare(points.length, seed);
    return again(0).flatMap((_, i) => (rows[i % rows.length] ?? []).flatMap((k) => points[k] ?? []));
  }
  if (by === 'rising') return points.flatMap(again);
  return by === 'blocks' ? shuffled(points, draw).flatMap(again) : shuffled(points.flatMap(again), draw);
}
