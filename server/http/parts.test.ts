import { randomUUID } from 'node:crypto';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { faultSchema, writeKeyHeader, type Bench, type StoredPart } from '@vast-surge/contract';
import { newLot, newPart, type MeterReading, type Part } from '@vast-surge/core/part';
import { newDocument, newRig } from '@vast-surge/core/rig';
import { insertRig } from '../db/rigs.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { keptPicture } from '../picture.ts';
import { onePixel } from '../test/records.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
let app: ReturnType<typeof createApp>;
beforeAll(async () => {
  database = await testDatabase();
  app = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6 });
});
afterAll(() => database.drop());

const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const write = (method: 'post' | 'put' | 'patch' | 'delete', path: string, body: object, key: string = randomUUID()) =>
  own(request(app)[method](path)).set(writeKeyHeader, key).send(body);
const bench = async (after = 0) => (await own(request(app).get(`/api/parts?after=${after}`))).body as Bench;
const partAt = async (id: string): Promise<StoredPart> => {
  const found = (await bench()).parts.find((p) => p.id === id);
  if (!found) throw new Error('no such part');
  return found;
};
const can = (tag: string, over: Partial<Part> = {}): Part => ({ ...newPart('capacitor', 'Grey can', tag), ...over });
const wire = (part: Part) => JSON.parse(JSON.stringify(part)) as Part;

async function made(...parts: Part[]): Promise<string[]> {
  const drafts = parts.map((part) => ({ id: randomUUID(), part }));
  const answer = await write('post', '/api/parts', { parts: drafts });
  expect(answer.body).toMatchObject({ tags: expect.any(Array) });
  return drafts.map((d) => d.id);
}
const reading = (value: number, over: Partial<MeterReading> = {}): MeterReading => ({
  measure: 'capacitance',
  element: 1,
  value,
  at: '2026-02-03T10:00:00.000Z',
  instrument: 'bridge',
  under: 120,
  by: '',
  ...over,
});

describe('parts', () => {
  test('come onto the bench many at a time, each with a tag of its own, once however often the request is sent', async () => {
    const key = randomUUID();
    const parts = [can(''), can(''), can('C-001'), can('')].map((part) => ({ id: randomUUID(), part }));
    const send = () => write('post', '/api/parts', { parts, lots: [{ id: randomUUID(), lot: newLot('Box') }] }, key);
    const body = { parts, lots: [{ id: '11111111-1111-4111-8111-111111111111', lot: newLot('Box') }] };
    const first = await write('post', '/api/parts', body, key);
    const again = await write('post', '/api/parts', body, key);
    expect([first.status, first.body.tags]).toEqual([201, ['C-002', 'C-003', 'C-001', 'C-004']]);
    expect(again.body).toEqual(first.body);
    expect((await send()).body.code).toBe('key_reused');
    const [next] = await made(can(''));
    expect((await partAt(next ?? '')).part.tag).toBe('C-005');
    expect((await bench()).parts).toHaveLength(5);
  });

  test('with a tag that is taken, or one twice, are refused whole and by name', async () => {
    await made(can('BIG-1'));
    const before = (await bench()).parts.length;
    const drafts = [can('free'), can('big-1'), can('x'), can('X')].map((part) => ({ id: randomUUID(), part }));
    const answer = await write('post', '/api/parts', { parts: drafts });
    expect([answer.status, answer.body.code]).toEqual([409, 'conflict']);
    expect(answer.body.message).toMatch(/taken is: big-1, X/);
    expect((await bench()).parts).toHaveLength(before);
  });

  test.each<[string, object, RegExp]>([
    ['a kind that is none', { kind: 'flux', name: 'x' }, /kind must be one of capacitor/],
    [
      'a value out of its range',
      { kind: 'capacitor', name: 'x', fields: { C: '-3 µF' } },
      /parts\[0\]\.part\.fields\.C .*above 0 F/,
    ],
    ['a value in another unit', { kind: 'capacitor', name: 'x', fields: { C: '3 V' } }, /parts\[0\]\.part\.fields\.C/],
    ['a reading of zero', { kind: 'capacitor', name: 'x', readings: [{ ...reading(0) }] }, /readings\[0\]\.value must be from/],
    ['too many of it', { kind: 'diode', name: 'x', quantity: 1e9 }, /quantity must be from 0 to 100000/],
    ['no name', { kind: 'diode', name: ' ' }, /name must not be empty/],
  ])('with %s are refused with the field and what it may be', async (_what, part, reason) => {
    const answer = await write('post', '/api/parts', { parts: [{ id: randomUUID(), part }] });
    expect(answer.status).toBe(400);
    expect(faultSchema.parse(answer.body).message).toMatch(reason);
  });

  test('are changed field by field; two hands on different fields both have their way, on the same one the later is told', async () => {
    const [id = ''] = await made(can('E-1'));
    const C = { value: 4.7e-6, text: '4u7' };
    const patch = (set: object, was: object) => write('patch', '/api/parts', { edits: [{ id, set, was }] });
    expect((await patch({ 'fields.C': C }, { 'fields.C': null })).body).toEqual({ changed: 1 });
    expect((await patch({ place: 'drawer 3', condition: 'good' }, { place: '', condition: 'unknown' })).status).toBe(200);
    const late = await patch({ place: 'drawer 9', note: 'mine' }, { place: '', note: '' });
    expect([late.status, late.body.fields[0]]).toEqual([
      409,
      { path: 'place', reason: 'of E-1 was changed elsewhere in the meantime' },
    ]);
    expect((await partAt(id)).part).toMatchObject({
      place: 'drawer 3',
      condition: 'good',
      note: '',
      fields: { C: { value: 4.7e-6 } },
    });
    expect((await patch({ readings: [] }, { readings: [] })).status).toBe(400);
    expect((await patch({ 'fields.zeta': 1 }, {})).body.message).toMatch(/nothing of this part that can be changed/);
    expect((await patch({ quantity: -1 }, { quantity: 1 })).body.message).toMatch(/E-1: quantity must be from 0/);
  });

  test('readings pile up from two hands at once; one is struck out and counts again, and none goes away', async () => {
    const [id = ''] = await made(can('M-9'));
    const add = (value: number) => write('post', '/api/parts/readings', { readings: [{ partId: id, reading: reading(value) }] });
    const answers = await Promise.all([1e-6, 2e-6, 3e-6, 4e-6].map(add));
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200]);
    expect((await add(-1e-6)).body.message).toMatch(/M-9: readings\[4\]\.value must be from/);
    expect((await add(5e3)).status).toBe(400);
    const values = async () => (await partAt(id)).part.readings.map((r) => (r.struck ? null : r.value));
    expect((await values()).toSorted()).toEqual([1e-6, 2e-6, 3e-6, 4e-6]);
    const strike = (index: number, struck: boolean) => write('patch', `/api/parts/${id}/readings/${index}`, { struck });
    await strike(1, true);
    expect((await values()).indexOf(null)).toBe(1);
    await strike(1, false);
    expect((await values()).includes(null)).toBe(false);
    expect((await strike(40, true)).status).toBe(400);
  });

  test('a part that a rig stands on is not taken off without its name being said; put back it is as it was', async () => {
    const [id = ''] = await made(can('U-1', { note: 'keep' }));
    const document = newDocument('Standing on it', newRig());
    const [channel] = document.rig.channels;
    if (!channel) throw new Error('no channel');
    const store = { ...channel.store, parts: [{ id, tag: 'U-1' }] };
    const used = { ...document, rig: { ...document.rig, channels: [{ ...channel, store }] } };
    await insertRig(database.pool, randomUUID(), used as typeof document);
    const remove = (body: object) => write('post', '/api/parts/removals', { ids: [id], ...body });
    const refused = await remove({ removed: true });
    expect([refused.status, refused.body.message]).toEqual([409, expect.stringMatching(/uses it: Standing on it/)]);
    expect((await remove({ removed: true, evenUsed: true })).body).toEqual({ changed: 1 });
    expect((await partAt(id)).removedAt).not.toBeNull();
    const [other = ''] = await made(can('U-1'));
    expect((await remove({ removed: false })).body.message).toMatch(/tag/);
    await write('patch', '/api/parts', { edits: [{ id: other, set: { tag: 'U-2' }, was: { tag: 'U-1' } }] });
    expect((await remove({ removed: false })).body).toEqual({ changed: 1 });
    expect((await partAt(id)).part).toEqual(wire(can('U-1', { note: 'keep' })));
  });

  test('only what changed is sent to a page that looks again, also where many write at once', async () => {
    let mark = (await bench()).mark;
    const seen = new Set<string>();
    const writers = Array.from({ length: 8 }, () => made(can('')));
    for (let i = 0; i < 20; i++) {
      const { parts, mark: next } = await bench(mark);
      mark = next;
      parts.forEach((p) => seen.add(p.id));
      if (i === 10) await Promise.all(writers);
    }
    const all = (await Promise.all(writers)).flat();
    expect(all.every((id) => seen.has(id))).toBe(true);
    expect((await bench(mark)).parts).toEqual([]);
    expect((await own(request(app).get('/api/parts?after=x'))).status).toBe(400);
  });

  test('a photo is kept beside the part, and anything that is no picture is refused', async () => {
    const [id = ''] = await made(can('P-1'));
    const photo = await keptPicture(onePixel, 400_000);
    const put = (value: unknown) => write('put', `/api/parts/${id}/photo`, { photo: value });
    expect((await put(photo)).status).toBe(200);
    expect((await own(request(app).get(`/api/parts/${id}/photo`))).body).toEqual({ photo });
    expect((await partAt(id)).hasPhoto).toBe(true);
    for (const bad of ['data:text/html;base64,PHA+', 'data:image/svg+xml;base64,AAAA', 'x', 7])
      expect((await put(bad)).body.fields[0]?.path).toBe('photo');
    expect((await put(null)).status).toBe(200);
    expect((await partAt(id)).hasPhoto).toBe(false);
    expect((await write('put', `/api/parts/${randomUUID()}/photo`, { photo })).status).toBe(404);
  });

  test('a part from a newer program is sent as unreadable and stays as it is', async () => {
    const id = randomUUID();
    const data = { kind: 'warp-coil', tag: 'Q-7', name: 'x' };
    await database.pool.query("insert into parts (id, part, change) values ($1, $2, nextval('bench_changes'))", [id, data]);
    const found = (await bench()).unreadable.find((u) => u.id === id);
    expect(found).toMatchObject({ name: 'Q-7', unreadable: expect.stringMatching(/kind must be one of/) });
    const edit = await write('patch', '/api/parts', { edits: [{ id, set: { name: 'y' }, was: { name: 'x' } }] });
    expect([edit.status, edit.body.code]).toEqual([409, 'conflict']);
  });

  test('a file that was taken in is known again', async () => {
    const digest = 'ab'.repeat(32);
    const ask = async () =>
      (await write('post', '/api/parts/files', { digest })).body as { takenAt: string | null; parts: number };
    expect(await ask()).toEqual({ takenAt: null, parts: 0 });
    await write('post', '/api/parts', { parts: [{ id: randomUUID(), part: can('') }], file: { name: 'a.csv', digest } });
    expect(await ask()).toEqual({ takenAt: expect.any(String), parts: 1 });
  });
});

describe('lots', () => {
  test('are saved version by version, and go away only when no part is booked on them', async () => {
    const id = randomUUID();
    const save = (version: number, name: string) =>
      write('put', `/api/lots/${id}`, { version, lot: { ...newLot(name), source: 'oven' } });
    expect((await save(0, 'Ovens')).body).toEqual({ version: 1 });
    expect((await save(1, 'Ovens from the tip')).body).toEqual({ version: 2 });
    expect((await save(1, 'Late')).status).toBe(409);
    expect((await write('put', `/api/lots/${id}`, { version: 2, lot: { name: 'x', paid: -1 } })).body.message).toMatch(
      /lot\.paid must be from 0/,
    );
    const [part = ''] = await made(can('', { lot: id }));
    expect((await write('delete', `/api/lots/${id}`, {})).body.message).toMatch(/1 part is booked on this lot/);
    await write('patch', '/api/parts', { edits: [{ id: part, set: { lot: null }, was: { lot: id } }] });
    expect((await write('delete', `/api/lots/${id}`, {})).status).toBe(200);
    const { lots, goneLots } = await bench();
    expect([lots.some((l) => l.id === id), goneLots.includes(id)]).toEqual([false, true]);
  });
});
