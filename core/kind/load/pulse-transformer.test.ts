import { describe, expect, test } from 'vitest';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { integrate } from '../../test/integrate.ts';
import { figureOf, problemsOf, solved } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';
import { evaluateRig } from '../../evaluation/index.ts';
import { blockDefinition, newBlock } from '../index.ts';

const stepUp = (typed: Readonly<Record<string, string>> = {}): Rig =>
  rigWith(
    {
      'supply.V': '4 kV',
      'store.C': '2 µF',
      'store.V0': '3 kV',
      'store.ns': '1',
      'store.np': '1',
      'load.n': '8',
      'load.N1': '20',
      'load.Lm': '5 mH',
      'load.Ll': '2 µH',
      'load.R': '320 Ω',
      'load.Ac': '8 cm²',
      ...typed,
    },
    withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'pulse-transformer'))),
  );

const withGuard = (rig: Rig): Rig => withBlock(rig, 'guard', newBlock(blockDefinition('guard', 'guarded')));

/** Loop of the primary with the magnetising branch in it, integrated apart: output peak and volt-seconds to its first zero. */
function byHand(rig: Rig, { Lm, C2 = 0 }: { Lm: number; C2?: number }) {
  const [R, L, n] = [figureOf(rig, 'loop-resistance'), figureOf(rig, 'loop-inductance'), 8];
  const load = 320 / n ** 2;
  const rest = R - load;
  const Cs = C2 * n * n;
  const slope = (_t: number, [v = 0, i = 0, im = 0, vc = 0]: number[]) => {
    const across = Cs > 0 ? vc : load * (i - im);
    return [-i / 2e-6, (v - rest * i - across) / L, across / Lm, Cs > 0 ? (i - im - vc / load) / Cs : 0];
  };
  const times = Array.from({ length: 400 }, (_, k) => (k + 1) * 1e-7);
  const all = integrate(slope, [3000, 0, 0, 0], times);
  const out = all.map((row) => n * (Cs > 0 ? (row?.[3] ?? 0) : load * ((row?.[1] ?? 0) - (row?.[2] ?? 0))));
  return { peak: Math.max(...out), im: all.map((row) => row?.[2] ?? 0) };
}

describe('a core that the pulse fills', () => {
  test('is a short from the volt-seconds on that it holds: the current rises as a loop without it, integrated apart', () => {
    // 20 turns, 1 cm², 0.35 T: 0.7 mV·s, which 5 Ω take from some 3 kV in less than a microsecond.
    const small = { 'load.Ac': '1 cm²', 'load.Bs': '0.35 T', 'load.Lm': '200 µH' };
    const rig = stepUp(small);
    const [full, free] = [rig, stepUp({ ...small, 'load.Bs': '' })].map((made) => solved(made, 'discharge'));
    const peakOf = (run: typeof full) => run?.compared.find(({ id }) => id === 'peak-current')?.solver ?? NaN;
    const [R, L] = [figureOf(rig, 'loop-resistance'), figureOf(rig, 'loop-inductance')];
    const load = 320 / 64;
    const slope = (_t: number, [v = 0, i = 0, im = 0, is = 0]: number[]) => {
      const across = load * (i - im - is);
      const isFull = im >= (0.35 * 20 * 1e-4) / 200e-6;
      return [-i / 2e-6, (v - (R - load) * i - across) / L, across / 200e-6, isFull ? across / 0.4e-6 : 0];
    };
    const times = Array.from({ length: 800 }, (_, k) => (k + 1) * 2.5e-8);
    const byHand = Math.max(...integrate(slope, [3000, 0, 0, 0], times).map((row) => row?.[1] ?? 0));
    expect(offBy(peakOf(full), byHand)).toBeLessThan(0.01);
    expect(peakOf(full)).toBeGreaterThan(1.3 * peakOf(free));
    expect(JSON.stringify(full?.compared.find(({ id }) => id === 'peak-current'))).toMatch(/saturation of the core/);
  });
});

describe('a pulse transformer', () => {
  test('steps the voltage up as the loop with its magnetising branch, integrated apart, has it', () => {
    const rig = stepUp();
    expect(offBy(figureOf(rig, 'reflected-resistance'), 5)).toBeLessThan(1e-12);
    // A large magnetising inductance: the closed form leaves next to nothing out.
    expect(offBy(figureOf(rig, 'secondary-voltage'), byHand(rig, { Lm: 5e-3 }).peak)).toBeLessThan(0.01);
    // The solver has the branch in it: with a small one its peak current differs from the closed form, and it is said why.
    const [large, small] = [rig, stepUp({ 'load.Lm': '15 µH' })].map((made) =>
      solved(made, 'discharge').compared.find(({ id }) => id === 'peak-current'),
    );
    expect(large?.off ?? NaN).toBeLessThan(0.005);
    expect(small?.off ?? NaN).toBeGreaterThan(0.01);
    expect(JSON.stringify(small)).toMatch(/magnetising current/);
  });

  test('is driven to the flux that the volt-seconds of the pulse over turns and section come to', () => {
    const rig = stepUp({ 'load.B0': '0.2 T', 'load.Lm': '1 H' });
    const { im } = byHand(rig, { Lm: 1 });
    const volt_seconds = Math.max(...im) * 1;
    const B = 0.2 + volt_seconds / (20 * 8e-4);
    const told = figureOf(rig, 'core-flux-density');
    // An upper bound: what leakage and windings take is not in it.
    expect(told).toBeGreaterThan(B);
    expect(told).toBeLessThan(1.35 * B);
    expect(offBy(figureOf(rig, 'magnetising-current'), ((told - 0.2) * 20 * 8e-4) / 1)).toBeLessThan(1e-9);
  });

  test('says when its core saturates, when its magnetising current is no trifle, and that a core with remanence is reset', () => {
    const small = stepUp({ 'load.Ac': '1 cm²', 'load.Bs': '1.6 T', 'load.Lm': '20 µH' });
    const limit = evaluateRig(small).ladder.limits.find(({ id }) => id === 'core-flux-density');
    expect(limit?.utilisation ?? 0).toBeGreaterThan(1);
    // What a person reaches is what it may come to with its load off: 8 × 3 kV, by hand.
    expect(figureOf(stepUp(), 'secondary-open')).toBeCloseTo(24e3, 6);
    expect(figureOf(withGuard(stepUp()), 'reach-voltage')).toBeCloseTo(24e3, 6);
    expect(problemsOf(small)).toMatch(/The magnetising current comes to/);
    expect(problemsOf(stepUp())).not.toMatch(/magnetising/);
  });
});
