import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';

const root = fileURLToPath(new URL('..', import.meta.url));
const home = mkdtempSync(join(tmpdir(), 'surge-launcher-'));
const data = join(home, 'data');
const started: ChildProcess[] = [];
let port = 0;

const environment = (more: Record<string, string> = {}) => {
  const env: NodeJS.ProcessEnv = { ...process.env, VAST_SURGE_DATA: data, PORT: String(port), ...more };
  if (more['DATABASE_URL'] === undefined) delete env['DATABASE_URL'];
  return env;
};

const run = (args: string[], more?: Record<string, string>) => {
  const { status, stdout, stderr } = spawnSync(join(root, 'surge'), args, {
    encoding: 'utf8',
    env: environment(more),
    timeout: 60_000,
  });
  return { code: status, out: stdout, err: stderr };
};

interface Running {
  readonly process: ChildProcess;
  readonly ended: Promise<number | null>;
  output(): string;
}

/** Starts the real launcher in a process group of its own, as a terminal would, and waits for its address. */
async function start(): Promise<Running> {
  const launcher = spawn(join(root, 'surge'), ['start'], {
    env: environment(),
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(launcher);
  let text = '';
  launcher.stdout.on('data', (chunk: Buffer) => (text += chunk.toString()));
  launcher.stderr.on('data', (chunk: Buffer) => (text += chunk.toString()));
  const ended = new Promise<number | null>((resolve) => launcher.on('exit', (code) => resolve(code)));
  const deadline = Date.now() + 60_000;
  while (!text.includes('Vast Surge is at') && Date.now() < deadline && launcher.exitCode === null)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(text).toContain(`Vast Surge is at http://127.0.0.1:${port}`);
  return { process: launcher, ended, output: () => text };
}

const signal = (running: Running, name: NodeJS.Signals) => process.kill(-(running.process.pid ?? 0), name);
const names = async () =>
  ((await (await fetch(`http://127.0.0.1:${port}/api/rigs`)).json()) as { document: { name: string } }[])
    .map((r) => r.document.name)
    .sort();

beforeAll(async () => {
  spawnSync('chmod', ['711', home]);
  const probe = createServer();
  await new Promise<void>((resolve) => probe.listen(0, '127.0.0.1', resolve));
  const address = probe.address();
  port = typeof address === 'object' && address ? address.port : 0;
  await new Promise((resolve) => probe.close(resolve));
});
afterEach(() => run(['stop']));
afterAll(() => {
  run(['stop']);
  rmSync(home, { recursive: true, force: true });
});

describe('./surge', { timeout: 120_000 }, () => {
  test('starts with the demo, tells that it runs, refuses a second start, and ends on Ctrl+C with nothing left running', async () => {
    const running = await start();
    expect(await names()).toEqual(['Anvil', 'Cricket', 'Kittiwake', 'Shuttle', 'Thimble']);
    expect(run(['status'])).toMatchObject({ code: 0, out: expect.stringMatching(/server: running[\s\S]*database: running/) });
    expect(run(['start'])).toMatchObject({
      code: 1,
      err: expect.stringMatching(/^surge: already running \(process \d+\); .*\n$/),
    });
    signal(running, 'SIGINT');
    expect(await running.ended).toBe(0);
    expect(run(['status'])).toMatchObject({ code: 1, out: expect.stringMatching(/server: stopped\ndatabase: stopped/) });
  });

  test('keeps its data over a server and a launcher that were killed, and starts again by itself', async () => {
    const first = await start();
    const [rig] = (await (await fetch(`http://127.0.0.1:${port}/api/rigs`)).json()) as {
      id: string;
      version: number;
      document: object;
    }[];
    const body = JSON.stringify({ version: rig?.version, document: { ...rig?.document, name: 'Renamed before the blow' } });
    const saved = await fetch(`http://127.0.0.1:${port}/api/rigs/${rig?.id}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
      body,
    });
    expect(saved.status).toBe(200);
    signal(first, 'SIGKILL');
    await first.ended;
    const second = await start();
    expect(await names()).toContain('Renamed before the blow');
    expect(await names()).toHaveLength(5);
    expect(run(['stop']).code).toBe(0);
    expect(await second.ended).toBe(0);
  });

  test.each<[string, Record<string, string>, RegExp]>([
    [
      'an unreachable database',
      { DATABASE_URL: 'postgres://x:y@127.0.0.1:1/z' },
      /^surge: the database cannot be reached: .*\n$/,
    ],
    ['a port that is none', { PORT: 'abc' }, /^surge: PORT is "abc"; it must be a whole number from 1 to 65535\n$/],
  ])('%s gets one clear line and a non-zero exit', (_name, more, line) => {
    const { code, err } = run(['start'], more);
    expect(code).toBe(1);
    expect(err).toMatch(line);
  });

  test('a port in use gets one clear line and leaves no database running', async () => {
    const other = createServer();
    await new Promise<void>((resolve) => other.listen(port, '127.0.0.1', resolve));
    const answer = run(['start']);
    await new Promise((resolve) => other.close(resolve));
    expect(answer).toMatchObject({ code: 1, err: `surge: port ${port} is in use; stop what uses it, or set PORT to another\n` });
    expect(run(['status']).out).toContain('database: stopped');
  });

  test('a broken migration gets one clear line, and writes nothing', () => {
    const path = join(root, 'server/db/migrations/9999_broken.sql');
    writeFileSync(path, '-- Up Migration\ncreate table kept (id int);\ncreate tabel broken ();\n');
    try {
      expect(run(['start'])).toMatchObject({
        code: 1,
        err: expect.stringMatching(/^surge: a migration is broken: syntax error.*\n$/),
      });
    } finally {
      rmSync(path);
    }
  });

  test('backs the workshop up, restores it to the byte, keeps what a restore replaces, and brings the demo back', () => {
    const file = (name: string) => join(home, name);
    expect(run(['backup', file('one.zip')])).toMatchObject({
      code: 0,
      out: expect.stringMatching(/5 rigs with \d+ revisions? and 65 parts written to/),
    });
    expect(run(['reset-demo'])).toMatchObject({
      code: 0,
      out: expect.stringContaining('5 demo rigs and 65 demo parts as at first'),
    });
    expect(run(['backup', file('two.zip')]).code).toBe(0);
    const restored = run(['restore', file('one.zip')]);
    expect(restored).toMatchObject({
      code: 0,
      out: expect.stringMatching(/5 rigs and 65 parts restored from .*; what was here before is in .*before-restore-.*\.zip/),
    });
    expect(run(['backup', file('three.zip')]).code).toBe(0);
    const bytes = (path: string) => readFileSync(path).toString('base64');
    expect(bytes(file('three.zip'))).toBe(bytes(file('one.zip')));
    const kept = /in (\S*before-restore\S*\.zip)/.exec(restored.out)?.[1] ?? '';
    expect(bytes(kept)).toBe(bytes(file('two.zip')));
    expect(run(['status']).out).toContain('database: stopped');
  });

  test.each<[string, string[], RegExp]>([
    ['a backup without a file', ['backup'], /^surge: FILE is missing: \.\/surge backup FILE\n$/],
    ['a restore of a file that is not there', ['restore', '/nowhere.zip'], /^surge: FILE: \/nowhere\.zip is not there\n$/],
    [
      'a restore of something else',
      ['restore', join(root, 'package.json')],
      /^surge: FILE: .* is not a workshop archive: archive it is not a complete ZIP file\n$/,
    ],
  ])('%s gets one clear line and exit code 2', (_name, args, line) =>
    expect(run(args)).toMatchObject({ code: 2, err: expect.stringMatching(line) }),
  );

  test('keeps its data out of the checkout, the password readable by its owner alone', () => {
    expect(existsSync(join(data, 'postgres'))).toBe(true);
    expect(readFileSync(join(data, 'password'), 'utf8')).toMatch(/^[0-9a-f]{48}$/);
    expect(spawnSync('stat', ['-c', '%a', join(data, 'password')], { encoding: 'utf8' }).stdout.trim()).toBe('600');
  });

  test('an unknown command is answered with the usage and exit code 2', () => {
    expect(run(['dance'])).toMatchObject({ code: 2, err: expect.stringContaining('usage: ./surge start') });
    expect(run(['help'])).toMatchObject({ code: 0, out: expect.stringContaining('./surge calc ID') });
  });
});

test('the walls between packages stand: an import that crosses one is found', { timeout: 60_000 }, () => {
  const path = join(root, 'core/quantity/crosses.ts');
  writeFileSync(path, "export { evaluateRig } from '../evaluation/index.ts';\nexport * as fs from 'node:fs';\n");
  try {
    const { status, stdout } = spawnSync('npm', ['run', '--silent', 'boundaries'], { cwd: root, encoding: 'utf8' });
    expect(status).not.toBe(0);
    expect(stdout).toMatch(/core-quantity-looks-up/);
    expect(stdout).toMatch(/core-stands-alone/);
  } finally {
    rmSync(path);
  }
});
