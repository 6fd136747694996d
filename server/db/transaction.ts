import type pg from 'pg';
import type { Pool, Queryable } from './pool.ts';

/**
 * Runs `work` in one transaction: everything it wrote is committed before this resolves, or nothing is.
 *
 * @param isolation `repeatable read` where several reads must see one state
 */
export async function inTransaction<T>(
  pool: Pool,
  work: (client: pg.PoolClient) => Promise<T>,
  isolation: 'read committed' | 'repeatable read' = 'read committed',
): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  // A connection that is lost between two statements says so by an event, and an event that nobody hears ends the process.
  const onLost = (error: Error) => {
    broken = error;
  };
  client.on('error', onLost);
  try {
    await client.query(`begin isolation level ${isolation}`);
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    // Where the rollback fails too, the connection is gone; the server ends the transaction by itself.
    await client.query('rollback').catch((failure: unknown) => {
      broken = failure instanceof Error ? failure : new Error(String(failure));
    });
    throw error;
  } finally {
    client.off('error', onLost);
    client.release(broken);
  }
}

export interface Answer {
  readonly status: number;
  readonly body: unknown;
}

interface WriteRow {
  request: string;
  status: number | null;
  response: unknown;
}

/** A key that was used for another request. */
export class KeyReused extends Error {
  constructor() {
    super('this key was used for another request');
    this.name = 'KeyReused';
  }
}

/**
 * Does a write once for each key, within the transaction of the write. The key is taken in the same transaction as the write, so that both stand or neither;
 * a repetition waits for the first to end and is given its answer. A write that throws leaves its key unused.
 *
 * @param request what was asked, as text that two different requests never share
 * @throws KeyReused where the key belongs to another request
 */
export async function writeOnce(
  client: Queryable,
  key: string,
  request: string,
  work: (client: Queryable) => Promise<Answer>,
): Promise<Answer> {
  const taken = await client.query('insert into writes (key, request) values ($1, $2) on conflict (key) do nothing', [
    key,
    request,
  ]);
  if (taken.rowCount === 0) {
    const { rows } = await client.query<WriteRow>('select request, status, response from writes where key = $1', [key]);
    const [done] = rows;
    if (!done || done.request !== request) throw new KeyReused();
    return { status: done.status ?? 200, body: done.response };
  }
  const answer = await work(client);
  await client.query('update writes set status = $2, response = $3 where key = $1', [
    key,
    answer.status,
    JSON.stringify(answer.body),
  ]);
  return answer;
}

/** Forgets keys of writes so old that nobody sends them again. @returns how many */
export async function forgetWrites(db: Queryable, olderThanDays = 90): Promise<number> {
  const { rowCount } = await db.query("delete from writes where made_at < now() - $1 * interval '1 day'", [olderThanDays]);
  return rowCount ?? 0;
}
