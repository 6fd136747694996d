import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offBy } from '../test/fixtures.ts';
import { binomialInterval, edge, gaussRule, gaussRuleOfUnit, minimum, normals, overPanels, root, uniforms } from './index.ts';

describe('a root between two ends', () => {
  test('of functions whose root is known, also where it is manifold or the function is flat beside it', () => {
    const cases: [(x: number) => number, number, number, number, number][] = [
      [(x) => Math.cos(x) - x, 0, 1, 0.7390851332151607, 1e-15],
      [(x) => x ** 3 - 2 * x - 5, 2, 3, 2.0945514815423265, 1e-15],
      [(x) => Math.expm1(x - 2), -30, 30, 2, 1e-14],
      [(x) => (x - 1) ** 3, 0, 3, 1, 2e-5],
      [(x) => Math.log(x / 1e6), 1e-3, 1e9, 1e6, 1e-12],
    ];
    for (const [f, from, to, x, within] of cases) {
      expect(offBy(root(f, from, to), x)).toBeLessThan(within);
      expect(offBy(root(f, to, from), x)).toBeLessThan(within);
    }
  });

  test('lies within the ends, has unlike signs beside it, and is not there where both ends have one sign', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e3, max: 1e3, noNaN: true }),
        fc.double({ min: 1e-3, max: 1e3, noNaN: true }),
        fc.double({ min: 0.01, max: 0.99 }),
        (from, width, share) => {
          const at = from + share * width;
          const f = (x: number) => Math.sinh((x - at) / width) + 0.1 * (x - at);
          const x = root(f, from, from + width);
          expect(Math.abs(x - at)).toBeLessThanOrEqual(4e-15 * Math.max(Math.abs(from), width, Math.abs(at)) + 1e-300);
          expect(root(f, at + 0.1 * width, at + width)).toBeNaN();
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('the edge of a condition', () => {
  test('is closed in on from both sides, also over decades', () => {
    const { below, above, middle } = edge((x) => x * x < 2, 0, 2);
    expect(below).toBeLessThan(Math.SQRT2);
    expect(above).toBeGreaterThanOrEqual(Math.SQRT2);
    expect(offBy(middle, Math.SQRT2)).toBeLessThan(1e-15);
    expect(offBy(edge((x) => x < 3.3e-7, 1e-12, 1e12, { isRatio: true }).middle, 3.3e-7)).toBeLessThan(1e-14);
    // The condition may hold at the upper end.
    expect(offBy(edge((x) => x > 5, 9, 0).middle, 5)).toBeLessThan(1e-15);
    expect(edge((x) => x < 1, 0, 8, { rounds: 2 })).toEqual({ below: 0, above: 2, middle: 1 });
  });
});

test('the least of a function that falls and rises', () => {
  // Of x·ln x, at 1/e; a minimum is flat, so that half of the digits is all there is.
  expect(
    offBy(
      minimum((x) => x * Math.log(x), 0.01, 2),
      1 / Math.E,
    ),
  ).toBeLessThan(1e-7);
  expect(
    offBy(
      minimum((x) => Math.abs(x - 3), 0, 10),
      3,
    ),
  ).toBeLessThan(1e-11);
});

describe('Gauss and Legendre', () => {
  test('points and weights are those of the tables', () => {
    // Abramowitz and Stegun, table 25.4: n = 4, and n = 16 its first and last pair.
    const { x, w } = gaussRule(4);
    const table = [
      [0.339981043584856, 0.652145154862546],
      [0.861136311594053, 0.347854845137454],
    ] as const;
    table.forEach(([at, weight], k) => {
      expect(offBy(x[2 + k] as number, at)).toBeLessThan(2e-15);
      expect(offBy(w[2 + k] as number, weight)).toBeLessThan(2e-15);
      expect(x[1 - k]).toBeCloseTo(-at, 14);
    });
    const sixteen = gaussRule(16);
    expect(offBy(sixteen.x[8] as number, 0.0950125098376374)).toBeLessThan(1e-14);
    expect(offBy(sixteen.w[8] as number, 0.189450610455068)).toBeLessThan(1e-14);
    expect(offBy(sixteen.x[15] as number, 0.98940093499165)).toBeLessThan(1e-14);
    expect(offBy(sixteen.w[15] as number, 0.027152459411754)).toBeLessThan(1e-13);
  });

  test('n points are exact for every polynomial up to the degree 2n − 1, and for none of them beyond', () => {
    for (const n of [1, 2, 3, 4, 8, 16, 48]) {
      const { x, w } = gaussRuleOfUnit(n);
      const power = (degree: number) => x.reduce((sum, at, k) => sum + (w[k] as number) * at ** degree, 0);
      for (let degree = 0; degree < 2 * n; degree++) expect(offBy(power(degree), 1 / (degree + 1))).toBeLessThan(1e-13);
      if (n < 8) expect(offBy(power(2 * n), 1 / (2 * n + 1))).toBeGreaterThan(1e-9);
    }
    let area = 0;
    overPanels([0, 0.5, Math.PI], (at, dx) => (area += Math.sin(at) * dx));
    expect(offBy(area, 2)).toBeLessThan(1e-13);
  });
});

test('numbers by chance are the same for a seed, even, and normal where they are said to be', () => {
  const [a, b] = [uniforms(7), uniforms(7)];
  expect(Array.from({ length: 5 }, a)).toEqual(Array.from({ length: 5 }, b));
  const many = Array.from({ length: 20_000 }, uniforms(11));
  // χ² of 20 boxes: above 43.8 comes once in a thousand seeds (table of the distribution, 19 degrees of freedom).
  const boxes = new Array<number>(20).fill(0);
  for (const u of many) boxes[Math.floor(u * 20)] = (boxes[Math.floor(u * 20)] ?? 0) + 1;
  expect(boxes.reduce((sum, n) => sum + (n - 1000) ** 2 / 1000, 0)).toBeLessThan(43.8);
  const drawn = Array.from({ length: 20_000 }, normals(3));
  const mean = drawn.reduce((sum, z) => sum + z, 0) / drawn.length;
  expect(Math.abs(mean)).toBeLessThan(4 / Math.sqrt(20_000));
  expect(Math.abs(drawn.reduce((sum, z) => sum + z * z, 0) / drawn.length - 1)).toBeLessThan(4 * Math.sqrt(2 / 20_000));
  // 4.55 % lie beyond two standard deviations.
  expect(Math.abs(drawn.filter((z) => Math.abs(z) > 2).length / 20_000 - 0.0455)).toBeLessThan(0.006);
});

describe('the exact interval of a share', () => {
  // Clopper–Pearson intervals as handbooks of statistics list them; from memory.
  test.each([
    [0, 10, 0.95, 0, 0.3085],
    [2, 20, 0.95, 0.0123, 0.317],
    [5, 50, 0.95, 0.0333, 0.2181],
    [10, 10, 0.95, 0.6915, 1],
    [1, 10, 0.9, 0.0051, 0.3942],
  ])('of %d in %d, %d', (k, n, share, low, high) => {
    const found = binomialInterval(k, n, share);
    expect(found.low).toBeCloseTo(low, 3);
    expect(found.high).toBeCloseTo(high, 3);
  });

  test('of none is the rule of three, and holds the share at least as often as it says', () => {
    expect(binomialInterval(0, 300, 0.9).high).toBeCloseTo(3 / 300, 3);
    const draw = uniforms(99);
    let held = 0;
    for (let i = 0; i < 500; i++) {
      const k = Array.from({ length: 25 }, draw).filter((u) => u < 0.12).length;
      const { low, high } = binomialInterval(k, 25, 0.9);
      if (low <= 0.12 && 0.12 <= high) held += 1;
    }
    expect(held / 500).toBeGreaterThan(0.9);
    expect(() => binomialInterval(3, 2, 0.9)).toThrow(/3 of 2/);
  });
});
