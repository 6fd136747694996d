// The real server over a database of its own in the cluster that DATABASE_URL names.
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';

const base = process.env.DATABASE_URL;
if (!base) throw new Error('DATABASE_URL is not set: run the tests with ./surge test');
const name = process.env.E2E_DATABASE ?? 'e2e';
const client = new pg.Client({ connectionString: base });
await client.connect();
await client.query(`drop database if exists ${name} with (force)`);
await client.query(`create database ${name}`);
await client.end();
/** The address of a role, with the database of these tests in it. */
const addressOf = (role) => {
  const url = new URL(role);
  url.pathname = `/${name}`;
  return url.href;
};
const keep = mkdtempSync(join(tmpdir(), 'surge-e2e-'));
const [owner, app] = [addressOf(base), addressOf(process.env.DATABASE_APP_URL ?? base)];
const run = (script, env) => [
  process.execPath,
  ['--import', 'tsx', script],
  { stdio: 'inherit', env: { ...process.env, ...env } },
];
const upgraded = spawnSync(...run('server/upgrade.ts', { DATABASE_URL: owner, VAST_SURGE_APP_URL: app, VAST_SURGE_KEEP: keep }));
if (upgraded.status !== 0) process.exit(1);
const server = spawn(...run('server/main.ts', { DATABASE_URL: app, VAST_SURGE_KEEP: keep }));
process.on('SIGTERM', () => server.kill('SIGTERM'));
server.on('exit', (code) => {
  rmSync(keep, { recursive: true, force: true });
  process.exit(code ?? 0);
});
