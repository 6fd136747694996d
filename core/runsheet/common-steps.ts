import { bleedGoal, type StepSpec } from '../block/index.ts';
import type { Evaluation } from '../evaluation/index.ts';
import { ruled } from '../formula/index.ts';
import type { SheetEdits } from '../rig/index.ts';

const misfireWait = ruled('wait after a misfire', 60, 's', 'common practice, no source');

/** Steps that belong to no block: people, the guard, the strap, and the two branches. */
export function commonSteps(evaluation: Evaluation, { people, alone }: SheetEdits): StepSpec[] {
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const open = reading.figure('bleed-time-open');
  return [
    people === 'two'
      ? {
          id: 'people',
          phase: 'prepare',
          text: 'Name the key holder, who alone switches and touches and keeps the key of the supply, and the reader, who reads this sheet and the meter aloud. Everyone knows where the isolator is and whom to call.',
          hold: 'Both have answered.',
          second: true,
        }
      : {
          id: 'people',
          phase: 'prepare',
          text: `Alone you are key holder and reader: read every step aloud before you do it. Somebody who knows what runs here is within call; you call in ${alone ? `every ${String(alone.callIn)} min` : 'at times agreed'}, and if a call does not come they come and look.`,
          hold: 'The one within call has answered.',
          caution: 'Nobody to switch off for you, nobody to call: a rig that can kill is not run alone.',
        },
    {
      id: 'guard',
      phase: 'prepare',
      text: 'Guard in place; nobody inside it without the strap on. First-aid and fire extinguisher within reach.',
    },
    {
      id: 'strap-off',
      phase: 'charge',
      text: 'All others out. Strap off as the last act inside, then out yourself, guard shut and locked, the key in the key holder’s pocket; open a dump from outside.',
      hold: 'The guard is locked, and everybody has been counted outside it.',
      seconds: 30,
      second: true,
      does: 'strap-off',
    },
    {
      id: 'strap',
      phase: 'strap',
      text: 'The stick once more across the bank, and with it still on the shorting strap, earthed side first. The strap stays on while anyone works, and in storage.',
      hold: 'The strap is seen on.',
      second: true,
      does: 'strap',
    },
    {
      id: 'hand-over',
      phase: 'hand-over',
      text: 'Write down what was set, what was read and what to change. The strap stays on.',
      hold: 'The two readings and the strap are in the notes.',
      does: 'hand-over',
    },
    {
      id: 'misfire-wait',
      phase: 'misfire',
      text: 'Nothing happened: it may still fire. Stay outside the guard for a minute, hands off the trigger. The store is fully charged.',
      caution: 'Never walk up to a charged bank to look.',
      wait: misfireWait,
    },
    {
      id: 'misfire-isolate',
      phase: 'misfire',
      text: 'Supply off and isolated, from outside the guard.',
      hold: 'The isolator is seen open.',
      does: 'isolate',
    },
    {
      id: 'misfire-open',
      phase: 'misfire',
      text: 'Do not count on time alone: if the bleeder is open, the store keeps its charge. Discharge it, do not wait.',
      expect: [{ label: `Bleeder open, below ${goal.text} after`, worked: open, print: 'duration', use: 'high' }],
    },
    {
      id: 'abort-supply',
      phase: 'abort',
      text: 'Supply off and isolated. Do not fire to empty the store unless the guard is shut and clear.',
      hold: 'The isolator is seen open.',
      does: 'isolate',
    },
    { id: 'abort-bleed', phase: 'abort', text: 'Bleed, verify and strap as in the steps above, from the first bleed step on.' },
    {
      id: 'abort-meter',
      phase: 'abort',
      text: 'If the meter itself is in doubt, treat the store as fully charged: stick on for its whole worst-case time, then a second meter, then the strap.',
    },
  ];
}
