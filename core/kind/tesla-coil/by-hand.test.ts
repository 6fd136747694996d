import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import type { FigureId } from '../../block/index.ts';
import type { Rig } from '../../rig/index.ts';
import { agrees, decades, saidBy, typed } from '../../test/by-hand.ts';
import { integrate } from '../../test/integrate.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 8 };
const definitions = { source: 'definitions and circuit theory, worked beside the program, coils at random', within: 1e-9 };
const eps0 = 8.8541878128e-12;

const coil = fc.record({
  C: decades(5e-9, 3e-8),
  r0: decades(0.09, 0.14),
  p: decades(0.012, 0.02),
  n: fc.integer({ min: 10, max: 36 }).map((quarters) => quarters / 4),
  N2: fc.integer({ min: 400, max: 950 }),
  Dt: decades(0.1, 0.4),
});
type Coil = typeof coil extends fc.Arbitrary<infer T> ? T : never;

const rigOf = ({ C, r0, p, n, N2, Dt }: Coil, more: Record<string, string> = {}): Rig =>
  rigWith(
    {
      ...typed({ 'store.C': [C, 'F'], 'load.r0': [r0, 'm'], 'load.p': [p, 'm'], 'load.n': [n, ''], 'load.n1': [12, ''] }),
      ...typed({
        'load.N2': [N2, ''],
        'load.D2': [110, 'mm'],
        'load.l2': [450, 'mm'],
        'load.d2': [0.45, 'mm'],
        'load.h': [30, 'mm'],
      }),
      ...typed({ 'load.Dt': [Dt, 'm'], 'load.Ll': [1, 'µH'], 'load.Le': [3, 'µH'], 'load.Re': [10, 'Ω'], 'load.d1': [8, 'mm'] }),
      'load.shape': 'flat',
      'load.top': 'sphere',
      'load.km': '',
      'load.Cs': '',
      'load.w2': '',
      'store.ns': '1',
      'store.np': '1',
      ...more,
    },
    demoRig('cricket'),
  );

const figuresOf = (rig: Rig, ...ids: FigureId[]): number[] => {
  const reading = new RigReading(rig);
  return ids.map((id) => reading.figure(id).value);
};
const own = ['loop-resistance', 'loop-inductance', 'bank-capacitance', 'secondary-inductance', 'loop-coupling'] as const;

describe('a Tesla coil, its two circuits worked out beside the program', () => {
  test('a top load that is a sphere, resonances of each circuit by itself, and what they make together', () => {
    fc.assert(
      fc.property(coil, (one) => {
        const rig = rigOf(one);
        const [, L1 = NaN, C1 = NaN, winding = NaN, k = NaN] = figuresOf(rig, ...own);
        const [self = NaN, M = NaN, primary = NaN] = figuresOf(
          rig,
          'secondary-self-capacitance',
          'mutual-inductance',
          'primary-inductance',
        );
        const top = 4 * Math.PI * eps0 * (one.Dt / 2);
        const [L2, C2] = [winding + 3e-6, self + top];
        const [w1, w2] = [1 / Math.sqrt(L1 * C1), 1 / Math.sqrt(L2 * C2)];
        // Both modes of two lossless circuits that are coupled: roots of (1 − k²)·w⁴ − (w1² + w2²)·w² + w1²·w2².
        const [b, c] = [w1 ** 2 + w2 ** 2, (1 - k * k) * w1 ** 2 * w2 ** 2];
        const modes = [-1, 1].map((sign) => Math.sqrt((b + sign * Math.sqrt(b * b - 4 * c)) / (2 * (1 - k * k))) / (2 * Math.PI));
        const [low = NaN, high = NaN] = modes;
        agrees(
          rig,
          {
            figures: {
              'top-capacitance': top,
              'primary-resonance': w1 / (2 * Math.PI),
              'secondary-resonance': w2 / (2 * Math.PI),
              'low-mode': low,
              'high-mode': high,
              'transfer-time': 1 / (2 * (high - low)),
              coupling: M / Math.sqrt(primary * winding),
              'loop-coupling': M / Math.sqrt(L1 * L2),
            },
          },
          { ...definitions, within: 1e-8 },
        );
        // Leads and earth share no flux: the circuits are coupled less than the coils.
        expect(k).toBeLessThan(M / Math.sqrt(primary * winding));
        expect(L1).toBeGreaterThanOrEqual(primary + 1e-6);
      }),
      runs,
    );
  });

  test('the ring: peak of the secondary, both currents and the action, by a general-purpose integrator', () => {
    fc.assert(
      fc.property(coil, (one) => {
        const rig = rigOf(one);
        const reading = new RigReading(rig);
        const [R1 = NaN, L1 = NaN, C1 = NaN, winding = NaN, k = NaN] = figuresOf(rig, ...own);
        const [V0 = NaN, heat = NaN, rms = NaN] = [
          reading.offer('chargedTo').value,
          ...figuresOf(rig, 'secondary-heat', 'secondary-rms'),
        ];
        const L2 = winding + 3e-6;
        const [self = NaN, top = NaN] = figuresOf(rig, 'secondary-self-capacitance', 'top-capacitance');
        const C2 = self + top;
        // Its resistance is what its heat at its current says.
        const R2 = heat / rms ** 2;
        const M = k * Math.sqrt(L1 * L2);
        const D = L1 * L2 - M * M;
        const until = 12 * 2 * Math.PI * Math.sqrt(L2 * C2);
        const points = 1200;
        const states = integrate(
          (_t, [v1 = 0, i1 = 0, v2 = 0, i2 = 0]) => {
            const [u1, u2] = [v1 - R1 * i1, -v2 - R2 * i2];
            return [-i1 / C1, (L2 * u1 - M * u2) / D, i2 / C2, (L1 * u2 - M * u1) / D, i1 * i1];
          },
          [V0, 0, 0, 0, 0],
          Array.from({ length: points + 1 }, (_, j) => (until * j) / points),
        );
        const most = (column: number) => states.reduce((top, state) => Math.max(top, Math.abs(state[column] ?? 0)), 0);
        const odex = { source: 'both circuits integrated by odex, a general-purpose integrator', within: 2e-3 };
        agrees(rig, { figures: { 'secondary-peak': most(2), 'tank-peak-current': most(1), 'secondary-current': most(3) } }, odex);
        // The action goes on until the ring is over; twelve periods are a part of it that is never more than all.
        const [action = NaN] = figuresOf(rig, 'ring-action');
        const sofar = states.at(-1)?.[4] ?? NaN;
        expect(sofar).toBeLessThan(action * 1.0001);
        agrees(
          rig,
          {
            figures: {
              'tank-slope': figuresOf(rig, 'tank-peak-current').map((I) => I / C1)[0] ?? NaN,
              'primary-turn-voltage': V0 / one.n,
              'secondary-turn-voltage': (figuresOf(rig, 'secondary-peak')[0] ?? NaN) / one.N2,
            },
            limits: { 'primary-turn-field': [V0 / one.n / (one.p - 8e-3), 1e6] },
          },
          definitions,
        );
      }),
      { numRuns: 3 },
    );
  });

  test('a tap in tune brings both resonances together, where the primary is long enough for it', () => {
    fc.assert(
      fc.property(coil, (one) => {
        const reading = new RigReading(rigOf(one));
        const tap = (() => {
          try {
            return reading.figure('tuning-tap').value;
          } catch {
            return null;
          }
        })();
        fc.pre(tap !== null && tap > 0.5 && tap < 12);
        const [f1 = NaN, f2 = NaN] = figuresOf(
          rigOf(one, { 'load.n': (tap ?? 0).toPrecision(9) }),
          'primary-resonance',
          'secondary-resonance',
        );
        expect(Math.abs(f1 / f2 - 1)).toBeLessThan(2e-4);
      }),
      { numRuns: 6 },
    );
  });

  test('breaks: energy, power, and what the gaps turn into heat, each and in their time', () => {
    const gaps = fc.record({
      k: fc.integer({ min: 2, max: 10 }),
      Ra: decades(0.5, 5),
      me: decades(0.01, 0.5),
      dTe: decades(50, 300),
    });
    fc.assert(
      fc.property(coil, gaps, fc.constantFrom('still', 'fan', 'blast'), (one, { k, Ra, me, dTe }, cooling) => {
        const rig = rigOf(one, {
          'switch.cooling': cooling,
          'switch.Pg': '',
          ...typed({ 'switch.k': [k, ''], 'switch.R': [Ra, 'Ω'], 'switch.me': [me, 'kg'], 'switch.dTe': [dTe, 'K'] }),
        });
        const rate = (() => {
          try {
            return new RigReading(rig).figure('break-rate').value;
          } catch {
            // A row that holds more than the supply gives never breaks.
            return null;
          }
        })();
        fc.pre(rate !== null);
        const n = rate ?? NaN;
        const [V = NaN, action = NaN, rms = NaN] = figuresOf(rig, 'break-voltage', 'ring-action', 'tank-rms');
        const E = (one.C * V ** 2) / 2;
        const [each, limit] = [(Ra * action * n) / k, { still: 30, fan: 100, blast: 300 }[cooling]];
        agrees(
          rig,
          {
            figures: {
              'break-energy': E,
              'tank-power': E * n,
              'gap-heat': Ra * action,
              'gap-power': each,
              // What one loses at its cooling, over what one gets of a break; common practice, no source.
              'quench-rate': limit / ((Ra * action) / k),
              // Copper and brass, 390 J/(kg·K), from memory.
              'gap-run-time': (me * 390 * dTe) / each,
              'tank-rms': Math.sqrt(action * n),
            },
            limits: { 'gap-heat': [each, limit] },
          },
          { ...definitions, within: 1e-8 },
        );
        expect(rms).toBeGreaterThan(0);
      }),
      runs,
    );
  });

  test('what cannot be built is said at the field that has to change', () => {
    const one: Coil = { C: 1e-8, r0: 0.1, p: 0.015, n: 7, N2: 900, Dt: 0.3 };
    const said = (more: Record<string, string>) =>
      saidBy(rigOf(one, more), 'load').flatMap((one) => (one.startsWith('error ') ? one.slice(6) : []));
    expect(said({})).toEqual([]);
    // 1001 turns of 0.45 mm are longer than 450 mm; a thousand are not.
    expect(said({ 'load.N2': '1001' })).toContain('N2');
    expect(said({ 'load.N2': '1000' })).not.toContain('N2');
    expect(said({ 'load.r0': '58 mm' })).toContain('r0');
    expect(said({ 'load.r0': '60 mm' })).not.toContain('r0');
    expect(said({ 'load.n': '12.25' })).toContain('n');
    expect(said({ 'load.w2': '300 m' })).toContain('w2');
    expect(said({ 'load.w2': '320 m' })).not.toContain('w2');
    expect(said({ 'load.top': 'none', 'load.Cs': '0 pF' })).toContain('top');
    expect(said({ 'load.top': 'none' })).not.toContain('top');
  });

  test('capacitors of a tank bear their share of its current and of its slope', () => {
    fc.assert(
      fc.property(coil, fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }), (one, ns, np) => {
        const rig = rigOf(one, {
          ...typed({ 'store.C': [Number(((one.C * ns) / np).toPrecision(6)), 'F'], 'store.ns': [ns, ''], 'store.np': [np, ''] }),
          ...typed({ 'store.Is': [9, 'A'], 'store.S': [1500, 'V/µs'], 'store.ESR': [0.1, 'Ω'] }),
        });
        const reading = new RigReading(rig);
        const [rms = NaN, slope = NaN] = figuresOf(rig, 'tank-rms', 'tank-slope');
        agrees(
          rig,
          {
            figures: { 'tank-capacitor-heat': rms ** 2 * ((0.1 * ns) / np) },
            limits: { 'tank-capacitor-current': [rms / np, 9], 'tank-capacitor-slope': [slope / ns, 1.5e9] },
          },
          definitions,
        );
        expect(reading.figure('bank-capacitance').value).toBeCloseTo(one.C, 12);
      }),
      runs,
    );
  });
});
