import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { pino, type DestinationStream, type Logger } from 'pino';
import { Archives } from './archive/archives.ts';
import { loadDemo } from './db/demo.ts';
import { GateShut } from './db/gate.ts';
import { openPool, type Pool } from './db/pool.ts';
import { fail, messageOf } from './fail.ts';
import { createApp } from './http/app.ts';
import { Instruments, readAllowed, type Allowed } from './instruments/instruments.ts';
import { startBackups } from './jobs/backups.ts';
import { RigHeads } from './jobs/heads.ts';
import { startSweep } from './jobs/sweep.ts';
import { databaseUrl, expectTables, failStart } from './prepare.ts';
import { Live } from './live.ts';
import { readProxy, type Proxy } from './opening/proxy.ts';
import { WorkshopDoors } from './opening/doors.ts';
import { programId } from './program.ts';
import { StudyWorker, usualThreads } from './studies/worker.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

function listen(app: ReturnType<typeof createApp>, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1');
    server.once('listening', () => resolve(server));
    server.once('error', reject);
  });
}

function stopOnSignal(server: Server, pool: Pool, ends: readonly (() => Promise<void>)[]) {
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    // Requests under way are finished; then the connections to the database are given back.
    const ended = Promise.allSettled(ends.map((end) => end()));
    server.close(() => void ended.then(() => pool.end()).then(() => process.exit(0)));
    // A connection that is answered now is idle from now on, and a browser would keep it open for seconds.
    setInterval(() => server.closeIdleConnections(), 50).unref();
    setTimeout(() => process.exit(0), 5000).unref();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}

/** To the terminal, and into files of the data folder that take turns: five of five megabytes. */
function openLog(keep: string | null): Logger {
  const options = { level: process.env['LOG_LEVEL'] ?? 'warn', serializers: { err: causeOf } };
  if (keep === null) return pino(options, pino.destination(2));
  const file = join(keep, 'log', 'server.log');
  const transport = pino.transport({
    targets: [
      { target: 'pino/file', options: { destination: 2 } },
      { target: 'pino-roll', options: { file, size: '5m', limit: { count: 5 }, mkdir: true } },
    ],
  }) as DestinationStream & { on(event: 'error', heard: () => void): void };
  // A log that cannot be written, on a full disk, ends nothing.
  transport.on('error', () => undefined);
  return pino(options, transport);
}

/** What went wrong, without what it went wrong with: errors of the database carry rows and connections along. */
function causeOf(error: unknown) {
  if (!(error instanceof Error)) return { message: String(error) };
  const { name, message, stack } = error;
  return { type: name, message, code: (error as { code?: unknown }).code, stack };
}

function proxyBefore(): Proxy | null {
  try {
    return readProxy(process.env['VAST_SURGE_PROXY'] ?? '', process.env['VAST_SURGE_URL'] ?? '');
  } catch (error) {
    return fail(messageOf(error));
  }
}

/** Chunks of studies at a time, as the environment says; 0: none, for other hosts do that. */
function threadsOf(text: string | undefined): number {
  if (text === undefined || text === '') return usualThreads();
  const threads = Number(text);
  return Number.isInteger(threads) && threads >= 0 && threads <= 256
    ? threads
    : fail(`VAST_SURGE_THREADS is "${text.slice(0, 40)}"; it must be a whole number from 0 to 256`);
}

function allowedInstruments(): Allowed[] {
  try {
    return readAllowed(process.env['VAST_SURGE_INSTRUMENTS'] ?? '');
  } catch (error) {
    return fail(`VAST_SURGE_INSTRUMENTS: ${messageOf(error)}`);
  }
}

async function main(): Promise<void> {
  const url = databaseUrl();
  const port = Number(process.env['PORT'] ?? 4600);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    fail(`PORT is "${process.env['PORT'] ?? ''}"; it must be a whole number from 1 to 65535`);
  const keep = process.env['VAST_SURGE_KEEP'] ?? null;
  const log = openLog(keep);
  const pool = openPool(url, (error) => log.warn(`a database connection was lost: ${error.message}`));
  await expectTables(pool);
  if (process.env['VAST_SURGE_DEMO'] !== 'no')
    await loadDemo(pool).catch((error: unknown) => {
      // While the workshop is being restored: the next start finds what the restore says of the demo.
      if (error instanceof GateShut) log.warn('the demo workshop is not loaded: the workshop is being restored');
      else failStart(`the demo workshop cannot be loaded: ${messageOf(error)}`, error);
    });
  const { version } = JSON.parse(readFileSync(here('../package.json'), 'utf8')) as { version: string };
  const rate = Number(process.env['VAST_SURGE_RATE'] ?? 1200);
  const instruments = new Instruments(allowedInstruments());
  const archives = new Archives(url);
  const heads = new RigHeads(pool, programId(version));
  const backups = startBackups(pool, log, (path) => archives.backUp(path));
  heads.start(log);
  const live = new Live(url, pool);
  const proxy = proxyBefore();
  const doors = new WorkshopDoors(pool, keep, log, () => live.recall(), proxy?.url ?? null);
  const app = createApp({
    db: pool,
    log,
    version,
    webRoot: here('../web/dist'),
    keep,
    rate,
    instruments,
    archives,
    heads,
    live,
    proxy,
    doors,
    onBackupsSet: () => backups.poke(),
  });
  await doors
    .start(app)
    .catch((error: unknown) => failStart(`how the workshop is open cannot be read: ${messageOf(error)}`, error));
  const server = await listen(app, port).catch((error: NodeJS.ErrnoException) =>
    fail(
      error.code === 'EADDRINUSE'
        ? `port ${port} is in use; stop what uses it, or set PORT to another`
        : `cannot listen on port ${port}: ${messageOf(error)}`,
    ),
  );
  // Longer than those who ask hold a connection that is idle, a server before this one above all: who closes first loses no question.
  server.keepAliveTimeout = 75_000;
  const pause = Number(process.env['VAST_SURGE_PAUSE'] ?? 60);
  const sweep = startSweep(pool, log, { pause, every: Math.min(15_000, pause * 500 + 200) });
  const threads = threadsOf(process.env['VAST_SURGE_THREADS']);
  const worker =
    threads === 0
      ? null
      : new StudyWorker({ databaseUrl: url, program: heads.program, threads, say: (text) => log.warn(`studies: ${text}`) });
  worker?.start();
  stopOnSignal(server, pool, [
    () => sweep.end(),
    () => worker?.end() ?? Promise.resolve(),
    () => backups.end(),
    () => heads.close(),
    () => archives.close(),
    () => live.close(),
    () => doors.close(),
  ]);
  process.stdout.write(`Vast Surge is at http://127.0.0.1:${port}\n`);
  for (const { url, trouble } of doors.opened().listening)
    process.stdout.write(trouble === null ? `and, for other devices, at ${url}\n` : `but not at ${url}: ${trouble}\n`);
}

// A fault of the program is no trouble of its start, which has been told and would come again: the launcher starts it again, however young
// it is (70 is EX_SOFTWARE of sysexits.h).
process.on('uncaughtException', (error) => {
  process.stderr.write(`surge: a fault of the program: ${error.stack ?? error.message}\n`);
  process.exit(70);
});

main().catch((error: unknown) => failStart(messageOf(error), error));
