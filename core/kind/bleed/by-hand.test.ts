import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { agrees, decades, goalOf, oneCapacitor, saidBy, typed } from '../../test/by-hand.ts';
import { rigWith } from '../../test/rigs.ts';

/** A bank of one capacitor beside what empties it. */
const store = fc.record({ C: decades(1e-6, 1e-2), V0: decades(60, 3000) });
const bank = (of: { C: number; V0: number }) => oneCapacitor(of, 3);
const runs = { numRuns: 12 };

describe('bleeders, from Ohm’s law and the energy of a capacitor', () => {
  const against = { source: 'Ohm’s law and ½CV², worked beside the program, rigs at random', within: 1e-9 };

  test('strings side by side: power, voltage and energy of one resistor of them, and what stands along its body', () => {
    const strings = fc.record({
      R: decades(1e4, 1e7),
      n: fc.integer({ min: 1, max: 12 }),
      m: fc.integer({ min: 1, max: 6 }),
      rated: decades(1, 1e3),
      l: decades(5e-3, 0.3),
    });
    fc.assert(
      fc.property(store, strings, ({ C, V0 }, { R, n, m, rated, l }) => {
        const rig = rigWith({
          ...bank({ C, V0 }),
          ...typed({
            'bleeder.R': [R, 'Ω'],
            'bleeder.n': [n, ''],
            'bleeder.m': [m, ''],
            'bleeder.V': [rated, 'V'],
            'bleeder.P': [rated, 'W'],
            'bleeder.E': [rated, 'J'],
            'bleeder.l': [l, 'm'],
            'bleeder.Es': [250, 'V/mm'],
          }),
        });
        const [all, each] = [(R * n) / m, V0 / n];
        agrees(
          rig,
          {
            figures: { 'bleeder-power': V0 ** 2 / all, 'bleed-time': all * C * Math.log(V0 / goalOf(C, V0)) },
            limits: {
              'bleeder-voltage': [each, rated],
              'bleeder-power': [each ** 2 / R, rated],
              'bleeder-body': [each / l, 250e3],
              'bleeder-energy': [(C * V0 ** 2) / 2 / (n * m), rated],
            },
          },
          against,
        );
        const bare = rigWith({ 'bleeder.V': '', 'bleeder.P': '', 'bleeder.E': '', 'bleeder.l': '' }, rig);
        agrees(bare, { unjudged: ['bleeder-voltage', 'bleeder-power', 'bleeder-energy', 'bleeder-body'] }, against);
      }),
      runs,
    );
  });

  test('one across each group: the group whose resistor is highest has the most, and its resistor the most heat', () => {
    const groups = fc.record({
      R: decades(1e4, 1e7),
      n: fc.integer({ min: 1, max: 4 }),
      ng: fc.integer({ min: 2, max: 20 }),
      t: fc.integer({ min: 1, max: 20 }),
    });
    fc.assert(
      fc.property(store, groups, ({ C, V0 }, { R, n, ng, t }) => {
        const rig = rigWith({
          ...bank({ C, V0 }),
          'store.ns': String(ng),
          'store.np': '1',
          'store.Vr': '450 V',
          'bleeder.kind': 'each-element',
          'bleeder.R': `${R} Ω ±${t} %`,
          ...typed({ 'bleeder.n': [n, ''], 'bleeder.ng': [ng, ''], 'bleeder.V': [500, 'V'], 'bleeder.P': [3, 'W'] }),
        });
        const [high, low] = [1 + t / 100, 1 - t / 100];
        const most = (V0 * high) / (high + (ng - 1) * low);
        agrees(
          rig,
          {
            figures: { 'bleeder-power': V0 ** 2 / (R * n * ng), 'group-rest-voltage': most },
            limits: {
              'group-rest-voltage': [most, 450],
              'bleeder-voltage': [most / n, 500],
              'bleeder-power': [(most / n) ** 2 / R, 3],
            },
          },
          against,
        );
      }),
      runs,
    );
  });

  test('a dump behind a relay: its time and hold, its first current, and how much warmer one resistor gets', () => {
    // Specific heats as the program has them, common practice, no source: J/(kg·K), and how much warmer each may get, K.
    const bodies = fc.constantFrom(['wire-wound', 460, 300], ['ceramic', 840, 100], ['column', 4180, 30] as const);
    const dump = fc.record({ R: decades(10, 1e5), n: fc.integer({ min: 1, max: 8 }), m: decades(1e-3, 10), l: decades(0.02, 1) });
    fc.assert(
      fc.property(store, dump, bodies, ({ C, V0 }, { R, n, m, l }, [body, c, rise]) => {
        const ratings = typed({
          'dump.V': [700, 'V'],
          'dump.P': [4e3, 'W'],
          'dump.E': [90, 'J'],
          'dump.Vo': [5, 'kV'],
          'dump.Ic': [30, 'A'],
        });
        const rig = rigWith({
          ...bank({ C, V0 }),
          'dump.kind': 'relay',
          'dump.body': String(body),
          ...typed({ 'dump.R': [R, 'Ω'], 'dump.n': [n, ''], 'dump.m': [m, 'kg'], 'dump.l': [l, 'm'], 'dump.Es': [300, 'V/mm'] }),
          ...ratings,
        });
        const [all, each, E] = [R * n, V0 / n, (C * V0 ** 2) / 2];
        const time = all * C * Math.log(V0 / goalOf(C, V0));
        agrees(
          rig,
          {
            figures: {
              'dump-time': time,
              'dump-hold': Math.max(time, 10),
              'dump-current': V0 / all,
              'dump-energy': E / n,
              'dump-rise': E / n / (m * Number(c)),
            },
            limits: {
              'dump-energy': [E / n, 90],
              'dump-power': [each ** 2 / R, 4e3],
              'dump-voltage': [each, 700],
              'dump-heat': [E / n / (m * Number(c)), Number(rise)],
              'dump-body': [each / l, 300e3],
              'dump-relay-voltage': [V0, 5e3],
              'dump-relay-current': [V0 / all, 30],
            },
          },
          against,
        );
        agrees(
          rigWith({ 'dump.m': '', 'dump.Vo': '', 'dump.Ic': '' }, rig),
          { unjudged: ['dump-heat', 'dump-relay-voltage', 'dump-relay-current'] },
          against,
        );
      }),
      runs,
    );
  });

  test('a stick of resistors takes all that is stored, and is held for ten seconds at the least', () => {
    const tool = fc.record({ R: decades(10, 1e5), n: fc.integer({ min: 1, max: 10 }) });
    fc.assert(
      fc.property(store, tool, ({ C, V0 }, { R, n }) => {
        const rig = rigWith({
          ...bank({ C, V0 }),
          ...typed({ 'tool.R': [R, 'Ω'], 'tool.n': [n, ''], 'tool.V': [350, 'V'], 'tool.P': [2e3, 'W'], 'tool.E': [60, 'J'] }),
        });
        const [each, E] = [V0 / n, (C * V0 ** 2) / 2];
        const time = R * n * C * Math.log(V0 / goalOf(C, V0));
        agrees(
          rig,
          {
            figures: {
              'tool-peak-power': V0 ** 2 / (R * n),
              'tool-energy': E / n,
              'tool-time': time,
              'tool-hold': Math.max(10, time),
              'tool-time-tenth': R * n * C * Math.log(10),
            },
            limits: { 'tool-energy': [E / n, 60], 'tool-power': [each ** 2 / R, 2e3], 'tool-voltage': [each, 350] },
          },
          against,
        );
      }),
      runs,
    );
  });
});

describe('a stick with LEDs, stepped through in time', () => {
  interface Lamp {
    readonly Rs: number;
    readonly Rp: number;
    readonly Rl: number;
    readonly Vz: number;
    readonly Vf: number;
  }

  /** Current into the stick, A, current of the lamp and of the clamp, with V across the stick. Circuit theory, ideal clamp and lamp. */
  function currents(V: number, { Rs, Rp, Rl, Vz, Vf }: Lamp) {
    const unlit = Rp === Infinity ? V : (V * Rp) / (Rs + Rp);
    const lit = Rp === Infinity ? (V / Rs + Vf / Rl) / (1 / Rs + 1 / Rl) : (V / Rs + Vf / Rl) / (1 / Rs + 1 / Rp + 1 / Rl);
    const node = Math.min(Vz, unlit > Vf ? lit : unlit);
    const lamp = Math.max(0, (node - Vf) / Rl);
    const all = (V - node) / Rs;
    return { all, lamp, clamp: node < Vz ? 0 : all - lamp - (Rp === Infinity ? 0 : node / Rp) };
  }

  /** s until the lamp is out, and J in the clamp by then: the store emptied in small steps of its voltage. */
  function emptied(C: number, V0: number, lamp: Lamp, beside: number, Il: number) {
    const steps = 200_000;
    let [t, E, V] = [0, 0, V0];
    const fall = (V0 / 0.5) ** (1 / steps);
    for (let k = 0; k < steps; k++) {
      // A little less each time, and the same share of it; the middle of the step stands for it.
      const next = V / fall;
      const { all, lamp: lit, clamp } = currents((V + next) / 2, lamp);
      if (lit < Il) break;
      const dt = (C * (V - next)) / (all + (V + next) / 2 / beside);
      [t, E, V] = [t + dt, E + clamp * lamp.Vz * dt, next];
    }
    return { t, E, V };
  }

  const lamps = fc.record({
    R: decades(500, 5000),
    n: fc.integer({ min: 1, max: 6 }),
    Rb: decades(3e3, 3e4),
    Rp: decades(300, 3000),
    Rl: decades(300, 3000),
    Vz: decades(8, 20),
    Vf: decades(1.2, 2.4),
    Il: decades(1e-4, 1e-3),
  });

  test.each(['row', 'branch'] as const)('wired as a %s', (wiring) => {
    fc.assert(
      fc.property(
        fc.record({ C: decades(1e-5, 1e-2), V0: decades(200, 1000) }),
        lamps,
        ({ C, V0 }, { R, n, Rb, Rp, Rl, Vz, Vf, Il }) => {
          const rig = rigWith({
            ...bank({ C, V0 }),
            'tool.kind': 'lamp-tool',
            'tool.wiring': wiring,
            ...typed({
              'tool.R': [R, 'Ω'],
              'tool.n': [n, ''],
              'tool.Rl': [Rl, 'Ω'],
              'tool.Vz': [Vz, 'V'],
              'tool.Vf': [Vf, 'V'],
              'tool.Il': [Il, 'A'],
            }),
            ...typed(wiring === 'branch' ? { 'tool.Rb': [Rb, 'Ω'], 'tool.Pb': [20, 'W'] } : { 'tool.Rp': [Rp, 'Ω'] }),
            ...typed({ 'tool.Im': [20, 'mA'], 'tool.Pz': [5, 'W'], 'tool.Ez': [2, 'J'] }),
          });
          const isBranch = wiring === 'branch';
          const lamp = { Rs: isBranch ? Rb : R * n, Rp: isBranch ? Infinity : Rp, Rl, Vz, Vf };
          const first = currents(V0, lamp);
          const out = (Il * Rl + Vf) * (1 + lamp.Rs / lamp.Rp) + Il * lamp.Rs;
          const beside = isBranch ? R * n : Infinity;
          const by = emptied(C, V0, lamp, beside, Il);
          const exact = { source: 'Kirchhoff’s laws at one instant, worked beside the program, rigs at random', within: 1e-9 };
          agrees(
            rig,
            {
              figures: {
                'lamp-out': out,
                'lamp-current': first.lamp,
                'clamp-power': first.clamp * Vz,
                ...(isBranch ? { 'branch-power': V0 ** 2 / Rb } : {}),
              },
              limits: {
                'lamp-current': [first.lamp, 20e-3],
                'clamp-power': [first.clamp * Vz, 5],
                ...(isBranch ? { 'branch-power': [V0 ** 2 / Rb, 20] as const } : {}),
              },
            },
            exact,
          );
          const stepped = { source: 'the store emptied in 200,000 steps of its voltage by other code', within: 2e-3 };
          agrees(
            rig,
            { figures: { 'lamp-on-time': by.t, 'clamp-energy': by.E }, limits: { 'clamp-energy': [by.E, 2] } },
            stepped,
          );
          // What is left when the lamp goes out is said by name where it is more than a hand may touch.
          const says = saidBy(rig, 'tool').includes(isBranch ? 'warning Rb' : 'warning Rp');
          expect(says).toBe(out > 50);
        },
      ),
      { numRuns: 8 },
    );
  });
});
