import { printQuantity } from '../../quantity/index.ts';
import type { RigContext, StepSpec } from '../../block/context.ts';

/** The way up of a store that was never charged, or was changed. @param V0 V that it is charged to */
export const commissionLow = (rig: RigContext, V0: number): StepSpec => ({
  id: 'commission-low',
  phase: 'commission',
  text: rig.offers('switch').freeRunning
    ? 'First run of a new or changed tank: gaps set close, the supply at the lowest voltage that fires them, a second at a time; then open the gaps and raise the supply, one change at a time, and compare with what is calculated.'
    : `First firing, and after a change of circuit, gap or protection: each rung of the way up is a full cycle of this sheet, from “all others out” to the strap. Charge to about ${printQuantity(V0 / 10, 'V', { digits: 2 })}, a tenth of the working voltage, fire, bleed, verify, strap, and compare with what is calculated. One change at a time on the way up.`,
});

/** A store that a switch which conducts one way has left charged the other way round. */
export function residualStep(rig: RigContext): StepSpec[] {
  if (rig.offers('switch').conduction !== 'one-way' || rig.figure('voltage-reversal').value === 0) return [];
  return [
    {
      id: 'reversed-after-shot',
      phase: 'fire',
      text: 'After the shot the bank stays charged in reverse: the switch blocks reverse current.',
      expect: [
        {
          label: 'Bank after the shot, reversed',
          worked: rig.figure('reversed-voltage'),
          print: 'quantity',
          use: 'high',
        },
      ],
      caution: 'A bank that has fired is not a bank that is empty.',
    },
  ];
}
