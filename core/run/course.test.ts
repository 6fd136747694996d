import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig } from '../test/rigs.ts';
import { courseOf, planOf, replay, stepAt, type RunEvent, type RunPlan } from './index.ts';

const planFor = (name: Parameters<typeof demoRig>[0]): RunPlan => {
  const made = planOf(name, evaluateRig(demoRig(name)), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan;
};
const plan = planFor('thimble');

/** A whole run, each step done 60 s after the last, each reading a given share of what was expected. */
function wholeRun(share: number, of = plan): RunEvent[] {
  const events: RunEvent[] = [];
  let at = 1e12;
  const send = (event: object, after: number) => {
    at += after * 1000;
    const id = `00000000-0000-4000-8000-${String(events.length).padStart(12, '0')}`;
    events.push({ ...event, id, at, screen: 'one' } as RunEvent);
  };
  send({ type: 'began', acts: 'AB', reads: null }, 0);
  for (let i = 0; i < 200; i++) {
    const { state } = replay(of, events);
    const step = stepAt(of, state);
    if (state.at === 'ended' || !step) return events;
    if (step.second) send({ type: 'answered', step: step.id }, 1);
    const { expected, below } = step.reading ?? { expected: null, below: null };
    if (step.reading)
      send({ type: 'read', step: step.id, value: (expected ?? (below ?? 0) / 4) * share, source: 'typed', confirmed: true }, 1);
    if (step.does === 'fire') send({ type: 'outcome', step: step.id, outcome: 'fired' }, 60);
    else send({ type: 'done', step: step.id }, Math.max(60, (step.wait ?? 0) + 1));
  }
  throw new Error('the run does not end');
}

describe('the course of a run', () => {
  test('has every reading at its time and value, what acted on the store in its order, and times that never go back', () => {
    const events = wholeRun(1);
    const course = courseOf(plan, events);
    const read = events.filter((event) => event.type === 'read');
    expect(course.readings.map(({ v }) => v)).toEqual(read.map(({ value }) => value));
    expect(course.readings.map(({ t }) => t)).toEqual(read.map(({ at }) => (at - 1e12) / 1000));
    const marks = course.marks.map(({ text }) => text);
    expect(marks.filter((text) => ['charged', 'fired', 'strapped', 'handed over'].includes(text))).toEqual([
      'charged',
      'fired',
      'strapped',
      'handed over',
    ]);
    for (const list of [course.t, course.marks.map(({ t }) => t)])
      for (let i = 1; i < list.length; i++) expect(list[i]).toBeGreaterThanOrEqual(list[i - 1] ?? 0);
    // It comes to the charge, and falls to below the goal: what was expected goes through the whole run.
    const known = course.expected.filter(Number.isFinite);
    expect(Math.max(...known)).toBeGreaterThanOrEqual(plan.numbers.charged);
    expect(Math.max(...known)).toBeLessThan(1.1 * plan.numbers.charged);
    expect(Math.min(...known)).toBeLessThan(plan.numbers.below);
    course.worst.forEach((worst, i) => Number.isFinite(worst) && expect(worst).toBeGreaterThanOrEqual(course.expected[i] ?? 0));
  });

  test('marks what was far off, leaves out what had no effect, and says an abort', () => {
    const events = wholeRun(1.3);
    const far = courseOf(plan, events).readings.filter(({ isFar }) => isFar);
    expect(far.length).toBeGreaterThan(0);
    expect(courseOf(plan, wholeRun(1)).readings.filter(({ isFar }) => isFar)).toEqual([]);
    const [began] = events;
    const half = events.slice(0, Math.floor(events.length / 2));
    const stray = { ...began, type: 'read', step: 'no-such-step', value: 5, source: 'typed', confirmed: false } as RunEvent;
    expect(courseOf(plan, [...half, { ...stray, at: half.at(-1)?.at ?? 0 }]).readings).toEqual(courseOf(plan, half).readings);
    const aborted = { ...began, type: 'aborted', reason: '', at: (half.at(-1)?.at ?? 0) + 1000 } as RunEvent;
    expect(courseOf(plan, [...half, aborted]).marks.at(-1)?.text).toBe('abort');
    expect(courseOf(plan, [])).toMatchObject({ t: [], readings: [], marks: [] });
  });

  test('what keeps a charge of its own is read by itself, and is no reading of the store', () => {
    const of = (['anvil', 'kittiwake', 'shuttle', 'cricket'] as const)
      .map(planFor)
      .find(({ main }) => main.some((s) => s.of && s.reading));
    if (!of) throw new Error('nothing keeps a charge of its own');
    const held = new Set(of.main.flatMap((step) => (step.of === undefined ? [] : [step.id])));
    const read = wholeRun(1, of).filter((event) => event.type === 'read');
    const ofStore = read.filter(({ step }) => !held.has(step));
    expect(ofStore.length).toBeLessThan(read.length);
    expect(courseOf(of, wholeRun(1, of)).readings.map(({ v }) => v)).toEqual(ofStore.map(({ value }) => value));
  });
});
