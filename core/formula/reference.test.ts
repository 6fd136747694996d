import { describe, expect, test } from 'vitest';
import { offBy, table } from '../test/fixtures.ts';
import { evaluateFormula, formulaById, type Values } from './index.ts';

/** Formulas against tables that were made outside this project; each row names its source. */
const calc = (id: string, values: Values): number => {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  return evaluateFormula(formula, values);
};
const cell = (row: Record<string, string>, key: string) => Number(row[key]);

test.each(table('coupled-action'))(
  'actions of coupled loops, k $k: Lyapunov and time integration by a general library',
  (row) => {
    const keys = { L1: 'L1_H', C1: 'C1_F', R1: 'R1_ohm', L2: 'L2_H', C2: 'C2_F', R2: 'R2_ohm', k: 'k', V: 'V_V' };
    const values = Object.fromEntries(Object.entries(keys).map(([symbol, key]) => [symbol, cell(row, key)])) as Values;
    expect(offBy(calc('coupled-primary-action', values), cell(row, 'action1_A2s'))).toBeLessThan(1e-6);
    expect(offBy(calc('coupled-secondary-action', values), cell(row, 'action2_A2s'))).toBeLessThan(1e-6);
  },
);

test.each(table('multilayer-inductance'))('a winding $length_over_D long and $depth_over_D deep: Maxwell by two ways', (row) => {
  const D = 0.043;
  const depth = cell(row, 'depth_over_D') * D;
  const values = { N: 260, D1: D - depth, D2: D + depth, l: cell(row, 'length_over_D') * D };
  expect(offBy(calc('multilayer-inductance', values), cell(row, 'L_H_N260_D0.043m'))).toBeLessThan(1e-5);
});

describe('AC resistance', () => {
  const of = (kind: string) => table('skin-proximity').filter((row) => row['kind'] === kind);
  test.each(of('round wire, isolated'))('round wire, $first skin depths of radius: Kelvin', (row) => {
    expect(offBy(calc('skin-resistance-ratio', { d: 2e-3 * cell(row, 'first'), delta: 1e-3 }), cell(row, 'ratio'))).toBeLessThan(
      1e-5,
    );
  });
  test.each(of('Dowell layers'))('$second layers of $first skin depths: Dowell', (row) => {
    // A square conductor that fills its pitch is a foil.
    const d = 1e-3;
    const side = (Math.sqrt(Math.PI) / 2) * d;
    const values = { d, delta: side / cell(row, 'first'), m: cell(row, 'second'), p: d };
    // Its pitch cannot be below the wire, so the layer is filled to side/d: the thickness that counts is corrected for it.
    const filled = { ...values, delta: (side / cell(row, 'first')) * Math.sqrt(side / d) };
    expect(offBy(calc('layer-resistance-ratio', filled), cell(row, 'ratio'))).toBeLessThan(1e-5);
  });
  test.each(of('single-layer coil, many turns'))(
    'wire over pitch $first, length over diameter $second: Medhurst, from memory',
    (row) => {
      const d = 1e-3;
      const [D, delta] = [0.1, d / 400];
      const values = { d, delta, p: d / cell(row, 'first'), l: cell(row, 'second') * D, D };
      const straight = calc('skin-resistance-ratio', { d, delta });
      expect(offBy(calc('single-layer-resistance-ratio', values) / straight, cell(row, 'ratio'))).toBeLessThan(0.012);
    },
  );
  test('of a single layer lies between that of its wire alone and Medhurst’s, and grows as the square of frequency at first', () => {
    const layer = { d: 1e-3, p: 1.2e-3, l: 0.1, D: 0.05 };
    const extra = (delta: number) =>
      calc('single-layer-resistance-ratio', { ...layer, delta }) - calc('skin-resistance-ratio', { d: layer.d, delta });
    expect(extra(1e-2) / extra(2e-2)).toBeCloseTo(16, 1);
    expect(extra(1e-5) / extra(2e-5)).toBeCloseTo(2, 1);
  });
});

test.each(table('thin-shell'))(
  'a tube of ωτ $omega_tau in a pulse of α/ω $alpha_over_omega: the shell equation, two ways',
  (row) => {
    const values = { x: cell(row, 'omega_tau'), a: cell(row, 'alpha_over_omega') };
    expect(offBy(calc('shell-field-share', values), cell(row, 'peak_in_over_peak_out'))).toBeLessThan(2e-5);
    expect(offBy(calc('shell-pressure-share', values), cell(row, 'pressure_in_ratio'))).toBeLessThan(2e-5);
  },
);

test('time constants of two tubes worked by hand (µ0·σ·r·w/2)', () => {
  expect(calc('shell-time-constant', { D: 0.034, w: 0.4e-3, rho: 1 / 5.8e7 })).toBeCloseTo(247.8e-6, 6);
  expect(calc('shell-time-constant', { D: 0.062, w: 0.12e-3, rho: 1 / 3.5e7 })).toBeCloseTo(81.8e-6, 6);
});

describe('gaps, all recalled from their tables', () => {
  const air = { p: 101_300, T: 293.15 };
  const of = (gap: string) => table('gap-long').filter((row) => row['gap']?.startsWith(gap));
  test.each(of('sphere gap'))('spheres of $size cm at $spacing cm: IEC 60052', (row) => {
    const V = calc('sphere-gap-breakdown', { d: cell(row, 'spacing') / 100, D: cell(row, 'size') / 100, ...air });
    expect(offBy(V, cell(row, 'breakdown') * 1e3)).toBeLessThan(0.025);
  });
  test.each(of('rod-rod'))('rods at $spacing mm: IEC 60052', (row) => {
    expect(
      offBy(calc('rod-gap-breakdown', { d: cell(row, 'spacing') / 1e3, delta: 1 }), cell(row, 'breakdown') * 1e3),
    ).toBeLessThan(1e-6);
  });
  test.each(of('needle gap'))('needles at $spacing mm: AIEE', (row) => {
    const V = calc('needle-gap-breakdown', { d: cell(row, 'spacing') / 1e3, delta: 1 });
    expect(offBy(V, cell(row, 'breakdown') * 1e3 * Math.SQRT2)).toBeLessThan(0.005);
  });
  test.each(of('rod-plane'))('rod to plane at $spacing m: 5 kV/cm', (row) => {
    expect(offBy(calc('rod-plane-breakdown', { d: cell(row, 'spacing'), delta: 1 }), cell(row, 'breakdown') * 1e3)).toBeLessThan(
      1e-6,
    );
  });
  test.each(of('SF6'))('SF6 at $spacing bar·cm', (row) => {
    const V = calc('paschen-breakdown-sulphur-hexafluoride', { p: 1e5, d: cell(row, 'spacing') / 100 });
    expect(offBy(V, cell(row, 'breakdown') * 1e3)).toBeLessThan(0.01);
    expect(offBy(V, 500 + 88.4e3 * cell(row, 'spacing'))).toBeLessThan(1e-4);
  });
  test('a sphere gap goes on beyond half a diameter without a jump, rises, and comes to the rod gap', () => {
    const V = (d: number) => calc('sphere-gap-breakdown', { d, D: 0.05, ...air });
    expect(offBy(V(0.025001), V(0.025))).toBeLessThan(1e-3);
    const row = Array.from({ length: 60 }, (_, i) => V(0.02 + i * 0.014));
    row.slice(1).forEach((v, i) => expect(v).toBeGreaterThan(row[i] ?? 0));
    expect(V(0.8)).toBeCloseTo(calc('rod-gap-breakdown', { d: 0.8, delta: 1 }), 6);
  });
});
