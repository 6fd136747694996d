import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';

/** Brings the database up to the newest migration. @throws the database's own error when a migration is broken */
export async function migrate(databaseUrl: string): Promise<number> {
  const done = await runner({
    databaseUrl,
    dir: fileURLToPath(new URL('./migrations', import.meta.url)),
    direction: 'up',
    migrationsTable: 'migrations',
    log: () => undefined,
  });
  return done.length;
}
