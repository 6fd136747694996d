import { bleedFormulas, storeFormulas, work } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../define.ts';
import type { Own } from '../context.ts';

/** The resistors of the charging path as one. */
const chargingString = (own: Own) =>
  work(storeFormulas.seriesResistance, { R: own.quantity('R'), n: own.quantity('n') }, 'charging resistor');

export const chargingResistor = defineBlock({
  slot: 'charging',
  kind: 'resistor',
  title: 'Charging resistor',
  glyph: () => 'resistor',
  fields: {
    R: {
      type: 'quantity',
      symbol: 'R',
      title: 'Resistance of one',
      unit: 'Ω',
      min: 0,
      max: 1e12,
      open: true,
      initial: '1 kΩ ±5 %',
      tolerance: true,
    },
    n: { type: 'quantity', symbol: 'n', title: 'In series', unit: '1', min: 1, max: 1000, integer: true, initial: '1' },
    V: {
      type: 'quantity',
      symbol: 'Vr',
      title: 'Working voltage of one',
      unit: 'V',
      min: 0,
      max: 1e6,
      open: true,
      initial: null,
      optional: true,
      help: 'From the data sheet; a small resistor takes far less than its power would allow.',
    },
    P: {
      type: 'quantity',
      symbol: 'Pr',
      title: 'Power rating of one',
      unit: 'W',
      min: 0,
      max: 1e6,
      open: true,
      initial: null,
      optional: true,
    },
    fraction: {
      type: 'quantity',
      symbol: 'x',
      title: 'Mark at a fraction of the charge voltage',
      unit: '1',
      min: 0,
      max: 0.9999,
      open: true,
      initial: '95 %',
      help: 'The charge time to this fraction is shown beside the full one.',
    },
  },
  key: (own) => ({ text: printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω') }),
  offers: (own) => ({ chargingResistance: chargingString(own) }),
  figures: [
    {
      id: 'charging-resistor-power',
      title: 'Charging resistor, peak power',
      slot: 'charging',
      compute: (rig) =>
        work(
          bleedFormulas.resistorPowerFromCurrent,
          { I: rig.figure('charging-current'), R: chargingString(rig.own('charging')) },
          'peak power in the charging resistor',
        ),
    },
  ],
  limits: [
    {
      id: 'charging-resistor-voltage',
      title: 'Charging resistor, voltage of one',
      slot: 'charging',
      stress: (rig) => work(storeFormulas.shareOfString, { V: rig.offer('sourceVoltage'), n: rig.own('charging').quantity('n') }),
      rating: (rig) => rig.own('charging').optional('V'),
      levers: ['charging.n', 'supply.V'],
      note: 'At the first instant of the charge the whole supply voltage stands across it.',
    },
    {
      id: 'charging-resistor-power',
      title: 'Charging resistor, power of one',
      slot: 'charging',
      stress: (rig) =>
        work(bleedFormulas.resistorPowerFromCurrent, { I: rig.figure('charging-current'), R: rig.own('charging').quantity('R') }),
      rating: (rig) => rig.own('charging').optional('P'),
      levers: ['charging.R', 'supply.V'],
      note: 'Power at the first instant against the steady rating: strict for a short charge, true for a store that is shorted.',
    },
  ],
  steps: (own, rig) => [
    {
      id: 'charge',
      phase: 'charge',
      text: `Supply on. Watch the meter from outside the guard and stop at ${printQuantity(rig.offer('chargedTo').value, 'V')}.`,
      expect: [
        {
          label: `${printPercent(own.quantity('fraction').value, 2)} of the charge after`,
          worked: rig.figure('charge-time-fraction'),
          print: 'duration',
          use: 'nominal',
        },
        { label: 'Charged after', worked: rig.figure('charge-time'), print: 'duration', use: 'nominal' },
      ],
      hold: 'The meter reads the charge voltage and no more.',
      caution: 'If the meter does not rise as expected: supply off, take it for charged, and go to the abort branch.',
    },
  ],
});
