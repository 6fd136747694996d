// @vitest-environment jsdom
import { describe, expect, test } from 'vitest';
import { pinCheck, type RunEvent } from '@vast-surge/core/run';
import { plannedRun, runningAt } from '../../test/run.ts';
import { actionOf } from './step-action.ts';
import type { Running } from './use-run.ts';

const names = ['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'];
const pin = pinCheck('0011223344556677', '4711');
const began: RunEvent = {
  id: '00000000-0000-4000-8000-000000000001',
  at: 1,
  screen: 'here',
  type: 'began',
  acts: 'AB',
  reads: 'CD',
  pin,
};

/** What the one large button does at a step, of a run that stands there. */
function at(name: string, index: number, more: Partial<Running['state']> = {}, elapsed = 1e9, left: number | null = null) {
  const run = plannedRun(name);
  const done: { type: string }[] = [];
  const running = runningAt(run, began, { index, ...more }, elapsed, (event) => void done.push(event));
  const action = actionOf(run, running, { left, start: () => void done.push({ type: 'count' }) });
  action.act?.();
  return { step: run.plan.main[index], action, done };
}

const reading = (value: number) => ({ value, at: 1, step: '', source: 'typed', isFar: false });

describe('the one large button of a step', () => {
  test.each(names)('of every step of %s asks first for what the step needs, and is never the way past it', (name) => {
    plannedRun(name).plan.main.forEach(({ second, reading: asked, does }, index) => {
      const first = at(name, index);
      if (second) {
        expect(first.action).toMatchObject({ words: 'Enter the PIN', opens: 'of CD' });
        expect(first.done).toEqual([]);
        return;
      }
      if (does === 'fire') return expect(first.done).toEqual([{ type: 'count' }]);
      if (asked) {
        expect(first.action.words).toBe('Take the reading');
        expect(first.done).toEqual([]);
      } else expect(first.done).toMatchObject([{ type: 'done' }]);
      return undefined;
    });
  });

  test('waits as long as there is to wait, and then is done', () => {
    const { main } = plannedRun('thimble').plan;
    const index = main.findIndex(({ wait, second }) => wait !== undefined && !second);
    expect(at('thimble', index, {}, 0).action).toEqual({ words: 'Wait', act: null });
    expect(at('thimble', index, { reading: reading(0) }, 1e9).action.act).not.toBeNull();
  });

  test('over a store that is still charged the stick goes on again; below the goal the step is done', () => {
    const { main } = plannedRun('thimble').plan;
    const index = main.findIndex(({ does }) => does === 'verify');
    const below = main[index]?.reading?.below ?? 0;
    const more = { isAnswered: true };
    expect(at('thimble', index, { ...more, reading: reading(below) }).done).toEqual([{ type: 'again', to: 'tool' }]);
    expect(at('thimble', index, { ...more, reading: reading(-below * 1.01) }).done).toEqual([{ type: 'again', to: 'tool' }]);
    expect(at('thimble', index, { ...more, reading: reading(below * 0.99) }).done).toMatchObject([{ type: 'done' }]);
  });

  test('a shot is said to have fired after the count, and not within it; alone, nobody is asked for a PIN', () => {
    const { main } = plannedRun('thimble').plan;
    const fire = main.findIndex(({ does }) => does === 'fire');
    const answered = { isAnswered: true };
    expect(at('thimble', fire, answered, 1e9, 3)).toMatchObject({ action: { words: 'It fired', act: null }, done: [] });
    expect(at('thimble', fire, answered, 1e9, 0).done).toMatchObject([{ type: 'outcome', outcome: 'fired' }]);
    const second = main.findIndex((step) => step.second);
    expect(at('thimble', second, { reads: null, pin: null }).done).toMatchObject([{ type: 'answered' }]);
  });
});
