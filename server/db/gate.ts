import type { PoolClient } from 'pg';
import type { Pool, Queryable } from './pool.ts';
import { inTransaction } from './transaction.ts';

/**
 * The gate that every write goes through: writes hold it together, a restore or a reset holds it alone. What was acknowledged before is
 * in the safety copy, what comes while it is shut is refused and acknowledged by nobody.
 */
const gate = 7_218_054;

/** A write that came while the workshop is being restored. */
export class GateShut extends Error {
  constructor() {
    super('the workshop is being restored');
    this.name = 'GateShut';
  }
}

/** A transaction that writes. @throws GateShut at once where the workshop is being restored */
export const writing = <T>(pool: Pool, work: (client: PoolClient) => Promise<T>): Promise<T> =>
  inTransaction(pool, async (client) => {
    const { rows } = await client.query<{ open: boolean }>('select pg_try_advisory_xact_lock_shared($1) as open', [gate]);
    if (!rows[0]?.open) throw new GateShut();
    return work(client);
  });

/** A transaction that nobody else writes beside: it waits for the writes under way, and those that come meanwhile are refused. */
export const writingAlone = <T>(pool: Pool, work: (client: PoolClient) => Promise<T>): Promise<T> =>
  inTransaction(pool, async (client) => {
    await shutGate(client);
    return work(client);
  });

async function shutGate(client: Queryable): Promise<void> {
  await client.query('set local statement_timeout = 0');
  // Readers give up sooner than this: it is never the restore that is broken off.
  await client.query("set local lock_timeout = '120s'");
  await client.query('select pg_advisory_xact_lock($1)', [gate]);
}
