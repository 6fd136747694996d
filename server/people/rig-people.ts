import type { Queryable } from '../db/pool.ts';
import { HttpFault } from '../http/fault.ts';
import { visitorNow } from './visitor.ts';

/** The rig that a write is about, by its address up to the id, and that id. */
const rigBy: { readonly [room: string]: string } = {
  rigs: 'select $1::uuid',
  runs: 'select v.rig_id from runs x join revisions v on v.id = x.revision_id where x.id = $1::uuid',
  shots: 'select v.rig_id from shots x join revisions v on v.id = x.revision_id where x.id = $1::uuid',
  'shots/files':
    'select v.rig_id from shot_files f join shots x on x.id = f.shot_id join revisions v on v.id = x.revision_id where f.id = $1::uuid',
  studies: 'select v.rig_id from studies x join revisions v on v.id = x.revision_id where x.id = $1::uuid',
  campaigns: 'select v.rig_id from campaigns x join revisions v on v.id = x.revision_id where x.id = $1::uuid',
};

/** Whether an account may not work on a rig, for it is for others. */
const isClosed = `exists (select from rig_people p where p.rig_id = rig.id)
  and not exists (select from rig_people p where p.rig_id = rig.id and p.account_id = $2)`;

export const closedRig = (): HttpFault =>
  new HttpFault(
    'not_allowed',
    [],
    'This rig is for some people only, and you are not one of them: you may watch it. Whoever administers the workshop can change that.',
  );

/**
 * Whether what is asked is about a rig that is for others.
 *
 * @param room the address up to the id, such as `runs` or `shots/files` @param about that id
 */
export async function isAboutClosedRig(db: Queryable, account: string, room: string, about: string | null): Promise<boolean> {
  const by = rigBy[room];
  if (by === undefined || about === null || !/^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/i.test(about)) return false;
  const { rows } = await db.query<{ closed: boolean }>(`select ${isClosed} as closed from (${by}) as rig(id)`, [about, account]);
  return rows[0]?.closed === true;
}

/** @throws HttpFault where the visitor may not work on the rig */
export async function expectRigOpen(db: Queryable, rigId: string): Promise<void> {
  const visitor = visitorNow();
  if (visitor && (await isAboutClosedRig(db, visitor.account.id, 'rigs', rigId))) throw closedRig();
}

/** Rigs that are for others than this account. */
export async function closedRigs(db: Queryable, account: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'select rig_id as id from rig_people group by rig_id having not bool_or(account_id = $1) order by rig_id',
    [account],
  );
  return rows.map(({ id }) => id);
}

/** Rigs for some people only that an account works on. */
export async function rigsOfPerson(db: Queryable, account: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>('select rig_id as id from rig_people where account_id = $1 order by 1', [
    account,
  ]);
  return rows.map(({ id }) => id);
}

/** Who works on a rig; nobody by name where it is everybody's. */
export async function peopleOfRig(db: Queryable, rigId: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>('select account_id as id from rig_people where rig_id = $1 order by 1', [
    rigId,
  ]);
  return rows.map(({ id }) => id);
}

export async function setPeopleOfRig(db: Queryable, rigId: string, accounts: readonly string[]): Promise<void> {
  await db.query('delete from rig_people where rig_id = $1 and account_id <> all($2::uuid[])', [rigId, accounts]);
  await db.query(
    'insert into rig_people (rig_id, account_id) select $1, id from unnest($2::uuid[]) as id on conflict do nothing',
    [rigId, accounts],
  );
}
