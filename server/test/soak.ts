import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeKeyHeader, type StoredRig } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { migrate } from '../db/migrate.ts';

const root = fileURLToPath(new URL('../..', import.meta.url));

export interface SoakResult {
  readonly bursts: number;
  readonly serverKills: number;
  readonly databaseKills: number;
  /** Edits that the server acknowledged. */
  readonly acknowledged: number;
  /** Edits that were sent again because no answer had come. */
  readonly repeated: number;
  /** Edits that were refused because another hand was first. */
  readonly refused: number;
  /** Acknowledged edits that are not there at the end, edits that are there twice, and refused ones that are there. */
  readonly lost: number;
  readonly doubled: number;
  readonly unasked: number;
}

const freePort = (): Promise<number> =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Numbers from 0 to 1 that are the same for the same seed. */
function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A server and a database of their own, each of which can be killed and started again. */
export class Site {
  private readonly folder = mkdtempSync(join(tmpdir(), 'surge-soak-'));
  private server: ChildProcess | null = null;
  private url = '';
  /** How the server ended although nobody killed it. */
  ended: string | null = null;
  port = 0;

  private cluster(verb: string): string {
    const { status, stdout, stderr } = spawnSync(join(root, 'scripts/cluster.sh'), [verb, this.folder], { encoding: 'utf8' });
    if (status !== 0) throw new Error(`cluster ${verb}: ${stderr}`);
    return stdout.trim();
  }

  async start(): Promise<void> {
    spawnSync('chmod', ['711', this.folder]);
    this.port = await freePort();
    this.startDatabase();
    await migrate(this.url);
    await this.startServer();
  }

  startDatabase(): void {
    const [url = ''] = this.cluster('start').split('\n');
    if (this.url !== '' && url !== this.url) throw new Error('the cluster came back at another address');
    this.url = url;
  }

  async startServer(): Promise<void> {
    const env = {
      ...process.env,
      DATABASE_URL: this.url,
      PORT: String(this.port),
      VAST_SURGE_DEMO: 'no',
      VAST_SURGE_RATE: '1000000',
      VAST_SURGE_PAUSE: '1',
      LOG_LEVEL: 'fatal',
    };
    const loader = join(root, 'node_modules/tsx/dist/loader.mjs');
    const server = spawn(process.execPath, ['--import', loader, join(root, 'server/main.ts')], {
      env,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.server = server;
    await new Promise<void>((resolve, reject) => {
      server.stdout.once('data', () => resolve());
      // The server ends only by being killed: if it ends by itself, that is what is to be found out here.
      server.once('exit', (code, signal) => {
        if (signal !== 'SIGKILL') this.ended = `the server ended by itself, with code ${code} and signal ${signal}`;
      });
      server.once('exit', (code) => reject(new Error(`the server ended with ${code} before it listened`)));
    });
  }

  async killServer(): Promise<void> {
    const { server } = this;
    if (!server || server.exitCode !== null) return;
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await ended;
  }

  /** As Ctrl+C does it. @returns the exit code */
  async stopServer(): Promise<number | null> {
    const { server } = this;
    if (!server || server.exitCode !== null) return null;
    const ended = new Promise<number | null>((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    return ended;
  }

  killDatabase(): void {
    this.cluster('kill');
  }

  async end(): Promise<void> {
    await this.killServer();
    this.cluster('stop');
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/**
 * Bursts of concurrent edits by several hands on several rigs, while the server or the database is killed at random
 * moments. Each edit adds a mark of its own to what it found; one without an answer is sent again with its key until it
 * is acknowledged or refused. At the end every acknowledged mark must be there once, and no other.
 */
export async function soak({
  bursts,
  seed = 1,
  hands = 6,
}: {
  bursts: number;
  seed?: number;
  hands?: number;
}): Promise<SoakResult> {
  const random = seeded(seed);
  const site = new Site();
  await site.start();
  try {
    const address = `http://127.0.0.1:${site.port}/api/rigs`;
    const acknowledged = new Map<string, string>();
    const refusedMarks: string[] = [];
    let [marks, repeated, serverKills, databaseKills] = [0, 0, 0, 0];

    const call = async (path: string, init?: RequestInit): Promise<Response> => {
      // A bounded number of tries: a killed server is back within seconds.
      let last = '';
      for (let tries = 0; tries < 300; tries++) {
        if (site.ended !== null) throw new Error(site.ended);
        try {
          const answer = await fetch(address + path, { ...init, signal: AbortSignal.timeout(10_000) });
          if (answer.status !== 503 && answer.status !== 500) return answer;
          last = `${answer.status} ${await answer.text()}`;
        } catch (error) {
          // No answer: the outcome is not known, and the same request is sent again.
          last = error instanceof Error ? `${error.message} ${String(error.cause ?? '')}` : String(error);
        }
        if (init) repeated += 1;
        await sleep(100);
      }
      throw new Error(`${path}: no answer in 300 tries, the last: ${last}`);
    };
    const write = (path: string, method: string, body: object) =>
      call(path, {
        method,
        headers: { 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() },
        body: JSON.stringify(body),
      });

    const ids = Array.from({ length: Math.max(6, Math.ceil(bursts / 25)) }, () => randomUUID());
    for (const id of ids) await write('', 'POST', { id, document: newDocument('Soak') });

    const edit = async (): Promise<void> => {
      const id = ids[Math.floor(random() * ids.length)] ?? '';
      const rig = (await (await call(`/${id}`)).json()) as StoredRig;
      const mark = `m${++marks};`;
      const answer = await write(`/${id}`, 'PUT', {
        version: rig.version,
        document: { ...rig.document, note: rig.document.note + mark },
      });
      await answer.arrayBuffer();
      if (answer.status === 200) acknowledged.set(mark, id);
      else if (answer.status === 409) refusedMarks.push(mark);
      else throw new Error(`an edit was answered with ${answer.status}`);
    };

    for (let burst = 0; burst < bursts; burst++) {
      const edits = Array.from({ length: hands }, async () => {
        await sleep(random() * 20);
        await edit();
      });
      const moment = 5 + random() * 40;
      if (burst % 16 === 4) {
        await sleep(moment);
        await site.killServer();
        serverKills += 1;
        await site.startServer();
      } else if (burst % 32 === 9) {
        await sleep(moment);
        site.killDatabase();
        databaseKills += 1;
        site.startDatabase();
      }
      await Promise.all(edits);
    }

    const notes = new Map<string, string[]>();
    for (const id of ids) {
      const rig = (await (await call(`/${id}`)).json()) as StoredRig;
      notes.set(
        id,
        rig.document.note
          .split(';')
          .slice(0, -1)
          .map((mark) => `${mark};`),
      );
    }
    const times = (mark: string) => [...notes.values()].flat().filter((m) => m === mark).length;
    const present = [...notes.values()].flat();
    return {
      bursts,
      serverKills,
      databaseKills,
      acknowledged: acknowledged.size,
      repeated,
      refused: refusedMarks.length,
      lost: [...acknowledged].filter(([mark, id]) => !notes.get(id)?.includes(mark)).length,
      doubled: [...new Set(present)].filter((mark) => times(mark) > 1).length,
      unasked: refusedMarks.filter((mark) => present.includes(mark)).length,
    };
  } finally {
    await site.end();
  }
}

export const soakWords = (r: SoakResult): string =>
  `${r.bursts} bursts, server killed ${r.serverKills} times, database ${r.databaseKills} times: ` +
  `${r.acknowledged} edits acknowledged (${r.repeated} requests sent again), ${r.refused} refused; ` +
  `${r.lost} lost, ${r.doubled} doubled, ${r.unasked} written though refused`;
