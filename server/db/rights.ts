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

/** Gives a role these rights and no others. Run it as the owner, after every migration. */
export async function grantRights(db: Queryable, role: string): Promise<void> {
  const name = pg.escapeIdentifier(role);
  await db.query(`revoke all on all tables in schema public from ${name}`);
  await db.query(`revoke create on schema public from public`);
  await db.query(`grant usage on schema public to ${name}`);
  for (const [table, what] of Object.entries(rights)) await db.query(`grant ${what} on ${pg.escapeIdentifier(table)} to ${name}`);
  await db.query(`grant usage, select on all sequences in schema public to ${name}`);
}
