import { inversePositive } from './dense.ts';

/**
 * Non-linear least squares by Levenberg and Marquardt, with the covariance of what was found. Source: Marquardt, An algorithm for
 * least-squares estimation of nonlinear parameters (1963); Press and others, Numerical Recipes, 15.5; from memory.
 */
export interface Fitted {
  readonly values: readonly number[];
  /** Of the values, from the scatter of the residuals. */
  readonly covariance: readonly (readonly number[])[];
  /** Standard deviation of the residuals, in the unit of what was fitted. */
  readonly scatter: number;
  /** How many points and how many values. */
  readonly points: number;
  readonly isSettled: boolean;
}

/**
 * Fits a model to points.
 *
 * @param model y at x for the values
 * @param start where to begin; no value may be 0 unless `scales` says what counts as a step of it
 * @param scales a size of each value by which its steps are measured
 * @returns null where the points do not determine the values
 */
export function fitModel(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  model: (x: number, values: readonly number[]) => number,
  start: readonly number[],
  scales: readonly number[] = start.map((v) => Math.abs(v) || 1),
): Fitted | null {
  const [n, p] = [x.length, start.length];
  if (n <= p) return null;
  const residuals = (values: readonly number[]) =>
    Float64Array.from({ length: n }, (_, i) => (y[i] ?? 0) - model(x[i] ?? 0, values));
  const square = (r: Float64Array) => r.reduce((sum, v) => sum + v * v, 0);
  let values = [...start];
  let r = residuals(values);
  let cost = square(r);
  if (!Number.isFinite(cost)) return null;
  let damping = 1e-3;
  let isSettled = false;
  const normal = (): { A: number[][]; g: number[] } => {
    const columns = values.map((v, k) => {
      const h = 1e-6 * Math.max(Math.abs(v), scales[k] ?? 1);
      const [up, down] = [values.map((w, i) => (i === k ? w + h : w)), values.map((w, i) => (i === k ? w - h : w))];
      return Float64Array.from({ length: n }, (_, i) => (model(x[i] ?? 0, up) - model(x[i] ?? 0, down)) / (2 * h));
    });
    const dot = (a: Float64Array, b: Float64Array) => a.reduce((sum, v, i) => sum + v * (b[i] ?? 0), 0);
    return { A: columns.map((a) => columns.map((b) => dot(a, b))), g: columns.map((a) => dot(a, r)) };
  };
  let { A, g } = normal();
  for (let i = 0; i < 200 && !isSettled; i++) {
    const damped = inversePositive(A.map((row, k) => row.map((v, j) => (j === k ? v * (1 + damping) : v))));
    if (!damped) {
      damping = Math.max(damping * 10, 1e-6);
      if (damping > 1e12) return null;
      continue;
    }
    const step = damped.map((row) => row.reduce((sum, v, k) => sum + v * (g[k] ?? 0), 0));
    const next = values.map((v, k) => v + (step[k] ?? 0));
    const nextR = residuals(next);
    const nextCost = square(nextR);
    if (nextCost <= cost) {
      // Settled where neither the cost nor any value moves any more.
      const isSmall = step.every((s, k) => Math.abs(s) <= 1e-9 * Math.max(Math.abs(values[k] ?? 0), (scales[k] ?? 1) * 1e-6));
      isSettled = isSmall || cost - nextCost <= 1e-12 * cost;
      [values, r, cost] = [next, nextR, nextCost];
      damping = Math.max(damping / 10, 1e-12);
      ({ A, g } = normal());
    } else {
      damping *= 10;
      if (damping > 1e12) isSettled = true;
    }
  }
  const inverted = inversePositive(A);
  if (!inverted) return null;
  const variance = cost / (n - p);
  return {
    values,
    covariance: inverted.map((row) => row.map((v) => v * variance)),
    scatter: Math.sqrt(variance),
    points: n,
    isSettled,
  };
}

/**
 * Half width of the two-sided 95 % interval of Student's t, for so many degrees of freedom. Cornish and Fisher's expansion about the
 * normal; within 1 % from four degrees on. Source: Abramowitz and Stegun, 26.7.5; from memory.
 */
export function studentFactor(freedom: number): number {
  const exact = [12.706, 4.303, 3.182];
  const known = exact[freedom - 1];
  if (known !== undefined) return known;
  const z = 1.959964;
  const [a, b] = [(z ** 3 + z) / 4, (5 * z ** 5 + 16 * z ** 3 + 3 * z) / 96];
  const c = (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / 384;
  return z + a / freedom + b / freedom ** 2 + c / freedom ** 3;
}

/** A number that was fitted: the best value, and how far to either side it may lie with 95 % confidence. */
export interface Estimate {
  readonly value: number;
  readonly margin: number;
}

/** A number worked out of fitted values: its margin by its slopes (delta method). */
export function estimate(fitted: Fitted, of: (values: readonly number[]) => number): Estimate {
  const { values, covariance, points } = fitted;
  const slopes = values.map((v, k) => {
    const h = 1e-5 * Math.max(Math.abs(v), Math.sqrt(Math.abs(covariance[k]?.[k] ?? 0)), 1e-300);
    const [up, down] = [of(values.map((w, i) => (i === k ? w + h : w))), of(values.map((w, i) => (i === k ? w - h : w)))];
    return (up - down) / (2 * h);
  });
  const variance = slopes.reduce(
    (sum, a, i) => sum + slopes.reduce((row, b, j) => row + a * b * (covariance[i]?.[j] ?? 0), 0),
    0,
  );
  return { value: of(values), margin: studentFactor(points - values.length) * Math.sqrt(Math.max(0, variance)) };
}
