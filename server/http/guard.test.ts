import { randomUUID } from 'node:crypto';
import { mkdtempSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  healthSchema,
  shotPhotoLimit,
  writeKeyHeader,
  type PageOf,
  type RigHead,
  type RunHead,
  type StoredShot,
} from '@vast-surge/contract';
import { newPart } from '@vast-surge/core/part';
import { newDocument } from '@vast-surge/core/rig';
import { backupName, backUpBySchedule, isDue } from '../jobs/backups.ts';
import { lastVerifiedAt, listBackups, setBackups } from '../db/backups.ts';
import { loadDemo } from '../db/demo.ts';
import { putHead } from '../db/heads.ts';
import { insertParts } from '../db/parts.ts';
import { insertRig } from '../db/rigs.ts';
import { RigHeads } from '../jobs/heads.ts';
import { keptPicture, NoPicture } from '../picture.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { hostileBodies } from '../test/hostile.ts';
import { traceIssue } from '../trace.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
const log = pino({ level: 'silent' });
const web = mkdtempSync(join(tmpdir(), 'surge-web-'));
beforeAll(async () => {
  database = await testDatabase();
  mkdirSync(join(web, 'assets'));
  writeFileSync(join(web, 'index.html'), '<script type="module" src="/assets/index-abc123.js"></script>');
  writeFileSync(join(web, 'assets/index-abc123.js'), `// ${'a page '.repeat(500)}`);
});
afterAll(async () => {
  await database.drop();
  rmSync(web, { recursive: true, force: true });
});

const appWith = (more: Partial<Parameters<typeof createApp>[0]> = {}) =>
  createApp({ db: database.pool, log, version: 'test', rate: 1e6, webRoot: web, ...more });
const own = <T extends request.Test>(call: T): T => call.set('Host', '127.0.0.1:4600');
const write = (app: ReturnType<typeof createApp>, method: 'post' | 'put' | 'patch', path: string, body: unknown) =>
  own(request(app)[method](path))
    .set(writeKeyHeader, randomUUID())
    .send(body as object);

test('every answer says what a page may load: its own scripts alone, nothing from elsewhere, in no frame', async () => {
  for (const path of ['/', '/api/rigs', '/api/nowhere']) {
    const { headers } = await own(request(appWith()).get(path));
    const policy = Object.fromEntries(
      String(headers['content-security-policy'])
        .split(';')
        .map((part) => part.trim().split(' '))
        .map(([name = '', ...sources]) => [name, sources.join(' ')]),
    );
    expect(policy).toMatchObject({
      'default-src': "'self'",
      'script-src': "'self'",
      'object-src': "'none'",
      'base-uri': "'none'",
      'frame-ancestors': "'none'",
    });
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['strict-transport-security']).toBeUndefined();
  }
});

describe('another page', () => {
  const foreign = { 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'no-cors', 'Sec-Fetch-Dest': 'image' };

  test('is refused with an origin or without one, and uses no budget up', async () => {
    const app = appWith({ rate: 3 });
    for (let i = 0; i < 20; i++) {
      const answer = await own(request(app).get('/api/rigs')).set(foreign);
      expect([answer.status, answer.body.code]).toEqual([403, 'forbidden_host']);
    }
    for (const site of ['cross-site', 'same-site'])
      expect((await own(request(app).post('/api/rigs')).set('Sec-Fetch-Site', site).send({})).status).toBe(403);
    // Its own page, and a person at the address line or behind a link, come through.
    expect((await own(request(app).get('/api/rigs')).set('Sec-Fetch-Site', 'same-origin')).status).toBe(200);
    const followed = { 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'navigate', 'Sec-Fetch-Dest': 'document' };
    expect((await own(request(app).get('/rigs')).set(followed)).status).toBe(200);
    expect((await own(request(app).get('/api/archive')).set(followed)).status).toBe(403);
    expect((await own(request(app).get('/rigs')).set({ ...followed, 'Sec-Fetch-Dest': 'iframe' })).status).toBe(403);
  });

  test('what is done in a run has a budget that nothing else uses up, and breaking it off has one of its own', async () => {
    const app = appWith({ rate: 4 });
    const rigId = randomUUID();
    await insertRig(database.pool, rigId, newDocument('Budget'));
    const id = randomUUID();
    const begin = { id, rigId, version: 1, rehearsal: { seed: 1, speed: 1, faults: 0 } };
    expect((await write(app, 'post', '/api/runs', begin)).status).toBe(201);
    const statuses = async (n: number, ask: () => Promise<{ status: number }>) => {
      const found: number[] = [];
      for (let i = 0; i < n; i++) found.push((await ask()).status);
      return found;
    };
    expect(await statuses(5, () => own(request(app).get('/api/rigs')))).toEqual([200, 200, 200, 429, 429]);
    const event = (more: object) => ({ id: randomUUID(), at: 1e12, screen: 'left', ...more });
    const send = (more: object) => write(app, 'post', `/api/runs/${id}/events`, { events: [event(more)] });
    expect(await statuses(5, () => send({ type: 'noted', text: 'x' }))).toEqual([200, 200, 200, 200, 429]);
    expect(await statuses(2, () => send({ type: 'aborted', reason: 'smoke' }))).toEqual([200, 200]);
  });
});

describe('a small request', () => {
  test.each(hostileBodies)(
    '$title is answered with what is wrong, fifty issues at the most',
    { timeout: 180_000 },
    async ({ path, body, status, words }) => {
      const answer = await own(request(appWith()).post(path))
        .set(writeKeyHeader, randomUUID())
        .set('Content-Type', 'application/json')
        .send(body());
      const { message = '', fields = [] } = answer.body as { message?: string; fields?: unknown[] };
      expect([answer.status, message]).toEqual([status, expect.stringMatching(words)]);
      expect(fields.length).toBeLessThanOrEqual(50);
    },
  );
});

describe('what is kept for ever', () => {
  const document = (name: string) => ({ ...newDocument('x'), name });

  test.each([
    ['a control character', 'Anvil\u0007'],
    ['nothing that can be seen', '\u200b\u2060'],
    ['a turn of the direction', 'Anvil \u202egpj.exe'],
    ['two lines', 'Anvil\nKittiwake'],
  ])('a name with %s is refused, of a rig, a part, a lot and a revision', async (_name, name) => {
    const app = appWith();
    const rig = await write(app, 'post', '/api/rigs', { id: randomUUID(), document: document(name) });
    const part = await write(app, 'post', '/api/parts', {
      parts: [{ id: randomUUID(), part: { ...newPart('capacitor', 'x', ''), name } }],
    });
    const id = randomUUID();
    await insertParts(database.pool, [{ id, part: newPart('capacitor', 'Plain', `N-${randomUUID().slice(0, 8)}`) }]);
    const edit = await write(app, 'patch', '/api/parts', { edits: [{ id, set: { name }, was: { name: 'Plain' } }] });
    const kept = randomUUID();
    await insertRig(database.pool, kept, document('Plain'));
    const revision = await write(app, 'post', `/api/rigs/${kept}/revisions`, { id: randomUUID(), version: 1, name });
    for (const answer of [rig, part, edit, revision]) {
      expect(answer.status).toBe(400);
      expect(answer.body.message).toMatch(/name (must|holds)/);
    }
  });

  test('a name of another script, with joiners and accents, is taken as it is', async () => {
    const answer = await write(appWith(), 'post', '/api/rigs', { id: randomUUID(), document: document('Ambós № 3 砧 👩‍🔧') });
    expect(answer.status).toBe(201);
  });

  test('a clock cannot jump beyond all clocks', async () => {
    const event = { id: randomUUID(), at: 1e12, screen: 'left', type: 'clock', by: 1e300 };
    const answer = await write(appWith(), 'post', `/api/runs/${randomUUID()}/events`, { events: [event] });
    expect([answer.status, answer.body.message]).toEqual([
      400,
      expect.stringMatching(/by must be a time that a clock can jump by/),
    ]);
  });

  test('a trace has as many times as values, all finite, in order', () => {
    const base64 = (...values: number[]) => Buffer.from(new Float64Array(values).buffer).toString('base64');
    const channel = (more: object = {}) => ({
      name: 'CH1',
      quantity: 'voltage' as const,
      ...{ t: base64(0, 1, 2), y: base64(5, 6, 7), meanT: base64(0, 1), meanY: base64(5, 6) },
      ...more,
    });
    const issue = (more: object) => traceIssue({ channels: [channel(more)] })?.reason ?? 'taken';
    expect(issue({})).toBe('taken');
    expect(issue({ y: base64(1, 2) })).toMatch(/has 2 values, and t has 3/);
    expect(issue({ y: base64(1, NaN, 3) })).toMatch(/finite/);
    expect(issue({ meanY: base64(1, Infinity) })).toMatch(/finite/);
    expect(issue({ t: base64(0, 2, 1) })).toMatch(/not go back in time/);
    expect(issue({ t: 'AAAA' })).toMatch(/64-bit/);
  });

  test('a picture is decoded and encoded anew: what its camera wrote beside it is gone, and what is none is refused', async () => {
    const shot = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#884422' } })
      .withExif({ IFD0: { Artist: 'somebody' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect((await sharp(shot).metadata()).exif).toBeDefined();
    const url = `data:image/jpeg;base64,${shot.toString('base64')}`;
    const kept = await keptPicture(url, 400_000);
    const found = await sharp(Buffer.from(kept.split(',')[1] ?? '', 'base64')).metadata();
    expect([found.exif, found.orientation, found.width, found.height]).toEqual([undefined, undefined, 40, 60]);
    // What is clean already can be left to the byte, and stays the same however often.
    expect(await keptPicture(kept, 400_000, true)).toBe(kept);
    for (const bad of [
      'data:image/png;base64,iVBORw0KGgo=',
      `data:image/jpeg;base64,${shot.subarray(0, 300).toString('base64')}`,
    ])
      await expect(keptPicture(bad, 400_000)).rejects.toThrow(NoPicture);
    await expect(keptPicture(url, 100)).rejects.toThrow(/too large/);
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>').toString('base64');
    await expect(keptPicture(`data:image/png;base64,${svg}`, shotPhotoLimit)).rejects.toThrow(/must be a JPEG, PNG or WebP/);
  });
});

describe('what is sent', () => {
  test('over a kilobyte is compressed, an asset with a sum in its name is kept for good, one that is not there says why', async () => {
    const app = appWith();
    const asset = await own(request(app).get('/assets/index-abc123.js')).set('Accept-Encoding', 'gzip');
    expect([asset.headers['content-encoding'], asset.headers['cache-control']]).toEqual([
      'gzip',
      'public, max-age=31536000, immutable',
    ]);
    for (let i = 0; i < 8; i++) await insertRig(database.pool, randomUUID(), newDocument(`Filler ${i}`));
    const list = await own(request(app).get('/api/rigs')).set('Accept-Encoding', 'br');
    expect(list.headers['content-encoding']).toBe('br');
    const lost = await own(request(app).get('/assets/index-old000.js'));
    expect([lost.status, lost.body.code, lost.body.message]).toEqual([
      404,
      'old_page',
      'This page is of an older version: reload it.',
    ]);
    expect((await own(request(app).get('/anything'))).text).toContain('index-abc123.js');
  });

  test('health tells database, tables, disk, whether it can be written, the page, and the last backup', async () => {
    const keep = mkdtempSync(join(tmpdir(), 'surge-keep-'));
    const answer = await own(request(appWith({ keep })).get('/api/health'));
    expect(answer.status).toBe(200);
    const health = healthSchema.parse(answer.body);
    expect(health).toMatchObject({
      database: 'up',
      page: 'index-abc123.js',
      schema: expect.stringMatching(/^\d{4}_/),
      disk: { writable: true, full: false },
      lastBackupAt: null,
      backsUp: false,
    });
    rmSync(keep, { recursive: true });
    const gone = await own(request(appWith({ keep })).get('/api/health'));
    expect(healthSchema.parse(gone.body).disk).toBeNull();
  });

  test('a disk that is full is said by name', async () => {
    const full = createApp({
      db: {
        ...database.pool,
        query: () => Promise.reject(Object.assign(new Error('could not extend file'), { code: '53100' })),
      } as never,
      log,
      version: 'test',
    });
    const answer = await own(request(full).get('/api/shots'));
    expect([answer.status, answer.body.code, answer.body.message]).toEqual([
      507,
      'disk_full',
      expect.stringMatching(/disk of the server is full/),
    ]);
  });
});

describe('a long list', () => {
  test('comes in pages that hang together, sorted and searched, with the numbers as they were stored', async () => {
    const fresh = await testDatabase();
    await loadDemo(fresh.pool);
    for (let i = 0; i < 25; i++)
      await insertRig(fresh.pool, randomUUID(), {
        ...newDocument(`Row ${String(i).padStart(2, '0')}`),
        note: i % 5 === 0 ? '100 % film_can' : '',
      });
    const app = createApp({ db: fresh.pool, log, version: 'test', rate: 1e6 });
    const page = async (query: string) => (await own(request(app).get(`/api/rigs?${query}`))).body as PageOf<RigHead>;
    // A list by energy moves for as long as energies are worked out.
    await expect
      .poll(async () => (await page('limit=100')).rows.every((row) => row.headline !== null), { timeout: 180_000 })
      .toBe(true);
    for (const sort of ['changed', 'name', 'energy']) {
      const seen: RigHead[] = [];
      let next: string | null = null;
      do {
        const got: PageOf<RigHead> = await page(`sort=${sort}&limit=7${next ? `&after=${next}` : ''}`);
        expect(got.total).toBe(30);
        seen.push(...got.rows);
        next = got.next;
      } while (next);
      expect(new Set(seen.map((r) => r.id)).size).toBe(30);
      const keys = seen.map((r) =>
        sort === 'changed' ? r.updatedAt : sort === 'name' ? r.name.toLowerCase() : -(r.headline?.energy?.value ?? -1),
      );
      const sorted = [...keys].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
      expect(keys).toEqual(sort === 'changed' ? sorted.reverse() : sorted);
    }
    expect((await page('q=ROW%2007')).total).toBe(1);
    // By what it is, also where neither name nor note say it, and with the last shot that was logged of it.
    const byKind = async (q: string) => (await page(`q=${q}`)).rows.map((r) => r.name);
    // What each is was worked out behind the pages above, and may still be under way.
    for (const [kind, name] of [
      ['marx%20generator', 'Kittiwake'],
      ['coilgun', 'Shuttle'],
      ['tesla%20coil', 'Cricket'],
    ] as const)
      await expect.poll(() => byKind(kind), { timeout: 60_000 }).toEqual([name]);
    const kittiwake = (await page('q=kittiwake')).rows[0];
    const logged = (await own(request(app).get(`/api/shots?rig=${kittiwake?.id}&limit=500`))).body as PageOf<StoredShot>;
    const newest = logged.rows
      .map((s) => s.shot.at)
      .sort()
      .at(-1);
    expect(kittiwake?.lastShot?.at).toBe(newest);
    expect((await page('q=ROW%2007')).rows[0]?.lastShot).toBeNull();
    expect((await page('q=film_can')).total).toBe(5);
    expect((await page('q=film%25can')).total).toBe(0);
    for (const bad of ['limit=0', 'limit=501', 'after=nonsense', 'sort=luck', `q=${'x'.repeat(201)}`])
      expect((await own(request(app).get(`/api/rigs?${bad}`))).status).toBe(400);
    const runs = (await own(request(app).get('/api/runs?limit=1'))).body as PageOf<RunHead>;
    expect([runs.rows.length, runs.total, runs.next === null]).toEqual([1, 2, false]);
    const shots = (await own(request(app).get('/api/shots?q=kittiwake&limit=500'))).body as PageOf<{ rigName: string }>;
    expect([...new Set(shots.rows.map((s) => s.rigName))]).toEqual(['Kittiwake']);
    expect(shots.total).toBe(shots.rows.length);
    const found = async (path: string) => ((await own(request(app).get(path))).body as PageOf<unknown>).total;
    const [first] = runs.rows;
    const when = new Date(first?.madeAt ?? 0)
      .toLocaleDateString('en-GB', { month: 'short', year: 'numeric' })
      .replace(' ', '%20');
    expect(await found(`/api/runs?q=rehearsal%20of%20thimble%20${when}`)).toBe(1);
    expect(await found(`/api/runs?q=run%20of%20thimble%20${when}`)).toBe(1);
    expect(await found('/api/runs?q=rehearsal%20of%20thimble%20feb%201999')).toBe(0);
    expect(await found('/api/shots?q=shot%20of%20kittiwake')).toBe(shots.total);
    await fresh.drop();
  }, 180_000);

  test('knows what a rig stands on the moment it is written, however long its numbers take', async () => {
    const fresh = await testDatabase();
    // One whose numbers never come.
    class Never extends RigHeads {
      override freshen = () => Promise.resolve();
    }
    const app = createApp({ db: fresh.pool, log, version: 'one', rate: 1e6, heads: new Never(fresh.pool, 'one') });
    const [id, part] = [randomUUID(), randomUUID()];
    const plain = newDocument('Standing on it');
    const [channel] = plain.rig.channels;
    const store = { ...channel?.store, parts: [{ id: part, tag: 'U-1' }] };
    const document = { ...plain, rig: { ...plain.rig, channels: [{ ...channel, store }] } };
    const uses = async () => (await own(request(app).get('/api/rigs/uses'))).body as unknown[];
    expect((await write(app, 'post', '/api/rigs', { id, document })).status).toBe(201);
    expect(await uses()).toEqual([{ rigId: id, name: 'Standing on it', built: false, parts: [part] }]);
    const built = await write(app, 'put', `/api/rigs/${id}`, { version: 1, document: { ...document, built: true } });
    expect([built.status, built.body.message]).toEqual([200, undefined]);
    expect(await uses()).toMatchObject([{ built: true }]);
    // Numbers of the version before it come late, on a busy machine: what was saved meanwhile stands.
    const late = { headline: null, unreadable: null, built: false, parts: [] };
    await putHead(fresh.pool, { id, version: 1, document: {}, fileVersion: 1 }, 'one', late);
    expect(await uses()).toMatchObject([{ built: true, parts: [part] }]);
    await write(app, 'put', `/api/rigs/${id}`, { version: 2, document: plain });
    expect(await uses()).toEqual([]);
    await fresh.drop();
  }, 60_000);

  test('has the numbers of a rig as it was saved last, and of a program that calculates otherwise none of the old', async () => {
    const fresh = await testDatabase();
    const app = createApp({ db: fresh.pool, log, version: 'one', rate: 1e6 });
    const id = randomUUID();
    await insertRig(fresh.pool, id, newDocument('Numbers'));
    const energy = async (of = app) =>
      ((await own(request(of).get('/api/rigs'))).body as PageOf<RigHead>).rows[0]?.headline?.energy?.value;
    // The first look may come before its thread is up.
    await expect.poll(() => energy(), { timeout: 60_000 }).toBeGreaterThan(0);
    const before = await energy();
    const document = newDocument('Numbers');
    const [channel] = document.rig.channels;
    const store = { ...channel?.store, fields: { ...channel?.store.fields, V0: '100 V' } };
    const rig = { ...document.rig, channels: [{ ...channel, store }] };
    const saved = await write(app, 'put', `/api/rigs/${id}`, { version: 1, document: { ...document, rig } });
    expect([saved.status, saved.body.message]).toEqual([200, undefined]);
    // While they are being worked out there are none: neither the old nor the new.
    await expect
      .poll(
        async () => {
          const now = await energy();
          return now !== undefined && now !== before;
        },
        { timeout: 60_000 },
      )
      .toBe(true);
    const { rows } = await fresh.pool.query<{ program: string; version: number }>('select program, version from rig_heads');
    expect(rows).toEqual([{ program: 'one', version: 2 }]);
    const later = createApp({ db: fresh.pool, log, version: 'two', rate: 1e6 });
    await expect.poll(() => energy(later), { timeout: 60_000 }).toBeGreaterThan(0);
    expect((await fresh.pool.query<{ program: string }>('select program from rig_heads')).rows).toEqual([{ program: 'two' }]);
    await fresh.drop();
  }, 60_000);
});

describe('backups by themselves', () => {
  const folder = mkdtempSync(join(tmpdir(), 'surge-backups-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const settings = { folder, every: 24, keep: 2 };

  test('are due when the last is old enough, and after one that failed a little later', () => {
    const now = Date.parse('2026-03-10T12:00:00.000Z');
    const at = (hours: number) => new Date(now - hours * 3_600_000).toISOString();
    expect(isDue(settings, [], now)).toBe(true);
    expect(isDue(settings, [{ madeAt: at(23), failed: null }], now)).toBe(false);
    // The clock was set back by a year.
    expect(isDue(settings, [{ madeAt: at(-8766), failed: null }], now)).toBe(true);
    expect(isDue(settings, [{ madeAt: at(24), failed: null }], now)).toBe(true);
    expect(
      isDue(
        settings,
        [
          { madeAt: at(0.1), failed: 'full' },
          { madeAt: at(30), failed: null },
        ],
        now,
      ),
    ).toBe(false);
    expect(
      isDue(
        settings,
        [
          { madeAt: at(0.2), failed: 'full' },
          { madeAt: at(30), failed: null },
        ],
        now,
      ),
    ).toBe(true);
  });

  test('are noted, thinned out to those that are kept, and leave everything else in the folder alone', async () => {
    const fresh = await testDatabase();
    await setBackups(fresh.pool, settings);
    writeFileSync(join(folder, 'vast-surge-my-own.zip'), 'mine');
    const written = { counts: {} as never, bytes: 10, records: 3 };
    const make = (path: string) => {
      writeFileSync(path, 'x');
      return Promise.resolve(written);
    };
    const days = [1, 2, 3, 4].map((d) => new Date(Date.UTC(2026, 2, d)));
    for (const day of days) await backUpBySchedule(fresh.pool, make, settings, day);
    const { readdirSync } = await import('node:fs');
    expect(readdirSync(folder).sort()).toEqual([
      backupName(days[2] ?? new Date()),
      backupName(days[3] ?? new Date()),
      'vast-surge-my-own.zip',
    ]);
    const failing = () => Promise.reject(Object.assign(new Error('ENOSPC: no space left on device'), { code: 'ENOSPC' }));
    expect(await backUpBySchedule(fresh.pool, failing, settings)).toBeNull();
    expect((await listBackups(fresh.pool))[0]).toMatchObject({ failed: expect.stringMatching(/no space left/) });
    expect(readdirSync(folder)).toHaveLength(3);
    expect(await lastVerifiedAt(fresh.pool)).not.toBeNull();
    await fresh.drop();
  });

  test('are switched on by one setting, into a folder that can be written', async () => {
    const app = appWith();
    const on = await write(app, 'put', '/api/backups', { settings });
    expect([on.status, on.body.settings]).toEqual([200, settings]);
    for (const [bad, words] of [
      [{ ...settings, folder: 'backups' }, /must be the whole path of a folder/],
      [{ ...settings, every: 0 }, /must be from 0\.25 to 8760 hours/],
      [{ ...settings, keep: 0 }, /must be from 1 to 1000/],
      [{ ...settings, folder: '/proc/none' }, /cannot be written/],
    ] as const)
      expect((await write(app, 'put', '/api/backups', { settings: bad })).body.message).toMatch(words);
    expect((await write(app, 'put', '/api/backups', { settings: null })).body.settings).toBeNull();
  });
});
