import type { Request, RequestHandler } from 'express';
import type { Account } from '@vast-surge/contract';
import type { Pool } from '../db/pool.ts';
import { HttpFault } from '../http/fault.ts';
import { deviceThatAsks, noteSeen } from './accounts.ts';
import { noteVisitor } from './audit.ts';
import { actOf, ruleOf } from './rules.ts';
import { closedRig, isAboutClosedRig } from './rig-people.ts';
import { isOver, sessionsOf } from './sessions.ts';
import { asVisitor, hasRole, notAllowed, type Visitor } from './visitor.ts';

/** Whether other devices come in, as the server that is asked knows it. */
export interface Doors {
  readonly isOpen: boolean;
}

/** ms between two notes of when a device was seen. */
const seenEvery = 60_000;

/** Where a request comes from: its connection, or what a proxy that is set says. */
export const addressOf = (req: Request): string => (req.ip ?? '').replace(/^::ffff:/, '');

interface Asking {
  readonly account: Account;
  readonly device: string;
  /** When its device or its roles were taken back, ms; null where they were not. */
  readonly revokedAt: number | null;
}

/** Who a request comes from, by its session; null of whoever is not signed in, or has to sign in again. */
async function askingOf(pool: Pool, req: Request): Promise<Asking | null> {
  const { device: id, signedInAt } = req.session;
  if (id === undefined || signedInAt === undefined) return null;
  const found = await deviceThatAsks(pool, id);
  if (!found) return null;
  const { account, device } = found;
  const ended = device.revokedAt ?? account.endedAt;
  if (ended === null) {
    const now = Date.now();
    if (isOver(device, signedInAt, now)) return null;
    if (now - Date.parse(device.seenAt) > seenEvery || device.address !== addressOf(req))
      await noteSeen(pool, id, addressOf(req));
  }
  return { account, device: id, revokedAt: ended === null ? null : Date.parse(ended) };
}

/** Whether a live run that began before then is still under way. */
async function isRunOpen(pool: Pool, run: string, before: number): Promise<boolean> {
  const { rows } = await pool.query<{ open: boolean }>(
    `select exists (select from runs r left join run_heads h on h.run_id = r.id
       where r.id::text = $1 and r.made_at < to_timestamp($2 / 1000.0) and coalesce(h.head ->> 'at', 'running') = 'running') as open`,
    [run, before],
  );
  return rows[0]?.open === true;
}

export const isOwnAddress = (address: string): boolean => address === '::1' || address.startsWith('127.');

/**
 * Lets a request through to what its person may do, by the one table of routes; a route that is not in it is nobody's. Where the workshop is
 * not open there are no accounts, and whoever uses the machine may do everything: then nothing but this machine is answered.
 */
export function gate(pool: Pool, doors: Doors): RequestHandler {
  let sessions: Promise<RequestHandler> | null = null;
  const withSession = async (...[req, res]: Parameters<RequestHandler>): Promise<void> => {
    sessions ??= sessionsOf(pool).catch((error: unknown) => {
      sessions = null;
      throw error;
    });
    const handler = await sessions;
    await new Promise<void>((resolve, reject) => {
      void handler(req, res, (error?: unknown) => (error ? reject(error as Error) : resolve()));
    });
  };
  const visitorOf = async (req: Request): Promise<Visitor | null> => {
    const rule = ruleOf(req.method, req.path);
    const who = rule?.route.may ?? 'everybody';
    const asking = await askingOf(pool, req);
    if (who === 'anybody' && (!asking || asking.revokedAt !== null)) return null;
    if (!asking) throw new HttpFault('signed_out');
    // What the table does not know is nobody's, whatever might answer there; but for the page of the API, which is files.
    if (!rule && !/^\/docs(\/|$)/.test(req.path)) throw new HttpFault('not_found');
    const { account, device, revokedAt } = asking;
    const isAbort = rule?.route.abort === true;
    let abortsOnly = false;
    if (revokedAt !== null) {
      // Whoever stands beside a charged bank may always break off: a device that was taken back too, until its run ends.
      abortsOnly = isAbort && (await isRunOpen(pool, rule?.about ?? '', revokedAt));
      if (!abortsOnly)
        throw new HttpFault('signed_out', [], 'This device was taken back: it may see and do nothing here any more.');
    } else if (Array.isArray(who) && !hasRole(account, who)) {
      abortsOnly = isAbort;
      if (!abortsOnly) throw notAllowed(who);
    }
    if (!abortsOnly && rule && req.method !== 'GET' && req.method !== 'HEAD') {
      const room = rule.route.path.split('/:')[0]?.slice(1) ?? '';
      // Of a rig that is for others one is who watches, whatever one's roles.
      if (await isAboutClosedRig(pool, account.id, room, rule.about)) {
        abortsOnly = isAbort;
        if (!abortsOnly) throw closedRig();
      }
    }
    const act = rule ? actOf(rule.route) : 'other';
    return { account, device, act, about: rule?.about ?? null, abortsOnly, isNoted: false };
  };
  return async (req, res, next) => {
    if (!doors.isOpen) {
      if (!isOwnAddress(addressOf(req))) throw new HttpFault('forbidden_host');
      next();
      return;
    }
    await withSession(req, res, next);
    const visitor = await visitorOf(req);
    if (!visitor) {
      next();
      return;
    }
    const isAudited = ruleOf(req.method, req.path)?.route.audited === true;
    if (isAudited)
      // What is not noted in the transaction of a write is noted before it is answered: an export that nobody sees in the audit does not go out.
      await asVisitor(visitor, () => noteVisitor(pool));
    asVisitor(visitor, () => next());
  };
}
