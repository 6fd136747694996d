import { boundsOf, chargeFormulas, work } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { choiceOf } from '../../part/index.ts';
import { defineBlock } from '../define.ts';

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
    I: {
      type: 'quantity',
      symbol: 'Imax',
      title: 'Current it may give',
      unit: 'A',
      min: 0,
      max: 1e4,
      open: true,
      initial: null,
      optional: true,
      help: 'Rated output current; empty if not known.',
    },
  },
  key: (own) => ({ text: printQuantity(own.quantity('V').value, 'V') }),
  takes: {
    part: 'transformer',
    fields: { V: 'V', R: 'R', I: 'I' },
    unsuited: (part) => (choiceOf(part, 'output') === 'dc' ? null : 'it gives alternating voltage'),
  },
  offers: (own) => ({ sourceVoltage: own.quantity('V'), chargingResistance: own.quantity('R') }),
  figures: [
    {
      id: 'charging-current',
      title: 'Peak charging current',
      slot: 'supply',
      compute: (rig) =>
        work(
          chargeFormulas.initialCurrent,
          { Vs: rig.offer('sourceVoltage'), R: rig.figure('charging-resistance') },
          'peak charging current',
        ),
    },
  ],
  limits: [
    {
      id: 'supply-current',
      title: 'Supply current',
      slot: 'supply',
      stress: (rig) => rig.figure('charging-current'),
      rating: (rig) => rig.own('supply').optional('I'),
      levers: ['charging.R', 'supply.V'],
      note: 'Into an empty store; a short at the terminals draws the same.',
    },
  ],
  problems: (own, rig) => {
    const rated = rig.offers('store').ratedVoltage;
    const { high } = boundsOf(own.quantity('V'));
    if (!rated || high <= rated.value) return [];
    const text = `Left on, this supply takes the store to ${printQuantity(high, 'V')}, above its rating of ${printQuantity(rated.value, 'V')}: the charge has to be stopped in time, by a cut-off and by a person watching the meter.`;
    return [{ severity: 'warning', slot: 'supply', field: 'V', text }];
  },
  steps: (own) => [
    {
      id: 'supply-off',
      phase: 'prepare',
      text: `Supply off, its output control at nought, its plug in sight. It can give ${printQuantity(own.quantity('V').value, 'V')}.`,
    },
    {
      id: 'supply-isolate',
      phase: 'isolate',
      text: 'Supply off, then take it off the store with an isolator one can see, or pull its lead.',
      hold: 'The isolator is seen open.',
      caution: 'A charger still connected can feed the load through the switch and recharge the store.',
    },
  ],
});
