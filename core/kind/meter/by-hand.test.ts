import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { agrees, decades, oneCapacitor, typed } from '../../test/by-hand.ts';
import { rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 15 };
const ohm = { source: 'Ohm’s law, worked beside the program, rigs at random', within: 1e-9 };
const side = (a: number, b: number): number => 1 / (1 / a + 1 / b);

/** A bank of one capacitor, charged, whose supply gives no more than it is charged to. */
const charged = (C: number, V0: number) => oneCapacitor({ C, V0 }, 1.02);

describe('meters across the store', () => {
  test('a voltmeter against its maximum and its range; left on, it helps the bleeder', () => {
    const meter = fc.record({ C: decades(1e-6, 1e-2), V0: decades(50, 900), R: decades(1e5, 1e9), Rb: decades(1e4, 1e6) });
    fc.assert(
      fc.property(meter, ({ C, V0, R, Rb }) => {
        const rig = rigWith({
          ...charged(C, V0),
          ...typed({ 'meter.V': [1000, 'V'], 'meter.R': [R, 'Ω'], 'bleeder.R': [Rb, 'Ω'], 'meter.range': [600, 'V'] }),
        });
        const limits = { 'meter-maximum': [V0, 1000], 'meter-range': [V0, 600] } as const;
        agrees(rig, { figures: { 'metered-bleed': side(R, Rb) * C * Math.LN10 }, limits }, ohm);
        agrees(rigWith({ 'meter.range': '' }, rig), { unjudged: ['meter-range'] }, ohm);
      }),
      runs,
    );
  });

  test('a supply that can bring a meter above its maximum input is warned of, and one that cannot is not', () => {
    const left = (supply: string, most: string) =>
      evaluateRig(rigWith({ ...charged(1e-4, 500), 'supply.V': supply, 'meter.V': most })).problems.some(
        ({ slot, field, text }) => slot === 'meter' && field === 'V' && text.startsWith('Left on'),
      );
    // What bleeder and meter take from a supply of 10 kΩ in its path leaves it some way below what it gives.
    expect(left('1200 V', '1000 V')).toBe(true);
    expect(left('900 V', '1000 V')).toBe(false);
  });

  const arms = fc.record({ R1: decades(1e7, 2e9), R2: decades(1e4, 2e6), Rm: decades(1e6, 1e8), V0: decades(500, 5000) });

  test('a divider shows its share with the meter across its foot, whatever meter that is', () => {
    fc.assert(
      fc.property(arms, decades(2e-11, 2e-9), ({ R1, R2, Rm, V0 }, Cs) => {
        const rig = rigWith({
          ...charged(1e-5, V0),
          'meter.kind': 'divider',
          ...typed({ 'meter.R1': [R1, 'Ω'], 'meter.R2': [R2, 'Ω'], 'meter.Rm': [Rm, 'Ω'], 'meter.Cs': [Cs, 'F'] }),
          ...typed({ 'meter.V': [6, 'kV'], 'meter.Vf': [40, 'V'] }),
        });
        const foot = side(R2, Rm);
        const shows = (V0 * foot) / (R1 + foot);
        agrees(
          rig,
          {
            figures: {
              'divider-ratio': (R1 + foot) / foot,
              'divider-reading': shows,
              // Both arms charge the capacitance of the foot: the corner is where its reactance is their resistance side by side.
              'divider-bandwidth': 1 / (2 * Math.PI * side(R1, foot) * Cs),
            },
            limits: { 'meter-maximum': [V0, 6e3], 'divider-meter': [shows, 40] },
          },
          ohm,
        );
      }),
      runs,
    );
  });

  test('a compensated divider has one ratio at once and for good where both arms have one time constant, and says so where not', () => {
    const fast = fc.record({ C1: decades(1e-12, 1e-10), off: fc.integer({ min: -30, max: 30 }), Ld: decades(1e-7, 1e-5) });
    fc.assert(
      fc.property(arms, fast, ({ R1, R2, Rm, V0 }, { C1, off, Ld }) => {
        const foot = side(R2, Rm);
        const fits = (R1 * C1) / foot;
        const Cs = Number((fits * (1 + off / 100)).toPrecision(6));
        const rig = rigWith({
          ...charged(1e-5, V0),
          'meter.kind': 'divider',
          ...typed({ 'meter.R1': [R1, 'Ω'], 'meter.R2': [R2, 'Ω'], 'meter.Rm': [Rm, 'Ω'], 'meter.Cs': [Cs, 'F'] }),
          ...typed({ 'meter.C1': [C1, 'F'], 'meter.Ld': [Ld, 'H'], 'meter.V': [6, 'kV'] }),
        });
        const atOnce = (C1 + Cs) / C1;
        const figures = {
          'divider-fast-ratio': atOnce,
          'divider-compensation': fits,
          'divider-ringing': 1 / (2 * Math.PI * Math.sqrt((Ld * C1 * Cs) / (C1 + Cs))),
        };
        agrees(rig, { figures }, { ...ohm, within: 1e-8 });
        const error = (atOnce * foot) / (R1 + foot) - 1;
        const said = evaluateRig(rig).problems.find(({ slot, field }) => slot === 'meter' && field === 'Cs')?.text;
        if (Math.abs(error) < 0.0199) expect(said).toBeUndefined();
        if (Math.abs(error) > 0.0201) expect(said).toContain(error > 0 ? 'too low' : 'too high');
      }),
      runs,
    );
  });

  test('a movement with its multiplier: full scale by its current, and what each resistor of the string bears', () => {
    const movement = fc.record({
      R: decades(1e5, 1e7),
      n: fc.integer({ min: 1, max: 10 }),
      Rm: decades(50, 5e3),
      Ifs: decades(2e-5, 1e-3),
      Vfs: decades(50, 5e3),
      k: fc.integer({ min: 80, max: 120 }),
      V0: decades(50, 3e3),
    });
    fc.assert(
      fc.property(movement, ({ R, n, Rm, Ifs, Vfs, k, V0 }) => {
        const rig = rigWith({
          ...charged(1e-5, V0),
          'meter.kind': 'movement',
          ...typed({
            'meter.R': [R, 'Ω'],
            'meter.n': [n, ''],
            'meter.Rm': [Rm, 'Ω'],
            'meter.Ifs': [Ifs, 'A'],
            'meter.Vfs': [Vfs, 'V'],
          }),
          ...typed({ 'meter.k': [k / 100, ''], 'meter.V': [350, 'V'], 'meter.P': [0.5, 'W'] }),
        });
        const full = (k / 100) * Ifs * (R * n + Rm);
        agrees(
          rig,
          {
            figures: { 'meter-full-scale': full, 'meter-multiplier': Math.max(0, Vfs / Ifs - Rm) },
            limits: {
              'meter-maximum': [V0, full],
              'meter-string-voltage': [V0 / n, 350],
              'meter-string-power': [(V0 / n) ** 2 / R, 0.5],
            },
          },
          ohm,
        );
        const says = evaluateRig(rig)
          .problems.filter(({ slot, field }) => slot === 'meter' && field === 'R')
          .map(({ text }) => text)
          .join(' ');
        expect(says.includes('against its stop')).toBe(V0 > full);
        expect(says.includes('read it above a third')).toBe(V0 < full / 4);
      }),
      runs,
    );
  });
});

describe('monitors of the current, from the shot that the rig’s page predicts', () => {
  /** A loop that does not ring, in closed form: peak current, when it comes, steepest rise, action. Circuit theory. */
  const loops = fc
    .record({ V0: decades(100, 2000), C: decades(1e-5, 1e-3), L: decades(1e-6, 1e-4), over: decades(1.2, 4) })
    .map(({ V0, C, L, over }) => ({ V0, C, L, R: Number((2 * over * Math.sqrt(L / C)).toPrecision(4)) }));
  type Loop = typeof loops extends fc.Arbitrary<infer T> ? T : never;
  const shotOf = ({ V0, C, L, R }: Loop) => {
    const a = R / (2 * L);
    const b = Math.sqrt(a * a - 1 / (L * C));
    const at = Math.atanh(b / a) / b;
    const peak = ((V0 / (b * L)) * Math.exp(-a * at) * (Math.exp(b * at) - Math.exp(-b * at))) / 2;
    return { peak, at, rise: V0 / L, action: (C * V0 ** 2) / 2 / R };
  };
  const rigOf = ({ V0, C, L, R }: Loop, more: Record<string, string>, ownR = 0, ownL = 0) =>
    rigWith({
      ...charged(C, V0),
      'store.ESR': '0 Ω',
      'store.ESL': '0 H',
      'switch.R': '0 Ω',
      'load.length': '',
      ...typed({ 'load.R': [R - ownR, 'Ω'], 'load.L': [L - ownL, 'H'] }),
      ...more,
    });
  const settings = Array.from({ length: 16 }, (_, k) => [1, 2, 5].map((m) => m * 10 ** (k - 9))).flat();
  const scope = (peak: number, at: number, B: number) => ({
    'monitor-peak': peak,
    // The next setting of 1, 2 or 5 that has the peak within six divisions, twenty samples on the way up: common practice, no source.
    'scope-division': settings.find((one) => 6 * one >= peak * (1 - 1e-9)) ?? NaN,
    'scope-rate': 20 / at,
    // Of a single pole, 10 to 90 per cent: ln 9 / 2π.
    'monitor-rise': Math.log(9) / (2 * Math.PI * B),
  });
  const closed = { source: 'closed form of an overdamped series loop, worked beside the program', within: 1e-8 };
  // What is written as 0.35/B is ln 9 / 2π = 0.3497 of a pole.
  const rounded = { ...closed, within: 1e-3 };

  test('a shunt: its peak, what its inductance shows as if it were current, and what a shot heats it by', () => {
    fc.assert(
      fc.property(loops, decades(1e5, 1e8), (loop, B) => {
        const [Rs, Ls] = [Number((loop.R / 50).toPrecision(4)), Number((loop.L / 100).toPrecision(4))];
        const own = { ...typed({ 'monitor.R': [Rs, 'Ω'], 'monitor.L': [Ls, 'H'], 'monitor.B': [B, 'Hz'] }) };
        const ratings = typed({ 'monitor.E': [5, 'J'], 'monitor.I': [2, 'kA'] });
        const rig = rigOf(loop, { 'monitor.kind': 'shunt', ...own, ...ratings }, Rs, Ls);
        const { peak, at, rise, action } = shotOf(loop);
        agrees(rig, { figures: scope(Rs * peak, at, B) }, rounded);
        const limits = { 'shunt-energy': [Rs * action, 5], 'shunt-current': [peak, 2e3] } as const;
        agrees(rig, { figures: { 'shunt-kick': Ls * rise, 'monitor-peak': Rs * peak }, limits }, closed);
      }),
      runs,
    );
  });

  test('a loop with its integrator, and a Rogowski coil by its turns', () => {
    const coil = fc.record({
      N: fc.integer({ min: 50, max: 600 }),
      l: decades(0.2, 1),
      d: decades(4e-3, 1e-2),
      tau: decades(1, 40),
    });
    fc.assert(
      fc.property(loops, coil, decades(1e5, 1e8), (loop, { N, l, d, tau }, B) => {
        const { peak, at, rise } = shotOf(loop);
        const M = (4e-7 * Math.PI * N * Math.PI * (d / 2) ** 2) / l;
        const Ri = 1e4;
        const Ci = Number(((tau * at) / Ri).toPrecision(5));
        const rogowski = rigOf(loop, {
          'monitor.kind': 'rogowski',
          ...typed({
            'monitor.N': [N, ''],
            'monitor.l': [l, 'm'],
            'monitor.d': [d, 'm'],
            'monitor.Ri': [Ri, 'Ω'],
            'monitor.Ci': [Ci, 'F'],
          }),
          ...typed({ 'monitor.B': [B, 'Hz'], 'monitor.Ui': [300, 'V'], 'monitor.V': [5, 'kV'] }),
        });
        const sensitivity = M / (Ri * Ci);
        agrees(rogowski, { figures: scope(sensitivity * peak, at, B) }, rounded);
        agrees(
          rogowski,
          {
            figures: { 'rogowski-mutual': M, 'rogowski-sensitivity': sensitivity, 'rogowski-output': M * rise },
            limits: { 'rogowski-output': [M * rise, 300], 'rogowski-insulation': [loop.V0, 5e3] },
          },
          { ...closed, within: 1e-6 },
        );
        const loopOf = rigOf(loop, {
          'monitor.kind': 'loop',
          ...typed({ 'monitor.M': [M, 'H'], 'monitor.S': [sensitivity, 'Ω'], 'monitor.B': [B, 'Hz'] }),
          ...typed({ 'monitor.Sd': [500, 'A/µs'], 'monitor.V': [5, 'kV'] }),
        });
        agrees(loopOf, { figures: scope(sensitivity * peak, at, B) }, rounded);
        agrees(
          loopOf,
          { figures: { 'loop-output': M * rise }, limits: { 'loop-di-dt': [rise, 500e6], 'loop-insulation': [loop.V0, 5e3] } },
          { ...closed, within: 1e-6 },
        );
      }),
      runs,
    );
  });

  test('a monitor slower than a fifth of the rise is warned of, and an integrator that has lost a twentieth by the peak', () => {
    const loop = { V0: 400, C: 1e-4, L: 1e-5, R: 1.2 };
    const { at } = shotOf(loop);
    const warns = (more: Record<string, string>, field: string) =>
      evaluateRig(rigOf(loop, { 'monitor.kind': 'rogowski', 'monitor.B': '20 MHz', ...more })).problems.some(
        (one) => one.slot === 'monitor' && one.field === field,
      );
    const slow = (share: number) => warns(typed({ 'monitor.B': [Math.log(9) / (2 * Math.PI * share * at), 'Hz'] }), 'B');
    expect([slow(0.19), slow(0.21)]).toEqual([false, true]);
    const droops = (periods: number) =>
      warns(typed({ 'monitor.Ri': [1e4, 'Ω'], 'monitor.Ci': [(periods * at) / 1e4, 'F'] }), 'Ci');
    // A constant current through M: the capacitor of R·C has lost less than t/RC of it by t.
    expect([droops(100), droops(5)]).toEqual([false, true]);
  });
});
