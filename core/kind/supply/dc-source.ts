import { above, quantity, within, fields } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { choiceOf } from '../../part/index.ts';
import { defineBlock } from '../../block/define.ts';
import { currentRating, givesUpTo, leftOnProblem, supplyCurrentLimit, supplySteps } from './shared.ts';
import { dcSourceGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/dc-source': typeof dcSourceFields;
  }
}

const dcSourceFields = fields({
  V: quantity('Voltage', 'V', above(0, 1e6), '60 V', {
    symbol: 'Vs',
    tolerance: true,
    help: 'Open-circuit voltage. An uncontrolled charger goes up to it.',
  }),
  R: quantity('Series resistance', 'Ω', within(0, 1e9), '10 Ω', {
    symbol: 'Ri',
    tolerance: true,
    help: 'Internal resistance of the supply.',
  }),
  I: currentRating,
});

export const dcSource = defineBlock({
  slot: 'supply',
  kind: 'dc-source',
  title: 'DC source',
  glyph: () => dcSourceGlyph,
  fields: dcSourceFields,
  key: (own) => ({ text: printQuantity(own.quantity('V').value, 'V') }),
  takes: {
    part: 'transformer',
    fields: { V: 'V', R: 'R', I: 'I' },
    unsuited: (part) => (choiceOf(part, 'output') === 'dc' ? null : 'it gives AC voltage'),
  },
  offers: (own) => ({ sourceVoltage: own.quantity('V'), chargingResistance: own.quantity('R') }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'voltage-source',
        name: `V${tag}`,
        nodes: [plus, minus],
        wave: { kind: 'dc', value: own.quantity('V').value },
        R: own.quantity('R').value,
      },
      says: 'supply with its series resistance',
    },
  ],
  limits: [supplyCurrentLimit(['charging.R', 'supply.V'], 'Into an empty store; a short at the terminals draws the same.')],
  problems: (_own, rig) => leftOnProblem(rig, 'V'),
  steps: (own) => supplySteps(givesUpTo(own.quantity('V'))),
});
