import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { previewSchema, writeKeyHeader, type PreviewEntry } from '@vast-surge/contract';
import { newLot, newPart } from '@vast-surge/core/part';
import { newDocument, type RigDocument } from '@vast-surge/core/rig';
import { addReadings, editParts, insertParts, removeParts, saveLot, setPhoto } from '../db/parts.ts';
import { archiveRig, insertRig, updateRig } from '../db/rigs.ts';
import { closeRevision } from '../db/revisions.ts';
import { inTransaction } from '../db/transaction.ts';
import { readWorkshop, replaceWorkshop } from '../db/workshop.ts';
import { createApp } from '../http/app.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { packWorkshop, unpackWorkshop } from './archive.ts';
import { pack, unpack } from './pack.ts';

let [here, there]: TestDatabase[] = [];
beforeAll(async () => {
  [here, there] = await Promise.all([testDatabase(), testDatabase()]);
});
afterAll(() => Promise.all([here?.drop(), there?.drop()]));

const document = (name: string, note = ''): RigDocument => ({ ...newDocument(name), note });
const [plain, lively, foreign] = [randomUUID(), randomUUID(), randomUUID()];

const [lotId, tagged, gone] = [randomUUID(), randomUUID(), randomUUID()];

/** A bench with everything on it: a lot, a part with readings and a photo, one taken off, one that cannot be read. */
async function furnishBench(pool: TestDatabase['pool']): Promise<void> {
  await saveLot(pool, lotId, 0, newLot('=cmd|x'));
  const part = { ...newPart('capacitor', '=1+1', 'C-001'), lot: lotId };
  await insertParts(pool, [
    { id: tagged, part },
    { id: gone, part: newPart('resistor', 'Left', 'R-001') },
  ]);
  await addReadings(pool, [
    { partId: tagged, reading: { measure: 'capacitance', element: 1, value: 2.5e-6, at: '2026-01-01T00:00:00.000Z' } },
  ]);
  await setPhoto(pool, tagged, 'data:image/png;base64,iVBORw0KGgo=');
  await removeParts(pool, [gone], true);
  await pool.query("insert into parts (id, part, change) values ($1, $2, nextval('bench_changes'))", [
    randomUUID(),
    { kind: 'warp-coil', tag: 'Q-1', deep: { a: [1] } },
  ]);
}

/** A workshop with everything in it: revisions with and without names, a branch, an archived rig, an unreadable one. */
async function furnish({ pool }: TestDatabase): Promise<void> {
  await insertRig(pool, plain, document('=1+1'));
  await insertRig(pool, lively, document('Lively'));
  const revision = randomUUID();
  await closeRevision(pool, revision, lively, 'as "built", µ');
  await updateRig(pool, lively, 1, document('Lively', 'new yoke'));
  await closeRevision(pool, randomUUID(), lively, null);
  await updateRig(pool, lively, 2, document('Lively', 'newest'));
  const branch = randomUUID();
  await insertRig(pool, branch, document('Branch'), revision);
  await archiveRig(pool, branch, true);
  await furnishBench(pool);
  await pool.query('insert into rigs (id, document) values ($1, $2)', [
    foreign,
    JSON.stringify({ name: 'From tomorrow', note: '', built: false, rig: { supply: { kind: 'fusion' }, zeta: [1, { a: 2 }] } }),
  ]);
}

const packed = async ({ pool }: TestDatabase) =>
  packWorkshop(await inTransaction(pool, (client) => readWorkshop(client), 'repeatable read'));
const workshopIn = (bytes: Uint8Array) => {
  const read = unpackWorkshop(bytes);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.workshop;
};

const app = ({ pool }: TestDatabase) => createApp({ db: pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e6 });
const post = (database: TestDatabase, path: string, body: object) =>
  request(app(database)).post(path).set('Host', '127.0.0.1:4600').set(writeKeyHeader, randomUUID()).send(body);
const base64 = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');

describe('a whole workshop', () => {
  test('restored into an empty database is archived again to the same bytes', async () => {
    if (!here || !there) throw new Error('no database');
    await furnish(here);
    const bytes = await packed(here);
    await inTransaction(there.pool, (client) => replaceWorkshop(client, workshopIn(bytes)));
    expect(Buffer.compare(await packed(there), bytes)).toBe(0);
    expect(Buffer.compare(await packed(here), bytes)).toBe(0);
  });

  test('comes with tables in which no cell is a formula to a spreadsheet', async () => {
    if (!here) throw new Error('no database');
    const files = unpack(await packed(here));
    expect(files.get('rigs.csv')).toContain(`${plain},"'=1+1",1,`);
    expect(files.get('revisions.csv')).toMatch(/,Lively,1,1,"as ""built"", µ",/);
    expect(files.get('parts.csv')).toMatch(new RegExp(`${tagged},C-001,capacitor,'=1\\+1,1,`));
    expect(files.get('readings.csv')).toMatch(/,C-001,capacitance,1,0\.0000025,/);
    expect(files.get('lots.csv')).toContain(`${lotId},"'=cmd|x"`);
    expect(files.get('figures.csv')).toMatch(/,Lively,stored-energy,Stored energy,J,1\.15/);
  });

  test('of any cut or spoilt file nothing is taken, and the reason is said', async () => {
    if (!here) throw new Error('no database');
    const bytes = await packed(here);
    const whole = unpackWorkshop(bytes);
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.integer({ min: 1, max: 255 }), fc.boolean(), (at, change, truncate) => {
        const spoilt = truncate ? bytes.slice(0, at) : bytes.slice();
        if (!truncate) spoilt[at] = (spoilt[at] ?? 0) ^ change;
        const read = unpackWorkshop(spoilt);
        // A byte of the container that means nothing, such as a date, may differ; a rig never may.
        if (read.ok) expect([truncate, read]).toEqual([false, whole]);
        else expect(read.issues[0]?.reason.length).toBeGreaterThan(5);
      }),
      { numRuns: 400 },
    );
    const changed = unpack(bytes);
    const path = `rigs/${lively}/rig.json`;
    changed.set(path, (changed.get(path) ?? '').replace('newest', 'newer!'));
    const sums = unzipSync(bytes)['checksums.txt'] ?? new Uint8Array();
    const entries = Object.fromEntries([...changed].map(([p, text]) => [p, strToU8(text)]));
    expect(unpackWorkshop(zipSync({ ...entries, 'checksums.txt': sums }))).toMatchObject({
      ok: false,
      issues: [{ reason: expect.stringContaining(`${path} is not as it was written`) }],
    });
    expect(unpackWorkshop(new Uint8Array())).toMatchObject({ ok: false });
    expect(unpackWorkshop(pack(new Map([['archive.json', '{}']])))).toMatchObject({
      ok: false,
      issues: [{ path: 'archive.json' }],
    });
  });
});

describe('an import', () => {
  const preview = async (database: TestDatabase, bytes: Uint8Array): Promise<PreviewEntry[]> =>
    previewSchema.parse((await post(database, '/api/archive/preview', { archive: base64(bytes) })).body).entries;
  const standingOf = (entries: PreviewEntry[], id: string) => entries.find((e) => e.id === id)?.standing;
  const rows = async ({ pool }: TestDatabase, query: string, values: unknown[] = []) => (await pool.query(query, values)).rows;

  test('shows first what is new, same, different or cannot be read, and writes nothing by that', async () => {
    if (!here || !there) throw new Error('no database');
    const bytes = await packed(here);
    await updateRig(there.pool, plain, 1, document('Mine now'));
    await there.pool.query(
      'alter table rigs disable trigger all; delete from rigs where archived_at is not null; alter table rigs enable trigger all',
    );
    const before = await packed(there);
    const entries = await preview(there, bytes);
    expect([standingOf(entries, lively), standingOf(entries, plain), standingOf(entries, foreign)]).toEqual([
      'same',
      'different',
      'unreadable',
    ]);
    expect(entries.filter((e) => e.standing === 'new').map((e) => e.name)).toEqual(['Branch']);
    expect(entries.find((e) => e.id === plain)?.says).toContain('Name: Mine now → =1+1');
    expect(Buffer.compare(await packed(there), before)).toBe(0);
  });

  test('takes what was chosen, keeps what was here as a revision, links branches again, and is done once', async () => {
    if (!here || !there) throw new Error('no database');
    const bytes = await packed(here);
    const entries = await preview(there, bytes);
    const branch = entries.find((e) => e.standing === 'new')?.id ?? '';
    const body = { archive: base64(bytes), choices: { [plain]: 'take', [branch]: 'take', [lively]: 'copy', [foreign]: 'take' } };
    const key = randomUUID();
    const send = () => post(there as TestDatabase, '/api/archive/import', body).set(writeKeyHeader, key);
    const [first, again] = [await send(), await send()];
    expect([first.body, again.body]).toEqual([{ made: 2, changed: 1, left: 1, parts: { made: 0, changed: 0 } }, first.body]);
    expect(await rows(there, "select document->>'name' as name, version from rigs where id = $1", [plain])).toEqual([
      { name: '=1+1', version: 3 },
    ]);
    expect(await rows(there, "select document->>'name' as name, version from revisions where rig_id = $1", [plain])).toEqual([
      { name: 'Mine now', version: 2 },
    ]);
    expect((await rows(there, 'select branched_from from rigs where id = $1', [branch]))[0]).not.toEqual({ branched_from: null });
    expect(await rows(there, "select count(*)::int as n from rigs where document->>'name' = 'Lively'")).toEqual([{ n: 2 }]);
  });

  test('of a rig that went on in both places brings the other’s revisions in behind one’s own', async () => {
    if (!here || !there) throw new Error('no database');
    await updateRig(here.pool, lively, 3, document('Lively', 'went on here'));
    await closeRevision(here.pool, randomUUID(), lively, 'gone on');
    await updateRig(there.pool, lively, 3, document('Lively', 'went on there'));
    const answer = await post(there, '/api/archive/import', {
      archive: base64(await packed(here)),
      choices: { [lively]: 'take' },
    });
    expect(answer.body).toMatchObject({ changed: 1 });
    const revisions = await rows(
      there,
      "select number, document->>'note' as note from revisions where rig_id = $1 order by number",
      [lively],
    );
    expect(revisions).toEqual([
      { number: 1, note: '' },
      { number: 2, note: 'new yoke' },
      { number: 3, note: 'went on there' },
      { number: 4, note: 'went on here' },
    ]);
    expect(await rows(there, "select document->>'note' as note, version from rigs where id = $1", [lively])).toEqual([
      { note: 'went on here', version: 6 },
    ]);
  });

  test('of the parts bench adds what is new or also takes what differs, never gives two parts one tag, and says so before', async () => {
    const fresh = await testDatabase();
    if (!here) throw new Error('no database');
    await insertParts(fresh.pool, [{ id: randomUUID(), part: newPart('capacitor', 'Own', 'C-001') }]);
    const archive = base64(await packed(here));
    const look = async () => previewSchema.parse((await post(fresh, '/api/archive/preview', { archive })).body).bench;
    const bring = async (bench: string) => (await post(fresh, '/api/archive/import', { archive, choices: {}, bench })).body.parts;
    const names = () => rows(fresh, "select tag, part->>'name' as name from parts where removed_at is null order by tag");
    expect(await look()).toEqual({ parts: 3, lots: 1, new: 3, same: 0, different: 0, unreadable: 1 });
    expect(await bring('add')).toEqual({ made: 2, changed: 0 });
    expect(await names()).toEqual([
      { tag: 'C-001', name: 'Own' },
      { tag: 'C-001-2', name: '=1+1' },
    ]);
    expect(await bring('add')).toEqual({ made: 0, changed: 0 });
    await editParts(fresh.pool, [{ id: tagged, set: { name: 'Mine' }, was: { name: '=1+1' } }]);
    expect(await look()).toMatchObject({ new: 0, same: 2, different: 1 });
    expect(await bring('take')).toEqual({ made: 0, changed: 1 });
    expect((await names())[1]).toEqual({ tag: 'C-001-2', name: '=1+1' });
    expect(await rows(fresh, 'select part_id from part_photos')).toEqual([{ part_id: tagged }]);
    await fresh.drop();
  });

  test('that cannot be done whole is not done at all', async () => {
    if (!here || !there) throw new Error('no database');
    // A revision of the archive that another rig here has already: the last rig of the archive cannot be written.
    const workshop = workshopIn(await packed(here));
    const [rig] = workshop.rigs.filter((r) => r.id === lively);
    if (!rig) throw new Error('no rig');
    const clash = {
      lots: [],
      parts: [],
      runs: [],
      shots: [],
      rigs: [
        { ...rig, id: randomUUID(), revisions: [] },
        { ...rig, id: randomUUID() },
      ].sort((a, b) => (a.id < b.id ? -1 : 1)),
    };
    const before = await packed(there);
    const choices = Object.fromEntries(clash.rigs.map((r) => [r.id, 'take']));
    const answer = await post(there, '/api/archive/import', { archive: base64(packWorkshop(clash)), choices });
    expect([answer.status, answer.body.code]).toEqual([409, 'conflict']);
    expect(Buffer.compare(await packed(there), before)).toBe(0);
  });
});
