import { setTimeout as sleep } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { isDatabaseAway } from './pool.ts';

let database: TestDatabase;
beforeAll(async () => (database = await testDatabase({ migrated: false })));
afterAll(() => database.drop());

test('a connection that is lost while it is held ends nothing: the next statement says that the database is away, the one after it works', async () => {
  const { owner } = database;
  const lost: string[] = [];
  const hear = (error: Error) => lost.push(error.message);
  // What nobody catches ends the process: here it is heard, and there must be none.
  process.on('uncaughtException', hear);
  try {
    // Held as the queue of studies holds one: by somebody who hears nothing of it.
    const held = await owner.connect();
    const pid = async () => (await held.query<{ pid: number }>('select pg_backend_pid() as pid')).rows[0]?.pid;
    await owner.query('select pg_terminate_backend($1)', [await pid()]);
    await sleep(300);
    await expect(pid()).rejects.toSatisfy(isDatabaseAway);
    held.release(true);
    expect((await owner.query<{ one: number }>('select 1 as one')).rows).toEqual([{ one: 1 }]);
    expect(lost).toEqual([]);
  } finally {
    process.off('uncaughtException', hear);
  }
});
