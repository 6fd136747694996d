import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { agrees, decades, saidBy, typed } from '../../test/by-hand.ts';
import { rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 15 };
const definitions = { source: 'capacitors in series and side by side, worked beside the program, banks at random', within: 1e-9 };

const bank = fc.record({
  C: decades(1e-5, 1e-2),
  ns: fc.integer({ min: 1, max: 8 }),
  np: fc.integer({ min: 1, max: 12 }),
  V0: decades(60, 2000),
  t: fc.integer({ min: 0, max: 20 }),
  Vr: decades(100, 1000),
});
type Bank = typeof bank extends fc.Arbitrary<infer T> ? T : never;

const rigOf = ({ C, ns, np, V0, t, Vr }: Bank, more: Record<string, string> = {}) =>
  rigWith({
    'store.C': `${C} F ±${t} %`,
    ...typed({ 'store.ns': [ns, ''], 'store.np': [np, ''], 'store.V0': [V0, 'V'], 'store.Vr': [Vr, 'V'] }),
    ...typed({ 'supply.V': [Number((2 * V0).toPrecision(4)), 'V'], 'bleeder.R': [10, 'MΩ'] }),
    'store.share': '',
    ...more,
  });

/** Share of the voltage on a capacitor that is as low as it may be, all others of its string as high. */
const worstShare = (ns: number, t: number): number => {
  const [low, high] = [1 / (1 - t / 100), 1 / (1 + t / 100)];
  return low / (low + (ns - 1) * high);
};

describe('a bank of capacitors', () => {
  test('as one: capacitance, resistance, inductance, what it leaks by, and what each bears at the worst of its tolerance', () => {
    const lead = fc.record({
      ESR: decades(1e-3, 0.1),
      ESL: decades(5e-9, 5e-7),
      Rs: decades(1e-3, 1),
      Ls: decades(1e-9, 1e-6),
      Ri: decades(1e6, 1e10),
    });
    fc.assert(
      fc.property(bank, lead, (one, { ESR, ESL, Rs, Ls, Ri }) => {
        const rig = rigOf(one, {
          ...typed({
            'store.ESR': [ESR, 'Ω'],
            'store.ESL': [ESL, 'H'],
            'store.Rs': [Rs, 'Ω'],
            'store.Ls': [Ls, 'H'],
            'store.Ri': [Ri, 'Ω'],
          }),
          'load.length': '',
          ...typed({ 'load.R': [0.5, 'Ω'], 'load.L': [2, 'µH'], 'switch.R': [1, 'mΩ'] }),
        });
        const { C, ns, np, V0, t, Vr } = one;
        const all = (C * np) / ns;
        const each = V0 * worstShare(ns, t);
        agrees(
          rig,
          {
            figures: {
              'bank-capacitance': all,
              'stored-energy': (all * V0 ** 2) / 2,
              'stored-charge': all * V0,
              'loop-resistance': ((ESR + Rs) * ns) / np + 0.501,
              'loop-inductance': ((ESL + Ls) * ns) / np + 2e-6,
              // Its own insulation is all that is left when the bleeder is off.
              'bleed-time-open-tenth': ((Ri * ns) / np) * all * Math.LN10,
            },
            limits: { 'capacitor-voltage': [V0, ns * Vr], 'element-voltage': [each, Vr] },
          },
          definitions,
        );
        // What was measured group by group stands in place of the tolerance.
        const share = Number(Math.min(1, 1.1 / ns).toPrecision(6));
        agrees(rigWith({ 'store.share': String(share) }, rig), { limits: { 'element-voltage': [V0 * share, Vr] } }, definitions);
        agrees(rigWith({ 'store.Vr': '' }, rig), { unjudged: ['capacitor-voltage', 'element-voltage'] }, definitions);
      }),
      runs,
    );
  });

  test('lasts as often longer as its voltage is lower, to the power that was entered', () => {
    fc.assert(
      fc.property(bank, fc.integer({ min: 1, max: 20 }), decades(100, 1e6), (one, n, Nr) => {
        const rig = rigOf(one, typed({ 'store.Nr': [Nr, ''], 'store.nl': [n, ''] }));
        const each = one.V0 * worstShare(one.ns, one.t);
        // The law is refused far from its rating.
        fc.pre(each < 1.2 * one.Vr && each > 0.4 * one.Vr);
        agrees(rig, { figures: { 'life-shots': Nr * (one.Vr / each) ** n } }, { ...definitions, within: 1e-8 });
      }),
      runs,
    );
  });

  test('is reversed by what a loop that rings leaves on it; a polar one is held to volts, another to a share', () => {
    const loop = fc.record({ damping: decades(0.05, 0.9), L: decades(1e-6, 1e-4) });
    fc.assert(
      fc.property(bank, loop, (one, { damping, L }) => {
        const all = (one.C * one.np) / one.ns;
        const R = Number((2 * damping * Math.sqrt(L / all)).toPrecision(6));
        const base = {
          'load.length': '',
          ...typed({
            'store.ESR': [0, 'Ω'],
            'store.ESL': [0, 'H'],
            'switch.R': [0, 'Ω'],
            'load.R': [R, 'Ω'],
            'load.L': [L, 'H'],
          }),
        };
        // Of a damped swing: exp(−π·a/w) between one peak of the voltage and the next.
        const a = R / (2 * L);
        const k = Math.exp((-Math.PI * a) / Math.sqrt(1 / (L * all) - a * a));
        const film = rigOf(one, { ...base, 'store.polarity': 'non-polar', 'store.reversal': '30 %' });
        const swing = { source: 'damped swing in closed form, worked beside the program', within: 1e-8 };
        agrees(
          film,
          { figures: { 'voltage-reversal': k, 'damping-ratio': damping }, limits: { reversal: [k, 0.3] } },
          { ...swing, within: 1e-4 },
        );
        agrees(film, { figures: { 'voltage-reversal': k }, limits: { reversal: [k, 0.3] } }, swing);
        const polar = rigOf(one, { ...base, 'store.polarity': 'polar', 'store.Vrev': '2 V' });
        agrees(polar, { limits: { reversal: [(k * one.V0) / one.ns, 2] } }, swing);
      }),
      runs,
    );
  });

  test('with a fuse in each lead: each has its share of the current, squared, and must break the voltage of the store', () => {
    fc.assert(
      fc.property(bank, decades(1, 1e5), (one, Am) => {
        const rig = rigOf(
          one,
          typed({
            'store.Am': [Am, 'A²s'],
            'store.Vf': [900, 'V'],
            'store.ESR': [0, 'Ω'],
            'switch.R': [0, 'Ω'],
            'load.R': [0.2, 'Ω'],
          }),
        );
        // All of the energy goes into the one resistance of the loop.
        const action = (((one.C * one.np) / one.ns) * one.V0 ** 2) / 2 / 0.2;
        // Half of what melts it, shot after shot; common practice, no source.
        const limits = { 'fuse-shot': [action / one.np ** 2, 0.5 * Am], 'fuse-voltage': [one.V0, 900] } as const;
        agrees(rig, { figures: { 'action-integral': action }, limits }, { ...definitions, within: 1e-8 });
        expect(saidBy(rig, 'store')).not.toContain('error Vf');
        expect(saidBy(rigWith({ 'store.Vf': '' }, rig), 'store')).toContain('error Vf');
        expect(saidBy(rigWith({ 'store.Vf': '', 'store.Am': '' }, rig), 'store')).not.toContain('error Vf');
      }),
      runs,
    );
  });

  test('a share that no group of so many can have is an error at the share; an even one is none', () => {
    const one: Bank = { C: 1e-3, ns: 4, np: 1, V0: 200, t: 10, Vr: 100 };
    const said = (share: string) => saidBy(rigOf(one, { 'store.share': share }), 'store');
    expect(said('24 %')).toContain('error share');
    expect(said('25 %')).not.toContain('error share');
    // Five digits are kept of what the composer found.
    expect(said('24.998 %')).not.toContain('error share');
    expect(said('')).not.toContain('error share');
  });

  test('that a supply cannot reach is an error at its voltage', () => {
    const one: Bank = { C: 1e-3, ns: 1, np: 1, V0: 200, t: 0, Vr: 450 };
    const path = { 'charging.R': '10 kΩ', 'supply.R': '0 Ω', 'bleeder.R': '90 kΩ', 'meter.R': '999 TΩ' };
    // Nine tenths of what the supply gives: the bleeder takes the rest.
    expect(saidBy(rigOf(one, { ...path, 'supply.V': '220 V' }), 'store')).toContain('error V0');
    expect(saidBy(rigOf(one, { ...path, 'supply.V': '225 V' }), 'store')).not.toContain('error V0');
  });
});

describe('what stands across the load or is charged by it', () => {
  const loops = fc.record({
    C: decades(1e-5, 1e-3),
    V0: decades(100, 2000),
    L: decades(1e-6, 1e-4),
    damping: decades(0.05, 0.9),
  });
  const base = ({ C, V0, L, damping }: { C: number; V0: number; L: number; damping: number }) => {
    const R = Number((2 * damping * Math.sqrt(L / C)).toPrecision(6));
    const rig = rigOf(
      { C, ns: 1, np: 1, V0, t: 0, Vr: 3000 },
      {
        'load.length': '',
        ...typed({ 'store.ESR': [0, 'Ω'], 'store.ESL': [0, 'H'], 'switch.R': [0, 'Ω'], 'load.R': [R, 'Ω'], 'load.L': [L, 'H'] }),
      },
    );
    const a = R / (2 * L);
    return { rig, R, a, w: Math.sqrt(1 / (L * C) - a * a) };
  };

  test('a crowbar takes over what flows as the store comes to zero; of several diodes one blocks the most', () => {
    const diodes = fc.record({ nd: fc.integer({ min: 1, max: 10 }), s: fc.integer({ min: 0, max: 50 }) });
    fc.assert(
      fc.property(loops, diodes, (one, { nd, s }) => {
        const { rig, a, w } = base(one);
        const crowbar = rigWith(
          {
            'crowbar.kind': 'diode',
            ...typed({ 'crowbar.nd': [nd, ''], 'crowbar.sd': [s, '%'], 'crowbar.Vf': [1.2, 'V'], 'crowbar.R': [2, 'mΩ'] }),
            ...typed({ 'crowbar.Ip': [5, 'kA'], 'crowbar.Vd': [800, 'V'], 'crowbar.A': [1e5, 'A²s'] }),
          },
          rig,
        );
        // Voltage of the store: V0·e^(−at)·(cos wt + a/w·sin wt); it is zero where tan wt = −w/a, in the second quarter.
        const t = (Math.PI - Math.atan(w / a)) / w;
        const current = (one.V0 / (w * one.L)) * Math.exp(-a * t) * Math.sin(w * t);
        agrees(
          crowbar,
          {
            figures: { 'crowbar-current': current },
            limits: {
              'crowbar-current': [current, 5e3],
              'crowbar-reverse': [(one.V0 * (1 + s / 100)) / (nd + s / 100), 800],
            },
          },
          { source: 'damped swing in closed form, worked beside the program', within: 1e-6 },
        );
      }),
      runs,
    );
  });

  test('a peaking capacitor shares the charge, swings above it as far as the loop lets it, and loses the rest as heat', () => {
    fc.assert(
      fc.property(loops, decades(0.01, 3), (one, over) => {
        const C2 = Number((one.C * over).toPrecision(5));
        const loop = (one.C * C2) / (one.C + C2);
        const R = Number((2 * one.damping * Math.sqrt(one.L / loop)).toPrecision(6));
        const rig = rigWith(
          {
            'load.kind': 'second-capacitor',
            ...typed({ 'load.C': [C2, 'F'], 'load.R': [R, 'Ω'], 'load.L': [one.L, 'H'], 'load.Vr': [5, 'kV'] }),
          },
          base(one).rig,
        );
        const a = R / (2 * one.L);
        const k = Math.exp((-Math.PI * a) / Math.sqrt(1 / (one.L * loop) - a * a));
        const settled = (one.V0 * one.C) / (one.C + C2);
        const E = (one.C * one.V0 ** 2) / 2;
        agrees(
          rig,
          {
            figures: {
              'load-peak-voltage': settled * (1 + k),
              'ringing-gain': (settled * (1 + k)) / one.V0,
              'transfer-final-voltage': settled,
              'transfer-loss': E - ((one.C + C2) * settled ** 2) / 2,
              'transfer-peak-energy': (C2 * (settled * (1 + k)) ** 2) / 2,
              'transfer-efficiency': (C2 * (settled * (1 + k)) ** 2) / 2 / E,
            },
          },
          { source: 'charge and energy kept, damped swing in closed form, worked beside the program', within: 1e-7 },
        );
      }),
      runs,
    );
  });

  test('a water resistor: its column cold, the field along it, and how much warmer a shot makes the water', () => {
    const column = fc.record({
      rho: decades(0.05, 5),
      l: decades(0.1, 1),
      d: decades(0.01, 0.1),
      T: fc.integer({ min: 5, max: 60 }),
    });
    fc.assert(
      fc.property(loops, column, (one, { rho, l, d, T }) => {
        const rig = rigWith(
          {
            'load.kind': 'water-resistor',
            'load.salt': 'measured',
            ...typed({
              'load.rho': [rho, 'Ω·m'],
              'load.l': [l, 'm'],
              'load.d': [d, 'm'],
              'load.T': [T, '°C'],
              'load.L': [one.L, 'H'],
            }),
            ...typed({ 'load.Es': [500, 'V/mm'], 'load.dTr': [20, 'K'] }),
          },
          base(one).rig,
        );
        const area = Math.PI * (d / 2) ** 2;
        // Two per cent a kelvin from 20 °C, from memory.
        const R = (rho * l) / area / (1 + 0.02 * (T - 20));
        // All of the energy goes into the one resistance; a litre of water takes 4184 J for a kelvin.
        const E = (one.C * one.V0 ** 2) / 2;
        const warmer = E / (4184 * 1000 * area * l);
        agrees(
          rig,
          {
            figures: { 'column-resistance': R, 'load-energy': E, 'column-warming': warmer, 'loop-resistance': R },
            limits: { 'column-warming': [warmer, 20] },
          },
          { source: 'resistance and heat of a column, worked beside the program; from memory', memory: true, within: 1e-7 },
        );
      }),
      runs,
    );
  });
});
