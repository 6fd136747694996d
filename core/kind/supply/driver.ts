import { quantity, rating, above, choice, fields } from '../../field/index.ts';
import { ruled, sourceFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { diodeFields, diodeLimits } from '../charging/diode-link.ts';
import { defineBlock } from '../../block/define.ts';
import type { ChargeLaw, Own, RigContext } from '../../block/context.ts';
import { efficiency, hysteresisProblem, outputFields, power, powerCircuit } from './constant-power.ts';
import { givesUpTo, inputFigures, limitedLaw, supplyCurrentLimit, supplySteps } from './shared.ts';
import { converterGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'supply/driver': typeof driverFields;
  }
  interface FigureIds {
    'driver-power': true;
  }
}

const outputPower = (own: Own<typeof driverFields>): Worked =>
  own.is('topology', 'flyback')
    ? work(sourceFormulas.flybackPower, {
        L: own.quantity('Lp'),
        I: own.quantity('Ip'),
        f: own.quantity('f'),
        eta: own.quantity('eta'),
      })
    : own.quantity('P');

const law: ChargeLaw = limitedLaw((rig) => ({ P: outputPower(rig.own('supply')), I: rig.own('supply').quantity('Imax') }));

const zero = ruled('internal resistance of the source', 0, 'Ω', 'taken as none');

/** Reverse voltage on the rectifier: a flyback has the input voltage through the turns on top of the output. */
const reverse = (rig: RigContext): Worked => {
  const own = rig.own('supply');
  return own.is('topology', 'flyback')
    ? work(sourceFormulas.flybackReverseVoltage, { V: own.quantity('Voff'), Vin: own.quantity('E'), N: own.quantity('N') })
    : own.quantity('Voff');
};

const driverFields = fields({
  topology: choice('Works as', {
    flyback: 'flyback: power from L, I and f',
    transformer: 'transformer and bridge: power as given',
  }),
  Lp: quantity('Primary inductance (flyback)', 'H', above(0, 1), '20 µH', { tolerance: true }),
  Ip: quantity('Peak primary current (flyback)', 'A', above(0, 1e4), '10 A', { tolerance: true }),
  f: quantity('Frequency', 'Hz', above(0, 1e8), '40 kHz'),
  N: quantity('Turns ratio', '1', above(0, 1e5), '20', { help: 'Secondary to primary.' }),
  P: power('For a transformer and bridge; a flyback’s follows from L, I and f.'),
  eta: efficiency,
  ...outputFields,
  E: quantity('Input voltage', 'V', above(0, 1e4), '24 V', { tolerance: true }),
  Iin: rating('Rated input current', 'A', 1e4),
  ...diodeFields,
});

export const driver = defineBlock({
  slot: 'supply',
  kind: 'driver',
  title: 'High-frequency driver',
  glyph: () => converterGlyph,
  fields: driverFields,
  key: (own) => ({
    text: printQuantity(outputPower(own).value, 'W'),
    detail: `to ${printQuantity(own.quantity('Voff').value, 'V', { trim: true })}`,
  }),
  offers: (own) => ({ sourceVoltage: own.quantity('Voff'), chargeLaw: law }),
  circuit: (own, rig, at) => powerCircuit(own, outputPower(own).value, rig.figure('charging-resistance').value, at),
  figures: [
    { id: 'driver-power', title: 'Output power of the driver', slot: 'supply', compute: (rig) => outputPower(rig.own('supply')) },
    ...inputFigures((rig) => {
      const own = rig.own('supply');
      return { E: own.quantity('E'), Ri: zero, eta: own.quantity('eta'), P: outputPower(own) };
    }),
  ],
  limits: [
    supplyCurrentLimit(['supply.Imax', 'charging.R'], 'Into an empty store, through the rectifier of the driver.'),
    {
      id: 'input-current',
      title: 'Input current of the driver',
      slot: 'supply',
      stress: (rig) => rig.figure('input-current'),
      rating: (rig) => rig.own('supply').optional('Iin'),
      levers: ['supply.Ip', 'supply.f', 'supply.P'],
    },
    ...diodeLimits('supply', 'supply-diode', 'Rectifier', reverse, (rig) => rig.figure('charging-current'), ['supply.Voff']),
  ],
  problems: hysteresisProblem,
  steps: (own) =>
    supplySteps(
      `${givesUpTo(own.quantity('Voff'))} Without a load and without its cut-off its voltage rises until something fails.`,
    ),
});
