import { randomUUID } from 'node:crypto';
import { strToU8, zipSync } from 'fflate';
import pg from 'pg';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { writeKeyHeader } from '@vast-surge/contract';
import { archiveRecords, entriesOf, headEntry, noRecords } from '@vast-surge/core/format';
import { newLot } from '@vast-surge/core/part';
import { newDocument } from '@vast-surge/core/rig';
import { loadDemo } from '../db/demo.ts';
import { writingAlone } from '../db/gate.ts';
import { insertRig } from '../db/rigs.ts';
import { inTransaction } from '../db/transaction.ts';
import { replaceWorkshop } from '../db/workshop.ts';
import { app, closeArchives, newFile, own, recordsIn, refusal, upload } from '../test/archives.ts';
import { testDatabase, type TestDatabase } from '../test/database.ts';
import { asStream, everything } from '../test/records.ts';
import { backUp, backUpWithin } from './backup.ts';
import { openArchive, ownFile, sentFile } from './zip-read.ts';

let there: TestDatabase | undefined;
beforeAll(async () => {
  there = await testDatabase();
});
afterAll(async () => {
  await closeArchives();
  await there?.drop();
});

const document = newDocument;

describe('a file that is made to do harm', () => {
  const zeros = (megabytes: number) => new Uint8Array(megabytes * 1024 * 1024).fill(0x20);
  const head = headEntry({ ...noRecords(), lot: 1 });
  const bomb = (entries: Record<string, Uint8Array>) => zipSync({ [head[0]]: strToU8(head[1]), ...entries });

  /** One body under many names: every name of the directory points at the same few bytes. */
  function overlapping(copies: number): Uint8Array {
    const [path] = entriesOf({
      noun: 'lot',
      record: {
        id: randomUUID(),
        version: 1,
        createdAt: '',
        updatedAt: '',
        removedAt: null,
        lot: { ok: true, value: newLot('x') },
      },
    })[0] ?? [''];
    const one = Buffer.from(zipSync({ [path]: zeros(1) }, { level: 9 }));
    const end = one.length - 22;
    const from = one.readUInt32LE(end + 16);
    const [body, entry] = [one.subarray(0, from), one.subarray(from, end)];
    const directory = Buffer.concat(
      Array.from({ length: copies }, (_, i) => {
        const copy = Buffer.from(entry);
        copy.write(String(i).padStart(4, '0'), 46 + path.length - 9, 'latin1');
        return copy;
      }),
    );
    const tail = Buffer.from(one.subarray(end));
    tail.writeUInt16LE(copies, 8);
    tail.writeUInt16LE(copies, 10);
    tail.writeUInt32LE(directory.length, 12);
    tail.writeUInt32LE(body.length, 16);
    return Buffer.concat([body, directory, tail]);
  }

  test.each<[string, () => Uint8Array, RegExp]>([
    [
      'one entry that shrank a thousandfold',
      () => bomb({ 'bench/lots.json': zeros(24) }),
      /bench\/lots\.json unpacks to \d+ times its size/,
    ],
    [
      'many entries of a megabyte each',
      () =>
        bomb(Object.fromEntries(Array.from({ length: 90 }, (_, i) => [`bench/lots/${i}.json`, zeros(1).subarray(0, 1_040_000)]))),
      /unpacks to more than .* MB from .* MB: it holds more than any workshop/,
    ],
    ['one body under many names', () => overlapping(40), /lies over another entry|unpacks to|local file header/],
  ])('%s is refused by its directory, before it is unpacked', async (_name, make, words) => {
    if (!there) throw new Error('no database');
    const bytes = make();
    expect(await refusal(newFile(bytes), sentFile)).toMatch(words);
    const answer = await upload(there, bytes);
    expect([answer.status, answer.body.code, answer.body.message]).toEqual([400, 'bad_input', expect.stringMatching(words)]);
  });

  test(
    'one that takes more memory or time than any workshop ends its thread and not the server',
    { timeout: 180_000 },
    async () => {
      if (!there) throw new Error('no database');
      // A million small values in one entry of some megabytes: within every size, and long to read.
      const lots = JSON.stringify(Array.from({ length: 400_000 }, () => ({ a: [[], {}, []] })));
      const bytes = zipSync({ [head[0]]: strToU8(head[1]), 'bench/lots.json': strToU8(lots) }, { level: 0 });
      const small = await upload(there, bytes, { memory: 40, time: 60_000, timePerMegabyte: 0 });
      expect([small.status, small.body.code]).toEqual([413, 'too_costly']);
      const slow = await upload(there, bytes, { memory: 400, time: 30, timePerMegabyte: 0 });
      expect([slow.status, slow.body.code, slow.body.message]).toEqual([
        413,
        'too_costly',
        expect.stringMatching(/takes longer than/),
      ]);
      expect((await own(request(app(there)).get('/api/rigs'))).status).toBe(200);
    },
  );

  test('something else than an archive is refused by what it is', async () => {
    if (!there) throw new Error('no database');
    expect((await upload(there, strToU8('PK and nothing more'))).body.message).toMatch(/not a complete ZIP file/);
    const text = await own(request(app(there)).post('/api/archive/uploads'))
      .type('text/plain')
      .send('PK');
    expect([text.status, text.body.code]).toEqual([415, 'unsupported_type']);
  });
});

describe('while the workshop is being restored', () => {
  test(
    'every write is refused with a code and a time to wait, and none that was acknowledged is lost',
    { timeout: 180_000 },
    async () => {
      const database = await testDatabase();
      const id = randomUUID();
      await insertRig(database.pool, id, document('Target'));
      const server = app(database);
      const acknowledged: string[] = [];
      const refused: { code: string; after: string | undefined }[] = [];
      let isOver = false;
      // Hands that write all the while: each makes rigs of its own.
      const hand = async () => {
        while (!isOver) {
          const rig = randomUUID();
          const answer = await own(request(server).post('/api/rigs'))
            .set(writeKeyHeader, randomUUID())
            .send({ id: rig, document: document('Made meanwhile') });
          await new Promise((resolve) => setTimeout(resolve, 10));
          if (answer.status === 201) acknowledged.push(rig);
          else refused.push({ code: answer.body.code as string, after: answer.headers['retry-after'] });
        }
      };
      const hands = Promise.all([hand(), hand(), hand(), hand()]);
      const source = newFile();
      await backUp(database.pool, source);
      const kept = new Set<string>();
      for (let round = 0; round < 3; round++) {
        const safety = newFile();
        const archive = await openArchive(source, ownFile);
        await writingAlone(database.owner, async (client) => {
          await backUpWithin(client, safety);
          await new Promise((resolve) => setTimeout(resolve, 150));
          await replaceWorkshop(client, archiveRecords(archive));
        });
        archive.close();
        for (const r of await recordsIn(safety)) if (r.noun === 'rig') kept.add(r.record.id);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
      isOver = true;
      await hands;
      const present = new Set((await database.pool.query<{ id: string }>('select id from rigs')).rows.map((row) => row.id));
      expect(acknowledged.length).toBeGreaterThan(20);
      expect(acknowledged.filter((rig) => !kept.has(rig) && !present.has(rig))).toEqual([]);
      expect(refused.length).toBeGreaterThan(0);
      expect(new Set(refused.map((r) => r.code))).toEqual(new Set(['restoring']));
      expect(refused.every((r) => Number(r.after) > 0)).toBe(true);
      await database.drop();
    },
  );

  test('a reader that is in the middle of a backup neither hinders it for good nor is mixed up with it', async () => {
    const database = await testDatabase();
    await loadDemo(database.pool);
    const path = newFile();
    await backUp(database.pool, path);
    const records = await recordsIn(path);
    const client = new pg.Client({ connectionString: database.url });
    await client.connect();
    await client.query('begin isolation level repeatable read');
    await client.query('select count(*) from rigs');
    const restore = inTransaction(database.owner, (c) => replaceWorkshop(c, asStream(records)));
    await new Promise((resolve) => setTimeout(resolve, 200));
    const { rows } = await client.query<{ n: number }>('select count(*)::int as n from shots');
    await client.query('commit');
    await restore;
    expect(rows[0]?.n).toBe(54);
    expect(await everything(database.pool)).toEqual(records);
    await client.end();
    await database.drop();
  });
});
