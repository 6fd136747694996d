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
type Terms = (coded: readonly number[]) => number[];

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
  /** Of all that varies between the shots the share that what was varied explains; 0 to 1. */
  readonly explained: number;
}

export interface Best extends Expected {
  readonly levels: readonly number[];
  /** Share of what the fit may be in which it stays ahead of every other tested setting. */
  readonly confidence: number;
}

const same = (a: readonly number[], b: readonly number[]): boolean => a.every((x, i) => x === b[i]);

/** Tested settings, each once. */
const settingsOf = (points: readonly (readonly number[])[]): (readonly number[])[] =>
  points.filter((one, i) => points.findIndex((other) => same(one, other)) === i);

const factorsOf = (points: readonly (readonly number[])[]): Factor[] =>
  (points[0] ?? []).map((_, k) => {
    const levels = [...new Set(points.map((levels) => levels[k] ?? NaN))].sort((a, b) => a - b);
    return { low: levels[0] ?? NaN, high: levels.at(-1) ?? NaN, levels };
  });

const codedIn =
  (factors: readonly Factor[]) =>
  (levels: readonly number[]): number[] =>
    factors.map(({ low, high }, k) => (high > low ? (2 * (levels[k] ?? NaN) - low - high) / (high - low) : 0));

function termsOf(factors: readonly Factor[], isCurved: boolean): Terms {
  const free = factors.flatMap(({ levels }, k) => (levels.length > 1 ? [k] : []));
  const curved = free.filter((k) => isCurved && (factors[k]?.levels.length ?? 0) > 2);
  const pairs = free.flatMap((a, i) => free.slice(i + 1).map((b) => [a, b] as const));
  return (coded) => {
    const x = (k: number): number => coded[k] ?? NaN;
    return [1, ...free.map(x), ...curved.map((k) => x(k) ** 2), ...pairs.map(([a, b]) => x(a) * x(b))];
  };
}

const inverseOf = (rows: readonly (readonly number[])[]): number[][] | null => {
  const p = rows[0]?.length ?? 0;
  const sums = Array.from({ length: p }, (_, i) =>
    Array.from({ length: p }, (_unused, k) => rows.reduce((sum, row) => sum + (row[i] ?? 0) * (row[k] ?? 0), 0)),
  );
  return p === 0 ? null : inversePositive(sums);
};

/** Draws of what the coefficients may be, for how sure an order is. */
const draws = 2000;
/** Least share of a difference that is believed. */
const leastKept = 0.1;

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
  const testedRows = tested.map((levels) => terms(coded(levels)));
  const wins = { highest: tested.map(() => 0), lowest: tested.map(() => 0) };
  for (let n = 0; n < draws; n++) {
    const z = coefficients.map(() => normal());
    // Student's: the variance itself is known from so many degrees of freedom only.
    const chi =
      Array.from({ length: Math.min(freedom, 60) }, () => normal() ** 2).reduce((a, b) => a + b, 0) / Math.min(freedom, 60);
    const sigma = Math.sqrt(variance / chi);
    const may = coefficients.map((c, i) => kept * c + Math.sqrt(kept) * sigma * dot(L[i] ?? [], z));
    const values = testedRows.map((row) => dot(row, may));
    const [top, bottom] = [values.indexOf(Math.max(...values)), values.indexOf(Math.min(...values))];
    wins.highest[top] = (wins.highest[top] ?? 0) + 1;
    wins.lowest[bottom] = (wins.lowest[bottom] ?? 0) + 1;
  }
  const best = (which: 'highest' | 'lowest'): Best => {
    const values = tested.map((levels) => at(levels).value);
    const k = values.indexOf(which === 'highest' ? Math.max(...values) : Math.min(...values));
    const levels = tested[k] ?? [];
    return { levels, ...at(levels), confidence: (wins[which][k] ?? 0) / draws };
  };
  return {
    factors,
    at,
    scatter: Math.sqrt(variance),
    points: points.length,
    highest: best('highest'),
    lowest: best('lowest'),
    explained: all > 0 ? Math.max(0, 1 - dot(residuals, residuals) / all) : 0,
  };
}

/**
 * The setting of which one more shot teaches the most: after it the curve is known best on the mean over all settings (designs that are
 * optimal for the mean variance). By what the shots so far have not told; what was measured does not matter to it.
 *
 * @param fired levels of the shots so far
 * @param candidates settings that may be fired
 * @returns index into candidates; null where nothing is to be chosen
 */
export function nextBest(fired: readonly (readonly number[])[], candidates: readonly (readonly number[])[]): number | null {
  const settings = settingsOf(candidates);
  if (settings.length < 2) return null;
  // What was not fired yet comes first: no curve is known through it.
  const without = candidates.findIndex((one) => !fired.some((other) => same(one, other)));
  if (without >= 0) return without;
  const factors = factorsOf(candidates);
  const coded = codedIn(factors);
  const terms = termsOf(factors, true);
  const rows = fired.map((levels) => terms(coded(levels)));
  const all = settings.map((levels) => terms(coded(levels)));
  const meanVariance = (more: readonly number[]): number => {
    const inverse = inverseOf([...rows, more]);
    if (!inverse) return Infinity;
    const of = (row: readonly number[]) =>
      dot(
        inverse.map((one) => dot(one, row)),
        row,
      );
    return all.reduce((sum, row) => sum + of(row), 0) / all.length;
  };
  const found = candidates.map((levels) => meanVariance(terms(coded(levels))));
  const least = Math.min(...found);
  return Number.isFinite(least) ? found.findIndex((v) => v <= least * (1 + 1e-9)) : null;
}
