import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import { agrees, decades, saidBy, typed } from '../../test/by-hand.ts';
import { integrate } from '../../test/integrate.ts';
import { rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 8 };

/** What a supply gives into a store at v, A. */
type Gives = (v: number) => number;

interface Charge {
  readonly C: number;
  readonly V0: number;
  /** Bleeder and meter side by side, Ω. */
  readonly Rb: number;
  readonly R: number;
}

/** A charge by a general-purpose integrator: s until it is there, and J lost before the terminals of the store. */
function charged({ C, V0, Rb, R }: Charge, gives: Gives) {
  const slope = (v: number) => (gives(v) - v / Rb) / C;
  if (slope(V0) <= 0) throw new Error('it does not get there');
  // Volts are what is known, and seconds what is asked: dt/dv, and the heat beside it.
  const [states] = [integrate((v) => [1 / slope(v), gives(v) ** 2 * R * (1 / slope(v)), gives(v) / slope(v)], [0, 0, 0], [V0])];
  const [time = NaN, lost = NaN, charge = NaN] = states[0] ?? [];
  return { time, lost, charge };
}

const store = fc.record({ C: decades(1e-5, 1e-2), V0: decades(100, 600), R: decades(100, 2e3), Rb: decades(1e5, 2e6) });
const side = (a: number, b: number): number => 1 / (1 / a + 1 / b);
const meter = 1e7;

const rigOf = ({ C, V0, R, Rb }: Charge, kind: string, more: Record<string, string>) =>
  rigWith({
    ...typed({
      'store.C': [C, 'F'],
      'store.V0': [V0, 'V'],
      'charging.R': [R, 'Ω'],
      'bleeder.R': [Rb, 'Ω'],
      'meter.R': [meter, 'Ω'],
    }),
    'store.ns': '1',
    'store.np': '1',
    'bleeder.n': '1',
    'supply.kind': kind,
    ...more,
  });

const odex = { source: 'the charge integrated by odex, a general-purpose integrator', within: 1e-6 };
const ohm = { source: 'Ohm’s law and Joule’s, worked beside the program, rigs at random', within: 1e-9 };

describe('supplies, each by what it gives into a store at any voltage', () => {
  test('a DC source behind its own resistance: time, first current, what it comes to, what it turns into heat', () => {
    fc.assert(
      fc.property(store, decades(1.3, 3), decades(1, 100), (one, over, Ri) => {
        const Vs = Number((one.V0 * over).toPrecision(4));
        const rig = rigOf(one, 'dc-source', typed({ 'supply.V': [Vs, 'V'], 'supply.R': [Ri, 'Ω'], 'supply.I': [2, 'A'] }));
        const all = one.R + Ri;
        const beside = side(one.Rb, meter);
        const by = charged({ ...one, Rb: beside, R: all }, (v) => (Vs - v) / all);
        agrees(rig, { figures: { 'charge-time': by.time } }, odex);
        agrees(
          rig,
          {
            figures: {
              'charge-towards': (Vs * beside) / (beside + all),
              'charging-current': Vs / all,
              'charging-resistance': all,
            },
            limits: { 'supply-current': [Vs / all, 2] },
          },
          ohm,
        );
        // What is lost on the way is what the resistors of the path turn into heat.
        agrees(rig, { figures: { 'charging-energy-lost': by.lost } }, { ...odex, within: 1e-5 });
      }),
      runs,
    );
  });

  test('a bench supply: its limit until its voltage is reached, then its voltage', () => {
    fc.assert(
      fc.property(store, decades(1.02, 1.6), decades(0.02, 1), (one, over, Il) => {
        const Vs = Number((one.V0 * over).toPrecision(4));
        const rig = rigOf(one, 'bench-supply', typed({ 'supply.V': [Vs, 'V'], 'supply.Il': [Il, 'A'] }));
        const beside = side(one.Rb, meter);
        const gives = (v: number) => Math.min(Il, (Vs - v) / one.R);
        fc.pre(gives(one.V0) > (1.05 * one.V0) / beside);
        const by = charged({ ...one, Rb: beside }, gives);
        agrees(rig, { figures: { 'charge-time': by.time, 'charging-energy-lost': by.lost } }, { ...odex, within: 2e-4 });
        agrees(rig, { figures: { 'charging-current': Math.min(Il, Vs / one.R) } }, ohm);
      }),
      runs,
    );
  });

  /** Constant power: as much as its voltage at that moment allows, never more than its limit, and nothing above its cut-off. */
  const constant =
    (P: number, Imax: number, Voff: number, R: number): Gives =>
    (v) =>
      Math.min(Imax, (Math.sqrt(v * v + 4 * R * P) - v) / (2 * R), (Voff - v) / R);

  const converter = fc.record({
    P: decades(10, 300),
    Imax: decades(0.05, 2),
    over: decades(1.1, 1.6),
    eta: fc.integer({ min: 50, max: 95 }),
  });

  test('a battery and its converter: the charge at constant power, what the battery gives, its fuse, how many charges it has', () => {
    const battery = fc.record({ E: decades(6, 48), Ri: decades(0.01, 0.05), Q: decades(1e3, 1e5) });
    fc.assert(
      fc.property(store, converter, battery, (one, { P, Imax, over, eta }, { E, Ri, Q }) => {
        const asked = P / (eta / 100);
        // A battery that can give so much at all: E²/4R is the most.
        fc.pre(asked < (0.8 * E * E) / (4 * Ri));
        const Voff = Number((one.V0 * over).toPrecision(4));
        const rig = rigOf(one, 'battery-converter', {
          ...typed({
            'supply.P': [P, 'W'],
            'supply.Imax': [Imax, 'A'],
            'supply.Voff': [Voff, 'V'],
            'supply.eta': [eta, '%'],
            'supply.hyst': [2, '%'],
          }),
          ...typed({
            'supply.E': [E, 'V'],
            'supply.Ri': [Ri, 'Ω'],
            'supply.Q': [Q, 'C'],
            'supply.Ibat': [20, 'A'],
            'supply.I': [1, 'A'],
          }),
        });
        const beside = side(one.Rb, meter);
        const gives = constant(P, Imax, Voff, one.R);
        fc.pre(gives(one.V0) > (1.05 * one.V0) / beside);
        const by = charged({ ...one, Rb: beside }, gives);
        agrees(rig, { figures: { 'charge-time': by.time, 'charging-energy-lost': by.lost } }, { ...odex, within: 5e-4 });
        // (E − I·R)·I is what is asked: the smaller root, and the voltage that is left at it.
        const I = (E - Math.sqrt(E * E - 4 * Ri * asked)) / (2 * Ri);
        agrees(
          rig,
          {
            figures: { 'charging-current': gives(0), 'input-current': I, 'input-voltage': E - I * Ri },
            limits: { 'supply-current': [gives(0), 1], 'battery-current': [I, 20] },
          },
          { ...ohm, within: 1e-8 },
        );
        const reading = new RigReading(rig);
        const each = reading.figure('source-energy').value;
        const charges = (Q * (E - I * Ri) * (eta / 100)) / each;
        expect(Math.abs(reading.figure('battery-charges').value / charges - 1)).toBeLessThan(1e-9);
        // A first guess for the fuse has half as much again; common practice, no source.
        expect(reading.figure('input-fuse').value).toBeGreaterThanOrEqual(1.5 * I * (1 - 1e-9));
      }),
      runs,
    );
  });

  test('a flyback makes of its frequency and its coil what it gives, and its diode bears the input through the turns', () => {
    const flyback = fc.record({
      Lp: decades(5e-6, 1e-4),
      Ip: decades(3, 30),
      f: decades(2e4, 1e5),
      N: decades(5, 60),
      E: decades(12, 60),
    });
    fc.assert(
      fc.property(store, converter, flyback, (one, { Imax, over, eta }, { Lp, Ip, f, N, E }) => {
        const Voff = Number((one.V0 * over).toPrecision(4));
        const rig = rigOf(one, 'driver', {
          'supply.topology': 'flyback',
          ...typed({
            'supply.Lp': [Lp, 'H'],
            'supply.Ip': [Ip, 'A'],
            'supply.f': [f, 'Hz'],
            'supply.N': [N, ''],
            'supply.E': [E, 'V'],
          }),
          ...typed({
            'supply.Imax': [Imax, 'A'],
            'supply.Voff': [Voff, 'V'],
            'supply.eta': [eta, '%'],
            'supply.hyst': [2, '%'],
            'supply.Iin': [15, 'A'],
          }),
        });
        const P = 0.5 * Lp * Ip ** 2 * f * (eta / 100);
        const drawn = P / (eta / 100) / E;
        agrees(
          rig,
          {
            figures: { 'driver-power': P, 'input-current': drawn, 'input-voltage': E },
            limits: { 'input-current': [drawn, 15] },
          },
          { ...ohm, within: 1e-8 },
        );
        const beside = side(one.Rb, meter);
        const gives = constant(P, Imax, Voff, one.R);
        fc.pre(gives(one.V0) > (1.05 * one.V0) / beside);
        const by = charged({ ...one, Rb: beside }, gives);
        agrees(rig, { figures: { 'charge-time': by.time } }, { ...odex, within: 5e-4 });
        const bridge = rigWith({ 'supply.topology': 'transformer', ...typed({ 'supply.P': [P, 'W'] }) }, rig);
        agrees(bridge, { figures: { 'driver-power': P, 'charge-time': by.time } }, { ...odex, within: 5e-4 });
      }),
      runs,
    );
  });

  test('a transformer on AC: its peak, its leakage by a short circuit, and the capacitance that resonates with it', () => {
    const transformer = fc.record({
      V: decades(2e3, 12e3),
      Isc: decades(0.01, 0.1),
      f: fc.constantFrom(50, 60),
      Rw: decades(100, 2e3),
      C: decades(2e-9, 5e-8),
    });
    fc.assert(
      fc.property(transformer, ({ V, Isc, f, Rw, C }) => {
        const X2 = (V / Isc) ** 2 - Rw ** 2;
        fc.pre(X2 > 0);
        const L = Math.sqrt(X2) / (2 * Math.PI * f);
        const rig = rigWith({
          'supply.kind': 'ac-transformer',
          'supply.impedance': 'short-circuit',
          ...typed({
            'supply.V': [V, 'V'],
            'supply.f': [f, 'Hz'],
            'supply.Isc': [Isc, 'A'],
            'supply.Rw': [Rw, 'Ω'],
            'store.C': [C, 'F'],
          }),
          'store.ns': '1',
          'store.np': '1',
        });
        const resonant = 1 / ((2 * Math.PI * f) ** 2 * L);
        agrees(
          rig,
          {
            figures: {
              'leakage-inductance': L,
              'mains-resonance': resonant,
              'tank-over-resonance': C / resonant,
              'charging-voltage': V * Math.SQRT2,
            },
          },
          { source: 'impedance of a series circuit, worked beside the program', within: 1e-8 },
        );
        const warned = saidBy(rig, 'supply').includes('warning Ll');
        expect(warned).toBe(C / resonant >= 0.7 && C / resonant <= 1.4);
      }),
      { numRuns: 20 },
    );
  });
});
