import type { Logger } from 'pino';
import { GateShut, writing } from '../db/gate.ts';
import { closeQuietRevisions } from '../db/revisions.ts';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { forgetWrites } from '../db/transaction.ts';
import { forgetEnded } from '../people/accounts.ts';
import { repeat, type Repeated } from './repeat.ts';

export interface SweepOptions {
  /** Seconds a rig is left alone before its edits are closed into a revision. */
  readonly pause: number;
  /** Milliseconds between two sweeps. */
  readonly every: number;
}

/**
 * Closes quiet edits into revisions and forgets old write keys, again and again. Because it looks at what is in the
 * database and keeps nothing in memory, a server that was killed takes up where it was.
 */
export const startSweep = (pool: Pool, log: Logger, { pause, every }: SweepOptions): Repeated =>
  repeat(every, async () => {
    try {
      await writing(pool, (client) => closeQuietRevisions(client, pause));
      await writing(pool, (client) => forgetWrites(client));
      await forgetEnded(pool);
    } catch (error) {
      // Edits that are quiet now are quiet after a restore, or are not there any more.
      if (error instanceof GateShut) return;
      if (isDatabaseAway(error)) log.warn('the sweep waits: the database does not answer');
      else log.error({ err: error }, 'the sweep failed');
    }
  });
