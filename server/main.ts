import { readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { loadDemo } from './db/demo.ts';
import { migrate } from './db/migrate.ts';
import { isDatabaseAway, openPool, type Pool } from './db/pool.ts';
import { createApp } from './http/app.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** One clear line on the error output and a non-zero exit. */
function fail(message: string): never {
  process.stderr.write(`surge: ${message}\n`);
  process.exit(1);
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error)).split('\n')[0] ?? '';

function listen(app: ReturnType<typeof createApp>, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1');
    server.once('listening', () => resolve(server));
    server.once('error', reject);
  });
}

async function prepare(databaseUrl: string, pool: Pool, demo: boolean): Promise<void> {
  await pool
    .query('select 1')
    .catch((error: unknown) => fail(`the database cannot be reached: ${messageOf(error) || 'no answer'}`));
  await migrate(databaseUrl).catch((error: unknown) =>
    fail(isDatabaseAway(error) ? 'the database went away during migration' : `a migration is broken: ${messageOf(error)}`),
  );
  if (demo) await loadDemo(pool).catch((error: unknown) => fail(`the demo workshop cannot be loaded: ${messageOf(error)}`));
}

function stopOnSignal(server: Server, pool: Pool) {
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    // Requests under way are finished; then the connections to the database are given back.
    server.close(() => void pool.end().then(() => process.exit(0)));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 5000).unref();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
}

async function main(): Promise<void> {
  const databaseUrl = process.env['DATABASE_URL'];
  if (!databaseUrl) fail('DATABASE_URL is not set; start the server with ./surge start');
  const port = Number(process.env['PORT'] ?? 4600);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    fail(`PORT is "${process.env['PORT'] ?? ''}"; it must be a whole number from 1 to 65535`);
  const log = pino({ level: process.env['LOG_LEVEL'] ?? 'warn' }, pino.destination(2));
  const pool = openPool(databaseUrl, (error) => log.warn({ err: error }, 'a database connection was lost'));
  await prepare(databaseUrl, pool, process.env['VAST_SURGE_DEMO'] !== 'no');
  const { version } = JSON.parse(readFileSync(here('../package.json'), 'utf8')) as { version: string };
  const rate = Number(process.env['VAST_SURGE_RATE'] ?? 1200);
  const app = createApp({ db: pool, log, version, webRoot: here('../web/dist'), rate });
  const server = await listen(app, port).catch((error: NodeJS.ErrnoException) =>
    fail(
      error.code === 'EADDRINUSE'
        ? `port ${port} is in use; stop what uses it, or set PORT to another`
        : `cannot listen on port ${port}: ${messageOf(error)}`,
    ),
  );
  stopOnSignal(server, pool);
  process.stdout.write(`Vast Surge is at http://127.0.0.1:${port}\n`);
}

main().catch((error: unknown) => fail(messageOf(error)));
