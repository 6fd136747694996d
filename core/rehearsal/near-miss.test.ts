import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { planOf, replay, stepAt, type RunEvent, type RunPlan } from '../run/index.ts';
import { rigWith } from '../test/rigs.ts';
import { nearMissesOf } from './index.ts';

const made = planOf(
  'Test bank',
  evaluateRig(rigWith({ 'supply.V': '500 V', 'store.V0': '400 V', 'store.Vr': '450 V', 'meter.V': '600 V', 'store.ns': '2' })),
  noSheetEdits,
);
if (!made.ok) throw new Error(made.reason);
const plan: RunPlan = made.plan;

type Bare = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

/** Events of a run up to a step that does something, each step done as it is written; then what is tried there. */
function runTo(does: string, ...tried: Bare[]): RunEvent[] {
  const events: RunEvent[] = [];
  let now = 1e12;
  const send = (bare: Bare, after = 3600) => {
    now += 1000 * after;
    const id = `00000000-0000-4000-8000-${String(events.length).padStart(12, '0')}`;
    events.push({ ...bare, id, at: now, screen: 'left' } as RunEvent);
  };
  send({ type: 'began', acts: 'AB', reads: 'CD' });
  for (let n = 0; n < 80; n++) {
    const { state } = replay(plan, events);
    const step = stepAt(plan, state);
    if (!step || step.does === does) break;
    if (step.reading)
      send({ type: 'read', step: step.id, value: step.does === 'charge' ? 400 : 0, source: 'meter', confirmed: false });
    if (step.second) send({ type: 'answered', step: step.id });
    if (step.does === 'fire') send({ type: 'outcome', step: step.id, outcome: 'fired' });
    else send({ type: 'done', step: step.id });
    if (replay(plan, events).state.index === state.index) break;
  }
  for (const bare of tried) send(bare, 1);
  return events;
}

const stepOf = (does: string) => plan.main.find((step) => step.does === does)?.id ?? '';

describe('near-misses that a run notices by itself', () => {
  test('a run that goes as it is written has none', () => {
    expect(nearMissesOf(plan, null, runTo('nothing'))).toEqual([]);
  });

  test('a hold that was refused, with where it was', () => {
    // Pressed three times, told once.
    const press = { type: 'done', step: stepOf('verify') } as const;
    const events = runTo('verify', press, press, press);
    const found = nearMissesOf(plan, null, events);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ id: events.at(-3)?.id, at: events.at(-3)?.at });
    expect(found[0]?.text).toMatch(/^A hold was refused\. A reading is needed here before the run goes on\. At: /);
  });

  test('a reading far off that was recorded all the same is one; haste alone is none', () => {
    const events = runTo('charge', { type: 'read', step: stepOf('charge'), value: 120, source: 'meter', confirmed: true });
    expect(nearMissesOf(plan, null, events).map(({ text }) => text)).toEqual([
      expect.stringMatching(/^A reading far from what is expected was recorded: 120 V\. At: /),
    ]);
    const hasty = runTo('tool', { type: 'done', step: stepOf('tool') });
    expect([...replay(plan, hasty).refusals.values()].map(({ code }) => code)).toEqual(['too_early']);
    expect(nearMissesOf(plan, null, hasty)).toEqual([]);
  });

  test('in a rehearsal somebody who touches what is charged is told with what stood behind it', () => {
    const acts = ['strap-off', 'supply-on', 'look-strap', 'approach'] as const;
    const events = runTo('charge', ...acts.map((act) => ({ type: 'acted' as const, act }))).map((event, i, all) =>
      i < all.length - 2 ? event : { ...event, at: event.at + 600e3 },
    );
    const found = nearMissesOf(plan, { seed: 3, speed: 1, faults: [] }, events);
    expect(found.some(({ text }) => /somebody went in and touched \d+.* V, with .* J behind it/.test(text))).toBe(true);
  });
});
