import { printQuantity } from '../../quantity/index.ts';
import { choiceOf } from '../../part/index.ts';
import { defineBlock } from '../../block/define.ts';
import { currentRating, givesUpTo, leftOnProblem, supplyCurrentLimit, supplySteps } from './shared.ts';

export const dcSource = defineBlock({
  slot: 'supply',
  kind: 'dc-source',
  title: 'Direct-voltage source',
  glyph: () => 'dc-source',
  fields: {
    V: {
      type: 'quantity',
      symbol: 'Vs',
      title: 'Voltage',
      unit: 'V',
      min: 0,
      max: 1e6,
      open: true,
      initial: '60 V',
      tolerance: true,
      help: 'Open-circuit voltage. An uncontrolled charger goes on to this voltage.',
    },
    R: {
      type: 'quantity',
      symbol: 'Ri',
      title: 'Series resistance',
      unit: 'Ω',
      min: 0,
      max: 1e9,
      initial: '10 Ω',
      tolerance: true,
      help: 'Internal resistance of the supply.',
    },
    I: currentRating,
  },
  key: (own) => ({ text: printQuantity(own.quantity('V').value, 'V') }),
  takes: {
    part: 'transformer',
    fields: { V: 'V', R: 'R', I: 'I' },
    unsuited: (part) => (choiceOf(part, 'output') === 'dc' ? null : 'it gives alternating voltage'),
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
