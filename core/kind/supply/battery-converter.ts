import { rating, above, fields, quantity, within } from '../../field/index.ts';
import { sourceFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../../block/define.ts';
import type { ChargeLaw, RigContext } from '../../block/context.ts';
import { efficiency, hysteresisProblem, outputFields, power, powerCircuit } from './constant-power.ts';
import { givesUpTo, inputFigures, limitedLaw, supplyCurrentLimit, supplySteps } from './shared.ts';
import { batteryGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/battery-converter': typeof batteryConverterFields;
  }
  interface FigureIds {
    'battery-charges': true;
  }
}

const law: ChargeLaw = limitedLaw((rig) => ({ P: rig.own('supply').quantity('P'), I: rig.own('supply').quantity('Imax') }));

const input = (rig: RigContext) => {
  const own = rig.own('supply');
  return { E: own.quantity('E'), Ri: own.quantity('Ri'), eta: own.quantity('eta'), P: own.quantity('P') };
};

const batteryConverterFields = fields({
  P: power(),
  eta: efficiency,
  ...outputFields,
  E: quantity('Battery voltage, no load', 'V', above(0, 1e4), '12 V', { tolerance: true }),
  Ri: quantity('Battery resistance with leads', 'Ω', within(0, 1e4), '50 mΩ', { tolerance: true }),
  Q: quantity('Battery capacity', 'C', above(0, 1e9), '2 Ah', { help: 'As on its label: 2 Ah, 800 mAh.' }),
  Ibat: rating('Battery current rating', 'A', 1e5),
});

export const batteryConverter = defineBlock({
  slot: 'supply',
  kind: 'battery-converter',
  title: 'Battery and step-up converter',
  glyph: () => batteryGlyph,
  fields: batteryConverterFields,
  key: (own) => ({
    text: printQuantity(own.quantity('P').value, 'W'),
    detail: `to ${printQuantity(own.quantity('Voff').value, 'V', { trim: true })}`,
  }),
  offers: (own) => ({ sourceVoltage: own.quantity('Voff'), chargeLaw: law }),
  circuit: (own, rig, at) => powerCircuit(own, own.quantity('P').value, rig.figure('charging-resistance').value, at),
  figures: [
    ...inputFigures(input),
    {
      id: 'battery-charges',
      title: 'Charges in one battery',
      slot: 'supply',
      compute: (rig) =>
        work(sourceFormulas.batteryCharges, {
          Q: rig.own('supply').quantity('Q'),
          V: rig.figure('input-voltage'),
          eta: rig.own('supply').quantity('eta'),
          E: rig.figure('source-energy'),
        }),
    },
  ],
  limits: [
    supplyCurrentLimit(['supply.Imax', 'charging.R'], 'Into an empty store, through the rectifier of the converter.'),
    {
      id: 'battery-current',
      title: 'Battery current',
      slot: 'supply',
      stress: (rig) => rig.figure('input-current'),
      rating: (rig) => rig.own('supply').optional('Ibat'),
      levers: ['supply.P', 'supply.Ri'],
    },
  ],
  problems: hysteresisProblem,
  steps: (own) =>
    supplySteps(
      `${givesUpTo(own.quantity('Voff'))} Battery fused at its own terminal; a fuse at the converter protects no lead.`,
      [
        {
          id: 'battery-check',
          phase: 'instruments',
          text: `Battery under load not far below ${printQuantity(own.quantity('E').value, 'V')}: a sagging battery charges slowly and cuts off early.`,
        },
      ],
    ),
});
