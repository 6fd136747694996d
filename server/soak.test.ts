import { expect, test } from 'vitest';
import { soak, soakWords } from './test/soak.ts';

test(
  'two hundred bursts of edits over a server and a database that are killed: nothing acknowledged is lost, nothing done twice',
  { timeout: 400_000 },
  async () => {
    const result = await soak({ bursts: 200, seed: 7 });
    console.log(`${soakWords(result)}.`);
    expect(result).toMatchObject({ lost: 0, doubled: 0, unasked: 0 });
    expect([result.serverKills, result.databaseKills]).toEqual([13, 6]);
    expect(result.acknowledged).toBeGreaterThan(400);
    expect(result.repeated).toBeGreaterThan(0);
  },
);
