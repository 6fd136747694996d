import { openingSchema, roles, type Opening } from '@vast-surge/contract';
import type { Queryable } from '../db/pool.ts';
import { addLink, isAdministered } from '../people/accounts.ts';
import { noteVisitor, noteAct } from '../people/audit.ts';
import { visitorNow } from '../people/visitor.ts';

/**
 * How the workshop is open to other devices; null where it is not.
 *
 * @throws where the setting is there and cannot be read: then nobody may take it for closed, and let whoever comes in without asking
 */
export async function openingOf(db: Queryable): Promise<Opening | null> {
  const { rows } = await db.query<{ value: unknown }>("select value from settings where name = 'opening'");
  const value = rows[0]?.value ?? null;
  if (value === null) return null;
  const read = openingSchema.safeParse(value);
  if (read.success) return read.data;
  throw new Error('the setting that says how the workshop is open cannot be read; ./surge open or ./surge close writes it anew');
}

/**
 * Opens the workshop, changes how it is open, or closes it; the servers on the database see it within seconds.
 *
 * @returns the link of the first administrator, where there is none yet
 */
export async function setOpening(db: Queryable, opening: Opening | null): Promise<{ token: string; expiresAt: string } | null> {
  await db.query(
    "insert into settings (name, value) values ('opening', $1) on conflict (name) do update set value = excluded.value",
    [JSON.stringify(opening)],
  );
  if (visitorNow()) await noteVisitor(db, opening);
  // Nobody is signed in at the machine itself.
  else await noteAct(db, { who: null, device: null, act: opening ? 'opened' : 'closed', about: null, what: opening });
  return opening && !(await isAdministered(db)) ? addAdministrator(db) : null;
}

/** A link for somebody who administers and does all else: the first one, or whoever has the machine when all others are gone. */
export const addAdministrator = (db: Queryable) =>
  addLink(db, { kind: 'account', roles: roles.filter((role) => role !== 'watches'), by: null });
