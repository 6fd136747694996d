import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, expect, test } from 'vitest';
import {
  shotFileSchema,
  storedShotSchema,
  writeKeyHeader,
  type PageOf,
  type RigHead,
  type StoredShot,
} from '@vast-surge/contract';
import { evaluateRig, figureIn } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { loadDemo } from '../db/demo.ts';
import { inTransaction } from '../db/transaction.ts';
import { replaceWorkshop } from '../db/workshop.ts';
import { asStream, everything, onePixel } from '../test/records.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
let app: ReturnType<typeof createApp>;
beforeAll(async () => {
  database = await testDatabase();
  await loadDemo(database.pool);
  app = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6 });
});
afterAll(() => database.drop());

const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const write = (method: 'post' | 'put' | 'patch' | 'delete', path: string, body: unknown = {}) =>
  own(request(app)[method](path))
    .set(writeKeyHeader, randomUUID())
    .send(body as object);
const get = async <T>(path: string): Promise<T> => (await own(request(app).get(path))).body as T;

async function thimble() {
  const [rig] = (await get<PageOf<RigHead>>('/api/rigs?q=thimble')).rows;
  if (!rig) throw new Error('no Thimble');
  return get<{ id: string; version: number; document: RigDocument }>(`/api/rigs/${rig.id}`);
}

const shot = (more: object = {}) => ({
  at: '2026-03-04T10:00:00.000Z',
  outcome: 'fired',
  set: { voltage: 30 },
  measured: { current: 90 },
  sound: 'a crack',
  remarks: 'Ω µ',
  ...more,
});
const samples = Buffer.from(new Float64Array([0, 1, 2]).buffer).toString('base64');
const trace = () => ({
  id: randomUUID(),
  kind: 'trace',
  name: 'scope.csv',
  content: {
    samples: 3,
    said: [],
    channels: [{ name: 'CH1', quantity: 'voltage', t: samples, y: samples, meanT: samples, meanY: samples }],
  },
});

async function made(): Promise<StoredShot> {
  const rig = await thimble();
  const answer = await write('post', '/api/shots', {
    id: randomUUID(),
    rigId: rig.id,
    version: rig.version,
    runId: null,
    shot: shot(),
  });
  expect(answer.status).toBe(201);
  return storedShotSchema.parse(answer.body) as StoredShot;
}

test('a shot points at what the rig was, with what was calculated for its settings, and is changed by one hand at a time', async () => {
  const rig = await thimble();
  const stored = await made();
  const peak = figureIn(evaluateRig(rig.document.rig), 'peak-current')?.worked.value ?? NaN;
  expect(stored).toMatchObject({ rigName: 'Thimble', revision: 1, shot: shot(), files: [] });
  expect(stored.predicted.voltage).toBe(30);
  expect(stored.predicted.current ?? NaN).toBeLessThan(peak);
  const save = (version: number, more: object) => write('put', `/api/shots/${stored.id}`, { version, shot: shot(more) });
  const [left, right] = await Promise.all([save(1, { set: { voltage: 20 } }), save(1, { set: { voltage: 25 } })]);
  expect([left.status, right.status].sort()).toEqual([200, 409]);
  const now = await get<StoredShot>(`/api/shots/${stored.id}`);
  expect(now.version).toBe(2);
  expect(now.predicted.voltage).toBe(now.shot.set.voltage);
});

test('traces and photos come with it, come back as they were, and go one by one', async () => {
  const { id } = await made();
  const file = trace();
  expect((await write('post', `/api/shots/${id}/files`, file)).status).toBe(201);
  const photo = { id: randomUUID(), kind: 'photo', name: 'gap.png', content: onePixel };
  const both = (await write('post', `/api/shots/${id}/files`, photo)).body as StoredShot;
  expect(both.files.map((f) => f.kind).sort()).toEqual(['photo', 'trace']);
  expect(shotFileSchema.parse(await get(`/api/shots/files/${file.id}`))).toMatchObject({ kind: 'trace', content: file.content });
  expect((await write('post', `/api/shots/${id}/files`, file)).status).toBe(409);
  await write('delete', `/api/shots/files/${photo.id}`);
  expect((await get<StoredShot>(`/api/shots/${id}`)).files.map((f) => f.id)).toEqual([file.id]);
});

test('is taken off the list and brought back; goes with the workshop into an archive and back', async () => {
  const { id } = await made();
  const listed = async () => (await get<PageOf<StoredShot>>('/api/shots')).rows.some((s) => s.id === id);
  await write('patch', `/api/shots/${id}`, { removed: true });
  expect(await listed()).toBe(false);
  await write('patch', `/api/shots/${id}`, { removed: false });
  expect(await listed()).toBe(true);
  await write('post', `/api/shots/${id}/files`, trace());
  const before = await everything(database.pool);
  const fresh = await testDatabase();
  await inTransaction(fresh.owner, (client) => replaceWorkshop(client, asStream(before)));
  expect(await everything(fresh.pool)).toEqual(before);
  await fresh.drop();
});

test('what cannot be is refused by field', async () => {
  const rig = await thimble();
  const post = (more: object, body: object = shot()) =>
    write('post', '/api/shots', { id: randomUUID(), rigId: rig.id, version: rig.version, runId: null, shot: body, ...more });
  for (const [answer, words] of [
    [await post({}, shot({ outcome: 'boom' })), /shot\.outcome must be one of fired, misfire/],
    [await post({}, shot({ measured: { speed: -3 } })), /shot\.measured\.speed must be from 0 to 100000 m\/s/],
    [await post({}, shot({ set: { luck: 7 } })), /luck/],
    [await post({}, shot({ at: 'yesterday' })), /shot\.at must be a date and time/],
    [await post({ runId: randomUUID() }), /runId|cannot be taken/],
    [
      await write('post', `/api/shots/${(await made()).id}/files`, {
        ...trace(),
        kind: 'photo',
        content: 'data:text/html;base64,AA==',
      }),
      /JPEG, PNG or WebP/,
    ],
  ] as const) {
    expect(answer.status).toBe(400);
    expect(answer.body.message).toMatch(words);
  }
});
