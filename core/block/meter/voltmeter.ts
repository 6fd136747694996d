import { boundsOf } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../define.ts';
import { bleedGoal, highestVoltage } from '../goal.ts';

export const voltmeter = defineBlock({
  slot: 'meter',
  kind: 'voltmeter',
  title: 'Voltmeter',
  glyph: () => 'voltmeter',
  fields: {
    V: {
      type: 'quantity',
      symbol: 'Vm',
      title: 'Highest voltage it may see',
      unit: 'V',
      min: 0,
      max: 1e6,
      open: true,
      initial: '600 V',
      help: 'The lowest of its range, its category and its leads.',
    },
    R: { type: 'quantity', symbol: 'Rm', title: 'Input resistance', unit: 'Ω', min: 0, max: 1e15, open: true, initial: '10 MΩ' },
  },
  key: (own) => ({ text: `to ${printQuantity(own.quantity('V').value, 'V', { trim: true })}` }),
  takes: { part: 'meter', fields: { V: 'V', R: 'R' } },
  offers: () => ({}),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: { kind: 'resistor', name: `R${tag}`, nodes: [plus, minus], R: own.quantity('R').value },
      says: 'input resistance of the meter',
      leftOut: { what: 'the meter', instead: 'open' },
    },
  ],
  limits: [
    {
      id: 'meter-maximum',
      title: 'Meter',
      slot: 'meter',
      stress: (rig) => rig.offer('chargedTo'),
      rating: (rig) => rig.own('meter').quantity('V'),
      levers: ['meter.V', 'store.V0'],
    },
  ],
  problems: (own, rig) => {
    const { high } = boundsOf(rig.offer('sourceVoltage'));
    if (high <= own.quantity('V').value) return [];
    const text = `Left on, the supply brings the meter to ${printQuantity(high, 'V')}, above the ${printQuantity(own.quantity('V').value, 'V')} it may see.`;
    return [{ severity: 'warning', slot: 'meter', field: 'V', text }];
  },
  steps: (own, rig) => {
    const goal = bleedGoal(rig);
    return [
      {
        id: 'meter-check',
        phase: 'instruments',
        text: `Meter that may see ${printQuantity(own.quantity('V').value, 'V', { trim: true })} or more, on a range above ${printQuantity(highestVoltage(rig), 'V')}, on the bank. Prove it on a known source first: its battery, its leads, its range.`,
        hold: 'The meter has shown a known voltage.',
        caution: `No other meter on this bank: one not rated for ${printQuantity(highestVoltage(rig), 'V')} can fail, show nought, or burn.`,
      },
      {
        id: 'verify',
        phase: 'verify',
        text: 'Read the meter across the bank’s own terminals, then go down its ranges to the lowest.',
        expect: [{ label: 'Expected below', worked: goal.voltage, print: 'quantity', use: 'nominal' }],
        hold: `The reading is below ${goal.text} and falling. Write it down.`,
        caution: 'A reading of exactly nought can be a broken lead: prove the meter again on the known source.',
      },
      {
        id: 'verify-again',
        phase: 'verify',
        text: 'Take the tool off, wait two minutes, read again: dielectric absorption lets the voltage rise.',
        hold: `The second reading is written down and below ${goal.text}; if it has risen above, the tool goes on again.`,
      },
    ];
  },
});
