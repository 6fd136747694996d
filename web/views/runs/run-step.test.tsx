// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, test } from 'vitest';
import type { StoredRun } from '@vast-surge/contract';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { planOf, replay, type RunEvent } from '@vast-surge/core/run';
import { clear } from '../../test/render.tsx';
import { RunStep } from './run-step.tsx';
import type { Running } from './use-run.ts';

afterEach(clear);

const bare = { at: 1, screen: 'here' };
const began = { ...bare, id: '00000000-0000-4000-8000-000000000001', type: 'began', acts: 'ab', reads: 'cd' } as RunEvent;
const nothing = { value: null, isOver: false, trouble: null };

function planned(name: string): StoredRun {
  const read = readRigFile(readFileSync(`demo/${name}.json`, 'utf8'));
  if (!read.ok) throw new Error('the demo cannot be read');
  const { rig, sheet, name: title } = read.document;
  const made = planOf(title, evaluateRig(rig), sheet);
  if (!made.ok) throw new Error(made.reason);
  const id = '00000000-0000-4000-8000-00000000000a';
  return {
    id,
    rigId: id,
    revisionId: id,
    revision: 1,
    rehearsal: null,
    madeAt: '2026-01-01T00:00:00.000Z',
    plan: made.plan,
    events: [],
  };
}

/** A run at a step, and what is done there. */
function at(run: StoredRun, index: number, elapsed = 0) {
  const done: object[] = [];
  const replayed = replay(run.plan, [began]);
  const running: Running = {
    ...replayed,
    state: { ...replayed.state, index },
    events: [],
    waiting: [],
    isAway: false,
    isUnkept: false,
    ahead: 0,
    act: (event) => void done.push(event),
    isActing: true,
    speed: 1,
    elapsed,
  };
  const step = run.plan.main[index];
  if (!step) throw new Error(`no step ${index + 1}`);
  const drawn = render(<RunStep run={run} step={step} running={running} shown={nothing} instrument={null} countLeft={null} />);
  return { step, done, drawn };
}

describe('a step of a run', () => {
  test.each(['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'])(
    'of %s says what to do, which it is, what has to be true, what to expect and what to beware of',
    (name) => {
      const run = planned(name);
      run.plan.main.forEach((_, index) => {
        const { step } = at(run, index);
        const said = document.body.textContent ?? '';
        expect(screen.getByRole('heading', { level: 1 }).textContent).toBe(step.text);
        expect(said).toContain(`Step ${index + 1} of ${run.plan.main.length}`);
        for (const words of [step.hold, step.caution, ...step.expect.flatMap(({ label, printed }) => [label, printed])])
          if (words) expect(said).toContain(words);
        expect(screen.queryAllByRole('textbox').length, step.id).toBe(step.reading === undefined ? 0 : 1);
        clear();
      });
    },
  );

  test('takes a reading in the unit it is typed in, asks again for one that is far off, and never takes what is none', async () => {
    const run = planned('thimble');
    const index = run.plan.main.findIndex(({ does }) => does === 'verify');
    const { done, step } = at(run, index, 600_000);
    const hand = userEvent.setup({ delay: null });
    const field = screen.getByRole('textbox');
    await hand.type(field, '3.1 A{Enter}');
    expect(done).toEqual([]);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    await hand.clear(field);
    await hand.type(field, '310 mV{Enter}');
    expect(done).toMatchObject([{ type: 'read', step: step.id, value: 0.31, confirmed: false }]);
    await hand.clear(field);
    await hand.type(field, '31 kV{Enter}');
    expect(done).toHaveLength(1);
    expect(document.body.textContent).toMatch(/31(\.0)? kV/);
  });
});
