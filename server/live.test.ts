import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { pino } from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { liveTables, type LiveTable, type RunTold, type Told, writeKeyHeader } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { closeRevision } from './db/revisions.ts';
import { insertRig, updateRig } from './db/rigs.ts';
import { createApp } from './http/app.ts';
import { Live } from './live.ts';
import { testDatabase, type TestDatabase } from './test/database.ts';

let database: TestDatabase;
let server: Server;
let base = '';
beforeAll(async () => {
  database = await testDatabase();
  const app = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6 });
  server = await new Promise((resolve) => {
    const made = app.listen(0, '127.0.0.1', () => resolve(made));
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.closeAllConnections();
  server.close();
  await database.drop();
});

/** One who watches: what was told so far, and a wait for more. */
class Watcher {
  readonly told: (Told | 'all')[] = [];
  readonly runs: RunTold[] = [];
  private readonly stop = new AbortController();
  private text = '';
  private constructor(private readonly body: ReadableStream<Uint8Array>) {}
  static async open(): Promise<Watcher> {
    const stop = new AbortController();
    const answer = await fetch(`${base}/api/live`, { signal: stop.signal });
    expect([answer.status, answer.headers.get('content-type'), answer.headers.get('content-encoding')]).toEqual([
      200,
      'text/event-stream; charset=utf-8',
      null,
    ]);
    if (!answer.body) throw new Error('no body');
    const watcher = new Watcher(answer.body);
    watcher.stop.signal.addEventListener('abort', () => stop.abort());
    void watcher.follow();
    return watcher;
  }
  private async follow(): Promise<void> {
    const decoder = new TextDecoder();
    try {
      for await (const chunk of this.body as unknown as AsyncIterable<Uint8Array>) {
        this.text += decoder.decode(chunk, { stream: true });
        const blocks = this.text.split('\n\n');
        this.text = blocks.pop() ?? '';
        for (const block of blocks) {
          if (block.startsWith('event: run\ndata: ')) this.runs.push(JSON.parse(block.slice(17)) as RunTold);
          else if (block.includes('event: all')) this.told.push('all');
          else if (block.startsWith('data: ')) this.told.push(JSON.parse(block.slice(6)) as Told);
        }
      }
    } catch {
      // It was closed.
    }
  }
  /** What a table was told of, by id. */
  ids(table: LiveTable): string[] {
    return this.told.flatMap((told) => (told === 'all' ? [] : (told[table] ?? [])));
  }
  async until(test: () => boolean): Promise<void> {
    for (let n = 0; n < 400 && !test(); n++) await new Promise((resolve) => setTimeout(resolve, 25));
    expect(test()).toBe(true);
  }
  close(): void {
    this.stop.abort();
  }
}
const open: Watcher[] = [];
const watch = async (): Promise<Watcher> => {
  const watcher = await Watcher.open();
  open.push(watcher);
  return watcher;
};
afterEach(() => {
  for (const watcher of open.splice(0)) watcher.close();
});

/** Writes rigs until the line tells of one, so that it is known to be listened to. */
async function listening(watcher: Watcher): Promise<void> {
  for (let n = 0; n < 40; n++) {
    const id = randomUUID();
    await insertRig(database.pool, id, newDocument(`Try ${n}`));
    await new Promise((resolve) => setTimeout(resolve, 150));
    if (watcher.ids('rigs').includes(id)) return;
  }
  throw new Error('nothing was told');
}

describe('the live line', () => {
  test('the tables that the database tells of are those that pages know', async () => {
    const { rows } = await database.owner.query<{ name: string }>(
      `select distinct c.relname as name from pg_trigger t join pg_class c on c.oid = t.tgrelid join pg_proc p on p.oid = t.tgfoid
       where p.proname = 'told_live' order by 1`,
    );
    expect(rows.map(({ name }) => name)).toEqual([...liveTables].sort());
  });

  test('tells everybody who watches what was written, of which rig, and nothing of what it is', async () => {
    const [one, other] = [await watch(), await watch()];
    await listening(one);
    const id = randomUUID();
    await insertRig(database.pool, id, newDocument('Seen by all'));
    await updateRig(database.pool, id, 1, newDocument('Seen again'));
    await closeRevision(database.pool, randomUUID(), id, null);
    await one.until(() => one.ids('rigs').includes(id) && one.ids('revisions').includes(id));
    await other.until(() => other.ids('rigs').includes(id) && other.ids('revisions').includes(id));
    expect(JSON.stringify(one.told)).not.toContain('Seen');
  });

  test('what comes into a run is told itself, once and in order, so that nobody who watches it has to ask', async () => {
    const [one, other] = [await watch(), await watch()];
    await listening(one);
    const [rigId, id] = [randomUUID(), randomUUID()];
    await insertRig(database.pool, rigId, newDocument('Run by many'));
    const post = async (path: string, body: object) => {
      const headers = { 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() };
      const answer = await fetch(`${base}/api${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
      expect(answer.ok).toBe(true);
    };
    await post('/runs', { id, rigId, version: 1, rehearsal: { seed: 1, speed: 1, faults: [] } });
    const events = Array.from({ length: 30 }, (_, n) => ({
      id: randomUUID(),
      at: 1e12 + n,
      screen: 'desk',
      type: 'noted',
      text: `${n}`,
    }));
    const told = (watcher: Watcher) => watcher.runs.flatMap((run) => (run.id === id ? run.tail.events : []));
    // More at once than are told of a run that nobody heard of: who watches sees the gap, and asks.
    await post(`/runs/${id}/events`, { events: events.slice(0, 25) });
    await one.until(() => told(one).length > 0);
    expect(told(one).map(({ number }) => number)).toEqual(Array.from({ length: 20 }, (_, n) => n + 6));
    for (const event of events.slice(25)) await post(`/runs/${id}/events`, { events: [event] });
    for (const watcher of [one, other]) {
      await watcher.until(() => told(watcher).at(-1)?.number === 30);
      expect([...new Set(told(watcher).map(({ event }) => event.id))]).toEqual(events.slice(5).map((event) => event.id));
    }
  });

  test('what is taken back is not told, and of very many rows no single one is', async () => {
    const watcher = await watch();
    await listening(watcher);
    const [gone, kept] = [randomUUID(), randomUUID()];
    const client = await database.pool.connect();
    await client.query('begin');
    await insertRig(client, gone, newDocument('Taken back'));
    await client.query('rollback');
    client.release();
    const before = watcher.told.length;
    await database.owner.query(
      `insert into lots (id, lot, change) select gen_random_uuid(), '{}'::jsonb, n from generate_series(1, 300) as n`,
    );
    await insertRig(database.pool, kept, newDocument('Kept'));
    await watcher.until(() => watcher.ids('rigs').includes(kept));
    expect(watcher.ids('rigs')).not.toContain(gone);
    const lots = watcher.told.slice(before).flatMap((told) => (told === 'all' || !told['lots'] ? [] : [told['lots']]));
    expect(lots.length).toBeGreaterThan(0);
    expect(lots.flat()).toEqual([]);
  });

  test('a connection that is lost is opened again, and then everything counts as changed', async () => {
    const watcher = await watch();
    await listening(watcher);
    await database.owner.query(
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query = 'listen live'`,
    );
    await watcher.until(() => watcher.told.includes('all'));
    await listening(watcher);
  });

  test('whoever comes when too many watch is told so, and a line that was closed is given back', async () => {
    const small = new Live('postgres://nobody@127.0.0.1:1/none', database.pool);
    const fake = () => {
      const heard: (() => void)[] = [];
      const res = {
        writableLength: 0,
        set: () => res,
        flushHeaders: () => undefined,
        write: () => true,
        end: () => undefined,
        on: (_name: string, on: () => void) => heard.push(on),
      };
      return { res: res as unknown as Parameters<Live['add']>[0], leave: () => heard.forEach((on) => on()) };
    };
    const all = Array.from({ length: 500 }, fake);
    expect(all.every(({ res }) => small.add(res))).toBe(true);
    expect(small.add(fake().res)).toBe(false);
    all[0]?.leave();
    expect(small.add(fake().res)).toBe(true);
    expect(small.watching).toBe(500);
    await small.close();
    expect(small.add(fake().res)).toBe(false);
  });
});
