import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { migrate } from '../db/migrate.ts';
import { openPool, type Pool } from '../db/pool.ts';

export interface TestDatabase {
  readonly url: string;
  readonly pool: Pool;
  drop(): Promise<void>;
}

async function admin(text: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env['DATABASE_URL'] });
  await client.connect();
  await client.query(text);
  await client.end();
}

/** A database of its own in the cluster that DATABASE_URL names: the tests need a real PostgreSQL. */
export async function testDatabase({ migrated = true } = {}): Promise<TestDatabase> {
  const base = process.env['DATABASE_URL'];
  if (!base) throw new Error('DATABASE_URL is not set: run the tests with ./surge test');
  const name = `test_${randomBytes(6).toString('hex')}`;
  await admin(`create database ${name}`);
  const url = new URL(base);
  url.pathname = `/${name}`;
  if (migrated) await migrate(url.href);
  const pool = openPool(url.href, () => undefined);
  return {
    url: url.href,
    pool,
    drop: async () => {
      await pool.end();
      await admin(`drop database ${name} with (force)`);
    },
  };
}
