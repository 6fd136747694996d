import pg from 'pg';
import { connectionOf } from './connection.ts';

export type Pool = pg.Pool;
/** Anything that runs a statement: the pool, or one client inside a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

export interface PoolOptions {
  /** Connections at the most. */
  readonly max?: number;
  /** ms a statement may take; 0 for work that takes as long as it takes. */
  readonly patience?: number;
}

export function openPool(
  databaseUrl: string,
  onIdleError: (error: Error) => void,
  { max = 10, patience = 10_000 }: PoolOptions = {},
): Pool {
  const pool = new pg.Pool({
    ...connectionOf(databaseUrl),
    max,
    // A server that worked something out meanwhile takes a connection late, and that is not a database that is away.
    connectionTimeoutMillis: 8000,
    statement_timeout: patience,
    // Whoever waits for a table that is being restored is told so soon.
    ...(patience === 0 ? {} : { lock_timeout: 3000 }),
  });
  // A lost idle connection is no reason to end the process: the next request opens another.
  pool.on('error', onIdleError);
  // Nor is one that is lost while somebody holds it, between two statements: the next statement tells whoever holds it, and an event that
  // nobody hears would end the process. Whoever takes connections out of this pool is covered, the queue of studies as well.
  pool.on('connect', (client) => client.on('error', () => undefined));
  addresses.set(pool, databaseUrl);
  return pool;
}

const addresses = new WeakMap<Pool, string>();

/** The address that a pool was opened by, for a thread that opens its own. */
export const addressOf = (pool: Pool): string => addresses.get(pool) ?? '';

const awayCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'ETIMEDOUT',
  'EPIPE',
  'EHOSTUNREACH',
  'ENOTFOUND',
  'EAI_AGAIN',
  '57P01',
  '57P02',
  '57P03',
  '08006',
  '08001',
  '08003',
  '53300',
]);

/** Whether an error says that the database is not to be reached, rather than that a statement is wrong. */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  if (error instanceof AggregateError) return error.errors.some(isDatabaseAway);
  const code = (error as { code?: unknown }).code;
  return (
    (typeof code === 'string' && awayCodes.has(code)) ||
    /Connection terminated|connection error and is not queryable|closed the connection unexpectedly|timeout exceeded when trying to connect/.test(
      error.message,
    )
  );
}

/** Whether an error says that a row with this id or number is there already: unique_violation. */
export const isTaken = (error: unknown): boolean => error instanceof Error && (error as { code?: unknown }).code === '23505';

const codeOf = (error: unknown): string => (error instanceof Error ? String((error as { code?: unknown }).code ?? '') : '');

/** Whether a statement waited too long for another: lock_not_available, deadlock_detected, query_canceled, serialization_failure. */
export const isBusy = (error: unknown): boolean => ['55P03', '40P01', '57014', '40001'].includes(codeOf(error));

/** Whether a disk is full: that of the database, or the one a file was written to. */
export const isDiskFull = (error: unknown): boolean =>
  ['53100', 'ENOSPC', 'EDQUOT'].includes(codeOf(error)) ||
  (error instanceof Error && /No space left on device|disk is full/i.test(error.message));
