import { bleedGoal } from '../../block/goal.ts';
import type { RigContext, StepSpec } from '../../block/context.ts';

/** The first acts of a day: whatever was done before, a store is taken for charged. Resistor, proved meter, strap. `what` is touched. */
export function takenForCharged(rig: RigContext, what: string): StepSpec[] {
  const goal = bleedGoal(rig);
  return [
    {
      id: 'discharged-before',
      phase: 'prepare',
      text: `Before touching anything, treat ${what} as charged: supply seen off, then the discharge stick across it at arm’s length, left on for the whole time.`,
      expect: [{ label: 'Stick on for at least', worked: rig.figure('tool-hold'), print: 'duration', use: 'high' }],
      wait: rig.figure('tool-hold'),
      caution: 'A stage, a group or a can that is cut off keeps its whole charge: what reads zero says nothing of the next.',
    },
    {
      id: 'read-before',
      phase: 'prepare',
      text: 'Meter proved on a source that it reads clearly, across the terminals, proved again.',
      expect: [{ label: 'Expected below', worked: goal.voltage, print: 'quantity', use: 'nominal' }],
      hold: `It was proved, has read below ${goal.text}, and was proved again.`,
    },
    {
      id: 'strap-before',
      phase: 'prepare',
      text: 'Stick once more, and then the strap while the guard is open.',
      hold: 'The strap is seen on.',
    },
  ];
}
