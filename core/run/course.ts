import { printQuantity } from '../quantity/index.ts';
import type { Act } from '../block/index.ts';
import { expectedAt, leftByBleeder } from './expected.ts';
import { outcomeWords, type RunEvent } from './event.ts';
import type { RunPlan } from './plan.ts';
import { notBegun, stepAt, stepRun, type RunState } from './state.ts';

/** A run as voltage over time. Times are s of the rig since it began. */
export interface Course {
  /** V that were expected, NaN where nothing was; the worst case beside them, where it is another. */
  readonly t: readonly number[];
  readonly expected: readonly number[];
  readonly worst: readonly number[];
  /** V that were read; whether they were far from what was expected. */
  readonly readings: readonly { readonly t: number; readonly v: number; readonly isFar: boolean; readonly text: string }[];
  /** What was done that acts on the store, or came of it. */
  readonly marks: readonly { readonly t: number; readonly text: string }[];
}

/** What stands at the line of an act, in a word. */
const actWords: { readonly [A in Act]?: string } = {
  charge: 'charged',
  isolate: 'isolated',
  bleed: 'bled',
  tool: 'discharge stick',
  strap: 'strapped',
  'hand-over': 'handed over',
};

/** Points between two events: enough for an exponential that is looked at. */
const between = 12;

interface Making {
  readonly t: number[];
  readonly expected: number[];
  readonly worst: number[];
  readonly readings: Course['readings'][number][];
  readonly marks: Course['marks'][number][];
}

/** V on a charged store that its bleeder takes down, whatever the sheet is at; NaN where nothing says. */
function bleeding(plan: RunPlan, state: RunState, at: number, speed: number): number {
  const falls = state.isIsolated && !state.hasFired && state.charges > 0 && !state.verified;
  return (falls ? leftByBleeder(plan, state, at, speed) : null) ?? Number.NaN;
}

/** What an event left to see, where it had an effect. */
function seen(plan: RunPlan, before: RunState, after: RunState, event: RunEvent, at: number, into: Making): void {
  const step = stepAt(plan, before);
  if (event.type === 'read' && step?.of === undefined)
    into.readings.push({ t: at, v: event.value, isFar: after.reading?.isFar === true, text: printQuantity(event.value, 'V') });
  if (event.type === 'aborted') into.marks.push({ t: at, text: 'abort' });
  if (event.type === 'outcome') into.marks.push({ t: at, text: (outcomeWords[event.outcome].split(':')[0] ?? '').toLowerCase() });
  const done = event.type === 'done' && step?.does ? actWords[step.does] : undefined;
  if (done !== undefined) into.marks.push({ t: at, text: done });
}

/**
 * The course of a run: what was expected at each step, what was read, what was done.
 *
 * @param events all of them, in their order; those that had no effect leave nothing
 * @param speed how many times faster than the clock a rehearsal runs
 */
export function courseOf(plan: RunPlan, events: readonly RunEvent[], speed = 1, isRehearsal = false): Course {
  const made: Making = { t: [], expected: [], worst: [], readings: [], marks: [] };
  const began = events.find(({ type }) => type === 'began')?.at ?? 0;
  const seconds = (at: number) => (Math.max(0, at - began) / 1000) * speed;
  let state = notBegun;
  for (const event of events) {
    const from = state.lastAt;
    const step = stepAt(plan, state);
    const next = stepRun(plan, state, event, speed);
    const to = Math.max(from, next.state.lastAt);
    // Up to an event what stood before it was expected.
    if (state.at === 'running' && step)
      for (let i = 0; i <= between; i++) {
        const at = from + ((to - from) * i) / between;
        const expected = expectedAt(plan, state, step, at - state.enteredAt, speed, isRehearsal);
        made.t.push(seconds(at));
        made.expected.push(expected?.volts ?? bleeding(plan, state, at, speed));
        made.worst.push(expected?.worst ?? Number.NaN);
      }
    if (next.ok) seen(plan, state, next.state, event, seconds(to), made);
    state = next.state;
  }
  return made;
}
