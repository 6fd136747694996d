import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offBy } from '../../test/fixtures.ts';
import { evaluateFormula, FormulaError, marxFormulas, solveFormula, strayFormulas, type Formula } from '../index.ts';

const { ladderChargeTime, ladderShare } = marxFormulas;
const of = (formula: Formula, values: Record<string, number>) => evaluateFormula(formula, values);

describe('the ladder of a Marx generator', () => {
  const ladders = fc.record({
    n: fc.integer({ min: 1, max: 60 }),
    R: fc.double({ min: 1e3, max: 1e7, noNaN: true }),
    C: fc.double({ min: 1e-10, max: 1e-6, noNaN: true }),
    Rs: fc.double({ min: 0, max: 1e8, noNaN: true }),
    x: fc.double({ min: 0.05, max: 0.999, noNaN: true }),
  });

  test('is behind stage by stage, is just so full after the time that is asked for, and begins empty', () =>
    fc.assert(
      fc.property(ladders, ({ n, R, C, Rs, x }) => {
        const t = of(ladderChargeTime, { n, R, C, x, Rs });
        const shares = Array.from({ length: n }, (_, i) => of(ladderShare, { n, m: i + 1, R, C, Rs, t }));
        expect(offBy(shares.at(-1) ?? NaN, x)).toBeLessThan(1e-9);
        shares.reduce((before, share) => {
          expect(share).toBeLessThanOrEqual(before + 1e-12);
          return share;
        }, 1);
        for (let m = 1; m <= n; m++) expect(of(ladderShare, { n, m, R, C, Rs, t: 0 })).toBeLessThan(1e-9);
      }),
      { numRuns: 40 },
    ));

  test('takes n² as long with n times the stages, and with a large resistance before it is one capacitor', () => {
    const at = (n: number, Rs = 0) => of(ladderChargeTime, { n, R: 1e6, C: 1e-9, x: 0.95, Rs });
    expect(offBy(at(160) / at(80), 4)).toBeLessThan(0.02);
    expect(offBy(at(20, 1e12), 1e12 * 20e-9 * Math.log(20))).toBeLessThan(1e-4);
  });

  test('an output that rises and falls again with the stages is found behind its top as well', () => {
    const values = { V: 1, C: 1, CL: 1, Cs: 0.9999999965 };
    const Vo = of(marxFormulas.marxOutputVoltage, { ...values, n: 3 });
    expect(solveFormula(marxFormulas.marxOutputVoltage, 'n', { ...values, Vo })).toBe(3);
  });

  test('names what is wrong with its stages', () => {
    const bad = (values: Record<string, number>) => () =>
      of(ladderShare, { n: 5, m: 2, R: 1e6, C: 1e-9, t: 1, Rs: 0, ...values });
    expect(bad({ n: 0 })).toThrow(/^n \(stages\) is 0; it must be a whole number from 1 to 200/);
    expect(bad({ n: 201 })).toThrow(FormulaError);
    expect(bad({ m: 6 })).toThrow(/m: there is no such stage/);
  });
});

test('ten capacitors of 15 kV rms, half a wave, throw sparks of about the length that practice has', () => {
  // Common practice, no source: ten stages charged to the peak of 15 kV rms give 11 to 15 cm.
  const V = of(marxFormulas.marxIdealVoltage, { n: 10, V: 15e3 * Math.SQRT2 });
  const [low, high] = [2e6, 1e6].map((g) => of(marxFormulas.sparkLength, { V, g })) as [number, number];
  expect(low).toBeLessThan(0.11);
  expect(high).toBeGreaterThan(0.15);
});

describe('stray capacitances', () => {
  const { sphereGapCapacitance, columnStray, sphereCapacitance } = strayFormulas;

  /** Direct capacitance of two like spheres by images of images, without a closed series: one at 1 V, the other at zero. */
  function byImages(D: number, d: number): number {
    const [a, c] = [D / 2, D + d];
    const k = 4 * Math.PI * 8.8541878128e-12;
    // A charge and where it stands, from the middle of the sphere at 1 V towards the other; images in turns.
    let [q, x, on] = [k * a, 0, 0];
    let other = 0;
    for (let i = 0; i < 20_000 && Math.abs(q) > 1e-18 * k * a; i++) {
      const away = on === 0 ? c - x : x;
      q = (-q * a) / away;
      x = on === 0 ? c - (a * a) / away : (a * a) / away;
      on = 1 - on;
      if (on === 1) other += q;
    }
    return -other;
  }

  test('between two spheres are what images of images give, near and far', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 50, noNaN: true }), (ratio) => {
        const values = { D: 0.05, d: 0.05 * ratio };
        expect(offBy(of(sphereGapCapacitance, values), byImages(values.D, values.d))).toBeLessThan(1e-6);
      }),
    ));

  test('far from each other two balls share 4π·ε0·a²/c; a ball alone has 1.11 pF a centimetre', () => {
    // Maxwell, first order; and the old rule that a centimetre of radius is 1.11 pF.
    const far = of(sphereGapCapacitance, { D: 0.02, d: 5 });
    expect(offBy(far, (4 * Math.PI * 8.854e-12 * 0.01 ** 2) / 5.02)).toBeLessThan(1e-3);
    expect(of(sphereCapacitance, { r: 0.01 }) * 1e12).toBeCloseTo(1.11, 2);
  });

  test('of a column: more for a wider one, and little short of evenly shared', () => {
    const stage = (w: number, n: number) => of(columnStray, { h: 0.1, w, n });
    expect(stage(0.05, 10)).toBeGreaterThan(stage(0.02, 10));
    expect(stage(0.05, 10)).toBeGreaterThan(stage(0.05, 20));
    expect(() => stage(0.9, 10)).toThrow(/2.5 times as high/);
  });
});
