import { printQuantity } from '../../quantity/index.ts';
import { ruled, type Worked } from '../../formula/index.ts';
import type { Offers, Problem, RigContext, StepSpec } from '../context.ts';
import { ifKnown } from '../known.ts';
import { bleedGoal, highestVoltage } from '../goal.ts';

/** What a meter takes from the store; nothing is said where a value of it is missing. */
export const meterOffer = (R: () => Worked): Offers => {
  const known = ifKnown(R);
  return known ? { meterResistance: known } : {};
};

/** Left on, the supply may bring a meter above what it may see. */
export function meterLeftOn(rig: RigContext, most: number, field: string): Problem[] {
  const high = highestVoltage(rig);
  if (high <= most) return [];
  const text = `Left on, the supply brings the meter to ${printQuantity(high, 'V')}, above the ${printQuantity(most, 'V')} it may see.`;
  return [{ severity: 'warning', slot: 'meter', field, text }];
}

/** How long a discharged store is left to itself before it is read again. */
const reboundWait = ruled('wait for the rebound', 120, 's', 'common practice, no source');

/** The two readings after every bleed-down. `where` says how this instrument is read. */
export const verifySteps = (rig: RigContext, where: string): StepSpec[] => {
  const goal = bleedGoal(rig);
  return [
    {
      id: 'verify',
      phase: 'verify',
      text: where,
      expect: [{ label: 'Expected below', worked: goal.voltage, print: 'quantity', use: 'nominal' }],
      hold: `The reading is below ${goal.text} and falling. Write it down.`,
      does: 'verify',
      reading: { below: goal.voltage },
      caution: 'A reading of exactly nought can be a broken lead: prove the meter again on the known source.',
    },
    {
      id: 'verify-again',
      phase: 'verify',
      text: 'Take the tool off, wait two minutes, read again: dielectric absorption lets the voltage rise.',
      hold: `The second reading is written down and below ${goal.text}; if it has risen above, the tool goes on again.`,
      does: 'verify',
      reading: { below: goal.voltage },
      wait: reboundWait,
    },
  ];
};
