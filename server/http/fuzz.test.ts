import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { newPart } from '@vast-surge/core/part';
import { newDocument } from '@vast-surge/core/rig';
import { insertParts } from '../db/parts.ts';
import { insertRig } from '../db/rigs.ts';
import { cases } from '../../core/test/long.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { fuzz } from '../test/fuzz.ts';
import { createApp } from './app.ts';

let database: TestDatabase;
beforeAll(async () => {
  database = await testDatabase();
});
afterAll(() => database.drop());

test(
  'thousands of bodies, of any kind and of valid ones spoilt, get no 500, no stack, and an answer in words',
  { timeout: 240_000 },
  async () => {
    const rigId = randomUUID();
    await insertRig(database.pool, rigId, newDocument('Target'));
    const partId = randomUUID();
    await insertParts(database.pool, [{ id: partId, part: newPart('capacitor', 'Target', 'T-1') }]);
    const server = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e9 }).listen(
      0,
      '127.0.0.1',
    );
    await new Promise((resolve) => server.once('listening', resolve));
    const seed = Number(process.env['FUZZ_SEED'] ?? Date.now() % 2 ** 31);
    const result = await fuzz(
      `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
      { rigId, partId },
      cases(1_500, 5_000),
      seed,
    );
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
    console.log(`Fuzzed with seed ${seed}: ${result.sent} bodies, answers by status ${JSON.stringify(result.byStatus)}.`);
    expect(result.bad.slice(0, 3)).toEqual([]);
    expect(Object.keys(result.byStatus).length).toBeGreaterThan(2);
  },
);
