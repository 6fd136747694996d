import { bleedFormulas, work } from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { rating } from '../../field/index.ts';
import { defineBlock } from '../define.ts';
import { stringFields, stringKey, stringResistance, stringVoltageLimit } from '../resistor-string.ts';

export const chargingResistor = defineBlock({
  slot: 'charging',
  kind: 'resistor',
  title: 'Charging resistor',
  glyph: () => 'resistor',
  fields: {
    ...stringFields('1 kΩ ±5 %'),
    P: rating('Pr', 'Power rating of one', 'W', 1e6),
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
  key: stringKey,
  takes: { part: 'resistor', fields: { R: 'R', V: 'V', P: 'P' } },
  offers: (own) => ({ chargingResistance: stringResistance(own, 'charging resistor') }),
  figures: [
    {
      id: 'charging-resistor-power',
      title: 'Charging resistor, peak power',
      slot: 'charging',
      compute: (rig) => {
        const R = stringResistance(rig.own('charging'), 'charging resistor');
        return work(
          bleedFormulas.resistorPowerFromCurrent,
          { I: rig.figure('charging-current'), R },
          'peak power in the charging resistor',
        );
      },
    },
  ],
  limits: [
    stringVoltageLimit('charging', 'charging-resistor-voltage', 'Charging resistor', (rig) => rig.offer('sourceVoltage'), {
      levers: ['charging.n', 'supply.V'],
      note: 'At the first instant of the charge the whole supply voltage stands across it.',
    }),
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
        { label: 'At worst tolerance after', worked: rig.figure('charge-time'), print: 'duration', use: 'high' },
      ],
      hold: 'The meter reads the charge voltage and no more.',
      caution: 'If the meter does not rise as expected: supply off, take it for charged, and go to the abort branch.',
    },
  ],
});
