import { randomBytes } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import pg from 'pg';
import { migrate } from '../db/migrate.ts';
import { openPool, type Pool } from '../db/pool.ts';
import { grantRights } from '../db/rights.ts';
import { grantQueue, installQueue } from '../studies/queue.ts';

export interface TestDatabase {
  /** As the owner. */
  readonly url: string;
  /** As the application, with its rights and no others: what the server does, it does with these. */
  readonly pool: Pool;
  /** As the owner, for restores and for what a test breaks on purpose. */
  readonly owner: Pool;
  /** Ends every connection and lets nobody in for so many ms, as a database that was killed and comes back. */
  away(ms: number): Promise<void>;
  drop(): Promise<void>;
}

async function admin(text: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
  await client.query(text);
  await client.end();
}

/** An address with another database in it. */
export function named(base: string, name: string): string {
  const url = new URL(base);
  url.pathname = `/${name}`;
  return url.href;
}

/** A database of its own in the cluster that DATABASE_URL names: the tests need a real PostgreSQL. */
export async function testDatabase({ migrated = true } = {}): Promise<TestDatabase> {
  const [base, app] = [process.env['DATABASE_URL'], process.env['DATABASE_APP_URL']];
  if (!base || !app) throw new Error('DATABASE_URL and DATABASE_APP_URL are not set: run the tests with ./surge test');
  const name = `test_${randomBytes(6).toString('hex')}`;
  await admin(`create database ${name}`);
  const url = named(base, name);
  const owner = openPool(url, () => undefined, { patience: 0 });
  if (migrated) {
    await migrate(url);
    await installQueue(owner);
    await grantRights(owner, new URL(app).username);
    await grantQueue(owner, new URL(app).username);
  }
  const pool = openPool(named(app, name), () => undefined);
  return {
    url,
    pool,
    owner,
    away: async (ms) => {
      await admin(`alter database ${name} with allow_connections false`);
      await admin(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
      await sleep(ms);
      await admin(`alter database ${name} with allow_connections true`);
    },
    drop: async () => {
      await pool.end();
      await owner.end();
      await admin(`drop database ${name} with (force)`);
    },
  };
}
