import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { expose } from 'comlink';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { SupervisedWorker, WorkerLost } from './supervised.ts';

interface Sums {
  add(a: number, b: number): Promise<number>;
  never(): Promise<number>;
  fails(): Promise<number>;
  traces(): Promise<object>;
}

/** A worker in this thread: two message ports, with the events and the end that a real one has. */
class FakeWorker extends EventTarget {
  ended = false;
  private readonly ports = new MessageChannel();

  constructor(calculations: object) {
    super();
    expose(calculations, this.ports.port2 as never);
    this.ports.port1.addEventListener('message', (event) => {
      if (!this.ended) this.dispatchEvent(new MessageEvent('message', { data: (event as MessageEvent).data as unknown }));
    });
    this.ports.port1.start();
  }
  postMessage(data: unknown, transfer: Transferable[] = []) {
    this.ports.port1.postMessage(data, transfer as never);
  }
  terminate() {
    this.ended = true;
    this.ports.port1.close();
  }
  crash(message: string) {
    this.dispatchEvent(Object.assign(new Event('error'), { message }));
  }
}

const calculations: Sums = {
  add: (a, b) => Promise.resolve(a + b),
  never: () => new Promise(() => undefined),
  fails: () => Promise.reject(new RangeError('out of range')),
  traces: () => Promise.resolve({ y: new Array<number>(1000).fill(1) }),
};

let made: FakeWorker[] = [];
const supervised = () =>
  new SupervisedWorker<Sums>(() => {
    const worker = new FakeWorker(calculations);
    made.push(worker);
    return worker as unknown as Worker;
  });

beforeEach(() => {
  made = [];
});
afterEach(() => {
  vi.useRealTimers();
  for (const worker of made) worker.terminate();
});

describe('a supervised worker', () => {
  test('is started once by the first call and answers many', async () => {
    const worker = supervised();
    expect(made).toHaveLength(0);
    expect(await Promise.all([1, 2, 3].map((n) => worker.call((remote) => remote.add(n, n))))).toEqual([2, 4, 6]);
    expect(made).toHaveLength(1);
  });

  test('that crashes ends every call under way, and the next call has another worker', async () => {
    const worker = supervised();
    const calls = [1, 2].map(() => worker.call((remote) => remote.never()));
    made[0]?.crash('boom');
    for (const call of calls) await expect(call).rejects.toThrow(new WorkerLost('boom'));
    expect(made[0]?.ended).toBe(true);
    expect(await worker.call((remote) => remote.add(2, 3))).toBe(5);
    expect(made).toHaveLength(2);
  });

  test('that crashes while nobody asks is replaced at the next call', async () => {
    const worker = supervised();
    await worker.call((remote) => remote.add(1, 1));
    made[0]?.crash('while idle');
    expect(await worker.call((remote) => remote.add(1, 2))).toBe(3);
  });

  test('that gives no answer is given up after a while', async () => {
    vi.useFakeTimers();
    const worker = supervised();
    const call = worker.call((remote) => remote.never());
    const expectation = expect(call).rejects.toThrow(/no answer in 30 s/);
    await vi.advanceTimersByTimeAsync(31_000);
    await expectation;
    expect(made[0]?.ended).toBe(true);
  });

  test('passes on what the called function throws, and lives on', async () => {
    const worker = supervised();
    await expect(worker.call((remote) => remote.fails())).rejects.toThrow('out of range');
    expect(await worker.call((remote) => remote.add(1, 1))).toBe(2);
    expect(made).toHaveLength(1);
  });

  test('keeps nothing of an answer once it has been given', async () => {
    setFlagsFromString('--expose-gc');
    const collect = runInNewContext('gc') as () => void;
    const worker = supervised();
    const kept: WeakRef<object>[] = [];
    for (let i = 0; i < 5; i++) kept.push(new WeakRef(await worker.call((remote) => remote.traces())));
    // The last answer may still stand in a register of the loop.
    await new Promise((resolve) => setTimeout(resolve, 20));
    collect();
    expect(kept.slice(0, 4).filter((answer) => answer.deref() !== undefined)).toEqual([]);
    expect(made).toHaveLength(1);
  });
});
