import { randomBytes } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Device } from '@vast-surge/contract';
import type { Pool } from '../db/pool.ts';

declare module 'express-session' {
  interface SessionData {
    device: string;
    /** ms since 1970. */
    signedInAt: number;
  }
}

const hour = 3_600_000;

/** ms that a device stays signed in unused, and at the most, for a visit and for good. */
const life = {
  visit: { idle: 12 * hour, most: 24 * hour },
  good: { idle: 30 * 24 * hour, most: 180 * 24 * hour },
} as const;

const lifeOf = (forGood: boolean) => (forGood ? life.good : life.visit);

/** Whether a device that signed in then and was last seen then has to sign in again. */
export function isOver({ forGood, seenAt }: Pick<Device, 'forGood' | 'seenAt'>, signedInAt: number, now: number): boolean {
  const { idle, most } = lifeOf(forGood);
  // A clock that was set back since makes neither longer.
  const age = Math.max(Math.abs(now - signedInAt), 0);
  return age > most || Math.abs(now - Date.parse(seenAt)) > idle;
}

/** The secret that cookies are signed with: one for every server on the database. */
async function cookieSecret(pool: Pool): Promise<string> {
  await pool.query(
    "insert into settings (name, value) values ('cookie-secret', to_jsonb($1::text)) on conflict (name) do nothing",
    [randomBytes(32).toString('hex')],
  );
  const { rows } = await pool.query<{ secret: string }>(
    "select value #>> '{}' as secret from settings where name = 'cookie-secret'",
  );
  const [row] = rows;
  if (!row) throw new Error('the secret of the cookies cannot be kept');
  return row.secret;
}

/** Sessions in the database, by a cookie that scripts do not see and that no other site makes a browser send with a write. */
export async function sessionsOf(pool: Pool): Promise<RequestHandler> {
  const Store = connectPgSimple(session);
  return session({
    name: 'vast-surge',
    secret: await cookieSecret(pool),
    store: new Store({
      pool,
      tableName: 'sessions',
      // Seen once a minute on the device instead; what ended is swept with all else.
      disableTouch: true,
      pruneSessionInterval: false,
      errorLog: () => undefined,
    }),
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: 'auto', path: '/', maxAge: life.visit.most },
  });
}

const done = (begin: (then: (error: unknown) => void) => void): Promise<void> =>
  new Promise((resolve, reject) => begin((error) => (error ? reject(error as Error) : resolve())));

/** Signs a device in, under a new session: one that somebody was given before is worth nothing. */
export async function beginSession(req: Request, device: string, forGood: boolean): Promise<void> {
  await done((then) => req.session.regenerate(then));
  req.session.device = device;
  req.session.signedInAt = Date.now();
  req.session.cookie.maxAge = lifeOf(forGood).most;
  await done((then) => req.session.save(then));
}

export const endSession = (req: Request): Promise<void> => done((then) => req.session.destroy(then));
