import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { newRig } from '@vast-surge/core/rig';
import type { SolveAnswer } from '@vast-surge/core/simulate';
import { LatestSolver, type Asked } from './solve.ts';

interface Call {
  readonly asked: string;
  readonly quick: boolean;
  answer(reason: string): void;
  fail(message: string): void;
}

/** A worker that answers when the test says so. */
function handWorker() {
  const calls: Call[] = [];
  return {
    calls,
    restarts: 0,
    restart() {
      this.restarts += 1;
      calls.at(-1)?.fail('given up');
    },
    call: <R>(run: (remote: never) => Promise<R>): Promise<R> => {
      const remote = {
        solve: (_rig: unknown, name: string, _of: unknown, quick: boolean) =>
          new Promise<SolveAnswer>((resolve, reject) => {
            calls.push({
              asked: name,
              quick,
              answer: (reason) => resolve({ ok: false, reason }),
              fail: (message) => reject(new Error(message)),
            });
          }),
      };
      return run(remote as never);
    },
  };
}

const ask = (name: string): Asked => ({ rig: { ...newRig() }, name, of: 'charge' });
const settled = () => vi.advanceTimersByTimeAsync(0);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('the newest wins', () => {
  test('what comes while one is under way replaces what waits; the last is answered, and once more at rest', async () => {
    const worker = handWorker();
    const solver = new LatestSolver(worker as never);
    for (const name of ['first', 'second', 'third', 'fourth']) solver.ask(ask(name));
    await settled();
    expect(worker.calls.map((c) => c.asked)).toEqual(['first']);
    worker.calls[0]?.answer('1');
    await settled();
    expect(worker.calls.map((c) => c.asked)).toEqual(['first', 'fourth']);
    worker.calls[1]?.answer('4');
    await settled();
    expect(solver.get().answer).toMatchObject({ asked: { name: 'fourth' }, result: { reason: '4' }, quick: true });
    await vi.advanceTimersByTimeAsync(400);
    expect(worker.calls.at(-1)).toMatchObject({ asked: 'fourth', quick: false });
  });

  test('a long run that nobody wants any more is ended with its worker, and is no trouble', async () => {
    const worker = handWorker();
    const solver = new LatestSolver(worker as never);
    solver.ask(ask('long'));
    await settled();
    solver.ask(ask('newer'));
    await vi.advanceTimersByTimeAsync(300);
    expect(worker.restarts).toBe(1);
    expect(worker.calls.at(-1)?.asked).toBe('newer');
    worker.calls.at(-1)?.answer('there');
    await settled();
    expect(solver.get()).toMatchObject({ answer: { asked: { name: 'newer' } }, trouble: null });
  });

  test('the same question is asked once; a worker that is lost is said, and the next question goes on', async () => {
    const worker = handWorker();
    const solver = new LatestSolver(worker as never);
    const question = ask('one');
    solver.ask(question);
    solver.ask(question);
    await settled();
    expect(worker.calls).toHaveLength(1);
    worker.calls[0]?.fail('the worker is gone');
    await settled();
    expect(solver.get().trouble).toBe('the worker is gone');
    solver.ask(ask('two'));
    await settled();
    worker.calls.at(-1)?.answer('again');
    await settled();
    expect(solver.get()).toMatchObject({ trouble: null, answer: { result: { reason: 'again' } } });
  });
});
