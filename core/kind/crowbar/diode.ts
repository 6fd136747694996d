import { countOf, fields, quantity, rating, within } from '../../field/index.ts';
import { sourceFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import { crowbarFigures, crowbarLimits, crowbarRatings, leastResistance } from './crowbar.ts';
import { crowbarDiodeGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'crowbar/diode': typeof diodeFields;
  }
}

const diodeFields = fields({
  nd: countOf('Diodes in series'),
  Vf: quantity('Forward drop, each', 'V', within(0, 1e4), '1.2 V'),
  R: quantity('Resistance of its path', 'Ω', within(0, 1e6), '2 mΩ', {
    tolerance: true,
    help: 'Slope of the diodes, leads, and a resistor put in to bring the current down sooner.',
  }),
  sd: quantity('Reverse-voltage imbalance', '1', within(0, 10), '20 %', {
    symbol: 's',
    help: 'Common practice, no source: 20 % with like parts and sharing resistors.',
  }),
  Vd: rating('Reverse rating, each', 'V', 1e7),
  ...crowbarRatings,
});

export const diodeCrowbar = defineBlock({
  slot: 'crowbar',
  kind: 'diode',
  title: 'Diode across the load',
  glyph: () => crowbarDiodeGlyph,
  fields: diodeFields,
  key: (own) => ({ text: printQuantity(own.quantity('nd').value * own.quantity('Vf').value, 'V'), detail: 'diode' }),
  offers: (own) => ({
    freewheel: {
      Vf: work(sourceFormulas.stringDrop, { n: own.quantity('nd'), Vf: own.quantity('Vf') }, 'drop of the crowbar'),
      R: own.quantity('R'),
    },
  }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'diode',
        name: `D${tag}`,
        nodes: [minus, plus],
        Vf: own.quantity('nd').value * own.quantity('Vf').value,
        Ron: Math.max(own.quantity('R').value, leastResistance),
      },
      says: 'crowbar diode across the load',
    },
  ],
  leavesOut: () => 'how the store hands the current over to the crowbar, bit by bit',
  faults: (_own, _rig, { plus, minus, tag }) => [
    {
      id: 'open',
      title: 'The crowbar diode is open',
      moment: 'shot',
      says: 'Nothing clamps the load: the store rings, and is reversed as it would be without it.',
      circuit: (parts) => parts.filter(({ element }) => element.name !== `D${tag}`),
    },
    {
      id: 'short',
      title: 'The crowbar diode shorts',
      moment: 'shot',
      says: 'The shot goes through it and not through the load: all that limits it is the switch and the store itself.',
      shorts: true,
      circuit: (parts, R) => [
        ...parts.filter(({ element }) => element.name !== `D${tag}`),
        {
          element: { kind: 'resistor', name: `R${tag}s`, nodes: [plus, minus], R },
          says: 'the shorted crowbar',
          slot: 'crowbar',
        },
      ],
      into: [`R${tag}s`],
      withstands: null,
    },
  ],
  figures: crowbarFigures,
  limits: [
    ...crowbarLimits,
    {
      id: 'crowbar-reverse',
      title: 'Crowbar diode, reverse voltage of the worst one',
      slot: 'crowbar',
      stress: (rig) =>
        work(sourceFormulas.stringShare, {
          V: rig.figure('discharge-voltage'),
          n: rig.own('crowbar').quantity('nd'),
          s: rig.own('crowbar').quantity('sd'),
        }),
      rating: (rig) => rig.own('crowbar').optional('Vd'),
      levers: ['crowbar.nd', 'store.V0'],
      protects: true,
      note: 'It blocks the whole voltage at the first instant of the shot.',
    },
  ],
  steps: () => [
    {
      id: 'crowbar-check',
      phase: 'prepare',
      seconds: 60,
      text: 'Crowbar diode tried with a meter in both directions, its leads short and bolted at the load.',
      hold: 'It conducts one way and blocks the other.',
    },
  ],
});
