import { randomUUID } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import fc from 'fast-check';
import { strToU8, unzipSync, zipSync } from 'fflate';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { PreviewEntry } from '@vast-surge/contract';
import type { WorkshopRecord } from '@vast-surge/core/format';
import { newLot, newPart } from '@vast-surge/core/part';
import { newDocument, type RigDocument } from '@vast-surge/core/rig';
import { loadDemo } from '../db/demo.ts';
import { addReadings, editParts, insertParts, noteFile, removeLot, removeParts, saveLot, setPhoto } from '../db/parts.ts';
import { archiveRig, findRig, insertRig, updateRig } from '../db/rigs.ts';
import { closeRevision } from '../db/revisions.ts';
import { insertFile, listShots } from '../db/shots.ts';
import {
  app,
  bringIn,
  closeArchives,
  folder,
  looked,
  newFile,
  own,
  packed,
  recordsIn,
  refusal,
  restored,
} from '../test/archives.ts';
import { named, testDatabase, type TestDatabase } from '../test/database.ts';
import { asStream, everything, onePixel } from '../test/records.ts';
import { Archives } from './archives.ts';
import { backUp, NotVerified, readThrough, writeArchiveFile } from './backup.ts';
import { openArchive, ownFile } from './zip-read.ts';
import { isLong } from '../../core/test/long.ts';

let [here, there]: TestDatabase[] = [];
beforeAll(async () => {
  [here, there] = await Promise.all([testDatabase(), testDatabase()]);
});
afterAll(async () => {
  await closeArchives();
  await Promise.all([here?.drop(), there?.drop()]);
});

const document = (name: string, note = ''): RigDocument => ({ ...newDocument(name), note });
const [plain, lively, foreign] = [randomUUID(), randomUUID(), randomUUID()];

const [lotId, goneLot, tagged, gone] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()];

/** A bench with everything on it: lots, a part with readings and a photo, one taken off, one that cannot be read. */
async function furnishBench(pool: TestDatabase['pool'], tags: readonly [string, string]): Promise<void> {
  await saveLot(pool, lotId, 0, newLot('=cmd|x'));
  await saveLot(pool, goneLot, 0, newLot('Sold again'));
  await removeLot(pool, goneLot);
  const part = { ...newPart('capacitor', '=1+1', tags[0]), lot: lotId };
  await insertParts(pool, [
    { id: tagged, part },
    { id: gone, part: newPart('resistor', 'Left', tags[1]) },
  ]);
  await addReadings(pool, [
    { partId: tagged, reading: { measure: 'capacitance', element: 1, value: 2.5e-6, at: '2026-01-01T00:00:00.000Z' } },
  ]);
  await setPhoto(pool, tagged, onePixel);
  await removeParts(pool, [gone], true);
  await noteFile(pool, 'ab'.repeat(32), 'bought.csv', 2);
  await pool.query("insert into parts (id, part, change) values ($1, $2, nextval('bench_changes'))", [
    randomUUID(),
    { kind: 'warp-coil', tag: 'Q-1', deep: { a: [1] } },
  ]);
}

/** A workshop with everything in it: revisions with and without names, a branch, an archived rig, an unreadable one. */
async function furnish({ pool }: TestDatabase, tags: readonly [string, string] = ['C-001', 'R-001']): Promise<void> {
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
  await furnishBench(pool, tags);
  await pool.query('insert into rigs (id, document) values ($1, $2)', [
    foreign,
    JSON.stringify({ name: 'From tomorrow', note: '', built: false, rig: { supply: { kind: 'fusion' }, zeta: [1, { a: 2 }] } }),
  ]);
}

describe('a whole workshop', () => {
  test('restored into an empty database is archived again to the same bytes, and nothing is missing', async () => {
    if (!here || !there) throw new Error('no database');
    await furnish(here);
    const path = newFile();
    const { counts } = await backUp(here.pool, path);
    expect(counts).toMatchObject({ lot: 2, part: 3, 'part-file': 1, rig: 4, revision: 2 });
    await restored(there, path);
    expect(Buffer.compare(await packed(there), readFileSync(path))).toBe(0);
    expect(await everything(there.pool)).toEqual(await everything(here.pool));
  });

  test('comes with tables in which no cell is a formula to a spreadsheet', async () => {
    if (!here) throw new Error('no database');
    const archive = await openArchive(newFile(await packed(here)), ownFile);
    const table = (name: string) => archive.text(name);
    expect(await table('rigs.csv')).toContain(`${plain},"'=1+1",1,`);
    expect(await table('revisions.csv')).toMatch(/,Lively,1,1,"as ""built"", µ",/);
    expect(await table('parts.csv')).toMatch(new RegExp(`${tagged},C-001,capacitor,'=1\\+1,1,`));
    expect(await table('readings.csv')).toMatch(/,C-001,capacitance,1,0\.0000025,/);
    expect(await table('lots.csv')).toContain(`${lotId},"'=cmd|x"`);
    expect(await table('figures.csv')).toMatch(/,Lively,stored-energy,Stored energy,J,1\.15/);
    archive.close();
  });

  test('of any cut or spoilt file nothing is taken, and the reason is said', async () => {
    if (!here) throw new Error('no database');
    const bytes = await packed(here);
    const whole = await recordsIn(newFile(bytes));
    await fc.assert(
      fc.asyncProperty(fc.nat(bytes.length - 1), fc.integer({ min: 1, max: 255 }), fc.boolean(), async (at, change, truncate) => {
        const spoilt = truncate ? bytes.subarray(0, at) : Buffer.from(bytes);
        if (!truncate) spoilt[at] = (spoilt[at] ?? 0) ^ change;
        const path = newFile(spoilt);
        // A byte of the container that means nothing, such as a date, may differ; a record never may.
        const said = await refusal(path);
        if (said === null) expect([truncate, await recordsIn(path)]).toEqual([false, whole]);
        else expect(said.length).toBeGreaterThan(5);
      }),
      { numRuns: 150, seed: 4 },
    );
    const entries = unzipSync(bytes);
    const path = `rigs/${lively}/rig.json`;
    const changed = strToU8(new TextDecoder().decode(entries[path]).replace('newest', 'newer!'));
    expect(await refusal(newFile(zipSync({ ...entries, [path]: changed })))).toContain(`${path} is not as it was written`);
    expect(await refusal(newFile(new Uint8Array()))).toMatch(/^archive is not a complete ZIP file/);
    expect(await refusal(newFile(zipSync({ 'archive.json': strToU8('{}') })))).toMatch(/^archive\.json /);
  });

  test('that cannot be written, because there is no folder or no room, says so and leaves nothing behind', async () => {
    if (!here) throw new Error('no database');
    await expect(backUp(here.pool, join(folder, 'nowhere', 'x.zip'))).rejects.toThrow(/ENOENT/);
    const blocked = newFile(strToU8('x'));
    await expect(backUp(here.pool, join(blocked, 'x.zip'))).rejects.toThrow(/ENOTDIR/);
  });

  test('that does not read back as it was written is not kept, and a file that was there stays', async () => {
    const path = newFile(strToU8('what was here'));
    const odd: WorkshopRecord = {
      noun: 'revision',
      record: {
        rigId: randomUUID(),
        id: randomUUID(),
        number: 1,
        version: 1,
        name: null,
        madeAt: '2026-01-01T00:00:00.000Z',
        document: { ok: true, document: document('Of no rig') },
      },
    };
    await expect(writeArchiveFile(path, asStream([odd]))).rejects.toThrow(NotVerified);
    expect(readFileSync(path, 'utf8')).toBe('what was here');
  });

  test.runIf(isLong)(
    'with scope records of full size, flat and noisy, and ten thousand events is written, verified and restored',
    { timeout: 180_000 },
    async () => {
      const [full, empty] = await Promise.all([testDatabase(), testDatabase()]);
      await loadDemo(full.pool);
      const [shot] = (await listShots(full.pool, { rigId: null, outcome: '', words: '', behind: null, limit: 1 })).rows;
      const records = 30;
      // Flat records, which shrink a thousandfold, and noisy ones, which do not shrink.
      const noise = Buffer.alloc(320_000);
      for (let i = 0; i < 40_000; i++) noise.writeDoubleLE(Math.sin(i * i) * 1e3, 8 * i);
      for (let n = 0; n < records; n++) {
        const t = (n % 2 === 0 ? Buffer.alloc(320_000) : noise).toString('base64');
        const channel = { quantity: 'voltage' as const, t, y: t, meanT: t, meanY: t };
        const content = { samples: 40_000, said: [], channels: [1, 2, 3].map((c) => ({ name: `CH${c}`, ...channel })) };
        await insertFile(full.pool, shot?.id ?? '', { id: randomUUID(), kind: 'trace', name: `scope-${n}.csv`, content });
      }
      await full.owner.query(
        `insert into run_events (run_id, number, id, event)
       select (select run_id from run_events limit 1), 1000 + n, gen_random_uuid(), jsonb_build_object('id', gen_random_uuid(), 'type', 'noted', 'text', 'x', 'at', 1e12, 'screen', 's')
       from generate_series((select 1 + max(number) - 1000 from run_events), 10000) n`,
      );
      const path = newFile();
      const { bytes, counts } = await backUp(full.pool, path);
      expect([counts['shot-file'], counts['run-events']]).toEqual([records + 2, 22]);
      expect(bytes).toBeGreaterThan(records * 1.6 * 1024 * 1024);
      await restored(empty, path);
      expect((await readThrough(path)).rig).toBe(5);
      const sizes = 'select count(*)::int as n, sum(bytes)::int as bytes from shot_files';
      expect((await empty.pool.query(sizes)).rows).toEqual((await full.pool.query(sizes)).rows);
      await full.drop();
      await empty.drop();
    },
  );
});

/** Every row of the tables that an archive holds, but for what is this database's own: numbers of change, and the version a file is written by. */
async function tables(owner: TestDatabase['owner']): Promise<Record<string, string[]>> {
  const found: Record<string, string[]> = {};
  for (const table of [
    'lots',
    'parts',
    'part_photos',
    'part_files',
    'rigs',
    'revisions',
    'runs',
    'run_events',
    'shots',
    'shot_files',
  ]) {
    const { rows } = await owner.query<{ row: string }>(
      `select (to_jsonb(t) - 'change')::text as row from ${table} t order by 1`,
    );
    found[table] = rows.map((r) => r.row);
  }
  return found;
}

test('a restore of ours and one by the tools of PostgreSQL agree table by table', { timeout: 180_000 }, async () => {
  const [source, ours, theirs] = await Promise.all([testDatabase(), testDatabase(), testDatabase({ migrated: false })]);
  await loadDemo(source.pool);
  await furnish(source, ['Z-901', 'Z-902']);
  const path = newFile();
  await backUp(source.pool, path);
  await restored(ours, path);
  const dump = join(folder, 'theirs.dump');
  const { rows } = await source.owner.query<{ version: string }>("select current_setting('server_version') as version");
  const tool = (name: string) => `/usr/lib/postgresql/${(rows[0]?.version ?? '').split('.')[0]}/bin/${name}`;
  const run = (name: string, url: string, args: string[]) => {
    const bare = new URL(url);
    const env = { ...process.env, PGPASSWORD: bare.password };
    bare.password = '';
    execFileSync(tool(name), [`--dbname=${bare.href}`, ...args], { env });
  };
  run('pg_dump', source.url, ['--format=custom', `--file=${dump}`]);
  run('pg_restore', theirs.url, ['--no-owner', '--no-privileges', dump]);
  const expected = await tables(theirs.owner);
  expect(Object.values(expected).every((rowsOf) => rowsOf.length > 0)).toBe(true);
  expect(await tables(ours.owner)).toEqual(expected);
  for (const database of [source, ours, theirs]) await database.drop();
});

describe('an import', () => {
  const standingOf = (entries: readonly PreviewEntry[], id: string) => entries.find((e) => e.id === id)?.standing;
  const rows = async ({ owner }: TestDatabase, query: string, values: unknown[] = []) => (await owner.query(query, values)).rows;

  test('shows first what is new, same, different or cannot be read, and writes nothing by that', async () => {
    if (!here || !there) throw new Error('no database');
    const bytes = await packed(here);
    await updateRig(there.pool, plain, 1, document('Mine now'));
    await there.owner.query(
      'alter table rigs disable trigger all; delete from rigs where archived_at is not null; alter table rigs enable trigger all',
    );
    const before = await packed(there);
    const { entries } = (await looked(there, bytes)).preview;
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
    const { id, preview } = await looked(there, await packed(here));
    const branch = preview.entries.find((e) => e.standing === 'new')?.id ?? '';
    const body = { choices: { [plain]: 'take', [branch]: 'take', [lively]: 'copy', [foreign]: 'take' } };
    const key = randomUUID();
    const [first, again] = [await bringIn(there, id, body, key), await bringIn(there, id, body, key)];
    expect([first.body, again.body]).toEqual([{ made: 2, changed: 1, left: 1, parts: { made: 0, changed: 0 } }, first.body]);
    expect(await rows(there, "select document->>'name' as name, version from rigs where id = $1", [plain])).toEqual([
      { name: '=1+1', version: 3 },
    ]);
    expect(await rows(there, "select document->>'name' as name, version from revisions where rig_id = $1", [plain])).toEqual([
      { name: 'Mine now', version: 2 },
    ]);
    expect((await rows(there, 'select branched_from from rigs where id = $1', [branch]))[0]).not.toEqual({ branched_from: null });
    expect(await rows(there, "select count(*)::int as n from rigs where document->>'name' = 'Lively'")).toEqual([{ n: 2 }]);
    const lost = await bringIn(there, randomUUID(), body);
    expect([lost.status, lost.body.message]).toEqual([404, expect.stringMatching(/no longer kept here: choose it again/)]);
  });

  test('of a rig that went on in both places brings the other’s revisions in behind one’s own', async () => {
    if (!here || !there) throw new Error('no database');
    await updateRig(here.pool, lively, 3, document('Lively', 'went on here'));
    await closeRevision(here.pool, randomUUID(), lively, 'gone on');
    await updateRig(there.pool, lively, 3, document('Lively', 'went on there'));
    const { id } = await looked(there, await packed(here));
    expect((await bringIn(there, id, { choices: { [lively]: 'take' } })).body).toMatchObject({ changed: 1 });
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
    const bytes = await packed(here);
    const look = async () => (await looked(fresh, bytes)).preview.bench;
    const bring = async (bench: string) =>
      (await bringIn(fresh, (await looked(fresh, bytes)).id, { choices: {}, bench })).body.parts;
    const names = () => rows(fresh, "select tag, part->>'name' as name from parts where removed_at is null order by tag");
    expect(await look()).toEqual({ parts: 3, lots: 1, photos: 1, new: 3, same: 0, different: 0, unreadable: 1 });
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

  test('whose file a cleaner of temporary files took away is asked for again, and what comes next goes in', async () => {
    if (!here) throw new Error('no database');
    const passing = join(folder, 'passing');
    mkdirSync(passing);
    const { TMPDIR } = process.env;
    process.env['TMPDIR'] = passing;
    const archives = new Archives(named(process.env['DATABASE_APP_URL'] ?? '', new URL(here.url).pathname.slice(1)));
    if (TMPDIR === undefined) delete process.env['TMPDIR'];
    else process.env['TMPDIR'] = TMPDIR;
    try {
      const bytes = await packed(here);
      const take = () => archives.take(Readable.from([bytes]));
      const { id } = await take();
      const found = readdirSync(passing);
      expect(found).toHaveLength(1);
      rmSync(join(passing, found[0] ?? ''), { recursive: true });
      expect(await archives.bringIn(id, { key: randomUUID(), request: '', choices: {}, bench: 'leave' })).toBeNull();
      const { preview } = await take();
      expect(preview.entries.every(({ standing }) => standing === 'same' || standing === 'unreadable')).toBe(true);
    } finally {
      await archives.close();
    }
    expect(readdirSync(passing)).toEqual([]);
  });

  test('that cannot be done whole is not done at all', async () => {
    if (!here || !there) throw new Error('no database');
    // A revision of the archive that another rig here has already: the last rig of the archive cannot be written.
    const records = await recordsIn(newFile(await packed(here)));
    const clash = [randomUUID(), randomUUID()].sort();
    const before = await packed(there);
    const path = newFile();
    await writeArchiveFile(
      path,
      asStream(
        clash.flatMap((id, i): WorkshopRecord[] =>
          records.flatMap((r): WorkshopRecord[] => {
            if (r.noun === 'rig' && r.record.id === lively) return [{ noun: 'rig', record: { ...r.record, id } }];
            if (i === 1 && r.noun === 'revision' && r.record.rigId === lively)
              return [{ ...r, record: { ...r.record, rigId: id } }];
            return [];
          }),
        ),
      ),
    );
    const { id } = await looked(there, readFileSync(path));
    const answer = await bringIn(there, id, { choices: Object.fromEntries(clash.map((rig) => [rig, 'take'])) });
    expect([answer.status, answer.body.code]).toEqual([409, 'conflict']);
    expect(Buffer.compare(await packed(there), before)).toBe(0);
  });

  test('of a picture that is none, or a trace whose numbers do not hang together, is refused by its file', async () => {
    if (!here || !there) throw new Error('no database');
    const bad = newFile();
    const records = await recordsIn(newFile(await packed(here)));
    const fake = records.map((r) =>
      r.noun === 'part' && r.record.photo
        ? { ...r, record: { ...r.record, id: randomUUID(), photo: 'data:image/png;base64,iVBORw0KGgo=' } }
        : r,
    );
    await writeArchiveFile(bad, asStream(fake));
    const { id } = await looked(there, readFileSync(bad));
    const answer = await bringIn(there, id, { choices: {}, bench: 'add' });
    expect([answer.status, answer.body.message]).toEqual([400, expect.stringMatching(/has a picture that cannot be decoded/)]);
  });
});

test(
  'one rig goes out as one file with its parts, runs and shots, and comes in whole elsewhere, told before',
  { timeout: 180_000 },
  async () => {
    const [source, fresh] = await Promise.all([testDatabase(), testDatabase()]);
    await loadDemo(source.pool);
    const rowOf = async <T extends object>({ owner }: TestDatabase, query: string, values: unknown[] = []): Promise<T> =>
      (await owner.query<T>(query, values)).rows[0] as T;
    const used = await rowOf<{ id: string; lot: string }>(
      source,
      "select id, part->>'lot' as lot from parts where part->>'kind' = 'capacitor' and part->>'lot' is not null order by id limit 1",
    );
    const shot = await rowOf<{ id: string; rig: string; version: number }>(
      source,
      'select s.id, r.id as rig, r.version from shots s join revisions v on v.id = s.revision_id join rigs r on r.id = v.rig_id order by s.id limit 1',
    );
    const found = await findRig(source.pool, shot.rig);
    if (!found?.document.ok) throw new Error('no rig');
    const { document: rigDocument } = found.document;
    const [first, ...others] = rigDocument.rig.channels;
    if (!first) throw new Error('no channel');
    const store = { ...first.store, parts: [{ id: used.id, tag: 'C-1', group: 1, count: 1 }] };
    await updateRig(source.pool, shot.rig, shot.version, {
      ...rigDocument,
      rig: { ...rigDocument.rig, channels: [{ ...first, store }, ...others] },
    });
    await setPhoto(source.pool, used.id, onePixel);
    await insertFile(source.pool, shot.id, { id: randomUUID(), kind: 'photo', name: 'crater.png', content: onePixel });

    const shared = async (database: TestDatabase): Promise<Buffer> => {
      const path = newFile();
      await backUp(database.pool, path, shot.rig);
      return readFileSync(path);
    };
    const bytes = await shared(source);
    const { id, preview } = await looked(fresh, bytes);
    expect(preview.bench).toEqual({ parts: 1, lots: 1, photos: 1, new: 2, same: 0, different: 0, unreadable: 0 });
    const [entry, ...further] = preview.entries;
    expect(further).toEqual([]);
    const counts = await rowOf<{ shots: number; runs: number; revisions: number }>(
      source,
      `select (select count(*)::int from shots where removed_at is null and revision_id in (select id from revisions where rig_id = $1)) as shots,
            (select count(*)::int from runs where revision_id in (select id from revisions where rig_id = $1)) as runs,
            (select count(*)::int from revisions where rig_id = $1) as revisions`,
      [shot.rig],
    );
    expect(counts.shots).toBeGreaterThan(0);
    expect(entry).toMatchObject({ standing: 'new', ...counts, newShots: counts.shots, newRevisions: counts.revisions });
    expect(entry?.photos).toBeGreaterThan(0);
    const body = { choices: { [shot.rig]: 'take' }, bench: 'add' };
    expect((await bringIn(fresh, id, body)).body).toEqual({ made: 1, changed: 0, left: 0, parts: { made: 1, changed: 0 } });
    expect(Buffer.compare(await shared(fresh), bytes)).toBe(0);
    // Again it brings nothing, and says so.
    const again = (await looked(fresh, bytes)).preview;
    expect(again.entries).toMatchObject([{ standing: 'same', newShots: 0, newRevisions: 0 }]);
    expect(again.bench).toMatchObject({ new: 0, same: 2 });
    for (const database of [source, fresh]) await database.drop();
  },
);

test('a download is read back before it is sent, and is what the workshop holds', async () => {
  if (!here) throw new Error('no database');
  const answer = await own(request(app(here)).get('/api/archive'))
    .buffer(true)
    .parse((res, done) => {
      const pieces: Buffer[] = [];
      res.on('data', (piece: Buffer) => pieces.push(piece));
      res.on('end', () => done(null, Buffer.concat(pieces)));
    });
  expect(answer.headers['content-type']).toBe('application/zip');
  expect(Buffer.compare(answer.body as Buffer, await packed(here))).toBe(0);
  const health = (await own(request(app(here)).get('/api/health'))).body as { lastBackupAt: string };
  expect(Date.now() - Date.parse(health.lastBackupAt)).toBeLessThan(60_000);
});
