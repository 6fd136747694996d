import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { KeptEvent } from '@vast-surge/contract';
import type { RunEvent } from '@vast-surge/core/run';
import { MemoryStorage } from '../test/memory-storage.ts';
import { Outbox } from './outbox.ts';
import { runEvents, RunQueue } from './run-queue.ts';

/** The server as it keeps events: each once, in the order in which they came. */
class FakeRun {
  readonly events: KeptEvent[] = [];
  /** What becomes of the next exchanges: answered, never arrived, or done and the answer lost. */
  moods: ('well' | 'away' | 'lost')[] = [];
  exchange = async (events: readonly RunEvent[], after: number) => {
    const mood = this.moods.shift() ?? 'well';
    if (mood === 'away') throw new Error('away');
    const receivedAt = new Date(0).toISOString();
    for (const event of events)
      if (!this.events.some((e) => e.event.id === event.id))
        this.events.push({ number: this.events.length + 1, receivedAt, event });
    if (mood === 'lost') throw new Error('lost');
    return { events: this.events.filter((e) => e.number > after), now: receivedAt };
  };
}

const runId = 'a';
const queueOf = (server: FakeRun, storage: Storage, screen = 'left') =>
  new RunQueue({ runId, screen, outbox: new Outbox(runEvents, screen, storage), events: [], exchange: server.exchange });
const texts = (events: readonly { event: RunEvent }[]) => events.map(({ event }) => (event.type === 'noted' ? event.text : ''));

describe('events of a run on their way', () => {
  test('whatever is lost on the way and however often the page is loaded anew, each comes once and in order', async () => {
    const step = fc.constantFrom('act', 'act', 'act', 'pump', 'reload', 'away', 'lost', 'told', 'told-last', 'told-late');
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 40 }), async (steps) => {
        const [server, storage] = [new FakeRun(), new MemoryStorage()];
        let queue = queueOf(server, storage);
        let n = 0;
        for (const what of steps) {
          if (what === 'act') queue.act({ type: 'noted', text: String(n++) });
          else if (what === 'reload') {
            queue.close();
            queue = queueOf(server, storage);
          } else if (what === 'pump') await queue.pump();
          // The line tells all, the last alone (what is between was missed), or what was so a while ago.
          else if (what === 'away' || what === 'lost') server.moods.push(what);
          else {
            const all = server.events;
            const part = what === 'told' ? all : what === 'told-last' ? all.slice(-1) : all.slice(0, all.length / 2);
            queue.take({ events: part, now: new Date(0).toISOString() });
          }
          await Promise.resolve();
          const numbers = queue.snapshot().events.map(({ number }) => number);
          expect(numbers).toEqual(numbers.map((_, i) => i + 1));
        }
        server.moods = [];
        for (let i = 0; i < 3; i++) await queue.pump();
        expect(texts(server.events)).toEqual(Array.from({ length: n }, (_, i) => String(i)));
        expect(texts(queue.snapshot().events)).toEqual(texts(server.events));
        expect([queue.snapshot().waiting, storage.length]).toEqual([[], 0]);
      }),
      { numRuns: 200 },
    );
  });

  test('who may do nothing more may still break off: that goes out alone, the rest stays on the device and is told', async () => {
    const [server, storage] = [new FakeRun(), new MemoryStorage()];
    let mayAct = false;
    const refused = { status: 403, data: { code: 'not_allowed', message: 'This is for whoever acts.', fields: [] } };
    const queue = new RunQueue({
      runId,
      screen: 'left',
      outbox: new Outbox(runEvents, 'left', storage),
      events: [],
      exchange: (events, after) =>
        mayAct || events.every(({ type }) => type === 'aborted')
          ? server.exchange(events, after)
          : Promise.reject(refused as unknown as Error),
    });
    queue.act({ type: 'noted', text: 'not mine' });
    await queue.pump();
    queue.act({ type: 'aborted', reason: 'smoke' });
    await expect.poll(() => server.events.map(({ event }) => event.type)).toEqual(['aborted']);
    await expect
      .poll(() => queue.snapshot())
      .toMatchObject({ isAway: false, barred: 'This is for whoever acts.', waiting: [{ type: 'noted' }] });
    // The role is given again: what waited goes out.
    mayAct = true;
    await queue.pump();
    expect(server.events.map(({ event }) => event.type)).toEqual(['aborted', 'noted']);
    expect(queue.snapshot()).toMatchObject({ barred: null, waiting: [] });
  });

  test('is on the device before anything is sent, and says when the server is away', async () => {
    const [server, storage] = [new FakeRun(), new MemoryStorage()];
    server.moods = ['away', 'away'];
    const queue = queueOf(server, storage);
    queue.act({ type: 'noted', text: 'kept' });
    expect(storage.length).toBe(1);
    expect(await queue.pump()).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 0));
    expect(queue.snapshot()).toMatchObject({ isAway: true, waiting: [{ text: 'kept' }] });
    const other = new Outbox(runEvents, 'other', storage);
    expect(other.leftBy(new Set())).toEqual([runId]);
    expect(other.leftBy(new Set(['left']))).toEqual([]);
  });

  test('left behind by a tab that was closed is taken up by the next one, before its own', async () => {
    const [server, storage] = [new FakeRun(), new MemoryStorage()];
    server.moods = ['away'];
    const closed = queueOf(server, storage, 'closed');
    closed.act({ type: 'noted', text: 'first' });
    await new Promise((resolve) => setTimeout(resolve, 2));
    closed.close();
    const open = queueOf(server, storage, 'open');
    open.adopt(new Set(['open']));
    open.act({ type: 'noted', text: 'second' });
    await open.pump();
    await open.pump();
    await expect.poll(() => texts(server.events)).toEqual(['first', 'second']);
    await expect.poll(() => storage.length).toBe(0);
  });

  test('a device that takes nothing any more says so, and the event is sent all the same', async () => {
    const storage = new MemoryStorage();
    storage.setItem = () => {
      throw new Error('full');
    };
    const server = new FakeRun();
    server.moods = ['away'];
    const queue = queueOf(server, storage);
    queue.act({ type: 'noted', text: 'x' });
    expect(queue.snapshot().isUnkept).toBe(true);
    await new Promise((resolve) => setTimeout(resolve, 0));
    await queue.pump();
    expect(texts(server.events)).toEqual(['x']);
  });

  test('what another screen did comes in between, in the order of the server', async () => {
    const [server, storage] = [new FakeRun(), new MemoryStorage()];
    const [left, right] = [queueOf(server, storage, 'left'), queueOf(server, storage, 'right')];
    left.act({ type: 'noted', text: 'l1' });
    await new Promise((resolve) => setTimeout(resolve, 0));
    right.act({ type: 'noted', text: 'r1' });
    await new Promise((resolve) => setTimeout(resolve, 0));
    left.act({ type: 'noted', text: 'l2' });
    await new Promise((resolve) => setTimeout(resolve, 0));
    await right.pump();
    expect(texts(right.snapshot().events)).toEqual(['l1', 'r1', 'l2']);
    expect(texts(left.snapshot().events)).toEqual(['l1', 'r1', 'l2']);
  });
});
