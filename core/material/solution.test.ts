import fc from 'fast-check';
import { expect, test } from 'vitest';
import { conductivityOf, solutionById, solutions } from './index.ts';

const of = (id: string, share: number): number => {
  const solution = solutionById(id);
  return (solution && conductivityOf(solution, share)) ?? NaN;
};

test('a tenth of copper sulphate and a hundredth of salt conduct as their tables have it, between them in between', () => {
  expect(of('copper-sulphate', 0.1)).toBeCloseTo(3.22, 9);
  expect(of('salt', 0.01)).toBeCloseTo(1.6, 9);
  // Potassium-free tap water with a gram of salt a litre: about 2 mS/cm (common practice, no source).
  expect(of('salt', 0.001)).toBeCloseTo(0.164, 3);
  expect(of('copper-sulphate', 0.03)).toBeGreaterThan(0.93);
  expect(of('copper-sulphate', 0.03)).toBeLessThan(1.9);
  expect(conductivityOf(solutions[0] as (typeof solutions)[number], 0.2)).toBeNull();
});

test('more salt conducts better, and never more than in proportion', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('copper-sulphate', 'salt'),
      fc.double({ min: 1e-4, max: 0.14, noNaN: true }),
      fc.double({ min: 1.01, max: 1.07, noNaN: true }),
      (id, share, more) => {
        const [was, is] = [of(id, share), of(id, share * more)];
        expect(is).toBeGreaterThan(was);
        expect(is).toBeLessThanOrEqual(was * more * (1 + 1e-9));
      },
    ),
    { seed: 23, numRuns: 200 },
  );
});
