// The real server over a database of its own in the cluster that DATABASE_URL names.
import { spawn } from 'node:child_process';
import pg from 'pg';

const base = process.env.DATABASE_URL;
if (!base) throw new Error('DATABASE_URL is not set: run the tests with ./surge test');
const name = 'e2e';
const client = new pg.Client({ connectionString: base });
await client.connect();
await client.query(`drop database if exists ${name} with (force)`);
await client.query(`create database ${name}`);
await client.end();
const url = new URL(base);
url.pathname = `/${name}`;

const server = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], {
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: url.href },
});
process.on('SIGTERM', () => server.kill('SIGTERM'));
server.on('exit', (code) => process.exit(code ?? 0));
