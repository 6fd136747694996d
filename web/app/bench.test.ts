import fc from 'fast-check';
import { describe, expect, test, vi } from 'vitest';
import { newLot, newPart } from '@vast-surge/core/part';
import { BenchQueue, benchWrites, type SendOutcome } from './bench-queue.ts';
import { emptyBench, requestOf, withWrite, writeWords, type BenchWrite } from './bench-write.ts';
import { MemoryStorage } from '../test/memory-storage.ts';
import { Outbox } from './outbox.ts';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const create = (n: number): BenchWrite => ({ do: 'create', parts: [{ id: id(n), part: newPart('diode', 'x', `D-${n}`) }] });
const rename = (n: number, name: string): BenchWrite => ({
  do: 'edit',
  edits: [{ id: id(n), set: { name }, was: { name: 'x' } }],
});

/** A server that does each key once, and answers as it is told to. */
function serverOf(answers: (call: number) => 'ok' | 'lost' | 'away' | 'refused') {
  const done: string[] = [];
  const keys = new Set<string>();
  let call = 0;
  const send = (request: { url: string; body: object }, key: string): Promise<SendOutcome> => {
    const answer = answers(call++);
    const take = () => {
      if (!keys.has(key)) done.push(JSON.stringify(request.body));
      keys.add(key);
    };
    if (answer === 'refused' && !keys.has(key)) return Promise.resolve({ ok: false, again: false, message: 'no' });
    if (answer === 'away') return Promise.resolve({ ok: false, again: true, message: 'away' });
    take();
    // An answer that got lost on the way: it was done, and the page does not know.
    return Promise.resolve(answer === 'lost' ? { ok: false, again: true, message: 'lost' } : { ok: true });
  };
  return { send, done };
}
const bodyOf = (write: BenchWrite) => JSON.stringify(requestOf(write).body);
const settled = async (queue: BenchQueue) => vi.waitFor(() => expect(queue.get().waiting).toEqual([]), { timeout: 3000 });
const options = (storage: Storage, send: (r: never, key: string) => Promise<SendOutcome>, tab = 'a') => ({
  outbox: new Outbox(benchWrites, tab, storage),
  send: send as never,
  done: () => Promise.resolve(),
  retryTime: 1,
});

describe('writes of the bench', () => {
  test('reach the server each once and in their order, whatever answers are lost and however often it is away', () =>
    fc.assert(
      fc.asyncProperty(
        fc.array(fc.constantFrom('ok', 'lost', 'away'), { maxLength: 12 }),
        fc.integer({ min: 1, max: 6 }),
        async (answers, count) => {
          const server = serverOf((call) => (answers[call] as 'ok' | undefined) ?? 'ok');
          const queue = new BenchQueue(options(new MemoryStorage(), server.send));
          const writes = Array.from({ length: count }, (_, i) => create(i));
          writes.forEach((write) => queue.add(write));
          await settled(queue);
          expect(server.done).toEqual(writes.map(bodyOf));
        },
      ),
      { numRuns: 60 },
    ));

  test('survive a page that goes away, and are taken over by another', async () => {
    const storage = new MemoryStorage();
    const away = serverOf(() => 'away');
    const first = new BenchQueue({ ...options(storage, away.send), retryTime: 1e6 });
    first.add(create(1));
    first.add(rename(1, 'better'));
    await vi.waitFor(() => expect(first.get().trouble).toBe('away'));
    const server = serverOf(() => 'ok');
    const second = new BenchQueue(options(storage, server.send, 'b'));
    second.adopt(new Set(['a', 'b']));
    expect(second.get().waiting).toEqual([]);
    second.adopt(new Set(['b']));
    await settled(second);
    expect(server.done).toEqual([create(1), rename(1, 'better')].map(bodyOf));
    expect(storage.length).toBe(0);
  });

  test('that are refused stay until a person has seen them, and hold up nobody', async () => {
    const storage = new MemoryStorage();
    const server = serverOf((call) => (call === 0 ? 'refused' : 'ok'));
    const queue = new BenchQueue(options(storage, server.send));
    queue.add(create(1));
    queue.add(create(2));
    await settled(queue);
    expect(server.done).toEqual([bodyOf(create(2))]);
    expect(queue.get().refused.map((r) => [writeWords(r.write), r.message])).toEqual([['1 new part', 'no']]);
    const again = new BenchQueue(options(storage, server.send));
    expect(again.get().refused).toHaveLength(1);
    again.dismiss(again.get().refused[0]?.key ?? '');
    expect([again.get().refused, storage.length]).toEqual([[], 0]);
  });

  test('a device without room for them is said, and they are sent all the same; what cannot be read is no queue', async () => {
    const storage = new MemoryStorage();
    storage.setItem('vast-surge.bench.b', '{"waiting": [{"key": 1}]');
    let open = false;
    const server = serverOf(() => (open ? 'ok' : 'away'));
    const queue = new BenchQueue(options(storage, server.send));
    storage.full = true;
    queue.add(create(1));
    queue.adopt(new Set(['a']));
    expect(storage.getItem('vast-surge.bench.b')).not.toBeNull();
    expect(queue.get()).toMatchObject({ kept: false, waiting: [expect.anything()] });
    open = true;
    await settled(queue);
    expect(server.done).toHaveLength(1);
  });
});

test('the bench is shown as it will be: every write in turn, by the page alone', () => {
  const now = '2026-03-01T08:00:00.000Z';
  const reading = { measure: 'forward-drop', element: 1, value: 0.6, at: now, instrument: '', under: null, by: '' };
  const writes: BenchWrite[] = [
    { do: 'lot', id: id(9), version: 0, lot: newLot('Box') },
    create(1),
    create(2),
    rename(1, 'better'),
    { do: 'edit', edits: [{ id: id(1), set: { 'fields.V': { value: 1000, text: '1 kV' }, lot: id(9) }, was: {} }] },
    {
      do: 'read',
      readings: [
        { partId: id(1), reading },
        { partId: id(1), reading: { ...reading, value: 0.7 } },
      ],
    },
    { do: 'strike', id: id(1), index: 0, struck: true },
    { do: 'photo', id: id(1), photo: 'data:image/png;base64,AAAA' },
    { do: 'remove', ids: [id(2)], removed: true },
  ];
  const bench = writes.reduce((b, write) => withWrite(b, write, now), emptyBench);
  expect(bench.parts.get(id(1))).toMatchObject({
    hasPhoto: true,
    part: { name: 'better', lot: id(9), fields: { V: { value: 1000 } }, readings: [{ struck: true }, { value: 0.7 }] },
  });
  expect(bench.parts.get(id(2))?.removedAt).toBe(now);
  expect(bench.lots.get(id(9))?.version).toBe(1);
  const back = withWrite(
    withWrite(bench, { do: 'strike', id: id(1), index: 0, struck: false }, now),
    { do: 'drop-lot', id: id(9) },
    now,
  );
  expect(back.parts.get(id(1))?.part.readings[0]).toEqual(reading);
  expect(back.lots.size).toBe(0);
  for (const write of writes) expect(writeWords(write).length).toBeGreaterThan(3);
});
