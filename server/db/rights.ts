import pg from 'pg';
import type { Queryable } from './pool.ts';

/**
 * What the application may do with each table. It owns nothing: it can neither truncate nor drop, nor switch a trigger off, and what is kept
 * for ever it can only add to. A test holds this list to the tables that there are.
 */
export const rights: Readonly<Record<string, string>> = {
  rigs: 'select, insert, update',
  // A revision without a name may be named once; a trigger sees to it.
  revisions: 'select, insert, update (name)',
  runs: 'select, insert',
  run_events: 'select, insert',
  campaigns: 'select, insert',
  campaign_entries: 'select, insert',
  checks: 'select, insert',
  shots: 'select, insert, update',
  shot_files: 'select, insert, delete',
  parts: 'select, insert, update',
  lots: 'select, insert, update',
  part_photos: 'select, insert, update, delete',
  part_files: 'select, insert, update',
  writes: 'select, insert, update, delete',
  marks: 'select, insert',
  rig_heads: 'select, insert, update, delete',
  run_heads: 'select, insert, update, delete',
  backups: 'select, insert, delete',
  settings: 'select, insert, update',
  studies: 'select, insert, update (state, fault, digest, ended_at), delete',
  study_chunks: 'select, insert, delete',
  study_workers: 'select, insert, update, delete',
  accounts: 'select, insert, update',
  devices: 'select, insert, update',
  links: 'select, insert, update',
  passkeys: 'select, insert, update, delete',
  rig_people: 'select, insert, delete',
  sessions: 'select, insert, update, delete',
  sign_in_limits: 'select, insert, update, delete',
  audit: 'select, insert',
  migrations: 'select',
};

/** What a host that only works on studies may do: the questions, its chunks, and a sign of life. */
export const workerRights: typeof rights = {
  studies: 'select, update (state, fault, digest, ended_at)',
  revisions: 'select',
  study_chunks: 'select, insert',
  study_workers: 'select, insert, update, delete',
  migrations: 'select',
};

/** Gives a role these rights to tables and no others. Run it as the owner, after every migration. */
export async function grantTables(db: Queryable, role: string, to: typeof rights): Promise<void> {
  const name = pg.escapeIdentifier(role);
  await db.query(`revoke all on all tables in schema public from ${name}`);
  await db.query(`grant usage on schema public to ${name}`);
  for (const [table, what] of Object.entries(to)) await db.query(`grant ${what} on ${pg.escapeIdentifier(table)} to ${name}`);
}

/** Gives the application its rights. Run it as the owner, after every migration. */
export async function grantRights(db: Queryable, role: string): Promise<void> {
  const name = pg.escapeIdentifier(role);
  await db.query(`revoke create on schema public from public`);
  await grantTables(db, role, rights);
  await db.query(`grant usage, select on all sequences in schema public to ${name}`);
}
