import { isIP } from 'node:net';
import {
  generateAuthenticationOptions,
  generateRegistrationOptions,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
  type AuthenticationResponseJSON,
  type AuthenticatorTransport,
  type RegistrationResponseJSON,
} from '@simplewebauthn/server';
import type { Request } from 'express';
import type { Account, Passkey } from '@vast-surge/contract';
import type { Queryable } from '../db/pool.ts';
import { HttpFault } from '../http/fault.ts';

declare module 'express-session' {
  interface SessionData {
    /** What a device has to sign, for one thing and for five minutes. */
    challenge: { readonly value: string; readonly of: 'add' | 'sign-in'; readonly at: number };
  }
}

/** ms that somebody has to touch a sensor in. */
const challengeLife = 300_000;

/** The host name that a request asks by. @throws HttpFault at a bare address, where browsers have no passkeys */
function hostOf(req: Request): { readonly host: string; readonly origin: string } {
  if (isIP(req.hostname.replace(/^\[|\]$/g, '')) !== 0)
    throw new HttpFault('conflict', [], 'Browsers have no passkeys for a bare address: ask this workshop by its host name.');
  return { host: req.hostname, origin: `${req.protocol}://${req.get('host') ?? ''}` };
}

/** The challenge that was given out for this, once. @throws HttpFault where there is none, or it is too old */
function takenChallenge(req: Request, of: 'add' | 'sign-in'): string {
  const { challenge } = req.session;
  delete req.session.challenge;
  if (challenge?.of === of && Math.abs(Date.now() - challenge.at) < challengeLife) return challenge.value;
  throw new HttpFault('conflict', [], 'This took too long, or was done already: begin again.');
}

const put = (req: Request, value: string, of: 'add' | 'sign-in'): void => {
  req.session.challenge = { value, of, at: Date.now() };
};

interface Row {
  id: string;
  account_id: string;
  public_key: Buffer;
  uses: string;
  transports: string[];
  name: string;
  host: string;
  made_at: Date;
  used_at: Date | null;
}

const shown = ({ id, name, host, made_at, used_at }: Row): Passkey => ({
  id,
  name,
  host,
  madeAt: made_at.toISOString(),
  usedAt: used_at?.toISOString() ?? null,
});

const rowsOf = async (db: Queryable, account: string): Promise<Row[]> =>
  (await db.query<Row>('select * from passkeys where account_id = $1 order by made_at', [account])).rows;

export const passkeysOf = async (db: Queryable, account: string): Promise<Passkey[]> => (await rowsOf(db, account)).map(shown);

/** Takes all passkeys of an account back. */
export const removePasskeys = (db: Queryable, account: string) =>
  db.query('delete from passkeys where account_id = $1', [account]);

/** @returns whether there was such a passkey of this account */
export async function removePasskey(db: Queryable, account: string, id: string): Promise<boolean> {
  const { rowCount } = await db.query('delete from passkeys where account_id = $1 and id = $2', [account, id]);
  return rowCount === 1;
}

/** What a browser makes a passkey from. @throws HttpFault */
export async function passkeyToMake(db: Queryable, req: Request, account: Account): Promise<object> {
  const { host } = hostOf(req);
  const options = await generateRegistrationOptions({
    rpName: 'Vast Surge',
    rpID: host,
    userName: account.name ?? 'somebody',
    userID: new TextEncoder().encode(account.id),
    attestationType: 'none',
    // It says who it is for, and it asks for a finger, a face or a PIN: it stands for name, password and second factor together.
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
    excludeCredentials: (await rowsOf(db, account.id)).map(({ id }) => ({ id })),
  });
  put(req, options.challenge, 'add');
  return options;
}

const refused = (): HttpFault =>
  new HttpFault('conflict', [], 'The passkey was not made: what the browser sent is not what was asked.');

/** Keeps the passkey that a browser made. @throws HttpFault where it is none for this */
export async function keepPasskey(
  db: Queryable,
  req: Request,
  account: Account,
  { name, response }: { readonly name: string; readonly response: object },
): Promise<Passkey> {
  const { host, origin } = hostOf(req);
  const verified = await verifyRegistrationResponse({
    response: response as RegistrationResponseJSON,
    expectedChallenge: takenChallenge(req, 'add'),
    expectedOrigin: origin,
    expectedRPID: host,
    requireUserVerification: true,
  }).catch(() => null);
  if (!verified?.verified) throw refused();
  const { credential } = verified.registrationInfo;
  const { rows } = await db.query<Row>(
    `insert into passkeys (id, account_id, public_key, uses, transports, name, host) values ($1, $2, $3, $4, $5, $6, $7)
     on conflict (id) do nothing returning *`,
    [credential.id, account.id, Buffer.from(credential.publicKey), credential.counter, credential.transports ?? [], name, host],
  );
  const [row] = rows;
  if (!row) throw refused();
  return shown(row);
}

/** What a browser signs in with a passkey by: it says itself whose it is. @throws HttpFault */
export async function passkeyToAsk(req: Request): Promise<object> {
  const { host } = hostOf(req);
  const options = await generateAuthenticationOptions({ rpID: host, userVerification: 'required' });
  put(req, options.challenge, 'sign-in');
  return options;
}

/** Whose passkey signed what was asked; null where it is nobody's, or signed something else. @throws HttpFault */
export async function passkeySigned(db: Queryable, req: Request, response: object): Promise<string | null> {
  const { host, origin } = hostOf(req);
  const expectedChallenge = takenChallenge(req, 'sign-in');
  const { id } = response as { readonly id?: unknown };
  const { rows } = await db.query<Row>('select * from passkeys where id = $1', [typeof id === 'string' ? id : '']);
  const [row] = rows;
  if (!row) return null;
  const verified = await verifyAuthenticationResponse({
    response: response as AuthenticationResponseJSON,
    expectedChallenge,
    expectedOrigin: origin,
    expectedRPID: host,
    requireUserVerification: true,
    credential: {
      id: row.id,
      publicKey: new Uint8Array(row.public_key),
      counter: Number(row.uses),
      transports: row.transports as AuthenticatorTransport[],
    },
  }).catch(() => null);
  if (!verified?.verified) return null;
  await db.query('update passkeys set uses = $2, used_at = now() where id = $1', [
    row.id,
    verified.authenticationInfo.newCounter,
  ]);
  return row.account_id;
}
