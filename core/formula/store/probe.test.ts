import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { evaluateFormula, meterFormulas, probeFormulas, switchFormulas } from '../index.ts';

describe('current and voltage probes', () => {
  test('a Rogowski coil has μ₀·n·A', () =>
    // 500 turns on 0.5 m, 1 cm² each: 4π·10⁻⁷ · 1000 · 10⁻⁴ = 125.7 nH.
    holds('rogowski-mutual', { N: 500, l: 0.5, d: Math.sqrt(4e-4 / Math.PI) }, 125.66e-9, {
      source: 'Ampère’s law, worked by hand',
      within: 1e-4,
    }));

  test('behind 10 kΩ and 100 nF that coil gives 0.126 mV/A, and loses a twentieth in 51 µs', () => {
    holds('integrator-sensitivity', { M: 125.66e-9, R: 1e4, C: 1e-7 }, 1.2566e-4, {
      source: 'v = M·i/(R·C), worked by hand',
      within: 1e-6,
    });
    holds('integrator-droop', { t: 51.29e-6, R: 1e4, C: 1e-7 }, 0.05, {
      source: '−ln 0.95 time constants, worked by hand',
      within: 1e-3,
    });
  });

  test('a compensated divider has one ratio for all speeds', () => {
    holds('compensating-capacitance', { R1: 99e6, C1: 3e-12, R2: 1e6 }, 297e-12, {
      source: 'R1·C1 = R2·C2, worked by hand',
      within: 1e-9,
    });
    const C2 = evaluateFormula(probeFormulas.compensatingCapacitance, { R1: 99e6, C1: 3e-12, R2: 1e6 });
    const slow = evaluateFormula(meterFormulas.dividerRatio, { R1: 99e6, R2: 1e6, Rm: 1e15 });
    expect(evaluateFormula(probeFormulas.capacitiveRatio, { C1: 3e-12, C2 })).toBeCloseTo(slow, 6);
    holds('capacitive-ratio', { C1: 3e-12, C2: 297e-12 }, 100, {
      source: 'charge on two capacitances in series, worked by hand',
      within: 1e-9,
    });
  });
});

describe('a resistor of salt in water', () => {
  test('a cell of 1 m and 1 m² has the resistivity of its filling', () =>
    holds('water-column-resistance', { rho: 1.85, l: 1, d: Math.sqrt(4 / Math.PI) }, 1.85, {
      source: 'definition of resistivity',
      within: 1e-9,
    }));

  test('a kilojoule into a litre of water warms it by a quarter of a kelvin', () =>
    holds('column-warming', { E: 1000, l: 1, d: Math.sqrt(4e-3 / Math.PI) }, 0.239, {
      source: 'kilocalorie of 4184 J, worked by hand',
      within: 1e-3,
    }));
});

describe('what goes through a switch', () => {
  // A capacitor of 1 C that rings with k: half cycles of 1 + k, k(1 + k), k²(1 + k) …
  test.each([0, 0.3, 0.8])('a ring with a reversal of %d carries the sum of its half cycles', (k) => {
    let sum = 0;
    for (let n = 0; n < 400; n++) sum += (1 + k) * k ** n;
    holds('switch-charge', { Q: 1, k }, sum, { source: 'half cycles added up', within: 1e-9 });
    expect(evaluateFormula(switchFormulas.switchHalfCharge, { Q: 1, k })).toBeCloseTo(1 + k, 12);
  });

  test('a threshold of 1 V and 2 mΩ take 10 J and 20 J of 10 C and 10 kA²s', () =>
    holds('conduction-heat', { VT: 1, Q: 10, R: 2e-3, A: 1e4 }, 30, {
      source: '∫(V_T + R·i)·i dt, worked by hand',
      within: 1e-12,
    }));

  test('of four in parallel, one a fifth above the others, that one has 1.2 of 4.2', () =>
    holds('parallel-share', { I: 420, n: 4, s: 0.2 }, 120, { source: 'worked by hand', within: 1e-12 }));

  test('1 kA over 100 nH in 200 ns adds 500 V', () =>
    holds('turn-off-voltage', { V: 600, L: 1e-7, I: 1000, tf: 2e-7 }, 1100, {
      source: 'v = L·di/dt, worked by hand',
      within: 1e-12,
    }));

  test('3 kV strike through the last millimetre: a millisecond before touch at 1 m/s', () =>
    holds('closing-scatter', { V: 3000, E: 3e6, v: 1 }, 1e-3, { source: 'worked by hand', within: 1e-12 }));
});
