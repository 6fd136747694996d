import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { Account, Device, LinkKind, Person, Role } from '@vast-surge/contract';
import type { Queryable } from '../db/pool.ts';

interface AccountRow {
  id: string;
  name: string | null;
  password: string | null;
  roles: Role[];
  made_at: Date;
  ended_at: Date | null;
  factor: string | null;
  factor_step: string;
}

const accountOf = (row: AccountRow): Account => ({
  id: row.id,
  name: row.name,
  roles: row.roles,
  madeAt: row.made_at.toISOString(),
  endedAt: row.ended_at?.toISOString() ?? null,
  hasFactor: row.factor !== null,
});

interface DeviceRow {
  id: string;
  account_id: string;
  name: string;
  for_good: boolean;
  address: string;
  made_at: Date;
  seen_at: Date;
  revoked_at: Date | null;
}

const deviceOf = (row: DeviceRow): Device => ({
  id: row.id,
  name: row.name,
  forGood: row.for_good,
  madeAt: row.made_at.toISOString(),
  seenAt: row.seen_at.toISOString(),
  address: row.address,
  revokedAt: row.revoked_at?.toISOString() ?? null,
});

/** An account with what it signs in by, as that is kept. */
export interface KeptAccount {
  readonly account: Account;
  readonly password: string | null;
  readonly factor: string | null;
  /** The step of the last code that was taken. */
  readonly factorStep: number;
}

const keptOf = (row: AccountRow | undefined): KeptAccount | null =>
  row ? { account: accountOf(row), password: row.password, factor: row.factor, factorStep: Number(row.factor_step) } : null;

/** An account with its password as it is kept, by its name in any letters. */
export async function accountNamed(db: Queryable, name: string): Promise<KeptAccount | null> {
  const { rows } = await db.query<AccountRow>('select * from accounts where lower(name) = lower($1)', [name]);
  return keptOf(rows[0]);
}

export async function findAccount(db: Queryable, id: string): Promise<KeptAccount | null> {
  const { rows } = await db.query<AccountRow>('select * from accounts where id = $1', [id]);
  return keptOf(rows[0]);
}

/** Everybody with their devices, those who went last. */
export async function people(db: Queryable): Promise<Person[]> {
  const { rows } = await db.query<AccountRow>('select * from accounts order by ended_at is not null, lower(name), made_at');
  const devices = await db.query<DeviceRow>('select * from devices order by revoked_at is not null, seen_at desc limit 5000');
  return rows.map((row) => ({
    ...accountOf(row),
    devices: devices.rows.filter(({ account_id }) => account_id === row.id).map(deviceOf),
  }));
}

export async function devicesOf(db: Queryable, account: string): Promise<Device[]> {
  const { rows } = await db.query<DeviceRow>('select * from devices where account_id = $1 order by seen_at desc', [account]);
  return rows.map(deviceOf);
}

/** Whether anybody administers who can sign in. @param but without this one */
export async function isAdministered(db: Queryable, but: string | null = null): Promise<boolean> {
  const { rows } = await db.query<{ any: boolean }>(
    "select exists (select from accounts where 'administers' = any (roles) and ended_at is null and name is not null and id is distinct from $1) as any",
    [but],
  );
  return rows[0]?.any === true;
}

export async function addAccount(db: Queryable, name: string, password: string, roles: readonly Role[]): Promise<string> {
  const id = randomUUID();
  await db.query('insert into accounts (id, name, password, roles) values ($1, $2, $3, $4)', [id, name, password, roles]);
  return id;
}

export const setPassword = (db: Queryable, id: string, password: string) =>
  db.query('update accounts set password = $2 where id = $1', [id, password]);

/** Switches the second factor on, or off by null. */
export const setFactor = (db: Queryable, id: string, factor: string | null, step: number) =>
  db.query('update accounts set factor = $2, factor_step = $3 where id = $1', [id, factor, step]);

/** Takes the code of a step, once. @returns false where that one or a later was taken before */
export async function takeStep(db: Queryable, id: string, step: number): Promise<boolean> {
  const { rowCount } = await db.query('update accounts set factor_step = $2 where id = $1 and factor_step < $2', [id, step]);
  return rowCount === 1;
}

export const setRoles = (db: Queryable, id: string, roles: readonly Role[]) =>
  db.query('update accounts set roles = $2 where id = $1', [id, roles]);

/** Ends an account with all its devices, or lets it come in again. */
export async function setEnded(db: Queryable, id: string, ended: boolean): Promise<void> {
  await db.query('update accounts set ended_at = case when $2 then coalesce(ended_at, now()) end where id = $1', [id, ended]);
  if (ended) await revokeDevices(db, id, null);
}

/** Takes name, password, and what is kept of the devices of a person out: the id stays in the audit and in runs. */
export async function forget(db: Queryable, id: string): Promise<void> {
  await setEnded(db, id, true);
  await db.query('update accounts set name = null, password = null, factor = null where id = $1', [id]);
  await db.query('delete from passkeys where account_id = $1', [id]);
  await db.query("update devices set name = 'taken out', address = '' where account_id = $1", [id]);
}

export async function addDevice(
  db: Queryable,
  account: string,
  { name, forGood, address }: Pick<Device, 'name' | 'forGood' | 'address'>,
): Promise<string> {
  const id = randomUUID();
  await db.query('insert into devices (id, account_id, name, for_good, address) values ($1, $2, $3, $4, $5)', [
    id,
    account,
    name,
    forGood,
    address,
  ]);
  return id;
}

/** Takes a device back, of one person or of anybody. @returns false where there is none that could be */
export async function revokeDevice(db: Queryable, id: string, account: string | null): Promise<boolean> {
  const { rowCount } = await db.query(
    'update devices set revoked_at = coalesce(revoked_at, now()) where id = $1 and ($2::uuid is null or account_id = $2)',
    [id, account],
  );
  return rowCount === 1;
}

/** Takes all devices of a person back. @param but without this one */
export const revokeDevices = (db: Queryable, account: string, but: string | null) =>
  db.query(
    'update devices set revoked_at = coalesce(revoked_at, now()) where account_id = $1 and id is distinct from $2 and revoked_at is null',
    [account, but],
  );

/** A device that asks, with its account. */
export async function deviceThatAsks(db: Queryable, id: string): Promise<{ account: Account; device: Device } | null> {
  const { rows } = await db.query<AccountRow & { of: DeviceRow }>(
    `select a.*, json_build_object('id', d.id, 'account_id', d.account_id, 'name', d.name, 'for_good', d.for_good, 'address', d.address,
       'made_at', d.made_at, 'seen_at', d.seen_at, 'revoked_at', d.revoked_at) as of
     from devices d join accounts a on a.id = d.account_id where d.id = $1`,
    [id],
  );
  const [row] = rows;
  if (!row) return null;
  const dated = (text: unknown) => new Date(String(text));
  const { of } = row;
  return {
    account: accountOf(row),
    device: deviceOf({
      ...of,
      made_at: dated(of.made_at),
      seen_at: dated(of.seen_at),
      revoked_at: of.revoked_at === null ? null : dated(of.revoked_at),
    }),
  };
}

/** Whether a device and its account were not taken back. */
export async function isLetIn(db: Queryable, device: string): Promise<boolean> {
  const found = await deviceThatAsks(db, device);
  return found !== null && found.device.revokedAt === null && found.account.endedAt === null;
}

export const noteSeen = (db: Queryable, device: string, address: string) =>
  db.query('update devices set seen_at = now(), address = $2 where id = $1', [device, address]);

/** s that a link can be taken up. */
const linkLife: { readonly [K in LinkKind]: number } = { account: 3 * 86_400, password: 86_400, device: 600 };

const digestOf = (token: string): Buffer => createHash('sha256').update(token).digest();

export interface NewLink {
  readonly kind: LinkKind;
  readonly roles?: readonly Role[];
  readonly account?: string | null;
  readonly by: string | null;
}

/** Makes a link that is taken up once. @returns its secret, which is kept nowhere */
export async function addLink(
  db: Queryable,
  { kind, roles = [], account = null, by }: NewLink,
): Promise<{ token: string; expiresAt: string }> {
  const token = randomBytes(32).toString('base64url');
  const { rows } = await db.query<{ expires_at: Date }>(
    `insert into links (digest, kind, roles, account_id, made_by, expires_at)
     values ($1, $2, $3, $4, $5, date_trunc('milliseconds', now()) + $6 * interval '1 s') returning expires_at`,
    [digestOf(token), kind, roles, account, by, linkLife[kind]],
  );
  return { token, expiresAt: rows[0]?.expires_at.toISOString() ?? '' };
}

export interface FoundLink {
  readonly kind: LinkKind;
  readonly roles: readonly Role[];
  readonly account: string | null;
  readonly name: string | null;
  readonly expiresAt: string;
}

interface LinkRow {
  kind: LinkKind;
  roles: Role[];
  account_id: string | null;
  name: string | null;
  expires_at: Date;
}

const canBeTaken = 'l.digest = $1 and l.used_at is null and l.expires_at > now() and a.ended_at is null';

const linkOf = (row: LinkRow | undefined): FoundLink | null =>
  row
    ? { kind: row.kind, roles: row.roles, account: row.account_id, name: row.name, expiresAt: row.expires_at.toISOString() }
    : null;

/** A link that can still be taken up. */
export async function findLink(db: Queryable, token: string): Promise<FoundLink | null> {
  const { rows } = await db.query<LinkRow>(
    `select l.*, a.name from links l left join accounts a on a.id = l.account_id where ${canBeTaken}`,
    [digestOf(token)],
  );
  return linkOf(rows[0]);
}

/** Takes a link up: of two who try at once one gets it. */
export async function takeLink(db: Queryable, token: string): Promise<FoundLink | null> {
  const found = await findLink(db, token);
  if (!found) return null;
  const { rowCount } = await db.query('update links set used_at = now() where digest = $1 and used_at is null', [
    digestOf(token),
  ]);
  return rowCount === 1 ? found : null;
}

/** Forgets what can no longer be used: links, and sessions that ended. */
export async function forgetEnded(db: Queryable): Promise<void> {
  await db.query("delete from sessions where expire < now() - interval '1 day'");
}
