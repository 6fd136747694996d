import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';
import { expect, test } from 'vitest';
import { readRigFile } from '@vast-surge/core/format';
import { testDatabase } from '../test/database.ts';
import { migrate } from './migrate.ts';
import { closeQuietRevisions } from './revisions.ts';
import { findRig, listRigs, updateRig } from './rigs.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const samples = readdirSync(here('../test/fixtures')).flatMap((name) => /^database-(\d+)\.sql$/.exec(name)?.[1] ?? []);

test.each(samples)('a database as migration %s left it comes up with everything in it, and can be written to', async (number) => {
  const database = await testDatabase({ migrated: false });
  const options = { databaseUrl: database.url, dir: here('./migrations'), migrationsTable: 'migrations', log: () => undefined };
  await runner({ ...options, direction: 'up', count: Number(number) });
  await database.pool.query(readFileSync(here(`../test/fixtures/database-${number}.sql`), 'utf8'));
  expect(await migrate(database.url)).toBeGreaterThan(0);
  const kept = await findRig(database.pool, '61000000-0000-4000-8000-000000000001');
  const file = readRigFile(readFileSync(here('../../core/test/fixtures/rig-file-1/thimble.json'), 'utf8'));
  if (!file.ok || !kept?.document.ok) throw new Error('unreadable');
  expect(kept).toMatchObject({ version: 5, createdAt: '2026-01-02T03:04:05.678Z', revision: null });
  expect(kept.document.document.rig).toEqual(file.document.rig);
  expect((await listRigs(database.pool)).map((rig) => rig.document.ok)).toEqual([true, false]);
  expect((await listRigs(database.pool, true)).map((rig) => rig.version)).toEqual([1]);
  expect(await updateRig(database.pool, kept.id, 5, kept.document.document)).toMatchObject({ version: 6 });
  // Also what cannot be read is closed into a revision as it stands.
  expect(await closeQuietRevisions(database.pool, 0)).toBe(3);
  const { rows } = await database.pool.query(
    "select document->'rig' as rig from revisions where document->>'name' = 'From tomorrow'",
  );
  expect(rows).toEqual([{ rig: { supply: { kind: 'fusion' } } }]);
  await database.drop();
});

test('every migration goes down and up again', async () => {
  const database = await testDatabase();
  const options = { databaseUrl: database.url, dir: here('./migrations'), migrationsTable: 'migrations', log: () => undefined };
  const tables = async () =>
    (await database.pool.query("select table_name from information_schema.tables where table_schema = 'public' order by 1")).rows;
  const before = await tables();
  await runner({ ...options, direction: 'down', count: 99 });
  expect(await tables()).toEqual([{ table_name: 'migrations' }]);
  await migrate(database.url);
  expect(await tables()).toEqual(before);
  await database.drop();
});
