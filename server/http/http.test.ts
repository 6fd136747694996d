import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { faultSchema, storedRigSchema, type StoredRig } from '@vast-surge/contract';
import { writeRigFile, type RigDocument } from '@vast-surge/core/format';
import { newRig } from '@vast-surge/core/rig';
import { loadDemo } from '../db/demo.ts';
import { migrate } from '../db/migrate.ts';
import { openPool } from '../db/pool.ts';
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
const document = (name = 'Bank'): RigDocument => ({ name, note: '', rig: newRig() });
const count = async () => Number((await database.pool.query('select count(*) from rigs')).rows[0].count);

async function made(name?: string): Promise<StoredRig> {
  const answer = await own(request(app).post('/api/rigs')).send({ id: randomUUID(), document: document(name) });
  expect(answer.status).toBe(201);
  return answer.body as StoredRig;
}

describe('rigs', () => {
  test('are made, listed, fetched, saved, taken off the list and brought back', async () => {
    const rig = await made('Life of a rig');
    expect(storedRigSchema.parse(rig).version).toBe(1);
    const saved = await own(request(app).put(`/api/rigs/${rig.id}`)).send({ version: 1, document: document('Renamed') });
    expect([saved.status, saved.body.version, saved.body.document.name]).toEqual([200, 2, 'Renamed']);
    const listed = async () => ((await own(request(app).get('/api/rigs'))).body as StoredRig[]).some((r) => r.id === rig.id);
    expect(await listed()).toBe(true);
    await own(request(app).patch(`/api/rigs/${rig.id}`)).send({ archived: true });
    expect(await listed()).toBe(false);
    expect((await own(request(app).get(`/api/rigs/${rig.id}`))).body.document.name).toBe('Renamed');
    await own(request(app).patch(`/api/rigs/${rig.id}`)).send({ archived: false });
    expect(await listed()).toBe(true);
  });

  test('keep every digit and every text through the database', async () => {
    const id = randomUUID();
    const written = document('Ω µ "quotes" \\ 1e-15');
    await own(request(app).post('/api/rigs')).send({ id, document: written });
    const back = (await own(request(app).get(`/api/rigs/${id}`))).body as StoredRig;
    expect(writeRigFile(storedRigSchema.parse(back).document)).toBe(writeRigFile(written));
  });

  test('are made once, however often the same request arrives', async () => {
    const body = { id: randomUUID(), document: document('Once') };
    const before = await count();
    const answers = await Promise.all([1, 2, 3].map(() => own(request(app).post('/api/rigs')).send(body)));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 200, 201]);
    expect(await count()).toBe(before + 1);
  });

  test('refuse a save that builds on a version that is no longer current, and keep the newer one', async () => {
    const rig = await made();
    const save = (version: number, name: string) =>
      own(request(app).put(`/api/rigs/${rig.id}`)).send({ version, document: document(name) });
    const answers = await Promise.all([save(1, 'left'), save(1, 'right')]);
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409]);
    const refused = answers.find((a) => a.status === 409);
    expect(refused?.body).toMatchObject({ code: 'conflict', fields: [{ path: 'version', reason: 'is 1, and the rig is at 2' }] });
    const winner = answers.find((a) => a.status === 200)?.body.document.name;
    expect((await own(request(app).get(`/api/rigs/${rig.id}`))).body.document.name).toBe(winner);
  });
});

test('bursts of saves by several hands: every acknowledged save is in the history once, none is lost or doubled', async () => {
  const rig = await made('Burst');
  const acknowledged: { version: number; name: string }[] = [];
  let refused = 0;
  const hand = async (who: number) => {
    for (let i = 0; i < 12; i++) {
      const current = (await own(request(app).get(`/api/rigs/${rig.id}`))).body as StoredRig;
      const name = `hand ${who}, edit ${i}`;
      const answer = await own(request(app).put(`/api/rigs/${rig.id}`)).send({
        version: current.version,
        document: document(name),
      });
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
  const kept = (await own(request(app).get(`/api/rigs/${rig.id}`))).body as StoredRig;
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
  const post = (body: unknown) => own(request(app).post('/api/rigs')).send(body as object);
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
    const answer = await own(request(app).post('/api/rigs')).set('Content-Type', 'application/json').send(text);
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
  ] as const)('%s %s is a 4xx', async (method, path) => {
    const body = method === 'put' ? { version: 1, document: document() } : method === 'patch' ? { archived: true } : undefined;
    const answer = await own(request(app)[method](path)).send(body);
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.status).toBeLessThan(500);
    expect(faultSchema.parse(answer.body).message.length).toBeGreaterThan(5);
  });

  test('no body whatever gives a 500 or a stack', async () => {
    const rig = await made();
    await fc.assert(
      fc.asyncProperty(fc.constantFrom('post', 'put', 'patch'), fc.jsonValue(), async (method, body) => {
        const path = method === 'post' ? '/api/rigs' : `/api/rigs/${rig.id}`;
        const answer = await own(request(app)[method as 'post'](path))
          .set('Content-Type', 'application/json')
          .send(JSON.stringify(body));
        expect(answer.status).toBeLessThan(500);
        expect(answer.text).not.toMatch(/at .*\.ts:\d+|node_modules/);
      }),
      { numRuns: 150 },
    );
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
    await database.pool
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

test('the demo workshop is loaded once, whatever has been removed since', async () => {
  const fresh = await testDatabase();
  expect(await loadDemo(fresh.pool)).toBeGreaterThanOrEqual(2);
  await fresh.pool.query('delete from rigs');
  expect(await loadDemo(fresh.pool)).toBe(0);
  await fresh.drop();
});
