import { above, fields, quantity } from '../../field/index.ts';
import { choiceOf } from '../../part/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import type { ChargeLaw } from '../../block/context.ts';
import { givesUpTo, leftOnProblem, limitedLaw, supplySteps } from './shared.ts';
import { benchSourceGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/bench-supply': typeof benchSupplyFields;
  }
}

const law: ChargeLaw = limitedLaw((rig) => ({ I: rig.own('supply').quantity('Il') }));

const benchSupplyFields = fields({
  V: quantity('Voltage set', 'V', above(0, 1e5), '60 V', { symbol: 'Vs', tolerance: true, help: 'Cut-off voltage.' }),
  Il: quantity('Current limit set', 'A', above(0, 1e4), '1 A', {
    tolerance: true,
    help: 'It gives this current until the voltage is reached.',
  }),
  Co: quantity('Output capacitor', 'F', above(0, 1), null, {
    help: 'It dumps its charge at once, past any limit, when an empty store is connected to a live supply.',
  }),
});

export const benchSupply = defineBlock({
  slot: 'supply',
  kind: 'bench-supply',
  title: 'Bench supply with current limit',
  glyph: () => benchSourceGlyph,
  fields: benchSupplyFields,
  key: (own) => ({
    text: printQuantity(own.quantity('V').value, 'V'),
    detail: `${printQuantity(own.quantity('Il').value, 'A', { trim: true })} limit`,
  }),
  takes: {
    part: 'transformer',
    fields: { V: 'V', Il: 'I' },
    unsuited: (part) => (choiceOf(part, 'output') === 'dc' ? null : 'it gives AC voltage'),
  },
  offers: (own) => ({ sourceVoltage: own.quantity('V'), chargeLaw: law }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'current-source',
        name: `I${tag}`,
        nodes: [minus, plus],
        wave: { kind: 'dc', value: own.quantity('Il').value },
      },
      says: 'current limit of the supply',
    },
    {
      element: { kind: 'diode', name: `D${tag}`, nodes: [plus, `${plus}v`], Vf: 0, Ron: 1e-3 },
      says: 'takes over at the voltage set',
    },
    {
      element: {
        kind: 'voltage-source',
        name: `V${tag}`,
        nodes: [`${plus}v`, minus],
        wave: { kind: 'dc', value: own.quantity('V').value },
      },
      says: 'voltage set',
    },
  ],
  problems: (own, rig) => {
    const Co = own.optional('Co');
    const left = leftOnProblem(rig, 'V');
    if (!Co) return left;
    const text = `Its output capacitor of ${printQuantity(Co.value, 'F')} at ${printQuantity(own.quantity('V').value, 'V')} empties into the store through ${printQuantity(rig.figure('charging-resistance').value, 'Ω')} whatever the limit says: connect first, then turn up.`;
    return [...left, { severity: 'warning', slot: 'supply', field: 'Co', text }];
  },
  steps: (own) => supplySteps(`${givesUpTo(own.quantity('V'))} Set the limit into a short before it is connected.`),
});
