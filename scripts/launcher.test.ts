import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { connect } from 'node:tls';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest';
import { isLong } from '../core/test/long.ts';
import { freePort } from '../server/test/site.ts';

const root = fileURLToPath(new URL('..', import.meta.url));
const home = mkdtempSync(join(tmpdir(), 'surge-launcher-'));
const data = join(home, 'data');
const started: ChildProcess[] = [];
let port = 0;

const environment = (more: Record<string, string> = {}) => {
  // A process that is killed loses nothing that it gave to the system: only a machine that loses its power does. Nothing waits for the disk.
  const PG_OPTIONS = '-c fsync=off';
  const env: NodeJS.ProcessEnv = { ...process.env, PG_OPTIONS, VAST_SURGE_DATA: data, PORT: String(port), ...more };
  if (more['DATABASE_URL'] === undefined) delete env['DATABASE_URL'];
  return env;
};

const run = (args: string[], more?: Record<string, string>) => {
  const { status, stdout, stderr } = spawnSync(join(root, 'surge'), args, {
    encoding: 'utf8',
    env: environment(more),
    timeout: 180_000,
  });
  return { code: status, out: stdout, err: stderr };
};

interface Running {
  readonly process: ChildProcess;
  readonly ended: Promise<number | null>;
  output(): string;
}

/** Starts the real launcher in a process group of its own, as a terminal would, and waits for its address. */
async function start(more?: Record<string, string>): Promise<Running> {
  const launcher = spawn(join(root, 'surge'), ['start'], {
    env: environment(more),
    detached: true,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  started.push(launcher);
  let text = '';
  launcher.stdout.on('data', (chunk: Buffer) => (text += chunk.toString()));
  launcher.stderr.on('data', (chunk: Buffer) => (text += chunk.toString()));
  const ended = new Promise<number | null>((resolve) => launcher.on('exit', (code) => resolve(code)));
  const deadline = Date.now() + 170_000;
  while (!text.includes('Vast Surge is at') && Date.now() < deadline && launcher.exitCode === null)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(text).toContain(`Vast Surge is at http://127.0.0.1:${port}`);
  return { process: launcher, ended, output: () => text };
}

const signal = (running: Running, name: NodeJS.Signals) => process.kill(-(running.process.pid ?? 0), name);
const names = async () =>
  ((await (await fetch(`http://127.0.0.1:${port}/api/rigs`)).json()) as { rows: { name: string }[] }).rows
    .map((r) => r.name)
    .sort();

const api = (path: string, init?: RequestInit) => fetch(`http://127.0.0.1:${port}/api${path}`, init);

/** Gives the first rig of the list another name, as a page does. */
async function renamed(name: string): Promise<Response> {
  const { rows } = (await (await api('/rigs')).json()) as { rows: { id: string }[] };
  const rig = (await (await api(`/rigs/${rows[0]?.id}`)).json()) as { id: string; version: number; document: object };
  return api(`/rigs/${rig.id}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID() },
    body: JSON.stringify({ version: rig.version, document: { ...rig.document, name } }),
  });
}

/** Whether a folder is one in which a cluster is being made, and its making has begun. */
const halfMade = (folder: string) => /making-cluster/.test(folder) && existsSync(join(folder, 'postgres', 'base'));

/** Asks again and again until it is so, for some seconds. */
async function until(what: () => Promise<boolean> | boolean, seconds: number, every = 100): Promise<number> {
  const began = Date.now();
  while (Date.now() - began < seconds * 1000) {
    if (await what()) return Date.now() - began;
    await new Promise((resolve) => setTimeout(resolve, every));
  }
  throw new Error(`not so within ${seconds} s`);
}
const postmaster = () => Number(readFileSync(join(data, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[0]);
const answers = () =>
  api('/rigs').then(
    (answer) => answer.status === 200,
    () => false,
  );

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

describe('./surge', { timeout: 180_000 }, () => {
  test('starts with the demo, tells that it runs, refuses a second start, and ends on Ctrl+C with nothing left running', async () => {
    const running = await start();
    expect(await names()).toEqual(['Anvil', 'Cricket', 'Kittiwake', 'Shuttle', 'Thimble']);
    expect(run(['status'])).toMatchObject({
      code: 0,
      out: expect.stringMatching(
        /server: running[\s\S]*answers: yes\ntables: \d{4}_[\s\S]*disk: .* free of [\s\S]*last backup read back: none; scheduled backups: off\ndatabase: running/,
      ),
    });
    expect(run(['start'])).toMatchObject({
      code: 1,
      err: expect.stringMatching(/^surge: already running \(process \d+\); .*\n$/),
    });
    signal(running, 'SIGINT');
    expect(await running.ended).toBe(0);
    expect(run(['status'])).toMatchObject({ code: 1, out: expect.stringMatching(/server: stopped\ndatabase: stopped/) });
  });

  test('opens the running workshop to other devices and closes it again, and the audit says so; a slip is told by name', async () => {
    const running = await start();
    const other = String(await freePort());
    expect(run(['open', '--address', '192.0.2.77'])).toMatchObject({
      code: 2,
      err: expect.stringMatching(/--address is "192\.0\.2\.77"; it must be an address of this machine: 127\.0\.0\.1/),
    });
    expect(run(['open', '--port', '80', '--address', '127.0.0.1'])).toMatchObject({
      code: 2,
      err: expect.stringContaining('--port must be from 1024 to 65535'),
    });
    expect((await api('/rigs')).status).toBe(200);
    const opened = run(['open', '--address', '127.0.0.1', '--port', other]);
    expect(opened).toMatchObject({
      code: 0,
      out: expect.stringMatching(
        new RegExp(
          `open at https://127\\.0\\.0\\.1:${other}[\\s\\S]*SHA-256 ([0-9A-F]{2}:){31}[\\s\\S]*:${other}/join#[\\w-]{43}\\n`,
        ),
      ),
    });
    await until(async () => (await api('/rigs')).status === 401, 60);
    // The authority that was told of answers there, and no other.
    const ca = readFileSync(/\S+authority\.crt/.exec(opened.out)?.[0] ?? '');
    const socket = connect({ host: '127.0.0.1', port: Number(other), ca, servername: 'localhost' });
    await new Promise((resolve, reject) => socket.once('secureConnect', resolve).once('error', reject));
    expect(socket.authorized).toBe(true);
    socket.destroy();
    expect(run(['close'])).toMatchObject({ code: 0, out: expect.stringContaining('this machine alone') });
    await until(answers, 60);
    expect(run(['audit'])).toMatchObject({ code: 0, out: expect.stringContaining('the audit holds: 2 entries') });
    expect(run(['stop']).code).toBe(0);
    expect(await running.ended).toBe(0);
  });

  test('keeps its data over a server and a launcher that were killed, and starts again by itself', async () => {
    const first = await start();
    const saved = await renamed('Renamed before the blow');
    expect(saved.status).toBe(200);
    signal(first, 'SIGKILL');
    await first.ended;
    const second = await start();
    expect(await names()).toContain('Renamed before the blow');
    expect(await names()).toHaveLength(5);
    expect(run(['stop']).code).toBe(0);
    expect(await second.ended).toBe(0);
  });

  test('a database that was killed is back by itself; meanwhile the answer is 503 with a time to wait, never 500', async () => {
    const running = await start();
    for (const wholly of [false, true]) {
      const pid = postmaster();
      if (wholly) spawnSync('pkill', ['-KILL', '-P', String(pid)]);
      process.kill(pid, 'SIGKILL');
      const seen = new Set<number>();
      let waits = true;
      await until(async () => {
        const answer = await api('/rigs').catch(() => null);
        if (!answer) return false;
        seen.add(answer.status);
        if (answer.status === 503) waits &&= Number(answer.headers.get('retry-after')) > 0;
        return answer.status === 200 && postmaster() !== pid;
      }, 60);
      expect([...seen].filter((status) => status !== 200 && status !== 503)).toEqual([]);
      expect(waits).toBe(true);
    }
    expect(running.output()).toMatch(/the database was killed; it is started again[\s\S]*the database is back/);
    expect((await renamed('After the blow')).status).toBe(200);
  });

  test.runIf(isLong)('server and database that were killed at once are both back', async () => {
    await start();
    const server = () => Number(readFileSync(join(data, 'server.pid'), 'utf8'));
    const [first, database] = [server(), postmaster()];
    process.kill(database, 'SIGKILL');
    process.kill(first, 'SIGKILL');
    await until(async () => server() !== first && (await answers()), 60);
    expect(postmaster()).not.toBe(database);
  });

  test('a server that broke off or was killed is started again, however young; one whose launcher was killed is taken over', async () => {
    // Whoever sends this server SIGUSR2 finds a fault in it.
    const fault = "process.argv[1]?.endsWith('server/main.ts') && process.on('SIGUSR2', () => { throw new Error('made up') })";
    const running = await start({ NODE_OPTIONS: `--import=data:text/javascript,${encodeURIComponent(fault)}` });
    const server = () => Number(readFileSync(join(data, 'server.pid'), 'utf8'));
    for (const by of ['SIGUSR2', 'SIGKILL'] as const) {
      const first = server();
      process.kill(first, by);
      await until(async () => server() !== first && (await answers()), 60);
    }
    expect(running.output()).toMatch(
      /a fault of the program: Error: made up[\s\S]*by a fault of its own[\s\S]*the server was killed;/,
    );
    process.kill(running.process.pid ?? 0, 'SIGKILL');
    await running.ended;
    expect(run(['status']).out).toMatch(/launcher: was killed; \.\/surge start takes over/);
    const second = await start();
    expect(second.output()).toMatch(/was left by a launcher that was killed: it is ended/);
    expect(await names()).toContain('After the blow');
    signal(second, 'SIGTERM');
    expect(await second.ended).toBe(0);
  });

  test('two that are started at once leave one running', async () => {
    const both = [0, 1].map(() => spawn(join(root, 'surge'), ['start'], { env: environment(), detached: true, stdio: 'ignore' }));
    started.push(...both);
    await until(() => both.some((one) => one.exitCode !== null), 60);
    await until(answers, 60);
    expect(both.map((one) => one.exitCode).sort()).toEqual([1, null]);
  });

  test.runIf(isLong)(
    'stops everything within half a minute, also a server that does nothing any more',
    { timeout: 180_000 },
    async () => {
      const running = await start();
      process.kill(Number(readFileSync(join(data, 'server.pid'), 'utf8')), 'SIGSTOP');
      const began = Date.now();
      expect(run(['stop']).code).toBe(0);
      expect(Date.now() - began).toBeLessThan(30_000);
      await running.ended;
      expect(run(['status']).out).toMatch(/server: stopped\ndatabase: stopped/);
    },
  );

  test.runIf(isLong)('a backup beside a running server leaves its database alone, and is verified', async () => {
    await start();
    const pid = postmaster();
    expect(run(['backup', join(home, 'beside.zip')])).toMatchObject({ code: 0, out: expect.stringMatching(/read back\n$/) });
    expect([postmaster(), await answers()]).toEqual([pid, true]);
    const health = (await (await api('/health')).json()) as { lastBackupAt: string };
    expect(Date.now() - Date.parse(health.lastBackupAt)).toBeLessThan(60_000);
  });

  test.runIf(isLong)('no password stands in the list of processes', async () => {
    await start();
    const secrets = ['password', 'app.pgpass', 'owner.pgpass'].map((name) =>
      (readFileSync(join(data, name), 'utf8').trim().split(':').at(-1) ?? '').trim(),
    );
    const backup = spawn(join(root, 'surge'), ['backup', join(home, 'watched.zip')], { env: environment(), stdio: 'ignore' });
    let lists = '';
    while (backup.exitCode === null) {
      lists += spawnSync('ps', ['-eo', 'args'], { encoding: 'utf8' }).stdout;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect(lists).toContain('postgres');
    for (const secret of secrets) {
      expect(secret).toMatch(/^[0-9a-f]{48}$/);
      expect(lists).not.toContain(secret);
    }
  });

  test('without the file of its password nothing is started and nothing touched; another password brings it back', async () => {
    const before = spawnSync('stat', ['-c', '%i', join(data, 'postgres')], { encoding: 'utf8' }).stdout;
    rmSync(join(data, 'password'));
    const answer = run(['start']);
    expect(answer).toMatchObject({
      code: 1,
      err: expect.stringMatching(
        /the password of the database is missing \(.*\)\. The data .* were not touched\..*\.\/surge new-password/,
      ),
    });
    expect(spawnSync('stat', ['-c', '%i', join(data, 'postgres')], { encoding: 'utf8' }).stdout).toBe(before);
    expect(run(['new-password'])).toMatchObject({ code: 0, err: expect.stringMatching(/has a new password/) });
    await start();
    expect(await names()).toContain('After the blow');
  });

  // What happens to a workshop once in its life is asked at length.
  test.runIf(isLong)('a cluster that is damaged, or of no known kind, is left as it is and told', () => {
    const control = join(data, 'postgres', 'global', 'pg_control');
    const aside = `${control}.aside`;
    spawnSync('mv', [control, aside]);
    try {
      expect(run(['start'])).toMatchObject({
        code: 1,
        err: expect.stringMatching(/the database did not start: .*Nothing was removed/),
      });
    } finally {
      spawnSync('mv', [aside, control]);
    }
    const version = join(data, 'postgres', 'PG_VERSION');
    spawnSync('mv', [version, `${version}.aside`]);
    try {
      expect(run(['start'])).toMatchObject({
        code: 1,
        err: expect.stringMatching(/is there and is no database cluster.*left as it is/),
      });
    } finally {
      spawnSync('mv', [`${version}.aside`, version]);
    }
    expect(run(['backup', join(home, 'again.zip')]).code).toBe(0);
  });

  test.runIf(isLong)(
    'a first start that is broken off leaves nothing that is taken for a cluster, and the next one makes it',
    { timeout: 180_000 },
    async () => {
      const other = join(home, 'other');
      const broken = spawn(join(root, 'surge'), ['start'], {
        env: environment({ VAST_SURGE_DATA: other }),
        detached: true,
        stdio: 'ignore',
      });
      started.push(broken);
      const ended = new Promise((resolve) => broken.on('exit', resolve));
      await until(() => existsSync(other) && readdirSync(other).some((name) => halfMade(join(other, name))), 60, 5);
      process.kill(-(broken.pid ?? 0), 'SIGINT');
      await ended;
      expect(existsSync(join(other, 'postgres', 'PG_VERSION'))).toBe(false);
      expect(
        spawnSync(join(root, 'surge'), ['backup', join(home, 'first.zip')], {
          env: environment({ VAST_SURGE_DATA: other }),
          encoding: 'utf8',
        }),
      ).toMatchObject({ status: 0 });
      expect(existsSync(join(other, 'postgres', 'PG_VERSION'))).toBe(true);
      expect(spawnSync('ls', [other], { encoding: 'utf8' }).stdout).not.toContain('making-cluster');
    },
  );

  test('a folder that cannot be written gets one clear line', () => {
    const answer = run(['start'], { VAST_SURGE_DATA: '/proc/surge' });
    expect(answer).toMatchObject({ code: 1, err: 'surge: the data folder /proc/surge cannot be made\n' });
  });

  test.runIf(isLong)('backups by themselves are switched on and off from the terminal; a unit for systemd is written', () => {
    expect(run(['backups']).out).toMatch(/^surge: scheduled backups: off; last backup read back: \d/);
    expect(run(['backups', join(home, 'kept'), '--every', '12h', '--keep', '5']).out).toMatch(
      /scheduled backups: every 12 h into .*kept, the last 5 kept/,
    );
    expect(run(['backups', join(home, 'kept'), '--every', 'often'])).toMatchObject({
      code: 2,
      err: expect.stringMatching(/--every is "often"; it must be/),
    });
    expect(run(['backups', 'off']).out).toMatch(/scheduled backups: off/);
    const unit = run(['service', '-']).out;
    expect(unit).toContain(`ExecStart=${root}/surge start`.replace('//', '/'));
    expect(unit).toContain(`Environment=VAST_SURGE_DATA=${data}`);
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
      out: expect.stringMatching(/5 rigs with \d+ revisions?, 65 parts, 2 runs and 54 shots written to .* and read back/),
    });
    expect(run(['reset-demo'])).toMatchObject({
      code: 0,
      out: expect.stringContaining('5 demo rigs and 65 demo parts as at first'),
    });
    if (isLong) expect(run(['backup', file('two.zip')]).code).toBe(0);
    const restored = run(['restore', file('one.zip')]);
    expect(restored).toMatchObject({
      code: 0,
      out: expect.stringMatching(/5 rigs and 65 parts restored from .*; what was here before is in .*before-restore-.*\.zip/),
    });
    expect(run(['backup', file('three.zip')]).code).toBe(0);
    const bytes = (path: string) => readFileSync(path).toString('base64');
    expect(bytes(file('three.zip'))).toBe(bytes(file('one.zip')));
    if (isLong) {
      // What was here before is the workshop as it was: restored, it is backed up to the same bytes.
      const kept = /in (\S*before-restore\S*\.zip)/.exec(restored.out)?.[1] ?? '';
      expect(run(['restore', kept]).code).toBe(0);
      expect(run(['backup', file('four.zip')]).code).toBe(0);
      expect(bytes(file('four.zip'))).toBe(bytes(file('two.zip')));
    }
    expect(run(['status']).out).toContain('database: stopped');
  });

  test.each<[string, string[], RegExp]>([
    ['a backup without a file', ['backup'], /^surge: FILE is missing: \.\/surge backup FILE\n$/],
    ['a restore of a file that is not there', ['restore', '/nowhere.zip'], /^surge: FILE: \/nowhere\.zip is not there\n$/],
    [
      'a restore of something else',
      ['restore', join(root, 'package.json')],
      /^surge: FILE: .* is not a workshop archive: archive is not a complete ZIP file: .*\n$/,
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

test('the walls between packages stand: an import that crosses one is found', { timeout: 180_000 }, () => {
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
