import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { offBy } from '../../test/fixtures.ts';
import { layersInductance, loopField, loopMutual, sectionAxisField, type Layer } from '../../model/index.ts';
import { coilFormulas, evaluateFormula, formulaById, solveFormula, withDefaults, type Formula } from '../index.ts';
import { layersRatio, roundWireRatio } from '../../model/index.ts';

const of = (formula: Formula, values: Record<string, number>) => evaluateFormula(formula, withDefaults(formula, values));

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

test('of a single layer lies between that of its wire alone and Medhurst’s, and grows as the square of frequency at first', () => {
  const layer = { d: 1e-3, p: 1.2e-3, l: 0.1, D: 0.05 };
  const at = (id: string, values: Record<string, number>) => of(formulaById.get(id) as Formula, values);
  const extra = (delta: number) =>
    at('single-layer-resistance-ratio', { ...layer, delta }) - at('skin-resistance-ratio', { d: layer.d, delta });
  expect(extra(1e-2) / extra(2e-2)).toBeCloseTo(16, 1);
  expect(extra(1e-5) / extra(2e-5)).toBeCloseTo(2, 1);
});

test('time constants of two tubes worked by hand (µ0·σ·r·w/2)', () => {
  const close = { source: 'µ0·σ·r·w/2 worked by hand', within: 1e-3 };
  holds('shell-time-constant', { D: 0.034, w: 0.4e-3, rho: 1 / 5.8e7 }, 247.8e-6, close);
  holds('shell-time-constant', { D: 0.062, w: 0.12e-3, rho: 1 / 3.5e7 }, 81.8e-6, close);
});

test('Wheeler’s formulas are as near the exact ones as they say, and a thick ring as near its next terms', () => {
  const exactly = { source: 'solenoid-inductance, exactly', within: 0.01 };
  for (const [D, l] of [
    [0.1, 0.042],
    [0.05, 0.05],
    [0.02, 0.09],
  ] as const)
    holds('wheeler-single-layer', { N: 60, D, l }, of(coilFormulas.solenoidInductance, { N: 60, D, l }), exactly);
  // Lord Rayleigh and Niven: µ0·R·((1 + a²/8R²)·ln(8R/a) + a²/24R² − 7/4); from memory.
  for (const share of [0.02, 0.1, 0.2]) {
    const [R, a] = [0.1, 0.1 * share];
    const more = (1 + a ** 2 / (8 * R ** 2)) * Math.log((8 * R) / a) + a ** 2 / (24 * R ** 2) - 1.75;
    const source = 'Rayleigh and Niven, the next terms of a thick ring';
    holds('loop-inductance', { D: 2 * R, d: 2 * a }, 4e-7 * Math.PI * R * more, { source, memory: true, within: 0.02 });
  }
});
