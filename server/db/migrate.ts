import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';
import { connectionOf } from './connection.ts';
import type { Queryable } from './pool.ts';

export const migrationsFolder = fileURLToPath(new URL('./migrations', import.meta.url));

/** How the tables of a database stand against this program, by the names of migrations. */
export interface SchemaState {
  readonly applied: readonly string[];
  readonly pending: readonly string[];
  /** Made by a newer program. */
  readonly unknown: readonly string[];
}

/** Every migration this program knows, in its order. */
export const knownMigrations = (): string[] =>
  readdirSync(migrationsFolder)
    .filter((name) => name.endsWith('.sql'))
    .map((name) => name.slice(0, -4))
    .sort();

export async function schemaState(db: Queryable): Promise<SchemaState> {
  const { rows: there } = await db.query<{ there: boolean }>("select to_regclass('public.migrations') is not null as there");
  const { rows } = there[0]?.there
    ? await db.query<{ name: string }>('select name from migrations order by id')
    : { rows: [] as { name: string }[] };
  const applied = rows.map((row) => row.name);
  const known = knownMigrations();
  return {
    applied,
    pending: known.filter((name) => !applied.includes(name)),
    unknown: applied.filter((name) => !known.includes(name)),
  };
}

/** In words, why this program must leave a database alone; null where it need not. */
export const newerWords = ({ unknown }: SchemaState): string | null =>
  unknown.length === 0
    ? null
    : `the database was brought up by a newer Vast Surge (${unknown.join(', ')}), and this program would not know what it reads. Nothing was changed: use that version or a newer one, or restore a backup into an empty workshop`;

/** Brings the database up to the newest migration: all that are pending, or none. @throws the database's own error when one is broken */
export async function migrate(databaseUrl: string): Promise<number> {
  const done = await runner({
    databaseUrl: connectionOf(databaseUrl),
    dir: migrationsFolder,
    direction: 'up',
    migrationsTable: 'migrations',
    singleTransaction: true,
    log: () => undefined,
  });
  return done.length;
}
