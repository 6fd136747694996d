import { setTimeout as sleep } from 'node:timers/promises';
import { newerWords, schemaState } from './db/migrate.ts';
import { isDatabaseAway, type Pool } from './db/pool.ts';
import { fail, messageOf } from './fail.ts';

/** ms that a database which is not there at all is waited for: the launcher starts one again that was killed. */
const startedAgain = Number(process.env['VAST_SURGE_PATIENCE'] ?? 0);

/** How a process ends whose database is away, EX_TEMPFAIL of sysexits.h: another try may help. */
const away = 75;

/** Ends a process that cannot start, and says by its code whether another try may help. */
export const failStart = (words: string, error: unknown): never => fail(words, isDatabaseAway(error) ? away : 1);

/** ms that a database which recovers from a blow is waited for: it says so for a while. */
const recovering = 60_000;

/** Waits until the database answers, or ends the process with one clear line. @param code how it ends where the database is away */
export async function whenAnswering(pool: Pool, code = 1): Promise<void> {
  const began = Date.now();
  for (;;) {
    try {
      await pool.query('select 1');
      return;
    } catch (error) {
      const recovers = (error as { code?: unknown }).code === '57P03';
      const waits = recovers ? recovering : isDatabaseAway(error) ? startedAgain : 0;
      if (Date.now() - began >= waits)
        fail(`the database cannot be reached: ${messageOf(error) || 'no answer'}`, isDatabaseAway(error) ? code : 1);
      await sleep(300);
    }
  }
}

/** Sees that the database answers and has the tables of this program, or ends the process with one clear line. */
export async function expectTables(pool: Pool): Promise<void> {
  await whenAnswering(pool, away);
  const state = await schemaState(pool).catch((error: unknown) =>
    failStart(isDatabaseAway(error) ? 'the database went away' : `the database cannot be read: ${messageOf(error)}`, error),
  );
  const newer = newerWords(state);
  if (newer) fail(newer);
  if (state.pending.length > 0)
    fail(`the database lacks ${state.pending.join(', ')}: ./surge start brings it up, with a backup before that`);
}

/** The address of the database, or the end of the process with one clear line. */
export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  return url ? url : fail('DATABASE_URL is not set; use ./surge');
}
