import { above, quantity, rating, within } from '../../field/index.ts';
import { bleedFormulas, storeFormulas, work, type Worked } from '../../formula/index.ts';
import type { CircuitPart, HeldCharge, Terminals } from '../../block/define.ts';
import {
  Unavailable,
  type FigureSpec,
  type LimitSpec,
  type Offers,
  type Own,
  type Problem,
  type RigContext,
} from '../../block/context.ts';
import { goalBeside } from '../../block/goal.ts';
import { capacitiveParts } from './capacitive.ts';

declare module '../../block/names.ts' {
  interface FigureIds {
    'load-bleed-time': true;
  }
}

/** What every peaking capacitor has, with or without something behind it. */
export const peakingFields = {
  C: quantity('Capacitance of the peaking capacitor', 'F', above(0, 1e3), '1 nF ±5 %', {
    symbol: 'C2',
    tolerance: true,
    help: 'Equal to the store, erected: most energy transfer. Much smaller: most voltage, up to twice.',
  }),
  Vr: rating('DC rating of the peaking capacitor', 'V', 1e8),
  R: quantity('Resistance of the path', 'Ω', within(0, 1e9), '200 mΩ ±50 %', { tolerance: true }),
  L: quantity('Inductance of the path, with leads', 'H', above(0, 1e3), '500 nH ±20 %', { tolerance: true }),
  Rb: quantity('Bleeder across it', 'Ω', above(0, 1e15), '100 MΩ ±10 %', {
    symbol: 'R2',
    tolerance: true,
    optional: true,
    help: 'The bleeder of the store does not reach it: the gap is in between.',
  }),
};

const own = (rig: RigContext) => rig.own('load');

/** What it holds after a shot at the most, J. */
const leftEnergy = (rig: RigContext): Worked =>
  work(
    storeFormulas.storedEnergy,
    { C: own(rig).quantity('C'), V: rig.figure('load-peak-voltage') },
    'energy of the peaking capacitor',
  );

export const peakingBleed: FigureSpec = {
  id: 'load-bleed-time',
  title: 'Peaking capacitor, below its goal after',
  slot: 'load',
  mayBeMissing: true,
  compute: (rig) => {
    const Rb = own(rig).optional('Rb');
    if (!Rb) throw new Unavailable('load', 'the peaking capacitor has no bleeder', 'Rb');
    const V0 = rig.figure('load-peak-voltage');
    return work(
      bleedFormulas.rcBleedTime,
      { R: Rb, C: own(rig).quantity('C'), V0, V: goalBeside(V0, leftEnergy(rig)) },
      'peaking capacitor, to below its goal',
    );
  },
};

export const peakingVoltage: LimitSpec = {
  id: 'second-voltage',
  title: 'Peaking capacitor, voltage',
  slot: 'load',
  stress: (rig) => rig.figure('load-peak-voltage'),
  rating: (rig) => own(rig).optional('Vr'),
  levers: ['load.Vr', 'store.V0', 'load.R'],
};

/** It holds its charge whatever the store does. */
export function peakingHeld(rig: RigContext): readonly HeldCharge[] {
  const R = own(rig).optional('Rb');
  return [
    {
      id: 'second',
      one: 'peaking capacitor',
      count: 1,
      title: 'The peaking capacitor, after a shot',
      V: rig.figure('load-peak-voltage'),
      E1: leftEnergy(rig),
      through: R ? 'its own bleeder' : 'nothing: the store’s bleeder is on the other side of the gap',
      ...(R ? { R, C: own(rig).quantity('C') } : {}),
      then: 'Stick, meter and strap across it as well as across the store.',
    },
  ];
}

export const peakingProblems = (rig: RigContext): Problem[] =>
  own(rig).optional('Rb')
    ? []
    : [
        {
          severity: 'warning',
          slot: 'load',
          field: 'Rb',
          text: 'The peaking capacitor stays charged after a shot and nothing bleeds it: the bleeder of the store is on the other side of the gap.',
        },
      ];

type PeakingOwn = Own<typeof peakingFields>;

/** What path and capacitor are in the loop that charges them. */
export const peakingOffers = (block: PeakingOwn): Offers => ({
  loopResistance: block.quantity('R'),
  loopInductance: block.quantity('L'),
  loadCapacitance: block.quantity('C'),
  // Ringing takes it above the store.
  makesVoltage: 'load-peak-voltage',
});

/** Path, capacitor and its bleeder; the capacitor's own terminal is `${tag}c`. */
export function peakingParts(block: PeakingOwn, at: Terminals): CircuitPart[] {
  const Rb = block.optional('Rb');
  return [
    ...capacitiveParts(at, {
      R: block.quantity('R').value,
      L: block.quantity('L').value,
      C: block.quantity('C').value,
      says: 'peaking capacitor',
    }),
    ...(Rb
      ? [
          {
            element: { kind: 'resistor' as const, name: `R${at.tag}b`, nodes: [`${at.tag}c`, at.minus] as const, R: Rb.value },
            says: 'bleeder of the peaking capacitor',
            leftOut: { what: 'the bleeder of the peaking capacitor', instead: 'open' as const },
          },
        ]
      : []),
  ];
}
