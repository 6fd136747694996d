import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { loadDemo } from './db/demo.ts';
import { openPool, type Pool } from './db/pool.ts';
import { fail, messageOf } from './fail.ts';
import { createApp } from './http/app.ts';
import { Instruments, readAllowed, type Allowed } from './instruments/instruments.ts';
import { startSweep } from './jobs/sweep.ts';
import { databaseUrl, prepareDatabase } from './prepare.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

function listen(app: ReturnType<typeof createApp>, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1');
    server.once('listening', () => resolve(server));
    server.once('error', reject);
  });
}

function stopOnSignal(server: Server, pool: Pool, endSweep: () => Promise<void>) {
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    // Requests under way are finished; then the connections to the database are given back.
    const sweepEnded = endSweep();
    server.close(() => void sweepEnded.then(() => pool.end()).then(() => process.exit(0)));
    // A connection that is answered now is idle from now on, and a browser would keep it open for seconds.
    setInterval(() => server.closeIdleConnections(), 50).unref();
    setTimeout(() => process.exit(0), 5000).unref();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}

/** What went wrong, without what it went wrong with: errors of the database carry rows and connections along. */
function causeOf(error: unknown) {
  if (!(error instanceof Error)) return { message: String(error) };
  const { name, message, stack } = error;
  return { type: name, message, code: (error as { code?: unknown }).code, stack };
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
  const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn', serializers: { err: causeOf } }, pino.destination(2));
  const pool = openPool(url, (error) => log.warn(`a database connection was lost: ${error.message}`));
  await prepareDatabase(url, pool);
  if (process.env['VAST_SURGE_DEMO'] !== 'no')
    await loadDemo(pool).catch((error: unknown) => fail(`the demo workshop cannot be loaded: ${messageOf(error)}`));
  const { version } = JSON.parse(readFileSync(here('../package.json'), 'utf8')) as { version: string };
  const rate = Number(process.env['VAST_SURGE_RATE'] ?? 1200);
  const instruments = new Instruments(allowedInstruments());
  const app = createApp({ db: pool, log, version, webRoot: here('../web/dist'), rate, instruments });
  const server = await listen(app, port).catch((error: NodeJS.ErrnoException) =>
    fail(
      error.code === 'EADDRINUSE'
        ? `port ${port} is in use; stop what uses it, or set PORT to another`
        : `cannot listen on port ${port}: ${messageOf(error)}`,
    ),
  );
  const pause = Number(process.env['VAST_SURGE_PAUSE'] ?? 60);
  stopOnSignal(server, pool, startSweep(pool, log, { pause, every: Math.min(15_000, pause * 500 + 200) }));
  process.stdout.write(`Vast Surge is at http://127.0.0.1:${port}\n`);
}

main().catch((error: unknown) => fail(messageOf(error)));
