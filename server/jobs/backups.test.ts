import { pino } from 'pino';
import { afterEach, expect, test, vi } from 'vitest';
import type { Pool } from '../db/pool.ts';
import { startBackups } from './backups.ts';

afterEach(() => vi.useRealTimers());

test('a backup that finds no database asks again in seconds, not in the next round', async () => {
  vi.useFakeTimers();
  let asked = 0;
  const query = () => {
    asked += 1;
    return asked === 1
      ? Promise.reject(Object.assign(new Error('refused'), { code: 'ECONNREFUSED' }))
      : Promise.resolve({ rows: [] });
  };
  const job = startBackups({ query } as unknown as Pool, pino({ level: 'silent' }), () => Promise.reject(new Error('not due')));
  await vi.advanceTimersByTimeAsync(4000);
  expect(asked).toBe(1);
  await vi.advanceTimersByTimeAsync(2000);
  expect(asked).toBe(2);
  // It answered: the next is that of the round.
  await vi.advanceTimersByTimeAsync(40_000);
  expect(asked).toBe(2);
  await job.end();
});
