import fc from 'fast-check';
import { expect, test } from 'vitest';
import { optimise, type Variable } from './optimise.ts';

const each =
  (f: (point: readonly number[]) => number) =>
  (points: readonly (readonly number[])[]): Promise<number[]> =>
    Promise.resolve(points.map(f));
const box = (n: number, low: number, high: number): Variable[] => Array.from({ length: n }, () => ({ low, high }));

/** Test functions with known minima: Rosenbrock 1960; Rastrigin 1974; Ackley 1987. */
const rosenbrock = ([x = 0, y = 0]: readonly number[]) => -((1 - x) ** 2 + 100 * (y - x * x) ** 2);
const rastrigin = (p: readonly number[]) => -p.reduce((sum, x) => sum + x * x - 10 * Math.cos(2 * Math.PI * x) + 10, 0);
const ackley = (p: readonly number[]) => {
  const n = p.length;
  const squares = p.reduce((sum, x) => sum + x * x, 0) / n;
  const waves = p.reduce((sum, x) => sum + Math.cos(2 * Math.PI * x), 0) / n;
  return 20 * Math.exp(-0.2 * Math.sqrt(squares)) + Math.exp(waves) - 20 - Math.E;
};

test.each([
  ['Rosenbrock in two variables', rosenbrock, box(2, -3, 3), 4000, 1e-3],
  ['Rastrigin in three, with hundreds of other tops', rastrigin, box(3, -5.12, 4.3), 4000, 1e-3],
  ['Ackley in five', ackley, box(5, -20, 31), 5000, 0.05],
] as const)('finds the top of %s, whatever the seed', async (_name, f, variables, evaluations, within) => {
  for (const seed of [1, 2, 3]) {
    const { score } = await optimise({ variables, seed, evaluations }, each(f));
    expect(score).toBeGreaterThan(-within);
  }
});

test('stays within its bounds, in whole steps where they are whole, asks for no more than it may, and repeats itself', () =>
  fc.assert(
    fc.asyncProperty(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 30, max: 300 }), async (seed, evaluations) => {
      const variables: Variable[] = [
        { low: -2, high: 3 },
        { low: 1, high: 9, whole: true },
      ];
      const asked: (readonly number[])[] = [];
      const f = ([x = 0, k = 0]: readonly number[]) => -((x - 1.3) ** 2) - Math.abs(k - 6.4);
      const run = () =>
        optimise({ variables, seed, evaluations, from: [7, 2.2] }, (points) => {
          asked.push(...points);
          return each(f)(points);
        });
      const found = await run();
      expect(found.evaluations).toBe(asked.length);
      expect(asked.length).toBeLessThanOrEqual(evaluations);
      for (const [x = NaN, k = NaN] of asked) {
        expect(x >= -2 && x <= 3).toBe(true);
        expect(Number.isInteger(k) && k >= 1 && k <= 9).toBe(true);
      }
      expect(found.score).toBe(Math.max(...asked.map(f)));
      expect(await run()).toEqual(found);
    }),
    { numRuns: 30 },
  ));

test('refuses bounds that are not in order, and nothing to vary', async () => {
  await expect(
    optimise(
      { variables: [], seed: 1, evaluations: 50 },
      each(() => 0),
    ),
  ).rejects.toThrow('nothing to vary');
  await expect(
    optimise(
      { variables: [{ low: 1, high: 0 }], seed: 1, evaluations: 50 },
      each(() => 0),
    ),
  ).rejects.toThrow('in order');
});
