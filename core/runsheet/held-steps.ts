import { goalBeside, holdOf, slots, type HeldCharge, type StepSpec } from '../block/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { definitionIn, ifKnown, type RigReading } from '../figure/index.ts';
import { bleedFormulas, ruled, storeFormulas, work, type Worked } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';

/** What keeps a charge of its own in a rig, block by block, in the order of the line. */
export const heldIn = (evaluation: Evaluation, reading: RigReading): HeldCharge[] =>
  slots.flatMap((slot) => [
    ...(ifKnown(() => definitionIn(evaluation.rig, slot).held?.(reading.ownOf(slot), reading) ?? []) ?? []),
  ]);

/** Capacitance, each of them, F, by what it holds. */
const capacitanceOf = (E1: Worked, V: Worked): Worked =>
  work(storeFormulas.capacitanceOfEnergy, { E: E1, V }, 'capacitance, each');

/** How long the tool stays on one of them. */
export function heldHold(reading: RigReading, { V, E1 }: HeldCharge): Worked {
  const R = reading.offer('toolResistance');
  return holdOf(
    work(bleedFormulas.rcBleedTime, { R, C: capacitanceOf(E1, V), V0: V, V: goalBeside(V, E1) }, 'time through the stick'),
  );
}

/** Everything that holds a charge gets a discharge, a reading and a strap of its own, after the reading of the whole. */
export function heldSteps(evaluation: Evaluation): StepSpec[] {
  const reading = evaluation.corners.nominal();
  return heldIn(evaluation, reading).flatMap((held): StepSpec[] => {
    const { id, one, count, V, E1, how } = held;
    if (!(V.value > 0)) return [];
    const each = count === 1 ? `the ${one}` : `each ${one}, all ${count}`;
    const below = goalBeside(V, E1);
    const goal = printQuantity(below.value, 'V', { trim: true });
    const hold = heldHold(reading, held);
    const all = work(bleedFormulas.holdOfAll, { t: hold, n: ruled('how many', count, '1', 'one after the other') });
    return [
      {
        id: `${id}-tool`,
        phase: 'verify',
        text:
          how ??
          `Discharge stick across ${each}${count === 1 ? '' : ', one after the other'}: what the whole bank reads says nothing of it.`,
        expect: [
          { label: count === 1 ? 'It may hold' : 'One of them may hold', worked: V, print: 'quantity', use: 'nominal' },
          { label: 'That is', worked: E1, print: 'quantity', use: 'nominal' },
          {
            label: count === 1 ? 'Stick on for at least' : 'Stick on each for at least',
            worked: hold,
            print: 'duration',
            use: 'nominal',
          },
        ],
        does: 'held',
        of: id,
        wait: all,
      },
      {
        id: `${id}-read`,
        phase: 'verify',
        text: `Meter across ${count === 1 ? `the ${one}` : `each ${one}`} by itself${count === 1 ? '' : `, all ${count}`}.`,
        hold: `${count === 1 ? 'It reads' : 'Each reads'} below ${goal}.`,
        of: id,
        reading: { below },
        seconds: Math.min(60, 5 + 5 * count),
      },
      {
        id: `${id}-strap`,
        phase: 'strap',
        text: `Stick across ${count === 1 ? `the ${one}` : `each ${one}`} once more, then a strap across it${count === 1 ? '' : `, all ${count}`}.`,
        hold: count === 1 ? 'Its strap is seen on.' : `All ${count} straps are seen on.`,
        of: id,
      },
    ];
  });
}
