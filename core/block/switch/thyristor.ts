import { printQuantity } from '../../quantity/index.ts';
import { defineBlock } from '../define.ts';
import type { Own } from '../context.ts';
import { fireSteps, switchLimits, switchRatingFields } from './shared.ts';

const conduction = (own: Own) => (own.choice('direction') === 'both-ways' ? ('both-ways' as const) : ('one-way' as const));

export const thyristor = defineBlock({
  slot: 'switch',
  kind: 'thyristor',
  title: 'Thyristor',
  glyph: (own) => (conduction(own) === 'both-ways' ? 'thyristor-pair' : 'thyristor'),
  fields: {
    direction: {
      type: 'choice',
      title: 'Conducts',
      initial: 'one-way',
      options: [
        { value: 'one-way', title: 'one way' },
        { value: 'both-ways', title: 'both ways' },
      ],
      help: 'Both ways: an antiparallel pair, or a diode across it. One way, the current stops at its first zero and a ringing bank is left reversed.',
    },
    VT: {
      type: 'quantity',
      symbol: 'VT',
      title: 'Threshold voltage',
      unit: 'V',
      min: 0,
      max: 1e4,
      initial: '1.1 V',
      tolerance: true,
      help: 'V_T(TO) of the data sheet.',
    },
    R: {
      type: 'quantity',
      symbol: 'rT',
      title: 'Slope resistance',
      unit: 'Ω',
      min: 0,
      max: 1e6,
      initial: '2 mΩ',
      tolerance: true,
      help: 'r_T of the data sheet.',
    },
    ...switchRatingFields,
  },
  key: (own) => ({
    text: printQuantity(own.quantity('R').value, 'Ω'),
    detail: own.choice('direction') === 'both-ways' ? 'both ways' : 'one way',
  }),
  takes: { part: 'thyristor', fields: { VT: 'VT', R: 'rT', Vr: 'V', I: 'Isurge', S: 'S', A: 'A' } },
  offers: (own) => ({ loopResistance: own.quantity('R'), threshold: own.quantity('VT'), conduction: conduction(own) }),
  circuit: (own, _rig, { plus, minus, tag }) => [
    {
      element: {
        kind: 'thyristor',
        name: `X${tag}`,
        nodes: [plus, minus],
        Vf: own.quantity('VT').value,
        Ron: Math.max(own.quantity('R').value, 1e-6),
        // The gate is taken to be driven for as long as the shot lasts.
        gate: { from: 0, until: 1e9 },
        latching: 0,
        holding: 0,
        turnOff: 0,
        bothWays: conduction(own) === 'both-ways',
      },
      says: 'thyristor, gate driven from the first instant',
    },
  ],
  leavesOut: () => 'the threshold voltage of the thyristor from half cycle to half cycle: it takes it off once',
  limits: switchLimits,
  problems: (own, rig) => {
    const reversal = rig.figure('voltage-reversal').value;
    if (conduction(own) === 'both-ways' || reversal < 0.02 || rig.offers('load').freewheel) return [];
    const text = `The loop rings: the thyristor opens at the first zero of the current and leaves the bank charged the other way round, to ${printQuantity(reversal * rig.offer('chargedTo').value, 'V')}.`;
    return [{ severity: 'warning', slot: 'switch', field: 'direction', text }];
  },
  steps: () => fireSteps('Fire the gate from outside the guard.'),
});
