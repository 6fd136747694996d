/** Nodes on [−1, 1] and weights of Gauss and Legendre with eight points: roots of the polynomial by Newton's method. */
const points = 8;
const rule = Array.from({ length: points }, (_, i) => {
  let x = Math.cos((Math.PI * (i + 0.75)) / (points + 0.5));
  let slope = 1;
  for (let round = 0; round < 20; round++) {
    let [p, before] = [1, 0];
    for (let n = 1; n <= points; n++) [p, before] = [((2 * n - 1) * x * p - (n - 1) * before) / n, p];
    slope = (points * (x * p - before)) / (x * x - 1);
    x -= p / slope;
  }
  return { x, weight: 2 / ((1 - x * x) * slope * slope) };
});

/** Hands every node of every panel between neighbouring `ends` to `add`, with its share of the length: Σ f(x)·dx is the integral. */
export function overPanels(ends: readonly number[], add: (x: number, dx: number) => void): void {
  for (let p = 1; p < ends.length; p++) {
    const [from, to] = [ends[p - 1] ?? 0, ends[p] ?? 0];
    for (const { x, weight } of rule) add((from + to) / 2 + (x * (to - from)) / 2, (weight * (to - from)) / 2);
  }
}
