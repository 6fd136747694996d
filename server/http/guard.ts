import type { Request, RequestHandler } from 'express';
import { rateLimit } from 'express-rate-limit';
import { addressOf, isOwnAddress } from '../people/gate.ts';
import { HttpFault, sendFault } from './fault.ts';

const ownNames = new Set(['127.0.0.1', 'localhost', '[::1]']);

const hostName = (host: string): string => host.replace(/:\d+$/, '');

/** A person who follows a link to a page, from wherever: nothing is changed by that, and no other page sees the answer. */
const isNavigation = (req: Request): boolean =>
  req.method === 'GET' &&
  req.headers['sec-fetch-mode'] === 'navigate' &&
  req.headers['sec-fetch-dest'] === 'document' &&
  !req.path.startsWith('/api');

/**
 * Refuses what another page sends here: by name (DNS rebinding), by origin, or because the browser says that it comes from another site,
 * with an origin or without one. It stands before everything that counts requests, so that no other page can use a budget up.
 */
export const ownPagesOnly =
  (doors: { readonly names: readonly string[] }): RequestHandler =>
  (req, res, next) => {
    // Without TLS no other device is answered: one that came to a proxy without it neither.
    if (!req.secure && !isOwnAddress(addressOf(req))) {
      sendFault(res, new HttpFault('forbidden_host', [], 'Other devices are answered over TLS alone.'));
      return;
    }
    const host = req.headers.host ?? '';
    const { origin } = req.headers;
    const site = req.headers['sec-fetch-site'];
    const isForeign =
      (origin !== undefined && origin !== `${req.protocol}://${host}`) ||
      (site !== undefined && site !== 'same-origin' && site !== 'none' && !isNavigation(req));
    const isOwn = ownNames.has(hostName(host)) || doors.names.includes(hostName(host).toLowerCase());
    if (!isOwn || isForeign) sendFault(res, new HttpFault('forbidden_host'));
    else next();
  };

const budget = (limit: number, skip?: (req: Request) => boolean): RequestHandler =>
  rateLimit({
    windowMs: 60_000,
    limit,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    ...(skip ? { skip } : {}),
    handler: (_req, res) => sendFault(res, new HttpFault('too_many')),
  });

const isEvents = (req: Request): boolean => req.method === 'POST' && /^\/(api\/)?runs\/[^/]+\/events\/?$/.test(req.path);

/** Whether a body of events, already parsed, breaks a run off. */
function hasAbort(req: Request): boolean {
  const events: unknown = (req.body as { events?: unknown } | undefined)?.events;
  return Array.isArray(events) && events.slice(0, 500).some((e) => (e as { type?: unknown } | null)?.type === 'aborted');
}

/** All requests of a minute but the events of runs: what is done beside a charged bank has budgets that nothing else uses up. */
export const usualBudget = (rate: number): RequestHandler => budget(rate, isEvents);

/** The budgets of run events: one for what breaks a run off, one for all others. Behind the parser of bodies. */
export const eventBudgets = (rate: number): RequestHandler[] => [
  budget(rate, (req) => !isEvents(req) || hasAbort(req)),
  budget(rate, (req) => !isEvents(req) || !hasAbort(req)),
];
