// @vitest-environment jsdom
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, test, vi } from 'vitest';
import type { StoredRun } from '@vast-surge/contract';
import { pinCheck, type PinCheck, type RunEvent } from '@vast-surge/core/run';
import { clear } from '../../test/render.tsx';
import { plannedRun, runningAt } from '../../test/run.ts';
import { RunStep } from './run-step.tsx';
import type { Shown } from './use-meter.ts';

afterEach(clear);

const bare = { at: 1, screen: 'here' };
const id = '00000000-0000-4000-8000-000000000001';
const began = { ...bare, id, type: 'began', acts: 'ab', reads: 'cd' } satisfies RunEvent;
const nothing = { value: null, isOver: false, trouble: null };

/** A run at a step, and what is done there. */
function at(run: StoredRun, index: number, elapsed = 0, shown: Shown = nothing, pin?: PinCheck) {
  const done: object[] = [];
  const kept = { ...began, ...(pin ? { pin } : {}) };
  const running = runningAt(run, kept, { index }, elapsed, (event) => void done.push(event));
  const step = run.plan.main[index];
  if (!step) throw new Error(`no step ${index + 1}`);
  const again = (passed: number) => (
    <RunStep run={run} step={step} running={{ ...running, elapsed: passed }} shown={shown} instrument={null} countLeft={null} />
  );
  return { step, done, drawn: render(again(elapsed)), again };
}

describe('a step of a run', () => {
  test.each(['thimble', 'anvil', 'kittiwake', 'shuttle', 'cricket'])(
    'of %s says what to do, which it is, what has to be true, what to expect and what to beware of',
    (name) => {
      const run = plannedRun(name);
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
    const run = plannedRun('thimble');
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

  test('says where the eye is that a bleeder is weak, with how much and what to do, and says it aloud once', () => {
    const run = plannedRun('thimble');
    const index = run.plan.main.findIndex(({ does }) => does === 'bleed');
    const spoken: string[] = [];
    vi.stubGlobal(
      'SpeechSynthesisUtterance',
      class {
        constructor(readonly text: string) {}
      },
    );
    vi.stubGlobal('speechSynthesis', {
      getVoices: () => ['a voice'],
      cancel: () => undefined,
      speak: ({ text }: { text: string }) => spoken.push(text),
    });
    const late = (run.plan.numbers.bleeder?.worst ?? 0) * 1000;
    const { drawn, again } = at(run, index, late, { ...nothing, value: run.plan.numbers.charged * 0.9 });
    expect(screen.getByRole('alert').textContent).toMatch(/over the worst case: the bleeder is weak or open.*discharge stick/);
    drawn.rerender(again(late + 1000));
    drawn.rerender(again(late + 2000));
    expect(spoken).toHaveLength(1);
    expect(spoken[0]).toMatch(/volts over the worst case/);
    vi.unstubAllGlobals();
  });

  test('a hold of the second person shows no field for a reading before it was answered', async () => {
    const run = plannedRun('thimble');
    const index = run.plan.main.findIndex(({ second }) => second);
    const { done } = at(run, index, 0, nothing, pinCheck('0011223344556677', '4711'));
    const hand = userEvent.setup({ delay: null });
    expect(screen.queryByLabelText('Reading')).toBeNull();
    await hand.type(screen.getByLabelText('cd, your PIN'), '1111{Enter}');
    expect(done).toEqual([]);
    expect(screen.getByRole('alert').textContent).toContain('The hold stands.');
    await hand.type(screen.getByLabelText('cd, your PIN'), '4711{Enter}');
    expect(done).toMatchObject([{ type: 'answered' }]);
  });
});
