import { dot, inversePositive, lowerTriangle, normals, studentFactor } from '../numeric/index.ts';

/**
 * The answer that the shots of a campaign give: least squares over what was varied, with its covariance. Ordinary least squares in coded
 * units (each factor from −1 to 1 over its levels), straight where a factor has two levels, curved from three on, with the products of two
 * factors. Source: Montgomery, Design and Analysis of Experiments, response surfaces; from memory.
 */

/** A shot that counts: the levels it was fired at, one for each factor, SI, and what was measured. */
export interface Point {
  readonly levels: readonly number[];
  readonly y: number;
}

interface Factor {
  readonly low: number;
  readonly high: number;
  readonly levels: readonly number[];
}

/** Terms of the model at a point in coded units. */
export type Terms = (coded: readonly number[]) => number[];

export interface Expected {
  readonly value: number;
  /** How far the mean may be off, and how far the next shot, with 95 % confidence each. */
  readonly margin: number;
  readonly next: number;
}

export interface Answer {
  readonly factors: readonly Factor[];
  /** What is expected at levels. */
  readonly at: (levels: readonly number[]) => Expected;
  /** Standard deviation from shot to shot, in the unit of what was measured. */
  readonly scatter: number;
  readonly points: number;
  /** The tested setting with the highest and the one with the lowest mean, and how sure that is. */
  readonly highest: Best;
  readonly lowest: Best;
  /** Of each of some settings, how likely it is the one with the highest or the lowest mean; they add up to one. */
  readonly chances: (which: End, among: readonly (readonly number[])[]) => number[];
  /** Of all that varies between the shots the share that what was varied explains; 0 to 1. */
  readonly explained: number;
}

export type End = 'highest' | 'lowest';

export interface Best extends Expected {
  readonly levels: readonly number[];
  /** Share of what the fit may be in which it stays ahead of every other tested setting. */
  readonly confidence: number;
}

export const same = (a: readonly number[], b: readonly number[]): boolean => a.every((x, i) => x === b[i]);

/** Tested settings, each once. */
export const settingsOf = (points: readonly (readonly number[])[]): (readonly number[])[] =>
  points.filter((one, i) => points.findIndex((other) => same(one, other)) === i);

export const factorsOf = (points: readonly (readonly number[])[]): Factor[] =>
  (points[0] ?? []).map((_, k) => {
    const levels = [...new Set(points.map((levels) => levels[k] ?? NaN))].sort((a, b) => a - b);
    return { low: levels[0] ?? NaN, high: levels.at(-1) ?? NaN, levels };
  });

export const codedIn =
  (factors: readonly Factor[]) =>
  (levels: readonly number[]): number[] =>
    factors.map(({ low, high }, k) => (high > low ? (2 * (levels[k] ?? NaN) - low - high) / (high - low) : 0));

export function termsOf(factors: readonly Factor[], isCurved: boolean): Terms {
  const free = factors.flatMap(({ levels }, k) => (levels.length > 1 ? [k] : []));
  const curved = free.filter((k) => isCurved && (factors[k]?.levels.length ?? 0) > 2);
  const pairs = free.flatMap((a, i) => free.slice(i + 1).map((b) => [a, b] as const));
  return (coded) => {
    const x = (k: number): number => coded[k] ?? NaN;
    return [1, ...free.map(x), ...curved.map((k) => x(k) ** 2), ...pairs.map(([a, b]) => x(a) * x(b))];
  };
}

export const inverseOf = (rows: readonly (readonly number[])[], known = 0): number[][] | null => {
  const p = rows[0]?.length ?? 0;
  const sums = Array.from({ length: p }, (_, i) =>
    Array.from({ length: p }, (_unused, k) =>
      rows.reduce((sum, row) => sum + (row[i] ?? 0) * (row[k] ?? 0), i === k ? known : 0),
    ),
  );
  return p === 0 ? null : inversePositive(sums);
};

/** Draws of what the coefficients may be, for how sure an order is. */
const draws = 2000;
/** Least share of a difference that is believed. */
const leastKept = 0.1;

/** From so many on the cube root of a mean square is as good as normal. */
const manySquares = 10;

/** The mean of so many squared normals, drawn. Of many by their cube root: Wilson and Hilferty, Proc. Natl. Acad. Sci. 17 (1931); from memory. */
function chiSquared(freedom: number, normal: () => number): number {
  if (freedom > manySquares) {
    const v = 2 / (9 * freedom);
    return (1 - v + normal() * Math.sqrt(v)) ** 3;
  }
  return Array.from({ length: freedom }, () => normal() ** 2).reduce((a, b) => a + b, 0) / freedom;
}

/**
 * What the shots answer.
 *
 * @param points shots that count, of one campaign
 * @returns null where they do not determine it: fewer than two settings, or no more shots than the model has terms
 */
export function answerOf(points: readonly Point[]): Answer | null {
  const tested = settingsOf(points.map(({ levels }) => levels));
  if (tested.length < 2) return null;
  const factors = factorsOf(tested);
  const coded = codedIn(factors);
  const fitted = (isCurved: boolean) => {
    const terms = termsOf(factors, isCurved);
    const rows = points.map(({ levels }) => terms(coded(levels)));
    const freedom = points.length - (rows[0]?.length ?? 0);
    const inverse = freedom > 0 ? inverseOf(rows) : null;
    return inverse && { terms, rows, freedom, inverse };
  };
  const fit = fitted(true) ?? fitted(false);
  if (!fit) return null;
  const { terms, rows, freedom, inverse } = fit;
  const y = points.map((point) => point.y);
  const sums = inverse.map((_, k) => rows.reduce((sum, row, i) => sum + (row[k] ?? 0) * (y[i] ?? 0), 0));
  const coefficients = inverse.map((row) => dot(row, sums));
  const residuals = rows.map((row, i) => (y[i] ?? 0) - dot(row, coefficients));
  const variance = dot(residuals, residuals) / freedom;
  const mean = y.reduce((a, b) => a + b, 0) / y.length;
  const all = y.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  const student = studentFactor(freedom);
  const at = (levels: readonly number[]): Expected => {
    const row = terms(coded(levels));
    const spread = dot(
      inverse.map((one) => dot(one, row)),
      row,
    );
    const off = (share: number): number => student * Math.sqrt(Math.max(0, variance * share));
    return { value: dot(row, coefficients), margin: off(spread), next: off(1 + spread) };
  };
  // Where nothing stands out of the scatter, what looks highest is chance: differences are drawn towards none by as much as the shots leave
  // open (empirical Bayes; Efron and Morris, J. Am. Stat. Assoc. 68 (1973); from memory).
  const moved = Math.max(0, all - dot(residuals, residuals)) / Math.max(1, coefficients.length - 1);
  const kept = variance > 0 && moved > 0 ? Math.min(1, Math.max(leastKept, 1 - variance / moved)) : 1;
  const normal = normals(1);
  const L = lowerTriangle(inverse);
  let known: number[][] | null = null;
  const drawn = (): number[][] =>
    (known ??= Array.from({ length: draws }, () => {
      const z = coefficients.map(() => normal());
      // Student's: the variance itself is known from so many degrees of freedom only.
      const sigma = Math.sqrt(variance / chiSquared(freedom, normal));
      return coefficients.map((c, i) => kept * c + Math.sqrt(kept) * sigma * dot(L[i] ?? [], z));
    }));
  const most = { highest: (all: readonly number[]) => Math.max(...all), lowest: (all: readonly number[]) => Math.min(...all) };
  const chances = (which: End, among: readonly (readonly number[])[]): number[] => {
    const rowsOfAll = among.map((levels) => terms(coded(levels)));
    const wins = among.map(() => 0);
    for (const may of drawn()) {
      const values = rowsOfAll.map((row) => dot(row, may));
      const k = values.indexOf(most[which](values));
      wins[k] = (wins[k] ?? 0) + 1;
    }
    return wins.map((n) => n / draws);
  };
  const best = (which: End): Best => {
    const values = tested.map((levels) => at(levels).value);
    const k = values.indexOf(most[which](values));
    const levels = tested[k] ?? [];
    return { levels, ...at(levels), confidence: chances(which, tested)[k] ?? 0 };
  };
  return {
    factors,
    at,
    scatter: Math.sqrt(variance),
    points: points.length,
    // Drawn only where somebody asks: a series that seeks its next point has no use for it.
    get highest() {
      return best('highest');
    },
    get lowest() {
      return best('lowest');
    },
    chances,
    explained: all > 0 ? Math.max(0, 1 - dot(residuals, residuals) / all) : 0,
  };
}
