import { quantity, rating } from '../../field/index.ts';
import { ruled, sourceFormulas, work, type Worked } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { diodeFields, diodeLimits } from '../charging/diode-link.ts';
import { defineBlock } from '../../block/define.ts';
import type { ChargeLaw, Own, RigContext } from '../../block/context.ts';
import { efficiency, hysteresisProblem, outputFields, power, powerCircuit } from './constant-power.ts';
import { choice, givesUpTo, inputFigures, limitedLaw, supplyCurrentLimit, supplySteps } from './shared.ts';

const outputPower = (own: Own): Worked =>
  choice(own, 'topology', 'flyback')
    ? work(sourceFormulas.flybackPower, {
        L: own.quantity('Lp'),
        I: own.quantity('Ip'),
        f: own.quantity('f'),
        eta: own.quantity('eta'),
      })
    : own.quantity('P');

const law: ChargeLaw = limitedLaw((rig) => ({ P: outputPower(rig.own('supply')), I: rig.own('supply').quantity('Imax') }));

const zero = ruled('inner resistance of the source', 0, 'Ω', 'taken as none');

/** Reverse voltage on the rectifier: a flyback has the input voltage through the turns on top of the output. */
const reverse = (rig: RigContext): Worked => {
  const own = rig.own('supply');
  return choice(own, 'topology', 'flyback')
    ? work(sourceFormulas.flybackReverseVoltage, { V: own.quantity('Voff'), Vin: own.quantity('E'), N: own.quantity('N') })
    : own.quantity('Voff');
};

export const driver = defineBlock({
  slot: 'supply',
  kind: 'driver',
  title: 'High-frequency driver',
  glyph: () => 'converter',
  fields: {
    topology: {
      type: 'choice',
      title: 'Works as',
      initial: 'flyback',
      options: [
        { value: 'flyback', title: 'flyback: power from L, I and f' },
        { value: 'transformer', title: 'transformer and bridge: power as given' },
      ],
    },
    Lp: quantity({
      symbol: 'Lp',
      title: 'Primary inductance (flyback)',
      unit: 'H',
      min: 0,
      max: 1,
      open: true,
      initial: '20 µH',
      tolerance: true,
    }),
    Ip: quantity({
      symbol: 'Ip',
      title: 'Peak primary current (flyback)',
      unit: 'A',
      min: 0,
      max: 1e4,
      open: true,
      initial: '10 A',
      tolerance: true,
    }),
    f: quantity({ symbol: 'f', title: 'Frequency', unit: 'Hz', min: 0, max: 1e8, open: true, initial: '40 kHz' }),
    N: quantity({
      symbol: 'N',
      title: 'Turns ratio',
      unit: '1',
      min: 0,
      max: 1e5,
      open: true,
      initial: '20',
      help: 'Secondary to primary.',
    }),
    P: power('For a transformer and bridge; a flyback’s follows from L, I and f.'),
    eta: efficiency,
    ...outputFields,
    E: quantity({
      symbol: 'E',
      title: 'Input voltage',
      unit: 'V',
      min: 0,
      max: 1e4,
      open: true,
      initial: '24 V',
      tolerance: true,
    }),
    Iin: rating('Iin', 'Input current it may take', 'A', 1e4),
    ...diodeFields,
  },
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
    supplySteps(`${givesUpTo(own.quantity('Voff'))} Without a load and without its cut-off it goes up until something breaks.`),
});
