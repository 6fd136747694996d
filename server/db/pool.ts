import pg from 'pg';

export type Pool = pg.Pool;
/** Anything that runs a statement: the pool, or one client inside a transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

export function openPool(databaseUrl: string, onIdleError: (error: Error) => void): Pool {
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 10, connectionTimeoutMillis: 3000, statement_timeout: 10_000 });
  // A lost idle connection is no reason to end the process: the next request opens another.
  pool.on('error', onIdleError);
  return pool;
}

const awayCodes = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'ETIMEDOUT',
  'EPIPE',
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
    /Connection terminated|timeout exceeded when trying to connect/.test(error.message)
  );
}

/** Whether an error says that a row with this id or number is there already: unique_violation. */
export const isTaken = (error: unknown): boolean => error instanceof Error && (error as { code?: unknown }).code === '23505';
