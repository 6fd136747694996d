import { spawn, type ChildProcess } from 'node:child_process';
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
};

/** A host of its own, with one thread. */
const host = (name: string, url: string): ChildProcess =>
  spawn(
    process.execPath,
    ['--import', `${root}node_modules/tsx/dist/loader.mjs`, `${root}server/studies/main.ts`, '--threads', '1', '--host', name],
    { env: { ...process.env, DATABASE_URL: url }, stdio: 'ignore' },
  );

async function asked(database: TestDatabase, revisionId: string): Promise<string> {
  const id = randomUUID();
  const study = {
    id,
    revisionId,
    question: { ...question, outputs: [...question.outputs] },
    program,
    account: null,
    priority: 0,
    chunk,
    chunks,
  };
  await insertStudy(database.owner, study);
  await addJobs(
    database.owner,
    study,
    Array.from({ length: chunks }, (_, n) => n),
  );
  return id;
}

/** s from the question to its end, with so many hosts; and s of work that they say they did. */
async function took(
  database: TestDatabase,
  revisionId: string,
  hosts: number,
): Promise<{ readonly wall: number; readonly work: number }> {
  const all = Array.from({ length: hosts }, (_, k) => host(`host-${k + 1}`, database.url));
  while ((await listWorkers(database.owner, program, 16)).length < hosts) await pause(50);
  // The first chunk of a host loads the program into its thread: that is paid once, and not by each study.
  for (const round of ['first', 'counted']) {
    const began = performance.now();
    const id = await asked(database, revisionId);
    for (;;) {
      const study = await findStudy(database.owner, id, program);
      if (study?.state === 'done') {
        const wall = (performance.now() - began) / 1000;
        if (round === 'counted') {
          await Promise.all(all.map((one) => new Promise((resolve) => (one.once('exit', resolve), one.kill('SIGTERM')))));
          return { wall, work: study.seconds };
        }
        break;
      }
      await pause(150);
    }
  }
  throw new Error('no round was counted');
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
    const one = await took(database, revision.id, 1);
    const two = await took(database, revision.id, 2);
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
      `  one host: time over the work it did ${(one.wall / one.work).toFixed(3)}, over the same in one loop ${(one.wall / bare).toFixed(3)}`,
      `  two hosts over one: ${(one.wall / two.wall).toFixed(2)} times as fast`,
      `  a number takes ${bytesOfOne.toFixed(2)} bytes: a million samples of twenty figures ${((bytesOfOne * 20e6) / 1e6).toFixed(0)} MB`,
      '',
    ];
  } finally {
    await database.drop();
    end();
  }
}
