import type { Settings, Starter, Tuned } from '../../block/index.ts';
import { quantity, within } from '../../field/index.ts';
import { gapFor, wish } from './bank.ts';
import { around, meter, stepBelow, two } from './neighbours.ts';
import { pictures } from './pictures.ts';

/** Everything of a Tesla coil in proportion to its secondary: frequency goes with the size, the tuning stays. */
function coil(D: number): Settings {
  return {
    load: {
      kind: 'tank-secondary',
      fields: {
        r0: two(0.85 * D),
        p: two(0.12 * D),
        d1: two(Math.min(0.06 * D, 12e-3)),
        n1: 13,
        n: 9,
        Ll: 9e-6 * D,
        D2: D,
        l2: two(4.2 * D),
        N2: 1000,
        d2: Number(((4.2 * D) / 1010).toPrecision(3)),
        dw: Number(((3.75 * D) / 1010).toPrecision(3)),
        h: two(0.25 * D),
        Dt: two(2.9 * D),
        dt: two(0.72 * D),
      },
    },
  };
}

/** F of the primary capacitor that tunes such a coil at nine turns, each metre of its secondary. */
const perMetre = 159e-9;

const secondary = quantity('Diameter of the secondary', 'm', within(40e-3, 400e-3), '110 mm');

/** V that a rotary gap holds where it passes: so far below what the tank has come to that it fires at each pass. Common practice, no source. */
const held = (V: number): number => 0.75 * V;

/** The tap, where the tank and its secondary are in tune. */
const tap: Tuned = { path: 'load.n', figure: 'tuning-tap' };

const tankAt = (V: number, D: number): { readonly C: number; readonly settings: Settings } => {
  const C = Number((perMetre * D).toPrecision(3));
  return {
    C,
    settings: {
      ...around({ V, C }),
      ...coil(D),
      store: {
        kind: 'tank-capacitor',
        fields: {
          C: Number((C * 4).toPrecision(3)),
          ns: 4,
          V0: V,
          ESR: 15e-3,
          dielectric: 'polypropylene',
          reversal: 1,
          Ri: null,
        },
      },
    },
  };
};

export const teslaDcStarter: Starter = {
  id: 'tesla-coil-dc',
  title: 'Tesla coil, DC resonant charging',
  says: 'A primary tank charged through a choke, broken by a gap, tuned to a secondary.',
  words: ['tesla coil', 'sgtc', 'resonant', 'secondary', 'top load', 'streamer'],
  picture: pictures.teslaDc,
  asks: {
    D: secondary,
    V: quantity('Firing voltage of the gap', 'V', within(3e3, 20e3), '7 kV', { tolerance: true }),
    f: quantity('Break rate', 'Hz', within(50, 600), '400 Hz'),
  },
  typed: { D: 'load.D2', V: 'store.V0' },
  tuned: [
    { path: 'switch.d', figure: 'self-break', is: held },
    { path: 'supply.V', figure: 'break-voltage', is: (V0) => V0 },
    tap,
  ],
  settings: (wishes) => {
    const [D, V, f] = [wish(wishes, 'D'), wish(wishes, 'V'), wish(wishes, 'f')];
    const { C, settings } = tankAt(V, D);
    // Half of its ring fits into the time between two breaks, so that the choke charges to nearly twice the supply.
    const L = two((0.92 / (Math.PI * f)) ** 2 / C);
    return {
      ...settings,
      supply: { kind: 'dc-source', fields: { V: two(V * 0.52), R: 100 } },
      charging: { kind: 'choke-diode', fields: { L, nd: Math.ceil(V / 700), Rl: two(L * 12) } },
      switch: { kind: 'rotary-gap', fields: { n: f, k: 2, ...gapFor(held(V) / 2) } },
    };
  },
};

export const teslaAcStarter: Starter = {
  id: 'tesla-coil-ac',
  title: 'Tesla coil, AC',
  says: 'A current-limited transformer across a gap, and a tank that the gap closes.',
  words: ['tesla coil', 'sgtc', 'neon transformer', 'top load', 'streamer', 'static gap'],
  picture: pictures.teslaAc,
  asks: {
    D: secondary,
    V: quantity('Transformer voltage, rms', 'V', within(3e3, 15e3), '9 kV'),
    I: quantity('Short-circuit current, rms', 'A', within(5e-3, 1), '60 mA'),
  },
  typed: { D: 'load.D2', V: 'supply.V', I: 'supply.Isc' },
  tuned: [{ path: 'switch.d', figure: 'self-break', is: (V0) => V0 }, tap],
  settings: (wishes) => {
    const [D, V, I] = [wish(wishes, 'D'), wish(wishes, 'V'), wish(wishes, 'I')];
    const fires = two(V * Math.SQRT2 * 0.8);
    const { C, settings } = tankAt(fires, D);
    return {
      ...settings,
      // Left on without a break, the transformer rings the tank up.
      ...meter(fires * 3, C),
      supply: { kind: 'ac-transformer', fields: { V, impedance: 'short-circuit', Isc: I, Rw: stepBelow((0.05 * V) / I) } },
      charging: { kind: 'direct' },
      switch: { kind: 'static-gap', fields: { k: 5, ...gapFor(fires / 5) } },
    };
  },
};
