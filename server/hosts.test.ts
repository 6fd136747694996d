import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { writeKeyHeader, type PageOf, type RigHead, type StoredRig } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { named, testDatabase, type TestDatabase } from './test/database.ts';
import { Host } from './test/hosts.ts';

const root = fileURLToPath(new URL('..', import.meta.url));

/** What is asked on a host, of the server that answers there alone. Printed as one line of JSON. */
const asks = `
const [method, path, body, key] = JSON.parse(process.argv[1]);
const headers = { 'Content-Type': 'application/json', '${writeKeyHeader}': key };
const said = await fetch('http://127.0.0.1:4600' + path, { method, headers, body: body ?? undefined, signal: AbortSignal.timeout(20000) })
  .then(async (answer) => ({ status: answer.status, retry: answer.headers.get('retry-after'), body: await answer.text() }),
        () => ({ status: 0, retry: null, body: '' }));
process.stdout.write(JSON.stringify(said));
process.exit(0);`;

/** Prints what the line of the server tells, as it comes. */
const watches = `
const answer = await fetch('http://127.0.0.1:4600/api/live');
process.stdout.write('watching\\n');
for await (const chunk of answer.body) process.stdout.write(Buffer.from(chunk));`;

interface Answer {
  readonly status: number;
  /** s to wait, of a server that cannot answer now. */
  readonly retry: string | null;
  readonly body: string;
}

/** A server on a host of its own: what it says, it says there. */
class Served {
  private readonly keep = mkdtempSync(join(tmpdir(), 'surge-host-test-'));
  private readonly children: ChildProcess[] = [];
  private constructor(
    readonly host: Host,
    private readonly url: string,
  ) {}

  static async make(url: string): Promise<Served | null> {
    const host = await Host.make(url);
    return host && new Served(host, host.reaches(url));
  }

  private run(words: readonly string[], more: NodeJS.ProcessEnv = {}): ChildProcess {
    const child = this.host.run(process.execPath, words, {
      cwd: root,
      env: { ...process.env, ...more },
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    this.children.push(child);
    return child;
  }

  async start(): Promise<void> {
    this.run(['--import', 'tsx', 'server/main.ts'], {
      DATABASE_URL: this.url,
      PORT: '4600',
      VAST_SURGE_KEEP: this.keep,
      VAST_SURGE_DEMO: 'no',
    });
    await expect.poll(async () => (await this.ask('GET', '/api/health')).status, { timeout: 90_000, interval: 500 }).toBe(200);
  }

  ask(method: 'GET' | 'POST' | 'PUT', path: string, body: object | null = null): Promise<Answer> {
    const question = JSON.stringify([method, path, body && JSON.stringify(body), randomUUID()]);
    const child = this.run(['--input-type=module', '-e', asks, question]);
    return new Promise((resolve, reject) => {
      let said = '';
      child.stdout?.on('data', (text) => (said += String(text)));
      child.on('close', () =>
        said === '' ? reject(new Error(`${method} ${path}: nothing said`)) : resolve(JSON.parse(said) as Answer),
      );
    });
  }

  /** @returns all that the line told so far */
  async watch(): Promise<() => string> {
    let told = '';
    this.run(['--input-type=module', '-e', watches]).stdout?.on('data', (text) => (told += String(text)));
    await expect.poll(() => told, { timeout: 30_000 }).toContain('watching');
    return () => told;
  }

  /** The server of the host and all that was asked of it, at once and without a word. */
  kill(): void {
    for (const child of this.children.splice(0)) child.kill('SIGKILL');
  }

  async end(): Promise<void> {
    this.kill();
    await this.host.end();
    rmSync(this.keep, { recursive: true, force: true });
  }
}

let database: TestDatabase;
let [first, second]: (Served | null)[] = [];
beforeAll(async () => {
  database = await testDatabase();
  const url = named(process.env['DATABASE_APP_URL'] ?? '', new URL(database.url).pathname.slice(1));
  [first, second] = [await Served.make(url), await Served.make(url)];
});
afterAll(async () => {
  await first?.end();
  await second?.end();
  await database.drop();
});

const names = async (at: Served): Promise<string[]> => {
  const { body } = await at.ask('GET', '/api/rigs?limit=50');
  return (JSON.parse(body) as PageOf<RigHead>).rows.map(({ name }) => name).sort();
};

test('two servers on two hosts are one workshop: what one writes the other tells; one is killed, the line of one is pulled, nothing is lost', async (context) => {
  if (!first || !second) return context.skip('hosts of their own cannot be made here');
  const [one, other] = [first, second];
  await Promise.all([one.start(), other.start()]);
  const told = await other.watch();
  const id = randomUUID();
  const document = newDocument('Across');
  expect((await one.ask('POST', '/api/rigs', { id, document })).status).toBe(201);
  await expect.poll(told, { timeout: 20_000 }).toContain(id);
  expect(await names(other)).toEqual(['Across']);
  // The same version is written on both hosts: one of them has it, the other is told that it was overtaken.
  const saved = (name: string) => ({ version: 1, document: { ...document, name } });
  const [here, there] = await Promise.all([
    one.ask('PUT', `/api/rigs/${id}`, saved('One')),
    other.ask('PUT', `/api/rigs/${id}`, saved('Other')),
  ]);
  expect([here.status, there.status].sort()).toEqual([200, 409]);
  const kept = JSON.parse((await one.ask('GET', `/api/rigs/${id}`)).body) as StoredRig;
  expect(kept).toMatchObject({ version: 2, document: { name: here.status === 200 ? 'One' : 'Other' } });
  // Killed with -9: the other goes on, alone and with all there is.
  one.kill();
  expect((await other.ask('PUT', `/api/rigs/${id}`, { ...saved('Alone'), version: 2 })).status).toBe(200);
  expect(await names(other)).toEqual(['Alone']);
  // Without its line to the database it says so, with a time to wait, and answers by itself once the line is back.
  other.host.plug(false);
  const lost = await other.ask('GET', '/api/rigs?limit=50');
  expect([0, 503]).toContain(lost.status);
  if (lost.status === 503) expect(Number(lost.retry)).toBeGreaterThan(0);
  other.host.plug(true);
  await expect
    .poll(async () => (await other.ask('GET', '/api/rigs?limit=50')).status, { timeout: 60_000, interval: 500 })
    .toBe(200);
  expect(await names(other)).toEqual(['Alone']);
  // The killed one comes back to what was written without it.
  await one.start();
  expect(await names(one)).toEqual(['Alone']);
});
