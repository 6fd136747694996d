import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { pino } from 'pino';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { newDocument } from '@vast-surge/core/rig';
import { rigHeads } from '../db/heads.ts';
import { insertRig, updateRig } from '../db/rigs.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { RigHeads } from './heads.ts';

let database: TestDatabase;
let heads: RigHeads;
/** Rigs whose numbers were written, in the order in which they were. */
let told: string[];
let listener: pg.Client;

beforeEach(async () => {
  database = await testDatabase();
  heads = new RigHeads(database.pool, 'one');
  told = [];
  listener = new pg.Client({ connectionString: database.url });
  await listener.connect();
  listener.on('notification', ({ payload = '' }) => {
    const { of, ids } = JSON.parse(payload) as { of: string; ids: string[] };
    if (of === 'rig_heads') told.push(...ids);
  });
  await listener.query('listen live');
});
afterEach(async () => {
  await heads.close();
  await listener.end();
  await database.drop();
});

const stale = async (): Promise<string[]> =>
  (await rigHeads(database.pool, { archived: false, words: '', sort: 'changed', behind: null, limit: 50, program: 'one' })).stale;

/** What a save writes itself, what the rig stands on, is told as well, and does not count here. */
async function quiet(): Promise<void> {
  await sleep(100);
  told.length = 0;
}

async function rigs(count: number): Promise<string[]> {
  const ids = Array.from({ length: count }, () => randomUUID());
  for (const id of ids) await insertRig(database.pool, id, newDocument('Bench'), null);
  await quiet();
  return ids;
}

async function allFresh(): Promise<void> {
  for (const until = Date.now() + 60_000; (await stale()).length > 0; await sleep(50))
    if (Date.now() > until) throw new Error('the numbers never came');
  // What was written last is told behind it.
  await sleep(100);
}

test('the numbers of a rig are worked out once, however many lists ask for them before they are there', async () => {
  const ids = await rigs(6);
  heads.start(pino({ level: 'silent' }));
  // As pages do that ask again whenever something is told: none waits.
  for (let k = 0; k < 12; k++) await heads.freshen(await stale(), 0);
  await allFresh();
  // Whatever was asked for before this one is through with it.
  const last = randomUUID();
  await insertRig(database.pool, last, newDocument('Last'), null);
  await heads.freshen([last], 60_000);
  await allFresh();
  expect(told.filter((id) => id !== last).sort()).toEqual([...ids].sort());
});

test('a rig that is saved while others wait comes before them, and one that is saved over meanwhile comes again', async () => {
  const [first = '', ...others] = await rigs(8);
  heads.start(pino({ level: 'silent' }));
  await updateRig(database.pool, first, 1, newDocument('Bench, saved'));
  heads.poke();
  await allFresh();
  expect(told.lastIndexOf(first)).toBeLessThan(3);
  expect(new Set(told)).toEqual(new Set([first, ...others]));
  await updateRig(database.pool, first, 2, newDocument('Bench, saved again'));
  await quiet();
  heads.poke();
  await allFresh();
  expect(told).toEqual([first]);
});

test('two servers of different programs on one database do not work against each other without end', async () => {
  const ids = await rigs(5);
  const other = new RigHeads(database.pool, 'two');
  const log = pino({ level: 'silent' });
  heads.start(log);
  other.start(log);
  try {
    // Each has every rig once, and then there is nothing more to tell.
    for (const until = Date.now() + 60_000; told.length < 2 * ids.length && Date.now() < until;) await sleep(50);
    await sleep(2000);
    expect([...told].sort()).toEqual([...ids, ...ids].sort());
  } finally {
    await other.close();
  }
});
