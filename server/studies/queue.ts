import pg from 'pg';
import { runMigrations } from 'graphile-worker';
import { silentLogger } from './silent.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { grantTables, workerRights } from '../db/rights.ts';

/** Where the queue keeps its jobs: a schema of its own in the workshop’s database. */
export const queueSchema = 'graphile_worker';

/** Makes the tables of the queue, or brings them up. Run it as the owner. */
export const installQueue = (owner: Pool): Promise<void> =>
  runMigrations({ pgPool: owner, schema: queueSchema, logger: silentLogger() });

/** Gives a role the jobs of the queue. Run it as the owner, after {@link installQueue}. */
export async function grantQueue(db: Queryable, role: string): Promise<void> {
  const name = pg.escapeIdentifier(role);
  await db.query(`grant usage on schema ${queueSchema} to ${name}`);
  await db.query(`grant select, insert, update, delete on all tables in schema ${queueSchema} to ${name}`);
  await db.query(`grant usage, select on all sequences in schema ${queueSchema} to ${name}`);
  await db.query(`grant execute on all functions in schema ${queueSchema} to ${name}`);
  // The queue keeps everybody but its owner from its rows, until a policy lets a role in.
  const { rows } = await db.query<{ table: string }>(
    `select c.relname as table from pg_class c join pg_namespace n on n.oid = c.relnamespace where n.nspname = $1 and c.relrowsecurity`,
    [queueSchema],
  );
  const policy = pg.escapeIdentifier(`for ${role}`);
  for (const { table } of rows) {
    const of = `${queueSchema}.${pg.escapeIdentifier(table)}`;
    await db.query(`drop policy if exists ${policy} on ${of}`);
    await db.query(`create policy ${policy} on ${of} to ${name} using (true) with check (true)`);
  }
}

/** Gives a role what a worker on another host needs, and nothing else. Run it as the owner. */
export async function grantWorker(db: Queryable, role: string): Promise<void> {
  await grantTables(db, role, workerRights);
  await grantQueue(db, role);
}

/** The role of hosts that only work on studies: where it is there, it gets its rights. */
export const workerRole = 'vast_surge_worker';

export async function hasRole(db: Queryable, role: string): Promise<boolean> {
  const { rows } = await db.query('select from pg_roles where rolname = $1', [role]);
  return rows.length > 0;
}

/** Jobs of a program are for workers of that program: another would make other numbers. */
export const taskOf = (program: string): string => `study:${program}`;

export interface ChunkJob {
  readonly study: string;
  readonly number: number;
}

/** Puts chunks of a study into the queue; one that is there already is not put there twice. */
export async function addJobs(
  db: Queryable,
  { id, program, priority }: { readonly id: string; readonly program: string; readonly priority: number },
  numbers: readonly number[],
): Promise<void> {
  await db.query(
    `select ${queueSchema}.add_jobs(array(
       select row($1, json_build_object('study', $2::text, 'number', n), null, null, 100, $2::text || '/' || n, $3::smallint, null)::${queueSchema}.job_spec
       from unnest($4::int[]) as n))`,
    [taskOf(program), id, priority, numbers],
  );
}
