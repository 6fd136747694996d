import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import type { Rig } from '../../rig/index.ts';
import { agrees, decades, oneCapacitor, saidBy, typed } from '../../test/by-hand.ts';
import { integrate } from '../../test/integrate.ts';
import { rigWith } from '../../test/rigs.ts';

interface Loop {
  readonly V0: number;
  readonly C: number;
  readonly R: number;
  readonly L: number;
}

interface Shot {
  readonly peak: number;
  readonly action: number;
  readonly charge: number;
  readonly reversal: number;
  readonly left: number;
}

/** A shot of a series loop by a general-purpose integrator: peak, action, all charge that passed either way, and what is left behind. */
function shot({ V0, C, R, L }: Loop, isOneWay: boolean): Shot {
  const [w, a] = [1 / Math.sqrt(L * C), R / (2 * L)];
  const half = a < w ? Math.PI / Math.sqrt(w * w - a * a) : Infinity;
  // Until nothing flows any more: one way its first zero, else twenty-five decays of the slower mode.
  const slow = a < w ? a : a - Math.sqrt(a * a - w * w);
  const until = isOneWay ? Math.min(half, 25 / slow) : 25 / slow;
  const points = 1500;
  const times = Array.from({ length: points + 1 }, (_, k) => (until * k) / points);
  const states = integrate((_t, [v = 0, i = 0]) => [-i / C, (v - R * i) / L, i * i, Math.abs(i)], [V0, 0, 0, 0], times);
  const slopes = states.map(([v = 0, i = 0]) => (v - R * i) / L);
  const at = slopes.findIndex((slope, k) => slope > 0 && (slopes[k + 1] ?? 0) <= 0);
  const [i0, i1] = [states[at]?.[1] ?? NaN, states[at + 1]?.[1] ?? NaN];
  const [s0, s1] = [(slopes[at] ?? NaN) * (until / points), (slopes[at + 1] ?? NaN) * (until / points)];
  // The top of the cubic that has both currents and both slopes.
  const x = s0 / (s0 - s1);
  const peak = i0 * (1 + 2 * x) * (1 - x) ** 2 + s0 * x * (1 - x) ** 2 + i1 * x * x * (3 - 2 * x) + s1 * x * x * (x - 1);
  const [left = 0, , action = 0, charge = 0] = states.at(-1) ?? [];
  return { peak, action, charge, reversal: a < w ? -(isOneWay ? left : shot({ V0, C, R, L }, true).left) / V0 : 0, left };
}

/** Loops from those that ring for ten half cycles to those that creep. */
const loops = fc
  .record({ V0: decades(100, 3000), C: decades(1e-5, 2e-3), L: decades(5e-7, 5e-5), damping: decades(0.1, 3) })
  .map(({ V0, C, L, damping }) => ({ V0, C, L, R: Number((2 * damping * Math.sqrt(L / C)).toPrecision(4)) }));

const rated = typed({ 'switch.Vr': [1800, 'V'], 'switch.I': [4, 'kA'], 'switch.S': [200, 'A/µs'], 'switch.A': [90e3, 'A²s'] });

/** The loop of a rig: the load has what the switch has not. */
function rigOf(
  { V0, C, R, L }: Loop,
  kind: string,
  own: { readonly R: number; readonly L?: number },
  more: Record<string, string>,
): Rig {
  return rigWith({
    ...oneCapacitor({ C, V0 }, 3),
    ...typed({
      'store.ESR': [0, 'Ω'],
      'store.ESL': [0, 'H'],
      'load.R': [R - own.R, 'Ω'],
      'load.L': [L - (own.L ?? 0), 'H'],
    }),
    'load.length': '',
    'switch.kind': kind,
    ...typed({ 'switch.R': [own.R, 'Ω'], ...(own.L === undefined ? {} : { 'switch.L': [own.L, 'H'] }) }),
    ...more,
    ...rated,
  });
}

const judged = ({ V0, L }: Loop, by: ReturnType<typeof shot>) => ({
  figures: {
    'peak-current': by.peak,
    'action-integral': by.action,
  },
  limits: {
    'switch-voltage': [V0, 1800],
    'switch-current': [by.peak, 4e3],
    'switch-di-dt': [V0 / L, 200e6],
    'switch-action': [by.action, 90e3],
  } as const,
});

const against = { source: 'the loop integrated by odex, a general-purpose integrator', within: 2e-5 };
const definitions = { source: 'definitions, worked beside the program, loops at random', within: 1e-9 };
const runs = { numRuns: 6 };

describe('switches in a series loop', () => {
  test('a contact carries the shot to and fro: peak, steepest rise and action against its four ratings', () => {
    fc.assert(
      fc.property(loops, (loop) => {
        const rig = rigOf(loop, 'contact', { R: loop.R / 8 }, {});
        agrees(rig, judged(loop, shot(loop, false)), against);
        const { V0, C, R, L } = loop;
        agrees(
          rig,
          { figures: { 'peak-di-dt': V0 / L, 'stored-charge': C * V0, 'loop-resistance': R, 'loop-inductance': L } },
          definitions,
        );
        agrees(
          rigWith({ 'switch.Vr': '', 'switch.I': '', 'switch.S': '', 'switch.A': '' }, rig),
          { unjudged: ['switch-voltage', 'switch-current', 'switch-di-dt', 'switch-action'] },
          against,
        );
      }),
      runs,
    );
  });

  test('a thyristor one way stops at the first zero and leaves the bank reversed; a pair of them does not', () => {
    fc.assert(
      fc.property(loops, fc.boolean(), (loop, isOneWay) => {
        const rig = rigOf(
          loop,
          'thyristor',
          { R: loop.R / 5 },
          {
            'switch.VT': '0 V',
            'switch.direction': isOneWay ? 'one-way' : 'both-ways',
          },
        );
        const by = shot(loop, isOneWay);
        const { figures, limits } = judged(loop, by);
        agrees(rig, { figures, limits }, { ...against, within: 1e-4 });
        const reversal = new RigReading(rig).figure('voltage-reversal').value;
        expect(Math.abs(reversal - by.reversal)).toBeLessThan(1e-6);
        const warned = saidBy(rig, 'switch').includes('warning direction');
        expect(warned).toBe(isOneWay && by.reversal >= 0.02);
      }),
      runs,
    );
  });

  test('a tube: the charge that erodes it is what passed either way, its heat that of its arc and its resistance', () => {
    fc.assert(
      fc.property(loops, fc.boolean(), decades(5, 100), (loop, isOneWay, VT) => {
        const own = { R: loop.R / 6, L: loop.L / 4 };
        const rig = rigOf(loop, 'tube', own, {
          'switch.type': isOneWay ? 'thyratron' : 'ignitron',
          'switch.direction': isOneWay ? 'one-way' : 'both-ways',
          ...typed({ 'switch.VT': [0, 'V'], 'switch.Qr': [2, 'C'] }),
        });
        const by = shot(loop, isOneWay);
        const { figures, limits } = judged(loop, by);
        agrees(
          rig,
          {
            figures: { ...figures, 'switch-charge': by.charge, 'switch-heat': own.R * by.action },
            limits: { ...limits, 'switch-charge': [by.charge, 2] },
          },
          { ...against, within: 2e-4 },
        );
        // Its arc takes a part of the voltage off once, and turns all of the charge into heat at that voltage.
        const lit = rigWith(typed({ 'switch.VT': [Math.min(VT, loop.V0 / 20), 'V'] }), rig);
        const less = shot({ ...loop, V0: loop.V0 - Math.min(VT, loop.V0 / 20) }, false).peak;
        agrees(lit, { figures: { 'peak-current': less } }, { ...against, within: 1e-4 });
      }),
      runs,
    );
  });

  test('transistors side by side: the one that takes most, and what stands across them if they are switched off at the peak', () => {
    const set = fc.record({
      np: fc.integer({ min: 1, max: 12 }),
      su: fc.integer({ min: 0, max: 60 }),
      tf: decades(5e-8, 5e-6),
      Ls: decades(5e-9, 5e-7),
    });
    fc.assert(
      fc.property(loops, set, (loop, { np, su, tf, Ls }) => {
        const rig = rigOf(
          loop,
          'transistor',
          { R: loop.R / 7 },
          {
            'switch.type': 'mosfet',
            ...typed({
              'switch.np': [np, ''],
              'switch.su': [su, '%'],
              'switch.tf': [tf, 's'],
              'switch.Ls': [Ls, 'H'],
              'switch.Ip': [600, 'A'],
              'switch.Er': [40, 'J'],
            }),
          },
        );
        const by = shot(loop, false);
        const { figures, limits } = judged(loop, by);
        // It carries that much more than each of the others.
        const share = (by.peak * (1 + su / 100)) / (np + su / 100);
        const off = loop.V0 + (Ls * by.peak) / tf;
        agrees(
          rig,
          {
            figures: { ...figures, 'transistor-share': share, 'turn-off-voltage': off, 'switch-heat': (loop.R / 7) * by.action },
            limits: {
              ...limits,
              'transistor-current': [share, 600],
              'turn-off-voltage': [off, 1800],
              'switch-heat': [(loop.R / 7) * by.action, 40],
            },
          },
          { ...against, within: 2e-4 },
        );
      }),
      runs,
    );
  });

  test('a falling arm is struck through before it touches, and may bounce for the whole of the charge', () => {
    fc.assert(
      fc.property(loops, decades(0.2, 5), fc.boolean(), (loop, v, isVacuum) => {
        const own = { R: loop.R / 9, L: loop.L / 3 };
        const rig = rigOf(loop, 'moving-contact', own, {
          'switch.type': isVacuum ? 'vacuum' : 'arm',
          ...typed({ 'switch.v': [v, 'm/s'], 'switch.Ew': [25, 'J'] }),
        });
        const by = shot(loop, false);
        const { figures, limits } = judged(loop, by);
        const scatter = loop.V0 / (isVacuum ? 20e6 : 3e6) / v;
        agrees(rig, { figures: { 'closing-scatter': scatter } }, definitions);
        // 3 kV/mm in air, 20 kV/mm in vacuum, 30 V across the arc of a bounce: common practice, no source.
        const heat = 30 * by.charge + own.R * by.action;
        agrees(
          rig,
          {
            figures: {
              ...figures,
              'switch-charge': by.charge,

              'bounce-heat': heat,
            },
            limits: { ...limits, 'bounce-heat': [heat, 25] },
          },
          { ...against, within: 2e-4 },
        );
      }),
      runs,
    );
  });

  test('an IGBT without a diode is an error in a loop that rings, and none in one that does not', () => {
    fc.assert(
      fc.property(loops, fc.constantFrom('igbt', 'mosfet'), fc.boolean(), (loop, type, hasDiode) => {
        const rig = rigOf(
          loop,
          'transistor',
          { R: loop.R / 7 },
          {
            'switch.type': type,
            'switch.VT': '0 V',
            'switch.diode': hasDiode ? 'yes' : 'no',
          },
        );
        const isError = saidBy(rig, 'switch').includes('error diode');
        const isStopped = type === 'igbt' && !hasDiode && shot(loop, true).reversal >= 0.02;
        expect(isError).toBe(isStopped);
      }),
      runs,
    );
  });
});
