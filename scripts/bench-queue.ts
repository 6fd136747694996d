import { spawn, type SpawnOptions } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { readRigFile } from '../core/format/index.ts';
import { scatterChunk, type Scatter } from '../core/study/index.ts';
import { insertRig } from '../server/db/rigs.ts';
import { closeRevision } from '../server/db/revisions.ts';
import { findStudy, insertStudy, listWorkers } from '../server/db/studies.ts';
import { addJobs } from '../server/studies/queue.ts';
import { programId } from '../server/program.ts';
import { throwAwayCluster } from '../server/test/cluster.ts';
import { testDatabase, type TestDatabase } from '../server/test/database.ts';
import { Host } from '../server/test/hosts.ts';
import { median } from './bench-tools.ts';

const root = fileURLToPath(new URL('..', import.meta.url));
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const { version } = JSON.parse(readFileSync(`${root}package.json`, 'utf8')) as { version: string };
const program = programId(version);

/** Chunks of a study, and samples in each: some seconds of work, as the server makes them. */
const [chunk, chunks] = [6000, 20];
const question: Scatter = {
  outputs: ['peak-current', 'stored-energy'],
  samples: chunk * chunks,
  seed: 1,
  distribution: 'uniform',
  withModel: true,
  withShots: false,
};

interface Worker {
  kill(signal: NodeJS.Signals): void;
  end(): Promise<void>;
}

/** A host with one thread, on a network of its own where that can be made. */
async function host(name: string, url: string): Promise<Worker> {
  const apart = await Host.make(url);
  const words = ['--import', `${root}node_modules/tsx/dist/loader.mjs`, `${root}server/studies/main.ts`];
  const all = [...words, '--threads', '1', '--host', name];
  const options: SpawnOptions = { env: { ...process.env, DATABASE_URL: apart ? apart.reaches(url) : url }, stdio: 'ignore' };
  const made = apart ? apart.run(process.execPath, all, options) : spawn(process.execPath, all, options);
  return {
    kill: (signal) => void made.kill(signal),
    end: async () => {
      await new Promise((resolve) => (made.once('exit', resolve), made.kill('SIGTERM')));
      await apart?.end();
    },
  };
}

async function asked(database: TestDatabase, revisionId: string): Promise<string> {
  const id = randomUUID();
  const study = {
    id,
    revisionId,
    question: { of: 'samples' as const, ...question, outputs: [...question.outputs] },
    program,
    account: null,
    priority: 0,
    total: question.samples,
    chunk,
    chunks,
    width: question.outputs.length,
    layout: null,
  };
  await insertStudy(database.owner, study);
  await addJobs(
    database.owner,
    study,
    Array.from({ length: chunks }, (_, n) => n),
  );
  return id;
}

interface Took {
  /** s from the question to its end, and of work that the hosts say they did. */
  readonly wall: number;
  readonly work: number;
}

/** One study from the question to its end. */
async function took(database: TestDatabase, revisionId: string): Promise<Took> {
  const began = performance.now();
  const id = await asked(database, revisionId);
  for (;;) {
    const study = await findStudy(database.owner, id, program);
    if (study?.state === 'done') return { wall: (performance.now() - began) / 1000, work: study.seconds };
    await pause(100);
  }
}

/** The same two hosts one alone and both, in turns: the other is held still for the while. */
async function oneAndTwoHosts(
  database: TestDatabase,
  revisionId: string,
): Promise<{ readonly one: Took; readonly gain: number }> {
  const [first, second] = [await host('host-1', database.url), await host('host-2', database.url)];
  try {
    while ((await listWorkers(database.owner, program, 16)).length < 2) await pause(50);
    // The first chunk of a host loads the program into its thread: that is paid once, and not by each study.
    await took(database, revisionId);
    const ones: Took[] = [];
    const gains: number[] = [];
    for (let round = 0; round < 4; round++) {
      second.kill('SIGSTOP');
      const one = await took(database, revisionId);
      second.kill('SIGCONT');
      ones.push(one);
      gains.push(one.wall / (await took(database, revisionId)).wall);
    }
    const [one] = ones.sort((a, b) => a.wall - b.wall).slice(1);
    if (!one) throw new Error('no round was timed');
    return { one, gain: median(gains) };
  } finally {
    await first.end();
    await second.end();
  }
}

/** Studies over the queue: what it costs beside the work, and what a second host brings. */
export async function benchQueue(): Promise<string[]> {
  const end = throwAwayCluster();
  const database = await testDatabase();
  try {
    const read = readRigFile(readFileSync(`${root}demo/anvil.json`, 'utf8'));
    if (!read.ok) throw new Error('the demo rig cannot be read');
    const rigId = randomUUID();
    await insertRig(database.owner, rigId, read.document);
    const revision = await closeRevision(database.owner, randomUUID(), rigId, null);
    if (!revision) throw new Error('the rig has no revision');
    const { one, gain } = await oneAndTwoHosts(database, revision.id);
    const { rows } = await database.owner.query<{ bytes: number }>(
      'select sum(octet_length(columns))::float8 / count(distinct study_id) as bytes from study_chunks',
    );
    // In this process, with nothing between: what the work alone takes here.
    scatterChunk(read.document.rig, question, 0, chunk);
    const started = performance.now();
    for (let k = 0; k < chunks; k++) scatterChunk(read.document.rig, question, k * chunk, (k + 1) * chunk);
    const bare = (performance.now() - started) / 1000;
    const bytesOfOne = (rows[0]?.bytes ?? NaN) / question.samples / question.outputs.length;
    return [
      `Studies over the queue, ${question.samples} samples in ${chunks} chunks`,
      `  one host: its time over the work it did ${(one.wall / one.work).toFixed(3)}, over the same in one loop ${(one.wall / bare).toFixed(3)}`,
      `  two hosts, on networks of their own where these can be made, over one: ${gain.toFixed(2)} times as fast (1.8 wanted)`,
      `  a number takes ${bytesOfOne.toFixed(2)} bytes: a million samples of twenty figures ${((bytesOfOne * 20e6) / 1e6).toFixed(0)} MB`,
      '',
    ];
  } finally {
    await database.drop();
    end();
  }
}
