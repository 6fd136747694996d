import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { archiveRecords } from '@vast-surge/core/format';
import { writeKeyHeader, type StoredRig } from '@vast-surge/contract';
import { uniforms } from '@vast-surge/core/numeric';
import { newDocument } from '@vast-surge/core/rig';
import { openArchive, ownFile } from '../archive/zip-read.ts';
import { freePort, root } from './site.ts';

export interface SoakResult {
  readonly kills: number;
  /** Of these, the server, the database and the launcher itself. */
  readonly of: { readonly server: number; readonly database: number; readonly launcher: number };
  readonly backups: number;
  readonly restores: number;
  /** Launchers that were started beside the one that runs, and had to refuse. */
  readonly starts: number;
  /** Edits that the server acknowledged. */
  readonly acknowledged: number;
  /** Requests that were sent again because no answer had come, or one that asked for patience. */
  readonly repeated: number;
  /** Edits that were refused because another hand was first. */
  readonly refused: number;
  /** Acknowledged edits that are neither there at the end nor in a safety copy, edits that are there twice, and refused ones that are there. */
  readonly lost: number;
  readonly doubled: number;
  readonly unasked: number;
  /** Answers that were neither what was asked for nor a 503. */
  readonly bad: readonly string[];
}

/** The program as a person runs it: the launcher with its database and server, which watches over both. */
class Launched {
  readonly folder = mkdtempSync(join(tmpdir(), 'surge-soak-'));
  private readonly data = join(this.folder, 'data');
  port = 0;
  private launcher: ChildProcess | null = null;

  private environment(): NodeJS.ProcessEnv {
    const env: NodeJS.ProcessEnv = {
      ...process.env,
      VAST_SURGE_DATA: this.data,
      PORT: String(this.port),
      VAST_SURGE_DEMO: 'no',
      VAST_SURGE_RATE: '1000000',
      VAST_SURGE_PAUSE: '1',
      LOG_LEVEL: 'fatal',
      // A process that is killed leaves its writes to the system: the disk itself is not what is tried here.
      PG_OPTIONS: '-c fsync=off -c full_page_writes=off',
    };
    delete env['DATABASE_URL'];
    return env;
  }

  run(...args: string[]): Promise<{ code: number | null; said: string }> {
    const child = spawn(join(root, 'surge'), args, { env: this.environment(), stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
    return new Promise((resolve) => child.on('exit', (code) => resolve({ code, said })));
  }

  async start(): Promise<void> {
    spawnSync('chmod', ['711', this.folder]);
    if (this.port === 0) this.port = await freePort();
    const launcher = spawn(join(root, 'surge'), ['start'], {
      env: this.environment(),
      detached: true,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.launcher = launcher;
    let said = '';
    for (const stream of [launcher.stdout, launcher.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()));
    for (let tries = 0; tries < 600 && !said.includes('Vast Surge is at'); tries++) {
      if (launcher.exitCode !== null) throw new Error(`the launcher ended with ${launcher.exitCode}: ${said}`);
      await sleep(100);
    }
  }

  killServer(): void {
    this.killFrom(join(this.data, 'server.pid'));
  }
  killDatabase(): void {
    this.killFrom(join(this.data, 'postgres', 'postmaster.pid'));
  }
  /** Kills the process a file names. One that is just being started again has none, and is left. */
  private killFrom(file: string): void {
    try {
      process.kill(Number(readFileSync(file, 'utf8').split('\n')[0]), 'SIGKILL');
    } catch {
      // Dead already.
    }
  }
  async killLauncher(): Promise<void> {
    const { launcher } = this;
    if (!launcher || launcher.exitCode !== null) return;
    const ended = new Promise((resolve) => launcher.once('exit', resolve));
    launcher.kill('SIGKILL');
    await ended;
  }

  /** Files of what was there before each restore. */
  safetyCopies(): string[] {
    const kept = join(this.data, 'backups');
    return readdirSync(kept)
      .filter((name) => name.startsWith('before-restore'))
      .map((name) => join(kept, name));
  }

  async end(): Promise<void> {
    await this.run('stop');
    rmSync(this.folder, { recursive: true, force: true });
  }
}

const marksOf = (note: string): string[] =>
  note
    .split(';')
    .slice(0, -1)
    .map((mark) => `${mark};`);

/** Every mark in an archive file. */
async function marksIn(path: string): Promise<string[]> {
  const archive = await openArchive(path, ownFile);
  const marks: string[] = [];
  for await (const { noun, record } of archiveRecords(archive))
    if (noun === 'rig' && record.document.ok) marks.push(...marksOf(record.document.document.note));
  archive.close();
  return marks;
}

/**
 * Bursts of concurrent edits by several hands on several rigs, while server, database and launcher are killed at random moments, backups are
 * made, restored, and further launchers started. Each edit adds a mark of its own to what it found; one without an answer is sent again
 * with its key until it is acknowledged or refused. At the end every acknowledged mark must be there once, or be in the copy that a restore
 * kept of what it replaced; and no refused one.
 */
export async function soak({
  kills,
  seed = 1,
  hands = 6,
}: {
  kills: number;
  seed?: number;
  hands?: number;
}): Promise<SoakResult> {
  const random = uniforms(seed);
  const site = new Launched();
  try {
    await site.start();
    const address = `http://127.0.0.1:${site.port}/api/rigs`;
    const acknowledged: string[] = [];
    const refused: string[] = [];
    const bad: string[] = [];
    const of = { server: 0, database: 0, launcher: 0 };
    let [marks, repeated, backups, restores, starts] = [0, 0, 0, 0, 0];

    const call = async (path: string, init?: RequestInit): Promise<{ status: number; text: string }> => {
      // A bounded number of tries: whatever was killed is back within seconds.
      let last = '';
      for (let tries = 0; tries < 600; tries++) {
        try {
          const answer = await fetch(address + path, { ...init, signal: AbortSignal.timeout(10_000) });
          // Also an answer that is cut off in the middle is none.
          const [{ status }, text] = [answer, await answer.text()];
          if (status === 503 && !answer.headers.get('retry-after')) bad.push(`${path}: 503 without a time to wait`);
          if (status >= 500 && status !== 503) bad.push(`${init?.method ?? 'GET'} ${path}: ${status} ${text.slice(0, 300)}`);
          if (status < 500) return { status, text };
          last = `${status} ${text.slice(0, 300)}`;
        } catch (error) {
          // No answer: the outcome is not known, and the same request is sent again.
          last = error instanceof Error ? `${error.message} ${String(error.cause ?? '')}` : String(error);
        }
        if (init) repeated += 1;
        await sleep(100);
      }
      throw new Error(`${path}: no answer in 600 tries, the last: ${last}`);
    };
    const write = (path: string, method: string, body: object) =>
      call(path, {
        method,
        headers: { 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() },
        body: JSON.stringify(body),
      });

    const ids = Array.from({ length: Math.max(6, Math.ceil(kills / 8)) }, () => randomUUID());
    for (const id of ids) await write('', 'POST', { id, document: newDocument('Soak') });

    const edit = async (): Promise<void> => {
      const id = ids[Math.floor(random() * ids.length)] ?? '';
      const rig = JSON.parse((await call(`/${id}`)).text) as StoredRig;
      const mark = `m${++marks};`;
      // A note has an end: the oldest marks make room, and are taken for seen.
      const note = rig.document.note.length > 9000 ? '' : rig.document.note;
      if (note === '') seen.push(...marksOf(rig.document.note));
      const answer = await write(`/${id}`, 'PUT', { version: rig.version, document: { ...rig.document, note: note + mark } });
      if (answer.status === 200) acknowledged.push(mark);
      else if (answer.status === 409) refused.push(mark);
      else bad.push(`an edit was answered with ${answer.status}`);
    };
    const seen: string[] = [];
    const burst = () =>
      Promise.all(
        Array.from({ length: hands }, async () => {
          await sleep(random() * 60);
          await edit();
          await edit();
        }),
      );

    const archive = join(site.folder, 'soak.zip');
    for (let kill = 0; kill < kills; kill++) {
      const edits = burst();
      await sleep(5 + random() * 150);
      if (kill % 10 === 2) {
        of.launcher += 1;
        await site.killLauncher();
        if (random() < 0.5) site.killServer();
        await site.start();
      } else if (kill % 3 === 1) {
        of.database += 1;
        site.killDatabase();
      } else {
        of.server += 1;
        site.killServer();
      }
      await edits;
      if (kill % 5 === 3) {
        const [{ code, said }] = await Promise.all([site.run('backup', archive), burst()]);
        if (code !== 0) bad.push(`a backup ended with ${code}: ${said}`);
        backups += 1;
      }
      if (kill % 7 === 5) {
        const [{ code, said }] = await Promise.all([site.run('restore', archive), burst()]);
        if (code !== 0) bad.push(`a restore ended with ${code}: ${said}`);
        restores += 1;
      }
      if (kill % 6 === 2) {
        const answers = await Promise.all([site.run('start'), site.run('start'), burst()]);
        for (const answer of answers.slice(0, 2))
          if (!('code' in answer) || answer.code !== 1) bad.push('a second launcher did not refuse to run');
        starts += 2;
      }
    }

    const notes: string[] = [];
    for (const id of ids) notes.push(...marksOf((JSON.parse((await call(`/${id}`)).text) as StoredRig).document.note));
    const kept = new Set([...notes, ...seen]);
    for (const path of restores > 0 ? site.safetyCopies() : []) for (const mark of await marksIn(path)) kept.add(mark);
    const times = new Map<string, number>();
    for (const mark of notes) times.set(mark, (times.get(mark) ?? 0) + 1);
    return {
      kills,
      of,
      backups,
      restores,
      starts,
      acknowledged: acknowledged.length,
      repeated,
      refused: refused.length,
      lost: acknowledged.filter((mark) => !kept.has(mark)).length,
      doubled: [...times.values()].filter((n) => n > 1).length,
      unasked: refused.filter((mark) => times.has(mark)).length,
      bad: bad.slice(0, 10),
    };
  } finally {
    await site.end();
  }
}

export const soakWords = (r: SoakResult): string =>
  `${r.kills} kills (server ${r.of.server}, database ${r.of.database}, launcher ${r.of.launcher}), ${r.backups} backups, ${r.restores} restores, ` +
  `${r.starts} further launchers: ${r.acknowledged} edits acknowledged (${r.repeated} requests sent again), ${r.refused} refused; ` +
  `${r.lost} lost, ${r.doubled} doubled, ${r.unasked} written though refused, ${r.bad.length} bad answers`;
