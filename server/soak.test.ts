import { expect, test } from 'vitest';
import { randomUUID } from 'node:crypto';
import { writeKeyHeader, type StoredRig } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { Site, soak, soakWords } from './test/soak.ts';

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

test(
  'a server told to stop finishes what it has begun: every write under way is answered, and what was acknowledged is there',
  { timeout: 60_000 },
  async () => {
    const site = new Site();
    await site.start();
    try {
      const address = `http://127.0.0.1:${site.port}/api/rigs`;
      const headers = () => ({ 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() });
      const document = newDocument('Under way');
      const ids = Array.from({ length: 40 }, () => randomUUID());
      const begun = ids.map((id) =>
        fetch(address, { method: 'POST', headers: headers(), body: JSON.stringify({ id, document }) }).then(
          (answer) => answer.status,
          () => 'not taken' as const,
        ),
      );
      await Promise.race(begun);
      expect(await site.stopServer()).toBe(0);
      const answers = await Promise.all(begun);
      expect(answers.every((answer) => answer === 201 || answer === 'not taken')).toBe(true);
      await site.startServer();
      const kept = new Set(((await (await fetch(address)).json()) as StoredRig[]).map((rig) => rig.id));
      expect(ids.filter((id, i) => answers[i] === 201 && !kept.has(id))).toEqual([]);
      expect(answers.filter((answer) => answer === 201).length).toBeGreaterThan(0);
    } finally {
      await site.end();
    }
  },
);
