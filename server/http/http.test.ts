import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  faultSchema,
  storedRigSchema,
  writeKeyHeader,
  type PageOf,
  type RevisionHead,
  type RevisionRow,
  type RigHead,
  type RigReceipt,
  type StoredRig,
} from '@vast-surge/contract';
import { writeRigFile } from '@vast-surge/core/format';
import { newDocument, newRig, type RigDocument } from '@vast-surge/core/rig';
import { loadDemo, resetDemo } from '../db/demo.ts';
import { migrate } from '../db/migrate.ts';
import { openPool } from '../db/pool.ts';
import { replay } from '@vast-surge/core/run';
import { closeQuietRevisions } from '../db/revisions.ts';
import { runRecords, runsOf } from '../db/runs.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
let app: ReturnType<typeof createApp>;
const log = pino({ level: 'silent' });

beforeAll(async () => {
  database = await testDatabase();
  app = createApp({ db: database.pool, log, version: 'test', rate: 1e6 });
});
afterAll(() => database.drop());

const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const document = (name = 'Bank'): RigDocument => newDocument(name);
const count = async () => Number((await database.pool.query('select count(*) from rigs')).rows[0].count);

/** A write with a key of its own, or with the given one. */
const write = (method: 'post' | 'put' | 'patch', path: string, body: unknown, key: string = randomUUID()) =>
  own(request(app)[method](path))
    .set(writeKeyHeader, key)
    .send(body as object);
const get = async <T>(path: string): Promise<T> => (await own(request(app).get(path))).body as T;
const rigAt = (id: string) => get<StoredRig>(`/api/rigs/${id}`);

async function made(name?: string): Promise<RigReceipt> {
  const answer = await write('post', '/api/rigs', { id: randomUUID(), document: document(name) });
  expect(answer.status).toBe(201);
  return answer.body as RigReceipt;
}
const save = (id: string, version: number, name: string, key?: string) =>
  write('put', `/api/rigs/${id}`, { version, document: document(name) }, key);

describe('rigs', () => {
  test('are made, listed, fetched, saved, archived and brought back', async () => {
    const rig = await made('Life of a rig');
    expect(storedRigSchema.parse(await rigAt(rig.id))).toMatchObject({ version: 1, revision: null, branchedFrom: null });
    const saved = await save(rig.id, 1, 'Renamed');
    expect([saved.status, saved.body.version]).toEqual([200, 2]);
    const listed = async (query = '') => (await get<PageOf<RigHead>>(`/api/rigs${query}`)).rows.some((r) => r.id === rig.id);
    expect(await listed()).toBe(true);
    await write('patch', `/api/rigs/${rig.id}`, { archived: true });
    expect([await listed(), await listed('?archived=true')]).toEqual([false, true]);
    expect((await rigAt(rig.id)).document.name).toBe('Renamed');
    await write('patch', `/api/rigs/${rig.id}`, { archived: false });
    expect([await listed(), await listed('?archived=true')]).toEqual([true, false]);
  });

  test('keep every digit and every text through the database', async () => {
    const id = randomUUID();
    const written = document('Ω µ "quotes" \\ 1e-15');
    await write('post', '/api/rigs', { id, document: written });
    expect(writeRigFile(storedRigSchema.parse(await rigAt(id)).document)).toBe(writeRigFile(written));
  });

  test('refuse a save that builds on a version that is no longer current, and keep the newer one', async () => {
    const rig = await made();
    const answers = await Promise.all([save(rig.id, 1, 'left'), save(rig.id, 1, 'right')]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    const refused = answers.find((a) => a.status === 409);
    expect(refused?.body).toMatchObject({ code: 'conflict', fields: [{ path: 'version', reason: 'is 1, and the rig is at 2' }] });
    expect((await rigAt(rig.id)).document.name).toBe(answers[0]?.status === 200 ? 'left' : 'right');
  });

  test('an id that is taken is refused, and what has it stays', async () => {
    const rig = await made('First');
    const again = await write('post', '/api/rigs', { id: rig.id, document: document('Second') });
    expect([again.status, again.body.fields[0].reason]).toEqual([409, 'is that of a rig that is here already']);
    expect((await rigAt(rig.id)).document.name).toBe('First');
  });
});

describe('a write', () => {
  test('that comes again with its key is answered as the first time and done once, also while the first is under way', async () => {
    const body = { id: randomUUID(), document: document('Once') };
    const [before, key] = [await count(), randomUUID()];
    const answers = await Promise.all([1, 2, 3].map(() => write('post', '/api/rigs', body, key)));
    expect(answers.map((a) => a.status)).toEqual([201, 201, 201]);
    expect(new Set(answers.map((a) => a.text)).size).toBe(1);
    expect(await count()).toBe(before + 1);
    const saveKey = randomUUID();
    expect((await save(body.id, 1, 'Two', saveKey)).body.version).toBe(2);
    expect((await save(body.id, 2, 'Three')).body.version).toBe(3);
    expect((await save(body.id, 1, 'Two', saveKey)).body.version).toBe(2);
    expect((await rigAt(body.id)).document.name).toBe('Three');
  });

  test('that was refused leaves its key unused; a key is good for one request only; without one nothing is written', async () => {
    const rig = await made();
    const key = randomUUID();
    expect((await save(rig.id, 9, 'too early', key)).status).toBe(409);
    expect((await save(rig.id, 1, 'now', key)).status).toBe(200);
    expect((await save(rig.id, 2, 'another', key)).body.code).toBe('key_reused');
    const bare = await own(request(app).put(`/api/rigs/${rig.id}`)).send({ version: 2, document: document('bare') });
    expect([bare.status, bare.body.fields]).toEqual([
      400,
      [{ path: writeKeyHeader, reason: 'must be a UUID of this request alone' }],
    ]);
    expect((await rigAt(rig.id)).document.name).toBe('now');
  });
});

describe('revisions', () => {
  const close = (id: string, version: number, name?: string) =>
    write('post', `/api/rigs/${id}/revisions`, { id: randomUUID(), version, ...(name === undefined ? {} : { name }) });
  const list = (id: string) => get<RevisionRow[]>(`/api/rigs/${id}/revisions`);

  test('hold what the rig was, whatever becomes of it; one state has one revision, which may be named once', async () => {
    const rig = await made('As built');
    expect((await close(rig.id, 1)).status).toBe(201);
    expect((await close(rig.id, 1, 'first light')).body).toMatchObject({ number: 1, name: 'first light' });
    expect((await close(rig.id, 1, 'another name')).body).toMatchObject({ number: 1, name: 'first light' });
    await save(rig.id, 1, 'Rebuilt');
    expect((await close(rig.id, 1)).status).toBe(409);
    await close(rig.id, 2);
    const revisions = await list(rig.id);
    expect(revisions.map((r) => [r.number, r.version, r.name])).toEqual([
      [2, 2, null],
      [1, 1, 'first light'],
    ]);
    expect((await get<StoredRig>(`/api/revisions/${revisions[1]?.id}`)).document.name).toBe('As built');
    expect((await rigAt(rig.id)).revision).toEqual({ number: 2, version: 2 });
  });

  test('say what each changed against the one before it, whichever of them were asked for already', async () => {
    const rig = await made('As built');
    await close(rig.id, 1);
    await save(rig.id, 1, 'Rebuilt');
    await close(rig.id, 2);
    // Two are known from here on; the next is held against the last of them.
    expect(await list(rig.id)).toHaveLength(2);
    await save(rig.id, 2, 'Rewound');
    await close(rig.id, 3, 'with thicker wire');
    expect((await list(rig.id)).map((r) => [r.number, r.changes, r.furtherChanges])).toEqual([
      [3, [{ title: 'Name', from: 'Rebuilt', to: 'Rewound' }], 0],
      [2, [{ title: 'Name', from: 'As built', to: 'Rebuilt' }], 0],
      [1, null, 0],
    ]);
  });

  test('are never changed and never go, not even by a statement of the database', async () => {
    const rig = await made();
    const { id } = (await close(rig.id, 1)).body as RevisionHead;
    for (const text of [
      `update revisions set document = '{}' where id = '${id}'`,
      `update revisions set name = 'x', version = 7 where id = '${id}'`,
      `delete from revisions where id = '${id}'`,
      `delete from rigs where id = '${rig.id}'`,
    ])
      await expect(database.owner.query(text)).rejects.toThrow(/never changed|violates/);
  });

  test('are closed by themselves once a rig is left alone, once for each state', async () => {
    const rig = await made();
    expect(await closeQuietRevisions(database.pool, 3600)).toBe(0);
    expect(await closeQuietRevisions(database.pool, 0)).toBeGreaterThan(0);
    expect(await closeQuietRevisions(database.pool, 0)).toBe(0);
    await save(rig.id, 1, 'Later');
    expect(await closeQuietRevisions(database.pool, 0)).toBe(1);
    expect((await list(rig.id)).map((r) => [r.number, r.version])).toEqual([
      [2, 2],
      [1, 1],
    ]);
  });

  test('a branch says where it came from, and only from what is there', async () => {
    const rig = await made();
    const { id } = (await close(rig.id, 1)).body as RevisionHead;
    const branch = await write('post', '/api/rigs', { id: randomUUID(), document: document('Branch'), branchedFrom: id });
    expect((await rigAt(branch.body.id)).branchedFrom).toBe(id);
    const nowhere = await write('post', '/api/rigs', { id: randomUUID(), document: document(), branchedFrom: randomUUID() });
    expect([nowhere.status, nowhere.body.fields[0].path]).toEqual([400, 'branchedFrom']);
  });
});

test('bursts of saves by several hands: every acknowledged save is in the history once, none is lost or doubled', async () => {
  const rig = await made('Burst');
  const acknowledged: { version: number; name: string }[] = [];
  let refused = 0;
  const hand = async (who: number) => {
    for (let i = 0; i < 12; i++) {
      const current = await rigAt(rig.id);
      const name = `hand ${who}, edit ${i}`;
      const answer = await save(rig.id, current.version, name);
      if (answer.status === 200) acknowledged.push({ version: answer.body.version, name });
      else {
        expect(answer.status).toBe(409);
        refused += 1;
      }
    }
  };
  await Promise.all([1, 2, 3, 4, 5].map(hand));
  expect(acknowledged.length + refused).toBe(60);
  const versions = acknowledged.map((a) => a.version).sort((a, b) => a - b);
  expect(versions).toEqual(versions.map((_, i) => i + 2));
  const last = acknowledged.find((a) => a.version === versions.at(-1));
  const kept = await rigAt(rig.id);
  expect([kept.version, kept.document.name]).toEqual([last?.version, last?.name]);
});

test('a migrated database is left as it is by a second migration', async () => {
  const { rows: before } = await database.pool.query('select name from migrations order by id');
  expect(await migrate(database.url)).toBe(0);
  const { rows: after } = await database.pool.query('select name from migrations order by id');
  expect(after).toEqual(before);
  expect(before.map((row: { name: string }) => row.name)).toContain('0001_rigs');
});

describe('bad input', () => {
  const post = (body: unknown) => write('post', '/api/rigs', body);
  const badDocument = (fields: Record<string, unknown>) => ({
    ...document(),
    rig: { ...newRig(), supply: { kind: 'dc-source', fields } },
  });

  test.each<[string, unknown, number, RegExp]>([
    ['nothing', undefined, 415, /must be JSON/],
    ['an empty object', {}, 400, /id must be the id of a rig/],
    ['an id that is none', { id: 'x', document: document() }, 400, /id must be the id/],
    [
      'zero volts',
      { id: randomUUID(), document: badDocument({ V: 0 }) },
      400,
      /document\.rig\.supply\.fields\.V is 0 V; it must be above 0 V up to 1 MV/,
    ],
    ['an absurd value', { id: randomUUID(), document: badDocument({ V: '1e30 V' }) }, 400, /it must be above 0 V up to 1 MV/],
    ['letters', { id: randomUUID(), document: badDocument({ V: 'high' }) }, 400, /not a quantity/],
    ['a wrong unit', { id: randomUUID(), document: badDocument({ V: '5 F' }) }, 400, /unit of a capacitance/],
    ['an unknown field', { id: randomUUID(), document: badDocument({ Z: 1 }) }, 400, /keys that are not known: Z/],
    [
      'an unknown kind',
      { id: randomUUID(), document: { ...document(), rig: { ...newRig(), supply: { kind: 'reactor' } } } },
      400,
      /kind must be one of dc-source/,
    ],
    ['an endless name', { id: randomUUID(), document: { ...document(), name: 'x'.repeat(81) } }, 400, /longer than 80/],
  ])('%s is refused by name and nothing is written', async (_name, body, status, message) => {
    const before = await count();
    const answer = await post(body);
    expect(answer.status).toBe(status);
    expect(faultSchema.parse(answer.body).message).toMatch(message);
    expect(await count()).toBe(before);
  });

  test.each<[string, string, number, string]>([
    ['truncated JSON', '{"id": "', 400, 'bad_json'],
    ['a __proto__ key', `{"__proto__": {"polluted": 1}, "id": "${randomUUID()}"}`, 400, 'bad_input'],
    ['fifty megabytes', `"${'x'.repeat(50 * 1024 * 1024)}"`, 413, 'too_large'],
  ])('%s gets a coded fault', async (_name, text, status, code) => {
    const answer = await own(request(app).post('/api/rigs'))
      .set(writeKeyHeader, randomUUID())
      .set('Content-Type', 'application/json')
      .send(text);
    expect([answer.status, answer.body.code]).toEqual([status, code]);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });

  test.each([
    ['get', '/api/rigs/nonsense'],
    ['get', `/api/rigs/${randomUUID()}`],
    ['put', `/api/rigs/${randomUUID()}`],
    ['patch', `/api/rigs/${randomUUID()}`],
    ['get', '/api/nothing'],
    ['get', '/api/rigs/%E0%A4%A'],
    ['get', `/api/rigs/${randomUUID()}/revisions`],
    ['get', `/api/revisions/${randomUUID()}`],
    ['get', '/api/revisions/nonsense'],
    ['get', `/api/archive/rigs/${randomUUID()}`],
  ] as const)('%s %s is a 4xx', async (method, path) => {
    const body = method === 'put' ? { version: 1, document: document() } : method === 'patch' ? { archived: true } : undefined;
    const answer = await own(request(app)[method](path)).set(writeKeyHeader, randomUUID()).send(body);
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.status).toBeLessThan(500);
    expect(faultSchema.parse(answer.body).message.length).toBeGreaterThan(5);
  });

  test('pages of others are refused, by name and by origin', async () => {
    expect((await request(app).get('/api/rigs').set('Host', 'evil.example')).status).toBe(403);
    expect((await own(request(app).get('/api/rigs')).set('Origin', 'http://evil.example')).status).toBe(403);
    expect((await own(request(app).get('/api/rigs')).set('Origin', 'http://127.0.0.1:4600')).status).toBe(200);
  });

  test('too many requests are told to wait', async () => {
    const strict = createApp({ db: database.pool, log, version: 'test', rate: 2 });
    const statuses: number[] = [];
    for (let i = 0; i < 3; i++) statuses.push((await own(request(strict).get('/api/rigs'))).status);
    expect(statuses).toEqual([200, 200, 429]);
  });
});

describe('a database that is away', () => {
  test('is reported as such, and the server answers again when it is back', async () => {
    const nobody = openPool('postgres://surge:x@127.0.0.1:1/none', () => undefined);
    const cut = createApp({ db: nobody, log, version: 'test' });
    const answer = await own(request(cut).get('/api/rigs'));
    expect([answer.status, answer.body.code]).toEqual([503, 'database_away']);
    const health = await own(request(cut).get('/api/health'));
    expect([health.status, health.body.database]).toEqual([503, 'away']);
    await nobody.end();
  });

  test('drops connections without ending the server', async () => {
    await database.owner
      .query(
        'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
      )
      .catch(() => undefined);
    const statuses: number[] = [];
    for (let i = 0; i < 12; i++) statuses.push((await own(request(app).get('/api/rigs'))).status);
    expect(statuses.at(-1)).toBe(200);
    expect(statuses.every((s) => s === 200 || s === 503)).toBe(true);
  });
});

test('the demo workshop is loaded once, and brought back by a reset that costs nothing', async () => {
  const fresh = await testDatabase();
  const text = async (query: string) => JSON.stringify((await fresh.pool.query(query)).rows);
  const rigs = 'select id, document, archived_at from rigs order by id';
  expect(await loadDemo(fresh.pool)).toMatchObject({ rigs: 5, parts: 65 });
  const before = await text(rigs);
  expect(await loadDemo(fresh.pool)).toEqual({ rigs: 0, parts: 0 });
  await fresh.owner.query(
    "update rigs set document = jsonb_set(document, '{name}', '\"Mine\"'), version = 2, archived_at = now()",
  );
  expect(await resetDemo(fresh.pool)).toEqual({ rigs: 5, parts: 65 });
  expect(await text(rigs)).toBe(before);
  expect(await text("select distinct document->>'name' as name, version from revisions order by name")).toBe(
    JSON.stringify([
      { name: 'Anvil', version: 1 },
      { name: 'Kittiwake', version: 1 },
      { name: 'Mine', version: 2 },
      { name: 'Shuttle', version: 1 },
      { name: 'Thimble', version: 1 },
    ]),
  );
  // What the workshop has done: a dozen shots of each of two rigs, a run to play again, and a rehearsal that is ready.
  const counts = 'select count(*)::int as shots, count(*) filter (where removed_at is null)::int as listed from shots';
  expect(await text(counts)).toBe('[{"shots":54,"listed":54}]');
  const ids = (await runRecords(fresh.pool, null, null, 10)).map((r) => r.id);
  const runs = (await runsOf(fresh.pool, ids)).map((r) => [
    r.rehearsal?.faults.length ?? 'live',
    replay(
      r.plan,
      r.events.map((e) => e.event),
    ).state.at,
  ]);
  expect(runs).toEqual([
    [2, 'not-begun'],
    ['live', 'ended'],
  ]);
  await fresh.drop();
});
