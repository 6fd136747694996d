import { migrate } from './db/migrate.ts';
import { isDatabaseAway, type Pool } from './db/pool.ts';
import { fail, messageOf } from './fail.ts';

/** Sees that the database answers and brings it up to the newest migration, or ends the process with one clear line. */
export async function prepareDatabase(databaseUrl: string, pool: Pool): Promise<void> {
  await pool
    .query('select 1')
    .catch((error: unknown) => fail(`the database cannot be reached: ${messageOf(error) || 'no answer'}`));
  await migrate(databaseUrl).catch((error: unknown) =>
    fail(isDatabaseAway(error) ? 'the database went away during migration' : `a migration is broken: ${messageOf(error)}`),
  );
}

/** The address of the database, or the end of the process with one clear line. */
export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  return url ? url : fail('DATABASE_URL is not set; use ./surge');
}
