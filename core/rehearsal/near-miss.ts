import { z } from 'zod';
import { refusalWords, replay, stepAt, stepRun, notBegun, type Refusal, type RunEvent, type RunPlan } from '../run/index.ts';
import { printQuantity } from '../quantity/index.ts';
import type { Rehearsal } from './rehearsal.ts';
import { worldAt } from './world.ts';

/** Something in a run that nearly went wrong, as the run itself noticed it: the event by which it came about, ms since 1970, and in words. */
export const nearMissSchema = z.object({ id: z.uuid(), at: z.number(), text: z.string().max(4000) });
export type NearMiss = Readonly<z.infer<typeof nearMissSchema>>;

/** Holds that keep people from what is charged: whoever is refused there would have gone on without. */
const holds: readonly Refusal['code'][] = [
  'not_verified',
  'not_strapped',
  'not_isolated',
  'still_charged',
  'no_reading',
  'no_answer',
];

/**
 * Near-misses of a run: a hold that was refused, a reading far from what is expected that was recorded all the same, and in a rehearsal
 * somebody who touched what was charged.
 *
 * @param rehearsal null of a live run
 */
export function nearMissesOf(plan: RunPlan, rehearsal: Rehearsal | null, events: readonly RunEvent[]): NearMiss[] {
  const speed = rehearsal?.speed ?? 1;
  const { refusals } = replay(plan, events, speed);
  const found: NearMiss[] = [];
  let state = notBegun;
  let refusedAt = '';
  for (const [i, event] of events.entries()) {
    const step = stepAt(plan, state);
    const refusal = refusals.get(i);
    const where = step ? ` At: ${step.text}` : '';
    const told = (text: string) => found.push({ id: event.id, at: event.at, text: `${text}${where}` });
    // Who presses five times is told once.
    const again = refusal && `${refusal.code} ${step?.id ?? ''}`;
    if (refusal && holds.includes(refusal.code) && again !== refusedAt) told(`A hold was refused. ${refusalWords(refusal)}`);
    refusedAt = again ?? '';
    const next = stepRun(plan, state, event, speed).state;
    if (event.type === 'read' && next.farReadings > state.farReadings)
      told(`A reading far from what is expected was recorded: ${printQuantity(event.value, 'V')}.`);
    state = next;
  }
  const last = events.at(-1);
  if (rehearsal && last)
    for (const { at, volts, joules, who } of worldAt(plan, rehearsal, events, last.at).touches) {
      const by = events.findLast((event) => event.at <= at) ?? last;
      found.push({
        id: by.id,
        at,
        text: `${who === 'trainee' ? 'In the rehearsal somebody went in and touched' : 'In the rehearsal somebody else went in and touched'} ${printQuantity(volts, 'V')}, with ${printQuantity(joules, 'J')} behind it.`,
      });
    }
  return found.sort((a, b) => a.at - b.at);
}
