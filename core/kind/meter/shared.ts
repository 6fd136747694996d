import { printQuantity } from '../../quantity/index.ts';
import { chargeFormulas, ruled, work, type Worked } from '../../formula/index.ts';
import type { Offers, Problem, RigContext, StepSpec } from '../../block/context.ts';
import { ifKnown } from '../../block/known.ts';
import { bleedGoal, highestVoltage } from '../../block/goal.ts';
import type { FieldId } from '../../block/names.ts';

/** What a meter takes from the store; nothing is said where a value of it is missing. */
export const meterOffer = (R: () => Worked): Offers => {
  const known = ifKnown(R);
  return known ? { meterResistance: known } : {};
};

/** Left on, the supply may bring a meter above what it may see. */
export function meterLeftOn(rig: RigContext, most: number, field: FieldId<'meter'>): Problem[] {
  const high = highestVoltage(rig);
  if (high <= most) return [];
  const text = `Left on, the supply takes the meter to ${printQuantity(high, 'V')}, above its ${printQuantity(most, 'V')} maximum.`;
  return [{ severity: 'warning', slot: 'meter', field, text }];
}

/** Where the dielectric of a store is not asked: longest of what is usual. */
const reboundWait = ruled('wait for the recovery voltage', 600, 's', 'common practice, no source');

/**
 * The readings after every bleed-down: prove, measure, wait for the recovery voltage, measure, prove. `where` says how this instrument is read.
 */
export const verifySteps = (rig: RigContext, where: string): StepSpec[] => {
  const goal = bleedGoal(rig);
  const absorption = rig.offers('store').absorption;
  const back = absorption
    ? work(chargeFormulas.fractionOfVoltage, { V: rig.offer('chargedTo'), x: absorption.share }, 'voltage that may come back')
    : null;
  const known = 'on a source that gives a clear reading, with the leads and the range that are used';
  return [
    {
      id: 'prove-meter',
      phase: 'verify',
      text: `Prove the meter ${known}: a battery, or a fixed divider on the low-voltage rung for an instrument that cannot show a battery.`,
      hold: 'It has shown the voltage of that source.',
      does: 'prove',
    },
    {
      id: 'verify',
      phase: 'verify',
      text: where,
      expect: [{ label: 'Expected below', worked: goal.voltage, print: 'quantity', use: 'nominal' }],
      hold: `The reading is below ${goal.text} and falling. Write it down.`,
      does: 'verify',
      reading: { below: goal.voltage },
      caution: 'A reading of exactly zero can be a broken lead: that is why the meter is proved before and after.',
    },
    {
      id: 'verify-again',
      phase: 'verify',
      text: 'Take the stick off, wait for the recovery voltage, read again.',
      hold: `The second reading is written down and below ${goal.text}; if it has risen above, the stick goes on again, for five minutes.`,
      does: 'verify',
      reading: { below: goal.voltage },
      wait: absorption?.wait ?? reboundWait,
      ...(back
        ? { expect: [{ label: 'May come back, at most', worked: back, print: 'quantity' as const, use: 'nominal' as const }] }
        : {}),
    },
    {
      id: 'prove-again',
      phase: 'verify',
      text: `Prove the meter once more ${known}.`,
      hold: 'It still shows the voltage of that source. If not, nothing it has read counts: stick on, another meter, from the first reading on.',
      does: 'prove-again',
    },
  ];
};
