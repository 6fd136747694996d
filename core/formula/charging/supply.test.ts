import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offBy } from '../../test/fixtures.ts';
import { evaluateFormula, formulaById, FormulaError, type Values } from '../index.ts';

const calc = (id: string, values: Values): number => {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  return evaluateFormula(formula, values);
};
const decades = (low: number, high: number) => fc.double({ min: Math.log(low), max: Math.log(high), noNaN: true }).map(Math.exp);

test('the best number of stages is where one more stage brings nothing (worked by trying each)', () => {
  const [Vp, I, f, C] = [8e3, 0.02, 50e3, 1e-9];
  const output = (n: number) => 2 * n * Vp - calc('multiplier-drop', { n, I, f, C });
  const tried = Array.from({ length: 60 }, (_, i) => i + 1).reduce((best, n) => (output(n) > output(best) ? n : best), 1);
  expect(Math.abs(calc('multiplier-best-stages', { Vp, I, f, C }) - tried)).toBeLessThan(1);
});

describe('a rectifier into a store that stands', () => {
  test('through resistance alone gives the closed form (Vp/πR)·(√(1 − x²) − x·acos x), x = v/Vp', () => {
    for (const x of [0, 0.1, 0.5, 0.9, 0.99])
      for (const p of [1, 2]) {
        const closed = ((1000 * p) / (Math.PI * 50)) * (Math.sqrt(1 - x * x) - x * Math.acos(x));
        expect(offBy(calc('rectifier-current', { Vp: 1000, R: 50, X: 0, p, V: 1000 * x }), closed)).toBeLessThan(1e-6);
      }
  });

  test('through reactance alone into a short gives Vp/X at half-wave (its DC is the peak of the steady sine) and 2Vp/πX at a bridge', () => {
    expect(offBy(calc('rectifier-current', { Vp: 1000, R: 0, X: 500, p: 1, V: 0 }), 1000 / 500)).toBeLessThan(1e-6);
    expect(offBy(calc('rectifier-current', { Vp: 1000, R: 0, X: 500, p: 2, V: 0 }), (2 * 1000) / (Math.PI * 500))).toBeLessThan(
      1e-6,
    );
  });

  test('gives what stepping the circuit through many cycles gives, for any mixture of R and X and any voltage', () => {
    /** Straight stepping of X·di/dθ = Vp·sin θ − v·sign − R·i with ideal diodes, to the steady state. */
    const stepped = (Vp: number, R: number, X: number, p: number, v: number) => {
      const h = (2 * Math.PI) / 20_000;
      let [i, sum] = [0, 0];
      const cycles = 30;
      for (let k = 0; k < cycles * 20_000; k++) {
        const e = Vp * Math.sin((k + 0.5) * h);
        const against = i !== 0 ? Math.sign(i) * v : Math.sign(e) * Math.min(v, Math.abs(e));
        const next = (i * (X / h - R / 2) + e - against) / (X / h + R / 2);
        // A diode lets no current turn round: it stops at zero and waits for the source.
        i = (i !== 0 && Math.sign(next) !== Math.sign(i)) || (p === 1 && next < 0) ? 0 : next;
        if (k >= (cycles - 1) * 20_000) sum += Math.abs(i) * h;
      }
      return sum / (2 * Math.PI);
    };
    for (const [R, X, x, p] of [
      [10, 40, 0.3, 1],
      [40, 10, 0.6, 1],
      [5, 60, 0.2, 2],
      [30, 30, 0.8, 2],
      [20, 50, 0.5, 2],
    ] as const)
      expect(
        offBy(calc('rectifier-current', { Vp: 300, R, X, p, V: 300 * x }), stepped(300, R, X, p, 300 * x)),
        `${R} ${X} ${x} ${p}`,
      ).toBeLessThan(2e-3);
  });
});

test('a longer way, a lower limit, a leak: each takes longer; and more voltage takes longer (monotonicity)', () => {
  const rig = fc.record({
    P: decades(1, 1e3),
    I: decades(1e-3, 1),
    R: decades(1, 1e4),
    C: decades(1e-7, 1e-2),
    Vs: decades(100, 1e4),
    Rb: decades(1e7, 1e10),
    x: fc.double({ min: 0.05, max: 0.7, noNaN: true }),
  });
  fc.assert(
    fc.property(rig, fc.constantFrom('P', 'I', 'R', 'Rb', 'V'), ({ x, ...rest }, changed) => {
      const reach = calc('power-limited-reach', { P: rest.P, I: rest.I, R: rest.R, Vs: rest.Vs, Rb: rest.Rb });
      const values: Record<string, number> = { ...rest, V: x * reach };
      const harder = { ...values, [changed]: (values[changed] ?? 0) * (changed === 'R' || changed === 'V' ? 1.1 : 0.9) };
      const before = calc('power-limited-charge-time', values);
      expect(calc('power-limited-charge-time', harder)).toBeGreaterThanOrEqual(before * (1 - 1e-9));
      // Without a power limit it is the current-limited charge.
      const { P: _, ...limited } = values;
      const [a, b] = [
        calc('power-limited-charge-time', { ...values, P: 1e15 }),
        calc('current-limited-charge-time', limited as Values),
      ];
      expect(offBy(a, b)).toBeLessThan(1e-5);
    }),
    { numRuns: 100 },
  );
});

test('energy lost in a resistance from a constant voltage is the energy stored, whatever the resistance (from the definition)', () => {
  for (const R of [1, 100, 1e5]) {
    const loss = calc('current-limited-charging-loss', { I: 1e9, R, C: 1e-6, Vs: 1000, Rb: 1e15, V: 999.99 });
    expect(offBy(loss, 0.5)).toBeLessThan(1e-4);
  }
});

test('a voltage that the supply never reaches across its bleeder is refused with that reason', () => {
  for (const [id, values] of [
    ['current-limited-charge-time', { I: 1e-3, R: 0, C: 1e-6, Vs: 1000, Rb: 1e5, V: 200 }],
    ['power-limited-charge-time', { P: 1, I: 1, R: 0, C: 1e-6, Vs: 1000, Rb: 1e5, V: 400 }],
    ['rectifier-charge-time', { Vp: 1000, R: 1e5, X: 0, p: 1, C: 1e-6, Rb: 1e5, V: 600 }],
    ['doubler-charge-time', { Vp: 500, R: 100, X: 0, f: 50, Cd: 1e-7, Rc: 1e5, C: 1e-6, Rb: 1e5, V: 600 }],
  ] as const)
    expect(() => calc(id, values)).toThrow(FormulaError);
});
