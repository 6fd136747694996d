import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { offBy, table } from '../test/fixtures.ts';
import { layersInductance, loopField, loopMutual, sectionAxisField, type Layer } from './coaxial.ts';
import { coilFormulas, evaluateFormula, solveFormula, withDefaults, type Formula } from './index.ts';
import { layersRatio, roundWireRatio } from './skin.ts';

const of = (formula: Formula, values: Record<string, number>) => evaluateFormula(formula, withDefaults(formula, values));
const num = (row: Record<string, string>, key: string) => Number(row[key]);
const within = (row: Record<string, string>) => num(row, 'tolerance_pct') / 100;

describe('loops and coils against tables', () => {
  test.each(table('mutual-inductance-loops'))('loops of $radius_a_m and $radius_b_m at $distance_m: $source', (row) => {
    const M = loopMutual(num(row, 'radius_a_m'), num(row, 'radius_b_m'), num(row, 'distance_m'));
    expect(offBy(M, num(row, 'mutual_H'))).toBeLessThan(within(row));
  });

  test.each(table('nagaoka'))('Nagaoka at D/l = $diameter_over_length: $source', (row) => {
    const [D, mu0] = [num(row, 'diameter_over_length'), 4e-7 * Math.PI];
    const L = of(coilFormulas.solenoidInductance, { N: 1, D, l: 1 });
    expect(offBy(L / ((mu0 * Math.PI * D * D) / 4), num(row, 'K'))).toBeLessThan(within(row));
  });

  test.each(table('solenoid-inductance'))('$turns turns, $diameter_m by $length_m: $source', (row) => {
    const L = of(coilFormulas.solenoidInductance, { N: num(row, 'turns'), D: num(row, 'diameter_m'), l: num(row, 'length_m') });
    expect(offBy(L, num(row, 'inductance_H'))).toBeLessThan(within(row));
  });

  test.each(table('solenoid-field'))('$turns turns with $current_A A at $axial_position_m m: $source', (row) => {
    const B = of(coilFormulas.solenoidField, {
      N: num(row, 'turns'),
      I: num(row, 'current_A'),
      D1: 2 * num(row, 'inner_radius_m'),
      D2: 2 * num(row, 'outer_radius_m'),
      l: num(row, 'length_m'),
      z: num(row, 'axial_position_m'),
    });
    expect(offBy(B, num(row, 'B_T'))).toBeLessThan(within(row));
  });

  test.each(table('medhurst'))('self-capacitance at l/D = $length_over_diameter: $source', (row) => {
    const C = of(coilFormulas.coilSelfCapacitance, { D: 0.1, l: 0.1 * num(row, 'length_over_diameter') });
    expect(offBy(C * 1e12, 10 * num(row, 'H_pF_per_cm_of_diameter'))).toBeLessThan(within(row));
  });

  test.each(table('awg'))('AWG $awg and its resistance: $source', (row) => {
    const d = of(coilFormulas.awgDiameterOf, { n: num(row, 'awg') });
    expect(offBy(d * 1e3, num(row, 'diameter_mm'))).toBeLessThan(within(row));
    const R = of(coilFormulas.wireResistance, { l: 1, d });
    expect(offBy(R * 1e3, num(row, 'resistance_mohm_per_m'))).toBeLessThan(within(row));
  });

  test.each(table('wire-burst-action'))('$material of $diameter_mm mm melts and bursts: $source', (row) => {
    const d = num(row, 'diameter_mm') / 1e3;
    expect(offBy(of(coilFormulas.wireFusingAction, { d }), num(row, 'action_to_melt_A2s'))).toBeLessThan(within(row));
    expect(offBy(of(coilFormulas.wireBurstAction, { d }), num(row, 'action_to_burst_A2s'))).toBeLessThan(within(row));
  });
});

/** Neumann's double integral over two coaxial loops, by a plain sum over the angle. */
function neumann(a: number, b: number, z: number, n = 4000): number {
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const phi = (2 * Math.PI * (i + 0.5)) / n;
    sum += Math.cos(phi) / Math.sqrt(a * a + b * b + z * z - 2 * a * b * Math.cos(phi));
  }
  return ((4e-7 * Math.PI) / 2) * a * b * ((2 * Math.PI * sum) / n);
}

test('the length for the least self-capacitance is found in spite of its last digit', () => {
  const D = 9.99999999999994;
  const C = of(coilFormulas.coilSelfCapacitance, { D, l: 9.99999999999993 });
  expect(offBy(solveFormula(coilFormulas.coilSelfCapacitance, 'l', { D, C }), D)).toBeLessThan(1e-6);
});

describe('laws of coaxial loops and windings', () => {
  const metre = fc.double({ min: 0.01, max: 1, noNaN: true });

  test('elliptic integrals give what Neumann’s integral gives, the same either way round', () =>
    fc.assert(
      fc.property(metre, metre, metre, (a, b, z) => {
        const M = loopMutual(a, b, z);
        expect(offBy(M, neumann(a, b, z))).toBeLessThan(1e-6);
        expect(offBy(M, loopMutual(b, a, -z))).toBeLessThan(1e-9);
      }),
      { numRuns: 60 },
    ));

  test('the flux of a loop through another is its field summed over it', () =>
    fc.assert(
      fc.property(metre, fc.double({ min: 0.05, max: 0.9, noNaN: true }), metre, (a, share, z) => {
        const [b, n] = [a * share, 2000];
        const out = { Br: 0, Bz: 0 };
        let flux = 0;
        for (let i = 0; i < n; i++) {
          const r = (b * (i + 0.5)) / n;
          loopField(a, r, z, out);
          flux += (out.Bz * 2 * Math.PI * r * b) / n;
        }
        expect(offBy(flux, loopMutual(a, b, z))).toBeLessThan(1e-5);
      }),
      { numRuns: 40 },
    ));

  test('a winding of rectangular section comes to the single layer as it gets thin, and to Wheeler in his range', () => {
    const thin = of(coilFormulas.multilayerInductance, { N: 100, D1: 0.0499, D2: 0.0501, l: 0.05 });
    expect(offBy(thin, of(coilFormulas.solenoidInductance, { N: 100, D: 0.05, l: 0.05 }))).toBeLessThan(5e-3);
    // Wheeler: about 1 % where radius, length and depth are of like size; single layers above 0.4 of their diameter.
    const like = { N: 200, D1: 0.03, D2: 0.06, l: 0.02 };
    expect(offBy(of(coilFormulas.wheelerMulti, like), of(coilFormulas.multilayerInductance, like))).toBeLessThan(0.02);
    for (const l of [0.02, 0.05, 0.2]) {
      const coil = { N: 50, D: 0.05, l };
      expect(offBy(of(coilFormulas.wheelerSingle, coil), of(coilFormulas.solenoidInductance, coil))).toBeLessThan(0.012);
    }
  });

  test('turn by turn and as an evenly filled section agree within a per cent or so, and stacked coils add up', () => {
    const pitch = 1e-3;
    const layers = Array.from({ length: 8 }, (_, i): Layer => ({ radius: 0.0105 + i * pitch, turns: 30, first: 0, pitch }));
    const wound = layersInductance(layers, 0.45e-3);
    const even = of(coilFormulas.multilayerInductance, { N: 240, D1: 0.02, D2: 0.036, l: 0.03 });
    expect(offBy(wound, even)).toBeLessThan(0.015);
    // Ten turns and ten more of one row are twenty: self-inductances and twice their mutual one.
    const row = (turns: number, first: number): Layer => ({ radius: 0.02, turns, first, pitch });
    expect(offBy(layersInductance([row(10, 0), row(10, 10 * pitch)], 4e-4), layersInductance([row(20, 0)], 4e-4))).toBeLessThan(
      1e-9,
    );
  });

  test('a coil that gets shorter comes to the field of a flat one, without a step', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 3, noNaN: true }), fc.double({ min: 1.01, max: 3, noNaN: true }), (z, D2) => {
        const at = (l: number) => sectionAxisField({ N: 1, D1: 1, D2, l }, z);
        const edge = 1e-4 * Math.hypot(0.5, z);
        // Of a thin coil far away the exact form loses nine digits to cancellation just before the flat one takes over.
        expect(offBy(at(edge * 1.001), at(edge * 0.999))).toBeLessThan(1e-6);
        expect(offBy(at(1e-12), at(1e-5))).toBeLessThan(1e-7);
      }),
    ));

  test('the field on the axis, summed along it, is N·I: Ampère’s law', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.005, max: 0.1, noNaN: true }), fc.double({ min: 1.05, max: 4, noNaN: true }), (D1, k) => {
        const coil = { N: 40, D1, D2: D1 * k, l: D1 * 1.3 };
        let sum = 0;
        const [reach, n] = [400 * D1, 40_000];
        for (let i = 0; i < n; i++) sum += (sectionAxisField(coil, -reach + (2 * reach * (i + 0.5)) / n) * 2 * reach) / n;
        expect(offBy(sum / (4e-7 * Math.PI), 40)).toBeLessThan(1e-4);
      }),
      { numRuns: 20 },
    ));
});

describe('current displacement and heat', () => {
  test('a round wire: from memory, Terman’s table of R over R0', () => {
    // Terman, Radio Engineers' Handbook, skin effect, x = d·√(π·µ·f/2ρ)·√2 = d/δ/√2·…; from memory: x = 1, 2, 3, 5, 10.
    for (const [x, ratio] of [
      [1, 1.005],
      [2, 1.078],
      [3, 1.318],
      [5, 2.043],
      [10, 3.799],
    ] as const)
      expect(offBy(roundWireRatio(x * Math.SQRT2), ratio)).toBeLessThan(2e-3);
    expect(offBy(roundWireRatio(39.9), roundWireRatio(40.1))).toBeLessThan(6e-3);
  });

  test('layers: none at low frequency, one like a foil, more far worse', () => {
    expect(layersRatio(0.1, 1)).toBeCloseTo(1, 4);
    expect(offBy(layersRatio(8, 1), 8)).toBeLessThan(1e-3);
    // Dowell: at low frequency the excess grows as (5m² − 1)/45·x⁴.
    for (const m of [2, 4, 8]) expect(offBy(layersRatio(0.3, m) - 1, ((5 * m * m - 1) / 45) * 0.3 ** 4)).toBeLessThan(0.02);
  });

  test('a pulse that melts by its action has by its heat come to the melting point, more or less', () => {
    // Copper melts at 1083 °C: 0.8e17 A²s/m⁴ bring it there, with what melting itself takes.
    const d = 1e-3;
    const rise = of(coilFormulas.pulseHeating, { A: of(coilFormulas.wireFusingAction, { d }), d });
    expect(rise).toBeGreaterThan(700);
    expect(rise).toBeLessThan(1600);
    // Small pulses: the plain energy over heat capacity.
    const A = 1e3;
    const s = (Math.PI * d * d) / 4;
    expect(offBy(of(coilFormulas.pulseHeating, { A, d }), (1.7241e-8 * A) / (8960 * 385 * s * s))).toBeLessThan(0.02);
  });

  test('one tesla presses with 398 kPa, and a shell bears it', () => {
    expect(offBy(of(coilFormulas.magneticPressure, { B: 1 }), 397.9e3)).toBeLessThan(1e-3);
    expect(of(coilFormulas.hoopStress, { p: 4e6, D: 0.05, t: 0.005 })).toBeCloseTo(20e6, 3);
  });
});
