import { spawn, type SpawnOptions } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import {
  storedStudySchema,
  storedStudyWithSpreadsSchema,
  storedSweepSchema,
  writeKeyHeader,
  type CreateStudy,
  type SamplesQuestion,
  type StoredStudy,
} from '@vast-surge/contract';
import { readRigFile } from '@vast-surge/core/format';
import {
  askedAxis,
  greatest,
  readAxis,
  scatterChunk,
  spreadOf,
  sweepChunk,
  sweepPoints,
  yieldOf,
  type Scatter,
  type SweepLayout,
} from '@vast-surge/core/study';
import { RigHeads } from '../jobs/heads.ts';
import { createApp } from '../http/app.ts';
import { own } from '../test/archives.ts';
import { named, testDatabase, type TestDatabase } from '../test/database.ts';
import { programId } from '../program.ts';
import { Host } from '../test/hosts.ts';
import { grantWorker, workerRole } from './queue.ts';
import { StudyWorker } from './worker.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));
const { version } = JSON.parse(readFileSync(`${root}package.json`, 'utf8')) as { version: string };
const program = programId(version);
const read = readRigFile(readFileSync(`${root}demo/anvil.json`, 'utf8'));
if (!read.ok) throw new Error('the demo rig cannot be read');
const { document } = read;

let database: TestDatabase;
let appUrl: string;
let rigId: string;
let app: ReturnType<typeof createApp>;
const ends: (() => Promise<void>)[] = [];

const send = (method: 'post' | 'patch' | 'delete', path: string, body: object = {}) =>
  own(request(app)[method](path)).set(writeKeyHeader, randomUUID()).send(body);
const get = (path: string) => own(request(app).get(path));

beforeAll(async () => {
  database = await testDatabase();
  appUrl = named(process.env['DATABASE_APP_URL'] ?? '', new URL(database.url).pathname.slice(1));
  app = createApp({
    db: database.pool,
    log: pino({ level: 'silent' }),
    version: 'test',
    rate: 1e6,
    // So that there are some to lose.
    chunkSeconds: 0.3,
    heads: new RigHeads(database.pool, program),
  });
  rigId = randomUUID();
  expect((await send('post', '/api/rigs', { id: rigId, document })).status).toBe(201);
});
afterAll(async () => {
  for (const end of ends) await end();
  await database.drop();
});

const question = {
  of: 'samples',
  outputs: ['peak-current', 'stored-energy', 'limit:tightest'],
  samples: 2000,
  seed: 7,
  distribution: 'uniform',
  withModel: true,
  withShots: false,
} as const;
async function ask(more: Partial<SamplesQuestion> = {}, priority: CreateStudy['priority'] = 'usual'): Promise<StoredStudy> {
  const { body, status } = await send('post', '/api/studies', {
    id: randomUUID(),
    rigId,
    version: 1,
    question: { ...question, ...more },
    priority,
  });
  expect(status, JSON.stringify(body)).toBe(201);
  return storedStudySchema.parse(body);
}
const studyNow = async (id: string) => storedStudyWithSpreadsSchema.parse((await get(`/api/studies/${id}`)).body);
async function until(id: string, is: (study: StoredStudy) => boolean, patience = 60_000): Promise<StoredStudy> {
  for (const began = Date.now(); ;) {
    const now = await studyNow(id);
    if (is(now)) return now;
    if (Date.now() - began > patience) throw new Error(`still ${JSON.stringify({ ...now, spreads: undefined })}`);
    await sleep(150);
  }
}
function worker(options: { threads?: number; host?: string; program?: string } = {}): StudyWorker {
  const made = new StudyWorker({ databaseUrl: appUrl, program, threads: 1, host: 'bench', ...options });
  return made;
}
async function withWorker<T>(made: StudyWorker, work: () => Promise<T>): Promise<T> {
  made.start();
  try {
    return await work();
  } finally {
    await made.end();
  }
}
const isDone = ({ state }: StoredStudy) => state === 'done';

/** The sum over the sums of the columns, of samples drawn here in one go and nowhere else. */
function digestOf(of: Scatter): string {
  const sha = (...parts: Uint8Array[]) => parts.reduce((sum, part) => sum.update(part), createHash('sha256')).digest();
  return sha(...scatterChunk(document.rig, of, 0, of.samples).map((column) => sha(new Uint8Array(column.buffer)))).toString(
    'hex',
  );
}

describe('a kept study', () => {
  test('is worked out in chunks, is the same bytes as those of one machine alone, and says what it comes to', async () => {
    const study = await ask();
    await withWorker(worker(), () => until(study.id, isDone));
    const done = await studyNow(study.id);
    expect(done).toMatchObject({ done: 2000, hosts: ['bench'], program, isOfNow: true, fault: null });
    expect(done.digest).toBe(digestOf(question));
    const columns = scatterChunk(document.rig, question, 0, 2000);
    const highest = (column: Float64Array) => greatest(column, 5).map((sample) => ({ sample, value: column[sample] }));
    expect(done.spreads).toEqual(
      JSON.parse(JSON.stringify(columns.map((column) => ({ ...spreadOf(column), highest: highest(column) })))),
    );
    const goal = { from: 17e3, to: null };
    const met = (query: string) => get(`/api/studies/${study.id}/met?${query}`);
    expect((await met('output=peak-current&from=17e3&to=')).body).toEqual({
      ...yieldOf(columns[0] as Float64Array, goal),
      of: 2000,
    });
    expect((await met('output=light')).body).toMatchObject({ fields: [{ path: 'output' }] });
    expect((await met('output=peak-current&from=much')).body).toMatchObject({ fields: [{ path: 'from' }] });
    const { text, headers } = await get(`/api/studies/${study.id}/table`);
    expect(headers['content-type']).toMatch(/csv/);
    const rows = text.trim().split('\n');
    expect([rows.length, rows[0]]).toEqual([2001, 'sample,peak-current,stored-energy,limit:tightest']);
    expect(rows[2000]?.split(',').slice(1, 2).map(Number)).toEqual([columns[0]?.[1999]]);
    // Asked again it comes to the same sum.
    const again = await ask();
    await withWorker(worker({ threads: 2 }), () => until(again.id, isDone));
    expect((await studyNow(again.id)).digest).toBe(done.digest);
  });

  test('pauses, goes on, is given up and deleted; nothing is done meanwhile and nothing twice', async () => {
    const study = await ask({ samples: 1600 });
    expect((await send('patch', `/api/studies/${study.id}`, { state: 'paused' })).status).toBe(200);
    await withWorker(worker(), async () => {
      await sleep(1500);
      expect((await studyNow(study.id)).done).toBe(0);
      await send('patch', `/api/studies/${study.id}`, { state: 'asked' });
      // Twice: the jobs that wait are there once.
      await send('patch', `/api/studies/${study.id}`, { state: 'asked' });
      await until(study.id, isDone);
    });
    const { rows } = await database.owner.query<{ n: number; d: number }>(
      'select count(*)::int as n, count(distinct number)::int as d from study_chunks where study_id = $1',
      [study.id],
    );
    expect(rows[0]?.n).toBeGreaterThan(1);
    expect(rows[0]?.d).toBe(rows[0]?.n);
    expect((await send('patch', `/api/studies/${study.id}`, { state: 'paused' })).status).toBe(409);
    expect((await send('delete', `/api/studies/${study.id}`)).status).toBe(200);
    expect((await get(`/api/studies/${study.id}`)).status).toBe(404);
    const given = await ask();
    expect((await send('delete', `/api/studies/${given.id}`)).status).toBe(409);
    await send('patch', `/api/studies/${given.id}`, { state: 'cancelled' });
    expect((await get(`/api/studies/${given.id}/table`)).status).toBe(400);
    expect((await send('delete', `/api/studies/${given.id}`)).status).toBe(200);
  });

  test('what comes first goes first, and a person has so many under way', async () => {
    const [late, soon] = [await ask({ samples: 600, seed: 1 }, 'last'), await ask({ samples: 600, seed: 2 }, 'first')];
    await withWorker(worker(), async () => {
      await until(late.id, isDone);
      const [a, b] = [await studyNow(soon.id), await studyNow(late.id)];
      expect(Date.parse(a.endedAt ?? '')).toBeLessThanOrEqual(Date.parse(b.endedAt ?? ''));
    });
    const many = [];
    for (let k = 0; k < 4; k++) many.push(await ask({ samples: 100 }));
    const { status, body } = await send('post', '/api/studies', { id: randomUUID(), rigId, version: 1, question });
    expect([status, (body as { message: string }).message]).toEqual([400, expect.stringMatching(/4 studies are under way/)]);
    for (const { id } of many) await send('patch', `/api/studies/${id}`, { state: 'cancelled' });
  });

  test('goes on where the database was away in the middle of a chunk, with what the worker had in hand', async () => {
    const study = await ask({ samples: 4000, seed: 3 });
    await withWorker(worker(), async () => {
      await until(study.id, ({ done }) => done > 0);
      // Longer than a chunk: what is worked out meanwhile can neither be kept nor given back.
      await database.away(3000);
      await until(study.id, isDone);
    });
  });

  test('is done by a worker that began while the database was away', async () => {
    const study = await ask({ samples: 200, seed: 4 });
    const away = database.away(3000);
    await sleep(500);
    await withWorker(worker(), async () => {
      await away;
      await until(study.id, isDone);
    });
  });

  test('is for workers of the program that it was asked of: another leaves it alone', async () => {
    const study = await ask({ samples: 200 });
    await withWorker(worker({ program: 'of-another-day' }), async () => {
      await sleep(2500);
      expect((await studyNow(study.id)).done).toBe(0);
    });
    await withWorker(worker(), () => until(study.id, isDone));
  });

  test('what cannot be asked is refused by its field, and nothing of it stays', async () => {
    const bad = async (more: object, rest: object = {}) => {
      const { status, body } = await send('post', '/api/studies', {
        id: randomUUID(),
        rigId,
        version: 1,
        question: { ...question, ...more },
        ...rest,
      });
      return [status, (body as { fields: { path: string; reason: string }[] }).fields[0]];
    };
    const before = (await get(`/api/studies?rig=${rigId}`)).body as unknown[];
    expect(await bad({ samples: 1e12 })).toEqual([400, { path: 'question.samples', reason: expect.stringMatching(/1000000/) }]);
    expect(await bad({ outputs: ['light'] })).toEqual([
      400,
      { path: 'question.outputs', reason: expect.stringMatching(/light/) },
    ]);
    expect(await bad({ outputs: ['solver:peak-current'] })).toEqual([
      400,
      { path: 'question.outputs', reason: expect.stringMatching(/solve/) },
    ]);
    expect(await bad({}, { version: 9 })).toEqual([409, { path: 'version', reason: expect.stringMatching(/is 9/) }]);
    expect(await bad({}, { rigId: randomUUID() })).toEqual([404, undefined]);
    expect((await get(`/api/studies?rig=${rigId}`)).body).toEqual(before);
  });
});

const axis = (text: string) => ({ ...askedAxis(text) });
const sweep = {
  of: 'sweep',
  outputs: ['peak-current', 'limit:tightest', 'solver:current'],
  axes: [axis('store.V0=1 kV..2.5 kV/8'), axis('store.ESR=1 mΩ..30 mΩ/4 log')],
} as const;

describe('a kept sweep', () => {
  const post = (of: object) =>
    send('post', '/api/studies', { id: randomUUID(), rigId, version: 1, question: { ...sweep, ...of } });

  test('is worked out in chunks by the solver too, has the points that one machine alone finds, and the table of its page', async () => {
    const { body, status } = await post({});
    expect(status, JSON.stringify(body)).toBe(201);
    const study = storedStudySchema.parse(body);
    expect(study).toMatchObject({ total: 32, done: 0 });
    const points = async () => {
      const { layout, stretches } = storedSweepSchema.parse((await get(`/api/studies/${study.id}/points`)).body);
      const as = layout as unknown as SweepLayout;
      const numbers = (text: string) => new Float64Array(new Uint8Array(Buffer.from(text, 'base64')).buffer);
      return { layout: as, stretches: stretches.map((one) => ({ from: one.from, numbers: numbers(one.numbers) })) };
    };
    expect((await points()).stretches).toEqual([]);
    await withWorker(worker({ threads: 2 }), () => until(study.id, isDone));
    const { layout, stretches } = await points();
    const axes = sweep.axes.map((asked) => {
      const taken = readAxis(document.rig, asked);
      if (!taken.ok) throw new Error(taken.reason);
      return taken.axis;
    });
    const whole = sweepChunk(document.rig, { axes, outputs: sweep.outputs }, 0, 32);
    expect(sweepPoints(layout, stretches)).toEqual(whole);
    const done = await studyNow(study.id);
    expect([done.done, done.spreads]).toEqual([32, []]);
    const { text } = await get(`/api/studies/${study.id}/table`);
    const [head = '', ...rows] = text.trim().split('\n');
    expect(head).toMatch(/^store\.V0 \(V\),store\.ESR \(Ω\),peak-current \(A\),/);
    expect(rows).toHaveLength(32);
    expect(Number(rows[31]?.split(',')[2])).toBe(whole[31]?.outputs[0]?.value);
    expect((await get(`/api/studies/${study.id}/met?output=peak-current`)).status).toBe(400);
    // Asked again it comes to the same sum, however it is cut.
    const again = storedStudySchema.parse((await post({})).body);
    await withWorker(worker(), () => until(again.id, isDone));
    expect((await studyNow(again.id)).digest).toBe(done.digest);
  }, 120_000);

  test('what cannot be swept is refused by its entry, and nothing of it stays', async () => {
    const why = async (of: object) => {
      const { status, body } = await post(of);
      return [
        status,
        ...(body as { fields: { path: string; reason: string }[] }).fields.map(({ path, reason }) => `${path} ${reason}`),
      ];
    };
    const before = (await get(`/api/studies?rig=${rigId}`)).body as unknown[];
    const of = (text: string) => ({ axes: [axis(text)] });
    expect(await why(of('store.V0=1 kV..9 GV/8'))).toEqual([400, expect.stringMatching(/^question\.axes\.0\.to .*1 MV/)]);
    expect(await why(of('store.light=1..2/8'))).toEqual([
      400,
      expect.stringMatching(/^question\.axes\.0\.path store\.light is no quantity/),
    ]);
    expect(await why({ axes: ['V0', 'C', 'ESR'].map((id) => axis(`store.${id}=1..2/100`)) })).toEqual([
      400,
      expect.stringMatching(/^question\.axes 1,000,000 points are asked for; at most 20,000/),
    ]);
    expect(await why({ outputs: ['light'] })).toEqual([400, expect.stringMatching(/^question\.outputs .*light/)]);
    expect(await why({ axes: [] })).toEqual([400, expect.stringMatching(/^question\.axes must name a field/)]);
    expect(await why({ of: 'guesses' })).toEqual([400, expect.stringMatching(/samples.*sweep/)]);
    expect((await get(`/api/studies?rig=${rigId}`)).body).toEqual(before);
  });
});

describe('several hosts', () => {
  /** What `./surge worker` starts on a host; on a network of its own where that can be made. */
  async function host(name: string, url: string) {
    const apart = await Host.make(url);
    const words = ['--import', `${root}node_modules/tsx/dist/loader.mjs`, `${root}server/studies/main.ts`, '--threads', '1'];
    const options: SpawnOptions = {
      env: { ...process.env, DATABASE_URL: apart ? apart.reaches(url) : url },
      stdio: ['ignore', 'pipe', 'pipe'],
    };
    const all = [...words, '--host', name];
    const made = apart ? apart.run(process.execPath, all, options) : spawn(process.execPath, all, options);
    ends.push(async () => {
      made.kill('SIGKILL');
      await apart?.end();
    });
    return { kill: (signal: NodeJS.Signals) => made.kill(signal), plug: (isIn: boolean) => apart?.plug(isIn) };
  }

  test('share a study as a role that has jobs and chunks alone; one that is killed in the middle loses nothing and doubles nothing, nor does one whose line is away', async () => {
    const name = new URL(database.url).pathname.slice(1);
    await database.owner.query(
      `do $$ begin create role ${workerRole} login password 'w'; exception when duplicate_object then null; end $$`,
    );
    await database.owner.query(`grant connect on database ${name} to ${workerRole}`);
    await grantWorker(database.owner, workerRole);
    const made = new URL(appUrl);
    [made.username, made.password] = [workerRole, 'w'];
    const [a, b] = [await host('a', made.href), await host('b', made.href)];
    await expect.poll(async () => ((await get('/api/studies/workers')).body as unknown[]).length, { timeout: 60_000 }).toBe(2);
    const many = { outputs: ['peak-current', 'stored-energy'], samples: 40_000, seed: 3 };
    const study = await ask(many);
    await until(study.id, ({ hosts, done: there }) => hosts.length === 2 && there >= 8000);
    a.kill('SIGKILL');
    // The line of the other is away for some seconds: what it had in hand comes when it is back.
    b.plug(false);
    await sleep(3000);
    b.plug(true);
    const done = await until(study.id, isDone, 120_000);
    b.kill('SIGTERM');
    expect(done.hosts).toEqual(['a', 'b']);
    expect(done.digest).toBe(digestOf({ ...question, ...many }));
    // What it may not do, the database refuses.
    const client = new (await import('pg')).default.Client({ connectionString: made.href });
    await client.connect();
    for (const text of [
      'select * from rigs',
      'select * from accounts',
      'delete from study_chunks',
      'insert into studies (id) values (null)',
      "update revisions set document = '{}'",
    ])
      await expect(client.query(text), text).rejects.toThrow(/permission denied/);
    await client.end();
  }, 300_000);
});
