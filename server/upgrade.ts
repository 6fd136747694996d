// Brings the tables of a database up to this program, as their owner, and gives the application its rights. The server itself may not.
import { execFile } from 'node:child_process';
import { mkdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { migrate, newerWords, schemaState } from './db/migrate.ts';
import { openPool, isDatabaseAway } from './db/pool.ts';
import { grantRights } from './db/rights.ts';
import { fail, messageOf } from './fail.ts';
import { databaseUrl, whenAnswering } from './prepare.ts';
import { grantQueue, grantWorker, hasRole, installQueue, workerRole } from './studies/queue.ts';

const run = promisify(execFile);
const tool = (name: string) => (process.env['PG_BIN'] ? join(process.env['PG_BIN'], name) : name);

/** The whole database as PostgreSQL's own tool writes it, read back once: older tables are nothing this program could archive. */
async function dump(url: string, keepIn: string, from: string): Promise<string> {
  const folder = join(keepIn, 'backups');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const path = join(folder, `before-upgrade-from-${from}-${new Date().toISOString().replace(/[:.]/g, '-')}.dump`);
  try {
    // A password goes by the environment: arguments stand in the list of processes.
    const bare = new URL(url);
    const { password } = bare;
    bare.password = '';
    const env = password === '' ? process.env : { ...process.env, PGPASSWORD: decodeURIComponent(password) };
    await run(tool('pg_dump'), ['--format=custom', `--file=${path}`, `--dbname=${bare.href}`], { env });
    await run(tool('pg_restore'), ['--file=/dev/null', path], { maxBuffer: 64 * 1024 * 1024 });
    if ((await stat(path)).size === 0) throw new Error('it is empty');
    return path;
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
}

async function main(): Promise<void> {
  const url = databaseUrl();
  const pool = openPool(url, () => undefined, { max: 2, patience: 0 });
  await whenAnswering(pool);
  const state = await schemaState(pool);
  const newer = newerWords(state);
  if (newer) fail(newer);
  if (state.pending.length > 0) {
    const last = state.applied.at(-1);
    let kept: string | null = null;
    if (last !== undefined && process.env['VAST_SURGE_UPGRADE_WITHOUT_BACKUP'] !== 'yes')
      kept = await dump(url, process.env['VAST_SURGE_KEEP'] ?? '.', last).catch((error: unknown) =>
        fail(
          `the database was not upgraded, because the backup before it cannot be made: ${messageOf(error)}. Nothing was changed; VAST_SURGE_UPGRADE_WITHOUT_BACKUP=yes does without`,
        ),
      );
    await migrate(url).catch((error: unknown) =>
      fail(isDatabaseAway(error) ? 'the database went away during migration' : `a migration is broken: ${messageOf(error)}`),
    );
    if (kept !== null)
      process.stderr.write(
        `surge: the database was upgraded from ${last ?? ''} to ${state.pending.at(-1) ?? ''}; as it was before it is kept in ${kept}\n`,
      );
  }
  await installQueue(pool).catch((error: unknown) => fail(`the queue of studies cannot be brought up: ${messageOf(error)}`));
  const app = process.env['VAST_SURGE_APP_URL'];
  const [owner, role] = [new URL(url).username, app ? new URL(app).username : ''];
  if (role !== '' && role !== owner)
    await grantRights(pool, decodeURIComponent(role))
      .then(() => grantQueue(pool, decodeURIComponent(role)))
      .catch((error: unknown) => fail(`the rights of ${role} cannot be set: ${messageOf(error)}`));
  if (await hasRole(pool, workerRole))
    await grantWorker(pool, workerRole).catch((error: unknown) =>
      fail(`the rights of ${workerRole} cannot be set: ${messageOf(error)}`),
    );
  await pool.end();
}

main().catch((error: unknown) => fail(messageOf(error)));
