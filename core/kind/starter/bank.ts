import type { Setting, Settings, Starter, Tuned, Wishes } from '../../block/index.ts';
import { choice, quantity, within } from '../../field/index.ts';
import { around, leakOf, sourceAndResistor, sourceVoltage, stepBelow, two, type Surrounded } from './neighbours.ts';
import { pictures } from './pictures.ts';

export const wish = (wishes: Wishes, id: string): number => Number(wishes[id]);

/** V up to which a thyristor of a usual size holds the store off; above, a spark gap stands there. Common practice, no source. */
const thyristorUpTo = 2500;

/** Fixed by what a store is charged to: a thyristor, or a spark gap that a generator triggers. */
const switchFor = (V: number, direction = 'one-way'): Settings =>
  V <= thyristorUpTo
    ? { switch: { kind: 'thyristor', fields: { direction } } }
    : { switch: { kind: 'spark-gap', fields: gapFor(V * triggeredAt) }, trigger: { kind: 'trigger-generator' } };

/** V of self-break that a triggered gap is set to, against what it holds off: fired reliably, hardly a pre-fire. Common practice, no source. */
export const triggeredAt = 1 / 0.8;

/** Spheres of a gap and about how far apart they stand: 24.2 kV/cm and 6.1 kV on the root of it, in air. From memory. */
export function gapFor(Vb: number): { readonly d: number; readonly D: number } {
  const root = (-6.08 + Math.sqrt(6.08 ** 2 + (4 * 24.22 * Vb) / 1e3)) / (2 * 24.22);
  const d = two(root ** 2 * 1e-2);
  return { d, D: two(Math.max(20e-3, 3 * d)) };
}

/** The gap of a switch, set by its own figure to what it has to hold. */
export const gapTuned: Tuned = {
  path: 'switch.d',
  figure: 'self-break',
  is: (V0) => V0 * triggeredAt,
};

/** What a pulse capacitor has that is made for discharges. Common practice, no source. */
const pulse = { ESR: 3e-3, ESL: 40e-9 };

/** F that hold an energy at a voltage. */
export const capacitanceFor = (E: number, V: number): number => two((2 * E) / V ** 2);

const supplies = choice('Supply at hand', {
  source: 'DC supply',
  transformer: 'Mains transformer with a rectifier',
  battery: 'Battery with a step-up converter',
});

/** What charges a store, by what is at hand. */
function chargedBy(supply: string, store: Surrounded): Settings {
  const { V, C } = store;
  const made = sourceAndResistor(store);
  const nd = Math.max(1, Math.ceil(V / 400));
  if (supply === 'transformer')
    return {
      ...made,
      supply: { kind: 'mains-transformer', fields: { V: two((sourceVoltage(store) + 3 * nd) / Math.SQRT2), nd } },
    };
  if (supply === 'battery')
    return {
      supply: {
        kind: 'battery-converter',
        fields: { Voff: Number((V * 1.02).toPrecision(3)), P: two((C * V ** 2) / 2 / 15 + (3 * V ** 2) / leakOf(store)) },
      },
      charging: { kind: 'direct' },
    };
  return made;
}

/** A bank of one capacitor, or as many as the person then enters, with all that stands about it. */
export const bankAt = (
  V: number,
  C: number,
  supply: string,
  more: Setting['fields'] = {},
  time: Pick<Surrounded, 'charge' | 'waits' | 'stores'> = {},
): Settings => ({
  ...chargedBy(supply, { V, C, ...time }),
  ...around({ V, C, ...time }),
  // What rings fast is let ring out: a thyristor that opens at the first zero leaves the store charged the other way round.
  ...switchFor(V, more === pulse ? 'both-ways' : 'one-way'),
  store: { kind: 'capacitor-bank', fields: { C, V0: V, ...more } },
});

export const bankStarter: Starter = {
  id: 'bank',
  title: 'Capacitor bank',
  says: 'Energy stored and discharged into a load of your own.',
  words: ['discharge', 'pulse', 'photoflash', 'store'],
  picture: pictures.bank,
  asks: {
    V: quantity('Charged to', 'V', within(10, 20e3), '400 V', { tolerance: true }),
    E: quantity('Energy', 'J', within(0.1, 100e3), '100 J'),
    into: choice('Load', { 'resistor-inductor': 'Resistor and inductor', 'dummy-resistor': 'Dummy resistor' }),
    supply: supplies,
  },
  typed: { V: 'store.V0' },
  tuned: [gapTuned],
  settings: (wishes) => {
    const V = wish(wishes, 'V');
    const C = capacitanceFor(wish(wishes, 'E'), V);
    const R = stepBelow(Math.max(V / 500, 0.1));
    return {
      ...bankAt(V, C, String(wishes['supply'])),
      load:
        wishes['into'] === 'dummy-resistor'
          ? { kind: 'dummy-resistor', fields: { R } }
          : { kind: 'resistor-inductor', fields: { R } },
    };
  },
};

export const magnetiserStarter: Starter = {
  id: 'magnetiser',
  title: 'Magnetiser',
  says: 'A strong field in the bore of a coil, for some hundred microseconds.',
  words: ['magnet', 'field', 'tesla', 'pulsed field', 'magnetising'],
  picture: pictures.magnetiser,
  asks: {
    D: quantity('Bore', 'm', within(5e-3, 0.15), '30 mm'),
    B: quantity('Field at the centre', 'T', within(0.2, 10), '2 T'),
    V: quantity('Charged to', 'V', within(100, 3000), '800 V', { tolerance: true }),
  },
  typed: { V: 'store.V0', D: 'load.Df', B: 'load.Bs' },
  tuned: [gapTuned],
  settings: (wishes) => {
    const [D, B, V] = [wish(wishes, 'D'), wish(wishes, 'B'), wish(wishes, 'V')];
    const [N, l] = [16, 1.6 * D];
    const d = two((l / N) * 0.86);
    const mean = D + d;
    const I = (B * Math.hypot(l, mean)) / (4e-7 * Math.PI * N);
    // Inductance of a short coil as Wheeler has it, and for leads and switch; the store has more than twice what it then holds, for what the resistance takes.
    const L = (4e-7 * Math.PI * N ** 2 * Math.PI * (mean / 2) ** 2) / (l + 0.45 * mean) + 0.7e-6;
    const C = two((2.4 * L * I ** 2) / V ** 2);
    return {
      ...bankAt(V, C, 'source', pulse),
      load: { kind: 'coil', fields: { Df: D, l: two(l), d, build: two(d * 0.05), N, Bs: B } },
    };
  },
};

export const canStarter: Starter = {
  id: 'can-crusher',
  title: 'Can crusher',
  says: 'A work coil that crushes a can by the currents in its wall.',
  words: ['magnetic forming', 'coin', 'work coil', 'pressure'],
  picture: pictures.can,
  asks: {
    V: quantity('Charged to', 'V', within(400, 12e3), '2.4 kV', { tolerance: true }),
    E: quantity('Energy', 'J', within(50, 20e3), '400 J'),
  },
  typed: { V: 'store.V0' },
  tuned: [gapTuned],
  settings: (wishes) => {
    const V = wish(wishes, 'V');
    return {
      ...bankAt(V, capacitanceFor(wish(wishes, 'E'), V), 'source', pulse),
      load: { kind: 'can-crusher', fields: { d: 6e-3, l: 24e-3 } },
    };
  },
};

export const wireStarter: Starter = {
  id: 'exploding-wire',
  title: 'Exploding wire',
  says: 'A wire or a foil that melts, boils and bursts within microseconds.',
  words: ['burst', 'foil', 'fuse', 'plasma', 'opening switch'],
  picture: pictures.wire,
  asks: {
    V: quantity('Charged to', 'V', within(300, 20e3), '6 kV', { tolerance: true }),
    E: quantity('Energy', 'J', within(5, 20e3), '300 J'),
    l: quantity('Length of the wire', 'm', within(5e-3, 1), '60 mm'),
  },
  typed: { V: 'store.V0', l: 'load.lx' },
  tuned: [gapTuned],
  settings: (wishes) => {
    const [V, E, l] = [wish(wishes, 'V'), wish(wishes, 'E'), wish(wishes, 'l')];
    // As thick as half of the energy melts and boils: some 55 J/mm³ of copper. Common practice, no source.
    const d = two(Math.min(3e-3, Math.max(3e-5, Math.sqrt((4 * 0.5 * E) / (55e9 * Math.PI * l)))));
    return { ...bankAt(V, capacitanceFor(E, V), 'source', pulse), load: { kind: 'exploding-wire', fields: { lx: l, d } } };
  },
};

export const peakingStarter: Starter = {
  id: 'peaking',
  title: 'Triggered gap with a peaking capacitor',
  says: 'A store that transfers its charge into a peaking capacitor, faster and higher.',
  words: ['transfer', 'dump capacitor', 'pulse', 'ringing gain', 'peaking'],
  picture: pictures.peaking,
  asks: {
    V: quantity('Charged to', 'V', within(3e3, 40e3), '12 kV', { tolerance: true }),
    C: quantity('Store', 'F', within(100e-12, 1e-6), '4.7 nF', { tolerance: true }),
    C2: quantity('Peaking capacitor', 'F', within(50e-12, 1e-6), '2.2 nF', { tolerance: true }),
  },
  typed: { V: 'store.V0', C: 'store.C', C2: 'load.C' },
  tuned: [gapTuned],
  settings: (wishes) => {
    const [V, C, C2] = [wish(wishes, 'V'), wish(wishes, 'C'), wish(wishes, 'C2')];
    return { ...bankAt(V, C, 'source', pulse), load: { kind: 'second-capacitor', fields: { C: C2 } } };
  },
};
