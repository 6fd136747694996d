import type { Logger } from 'pino';
import { closeQuietRevisions } from '../db/revisions.ts';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { forgetWrites } from '../db/transaction.ts';

export interface SweepOptions {
  /** Seconds a rig is left alone before its edits are closed into a revision. */
  readonly pause: number;
  /** Milliseconds between two sweeps. */
  readonly every: number;
}

/**
 * Closes quiet edits into revisions and forgets old write keys, again and again. Because it looks at what is in the
 * database and keeps nothing in memory, a server that was killed takes up where it was.
 *
 * @returns a function that ends it and waits for a sweep under way
 */
export function startSweep(pool: Pool, log: Logger, { pause, every }: SweepOptions): () => Promise<void> {
  let running: Promise<void> | null = null;
  const sweep = async () => {
    try {
      await closeQuietRevisions(pool, pause);
      await forgetWrites(pool);
    } catch (error) {
      if (isDatabaseAway(error)) log.warn('the sweep waits: the database does not answer');
      else log.error({ err: error }, 'the sweep failed');
    }
  };
  const tick = () => {
    running ??= sweep().finally(() => {
      running = null;
    });
  };
  tick();
  const timer = setInterval(tick, every);
  return async () => {
    clearInterval(timer);
    await running;
  };
}
