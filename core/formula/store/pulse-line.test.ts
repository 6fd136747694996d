import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { evaluateFormula, pulseLineFormulas } from '../index.ts';

describe('a pulse-forming network', () => {
  // Ten sections for 5 µs at 50 Ω: 50 nF and 125 µH in all, 5 nF and 12.5 µH a section.
  test('the parts of a wanted pulse are those of the textbook’s example, and make that pulse', () => {
    const source = 'C = t/(2·Z), L = t·Z/2: Glasoe and Lebacqz, Pulse Generators; from memory';
    holds('section-capacitance', { Z: 50, tp: 5e-6, n: 10 }, 5e-9, { source, memory: true, within: 1e-9 });
    holds('section-inductance', { Z: 50, tp: 5e-6, n: 10, k: 0, e: 1 }, 12.5e-6, { source, memory: true, within: 1e-9 });
    holds('network-impedance', { Ln: 125e-6, Cn: 50e-9 }, 50, { source, memory: true, within: 1e-9 });
    holds('network-width', { Ln: 125e-6, Cn: 50e-9 }, 5e-6, { source, memory: true, within: 1e-9 });
  });

  test('a cable of 100 pF and 250 nH a metre is one of 50 Ω and 5 ns a metre', () => {
    holds('network-impedance', { Ln: 250e-9, Cn: 100e-12 }, 50, {
      source: 'coaxial cable of 50 Ω; from memory',
      memory: true,
      within: 1e-6,
    });
    expect(evaluateFormula(pulseLineFormulas.networkWidth, { Ln: 250e-9, Cn: 100e-12 })).toBeCloseTo(1e-8, 15);
  });

  test('two metres of it have 10 ns, 200 pF and 500 nH', () => {
    holds('line-delay', { l: 2, v: 0.667 }, 10e-9, {
      source: '5 ns a metre of polyethylene; from memory',
      memory: true,
      within: 2e-3,
    });
    holds('line-capacitance', { Z: 50, td: 10e-9 }, 200e-12, {
      source: '100 pF a metre at 50 Ω; from memory',
      memory: true,
      within: 1e-9,
    });
    holds('line-inductance', { Z: 50, td: 10e-9 }, 500e-9, {
      source: '250 nH a metre at 50 Ω; from memory',
      memory: true,
      within: 1e-9,
    });
  });

  test('two of 1 nF one behind the other are half of one', () =>
    holds('in-row-capacitance', { Cn: 2e-9, n: 2 }, 0.5e-9, { source: 'capacitances in series, worked by hand', within: 1e-12 }));

  test('100 nH behind 50 Ω into 50 Ω rise in 2.2 ns', () =>
    holds('edge-rise', { L: 100e-9, Z: 50, R: 50 }, 2.197e-9, { source: 'ln 9 time constants, worked by hand', within: 1e-3 }));

  test('into its own impedance it gives half of its voltage, and nothing is left', () => {
    holds('pulse-current', { V: 10e3, Z: 50, R: 50 }, 100, {
      source: 'a source behind its impedance, worked by hand',
      within: 1e-12,
    });
    holds('pulse-reversal', { Z: 50, R: 50 }, 0, { source: 'no reflection at a match', within: 1e-12 });
    expect(evaluateFormula(pulseLineFormulas.pulseReversal, { Z: 50, R: 0 })).toBe(1);
    expect(evaluateFormula(pulseLineFormulas.pulseReversal, { Z: 50, R: 200 })).toBe(0);
  });

  test('coupled neighbours add to each other as two coils in series do', () =>
    // Two coils of 1 µH with k = 0.2: L1 + L2 + 2·M = 2.4 µH.
    holds('network-inductance', { L: 1e-6, n: 2, k: 0.2, e: 1 }, 2.4e-6, {
      source: 'coils in series, M = k·L, worked by hand',
      within: 1e-12,
    }));
});
