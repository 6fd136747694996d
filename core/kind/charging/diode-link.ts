import { countOf, quantity, rating } from '../../field/index.ts';
import { sourceFormulas, work } from '../../formula/index.ts';
import type { LimitSpec, Slot } from '../../block/context.ts';
import type { Link } from './link.ts';

/** Fields of a string of equal diodes, for charging paths and rectifiers alike. */
export const diodeFields = {
  nd: countOf('nd', 'Diodes in series'),
  Vf: quantity({
    symbol: 'Vf',
    title: 'Forward drop of one',
    unit: 'V',
    min: 0,
    max: 1e4,
    initial: '1.1 V',
    help: 'High-voltage sticks hold many junctions: ten volts and more.',
  }),
  Vd: rating('Vd', 'Reverse rating of one', 'V', 1e7),
  sd: quantity({
    symbol: 's',
    title: 'One takes more of the reverse voltage by',
    unit: '1',
    min: 0,
    max: 10,
    initial: '20 %',
    help: 'Without sharing resistors and capacitors leakage and capacitance decide who takes how much; common practice, no source: 20 % with alike parts.',
  }),
  Is: rating('Is', 'Surge current of one', 'A', 1e6),
} as const;

/** Reverse voltage and surge of a string of diodes in a slot. */
export const diodeLimits = (
  slot: Slot,
  id: string,
  title: string,
  reverse: LimitSpec['stress'],
  surge: LimitSpec['stress'],
  levers: readonly string[],
): LimitSpec[] => [
  {
    id: `${id}-reverse`,
    title: `${title}, reverse voltage of the worst`,
    slot,
    stress: (rig) =>
      work(sourceFormulas.stringShare, { V: reverse(rig), n: rig.own(slot).quantity('nd'), s: rig.own(slot).quantity('sd') }),
    rating: (rig) => rig.own(slot).optional('Vd'),
    levers: [`${slot}.nd`, ...levers],
    note: 'Diodes in series share the reverse voltage unevenly; each wants a resistor across it, and a capacitor where it turns off fast.',
  },
  {
    id: `${id}-surge`,
    title: `${title}, surge current`,
    slot,
    stress: surge,
    rating: (rig) => rig.own(slot).optional('Is'),
    levers,
  },
];

/** Diodes that let the store keep what it has. */
export const diodeLink: Link = {
  fields: diodeFields,
  offers: (own) => ({
    chargingDrop: work(
      sourceFormulas.stringDrop,
      { n: own.quantity('nd'), Vf: own.quantity('Vf') },
      'drop of the charging diodes',
    ),
  }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'diode',
        name: `D${tag}`,
        nodes: [plus, minus],
        Vf: own.quantity('nd').value * own.quantity('Vf').value,
        Ron: 1e-2,
      },
      says: 'charging diode',
    },
  ],
  limits: diodeLimits(
    'charging',
    'charging-diode',
    'Charging diode',
    (rig) => rig.figure('charge-towards'),
    (rig) => rig.figure('charging-current'),
    ['store.V0'],
  ),
  steps: () => [
    {
      id: 'diode-hold',
      phase: 'bleed',
      text: 'The charging diode keeps the store from emptying back into the supply: a supply that reads nought says nothing of the store.',
    },
  ],
};
