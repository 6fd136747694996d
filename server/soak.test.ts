import { expect, test } from 'vitest';
import { randomUUID } from 'node:crypto';
import { writeKeyHeader, type PageOf, type RigHead, type RunTail } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import type { RunEvent } from '@vast-surge/core/run';
import { isLong } from '../core/test/long.ts';
import { Site } from './test/site.ts';
import { soak, soakWords } from './test/soak.ts';

test.runIf(isLong)(
  'kills of server, database and launcher, with backups, restores and further launchers in between: nothing acknowledged is lost, nothing done twice',
  { timeout: 400_000 },
  async () => {
    const kills = 20;
    const result = await soak({ kills, seed: 7 });
    console.log(`${soakWords(result)}.`);
    expect(result).toMatchObject({ lost: 0, doubled: 0, unasked: 0, bad: [] });
    const { server, database, launcher } = result.of;
    expect(server + database + launcher).toBe(kills);
    for (const happened of [server, database, launcher, result.backups, result.restores, result.starts])
      expect(happened).toBeGreaterThan(0);
    expect(result.acknowledged).toBeGreaterThan(7 * kills);
    expect(result.repeated).toBeGreaterThan(0);
  },
);

test(
  'a server told to stop finishes what it has begun: every write under way is answered, and what was acknowledged is there',
  { timeout: 180_000 },
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
      const kept = new Set(((await (await fetch(`${address}?limit=100`)).json()) as PageOf<RigHead>).rows.map((rig) => rig.id));
      expect(ids.filter((id, i) => answers[i] === 201 && !kept.has(id))).toEqual([]);
      expect(answers.filter((answer) => answer === 201).length).toBeGreaterThan(0);
    } finally {
      await site.end();
    }
  },
);

test.runIf(isLong)(
  'a run over a server that is killed again and again: every action is kept once, and in the order in which it was done',
  { timeout: 180_000 },
  async () => {
    const site = new Site();
    await site.start();
    try {
      const base = `http://127.0.0.1:${site.port}/api`;
      const post = (path: string, body: unknown) =>
        fetch(base + path, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() },
          body: JSON.stringify(body),
          signal: AbortSignal.timeout(3000),
        });
      const [rigId, id] = [randomUUID(), randomUUID()];
      const document = newDocument('Killed');
      expect((await post('/rigs', { id: rigId, document })).status).toBe(201);
      const asRehearsal = { seed: 1, speed: 1, faults: 0 };
      expect((await post('/runs', { id, rigId, version: 1, rehearsal: asRehearsal })).status).toBe(201);
      const done = Array.from({ length: 120 }, (_, i): RunEvent => {
        const common = { id: randomUUID(), at: 1e12 + i, screen: 'left' };
        return i === 0 ? { ...common, type: 'began', acts: 'AB', reads: 'CD' } : { ...common, type: 'noted', text: String(i) };
      });
      let waiting = done;
      let after = 0;
      let kills = 0;
      for (let i = 0; waiting.length > 0; i++) {
        // What is done grows while it is sent: at most seven wait at a time. In every fifth exchange the server dies.
        const sent = post(`/runs/${id}/events?after=${after}`, { events: waiting.slice(0, 1 + (i % 7)) }).then(
          async (answer) => (answer.ok ? ((await answer.json()) as RunTail) : null),
          () => null,
        );
        if (i % 5 === 2) {
          await new Promise((resolve) => setTimeout(resolve, (i * 7) % 23));
          await site.killServer();
          kills += 1;
        }
        const tail = await sent;
        if (tail) {
          after = tail.events.at(-1)?.number ?? after;
          const here = new Set(tail.events.map((e) => e.event.id));
          waiting = waiting.filter((e) => !here.has(e.id));
        }
        if (i % 5 === 2) await site.startServer();
      }
      const kept = ((await (await fetch(`${base}/runs/${id}/events?after=0`)).json()) as RunTail).events;
      expect(kept.map((e) => e.event)).toEqual(done);
      expect(kept.map((e) => e.number)).toEqual(done.map((_, i) => i + 1));
      expect(kills).toBeGreaterThan(4);
    } finally {
      await site.end();
    }
  },
);
