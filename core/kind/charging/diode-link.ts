import { countOf, quantity, rating, fields, within } from '../../field/index.ts';
import { sourceFormulas, work } from '../../formula/index.ts';
import type { LimitSpec } from '../../block/context.ts';
import { defineLink } from './link.ts';

/** Fields of a string of equal diodes, for charging paths and rectifiers alike. */
export const diodeFields = fields({
  nd: countOf('Diodes in series'),
  Vf: quantity('Forward drop, each', 'V', within(0, 1e4), '1.1 V', {
    help: 'High-voltage sticks hold many junctions: ten volts and more.',
  }),
  Vd: rating('Reverse rating, each', 'V', 1e7),
  sd: quantity('Reverse-voltage imbalance', '1', within(0, 10), '20 %', {
    symbol: 's',
    help: 'Without sharing resistors and capacitors, leakage and capacitance set the sharing; common practice, no source: 20 % with like parts.',
  }),
  Is: rating('Surge current, each', 'A', 1e6),
});

/** Reverse voltage and surge of a string of diodes in a slot. */
export const diodeLimits = (
  slot: 'charging' | 'supply',
  id: string,
  title: string,
  reverse: LimitSpec['stress'],
  surge: LimitSpec['stress'],
  levers: LimitSpec['levers'],
): LimitSpec[] => [
  {
    id: `${id}-reverse`,
    title: `${title}, reverse voltage of the worst one`,
    slot,
    stress: (rig) =>
      work(sourceFormulas.stringShare, { V: reverse(rig), n: rig.own(slot).quantity('nd'), s: rig.own(slot).quantity('sd') }),
    rating: (rig) => rig.own(slot).optional('Vd'),
    levers: [`${slot}.nd`, ...levers],
    note: 'Diodes in series share the reverse voltage unevenly; each needs a resistor across it, and a capacitor where turn-off is fast.',
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

/** Ω of a diode that has alloyed through. Common practice, no source. */
const shorted = 1e-2;

/** Diodes that let the store keep what it has. */
export const diodeLink = defineLink({
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
  faults: ({ tag }) => [
    {
      id: 'diode-short',
      title: 'The charging diode shorts',
      moment: 'held',
      says: 'Nothing keeps the charge in: the store runs back into the supply as it goes down, and follows an AC supply in both directions, which a polar capacitor does not survive.',
      circuit: (parts) =>
        parts.map((part) =>
          part.element.kind === 'diode' && part.element.name === `D${tag}`
            ? { ...part, element: { kind: 'resistor', name: part.element.name, nodes: part.element.nodes, R: shorted } }
            : part,
        ),
      failed: [`D${tag}`],
    },
  ],
  steps: () => [
    {
      id: 'diode-hold',
      phase: 'bleed',
      text: 'The charging diode keeps the store from discharging into the supply: a supply that reads zero says nothing about the store.',
    },
  ],
});
