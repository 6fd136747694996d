import { notBegun, stepAt, stepRun, type RunEvent, type RunPlan } from '../run/index.ts';
import type { Shot } from './shot.ts';

/** A shot that a run writes down by itself; it has the id of the event that told its outcome. */
export interface ShotOfRun {
  readonly id: string;
  readonly shot: Shot;
}

/**
 * The shots of a run: one for each outcome that took effect, with the last voltage that was read on the way up to it.
 *
 * @param events in their order; the same events always give the same shots
 */
export function shotsOfRun(plan: RunPlan, events: readonly RunEvent[]): ShotOfRun[] {
  let state = notBegun;
  let read: number | undefined;
  const shots: ShotOfRun[] = [];
  for (const event of events) {
    const before = state;
    const step = stepAt(plan, before);
    const stepped = stepRun(plan, before, event, 1);
    state = stepped.state;
    if (!stepped.ok) continue;
    if (event.type === 'read' && (step?.phase === 'charge' || step?.phase === 'isolate')) read = Math.abs(event.value);
    // The next charge begins without a reading.
    if (event.type === 'again') read = undefined;
    if (state.outcomes.length === before.outcomes.length) continue;
    const people = state.reads === null ? `${state.acts} alone` : `${state.acts} acted, ${state.reads} read`;
    shots.push({
      id: event.id,
      shot: {
        at: new Date(event.at).toISOString(),
        outcome: state.outcomes.at(-1) ?? 'fired',
        set: { voltage: plan.numbers.charged },
        measured: read === undefined ? {} : { voltage: read },
        own: [],
        sound: '',
        campaign: null,
        remarks: `Written down by its run: ${people}.`,
      },
    });
    read = undefined;
  }
  return shots;
}
