export interface GaussRule {
  readonly x: Float64Array;
  readonly w: Float64Array;
}

/**
 * Points and weights of Gauss and Legendre on −1 to 1: the roots of the polynomial by Newton’s method. Source: Abramowitz and Stegun, 25.4.
 *
 * @param n points, from 1
 */
export function gaussRule(n: number): GaussRule {
  const [x, w] = [new Float64Array(n), new Float64Array(n)];
  for (let i = 0; i < n; i++) {
    let z = Math.cos((Math.PI * (i + 0.75)) / (n + 0.5));
    let slope = 1;
    for (let round = 0; round < 50; round++) {
      let [p, before] = [1, 0];
      for (let k = 1; k <= n; k++) [p, before] = [((2 * k - 1) * z * p - (k - 1) * before) / k, p];
      slope = (n * (z * p - before)) / (z * z - 1);
      const step = p / slope;
      z -= step;
      if (Math.abs(step) < 1e-15) break;
    }
    // The points in their order, least first.
    x[n - 1 - i] = z;
    w[n - 1 - i] = 2 / ((1 - z * z) * slope * slope);
  }
  return { x, w };
}

/** The same on 0 to 1. */
export function gaussRuleOfUnit(n: number): GaussRule {
  const { x, w } = gaussRule(n);
  return { x: x.map((at) => (1 + at) / 2), w: w.map((weight) => weight / 2) };
}

const eight = gaussRule(8);

/** Hands every point of every panel between neighbouring `ends` to `add`, with its share of the length: Σ f(x)·dx is the integral. */
export function overPanels(ends: readonly number[], add: (x: number, dx: number) => void): void {
  for (let p = 1; p < ends.length; p++) {
    const [from, to] = [ends[p - 1] ?? 0, ends[p] ?? 0];
    for (let k = 0; k < eight.x.length; k++)
      add((from + to) / 2 + ((eight.x[k] as number) * (to - from)) / 2, ((eight.w[k] as number) * (to - from)) / 2);
  }
}
