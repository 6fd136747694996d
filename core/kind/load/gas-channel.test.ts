import { describe, expect, test } from 'vitest';
import { evaluateFormula, transferFormulas } from '../../formula/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { integrate } from '../../test/integrate.ts';
import { figureOf, problemsOf, solved } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const transfer = (typed: Readonly<Record<string, string>> = {}): Rig =>
  rigWith(
    {
      'supply.V': '20 kV',
      'store.C': '10 nF',
      'store.V0': '12 kV',
      'store.ns': '1',
      'store.np': '1',
      'store.ESR': '1 mΩ',
      'store.ESL': '1 nH',
      'load.C': '8 nF',
      'load.L': '100 nH',
      'load.R': '10 mΩ',
      'load.Vb': '9 kV',
      'load.Lc': '8 nH',
      'load.Rc': '300 mΩ',
      ...typed,
    },
    withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'gas-channel'))),
  );

describe('a gas channel with its peaking capacitor', () => {
  test('is charged as two capacitors through an inductance, integrated apart: when it comes to its breakdown', () => {
    const [C1, C2, L, V, V2] = [10e-9, 8e-9, 120e-9, 12e3, 9e3];
    const t = evaluateFormula(transferFormulas.transferTimeTo, { C1, C2, L, V, V2 });
    const slope = (_t: number, [v1 = 0, v2 = 0, i = 0]: number[]) => [-i / C1, i / C2, (v1 - v2) / L];
    expect(offBy(integrate(slope, [V, 0, 0], [t])[0]?.[1] ?? NaN, V2)).toBeLessThan(1e-6);
    expect(() => evaluateFormula(transferFormulas.transferTimeTo, { C1, C2, L, V, V2: 14e3 })).toThrow(
      /does not come to so much/,
    );
  });

  test('strikes in the solver when the closed form has it, and empties the capacitor into the gas', () => {
    const rig = transfer();
    expect(offBy(figureOf(rig, 'channel-energy'), 0.5 * 8e-9 * 9e3 ** 2)).toBeLessThan(1e-12);
    // Damped ring of 8 nF, 8 nH and 0.3 Ω: V·√(C/L)·e^(−φ·ζ/√(1−ζ²)), by hand.
    const [w, a] = [1 / Math.sqrt(8e-9 * 8e-9), 0.3 / 16e-9];
    const wd = Math.sqrt(w * w - a * a);
    const tp = Math.atan2(wd, a) / wd;
    expect(offBy(figureOf(rig, 'channel-current'), (9e3 / 8e-9 / wd) * Math.exp(-a * tp) * Math.sin(wd * tp))).toBeLessThan(1e-9);
    const strike = solved(rig, 'discharge').events.find(({ text }) => /gas channel|Sload|S.*fires|breaks down/i.test(text));
    expect(offBy(strike?.t ?? NaN, figureOf(rig, 'channel-delay'))).toBeLessThan(0.05);
  });

  test('that is not reached says so at its breakdown, and holds a charge that nothing bleeds', () => {
    expect(problemsOf(transfer({ 'load.Vb': '14 kV' }))).toMatch(/The channel does not strike: it breaks down at 14\.0 kV/);
    expect(problemsOf(transfer({ 'load.Vb': '12.5 kV' }))).toMatch(/The channel may miss shots/);
    expect(problemsOf(transfer({ 'load.Rb': '' }))).toMatch(/stays charged after a shot and nothing bleeds it/);
    expect(problemsOf(transfer())).not.toMatch(/strike|miss|stays charged/);
  });
});
