import { readFileSync, readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';
import { describe, expect, test } from 'vitest';
import { readRigFile } from '@vast-surge/core/format';
import { testDatabase } from '../test/database.ts';
import { migrate, newerWords, schemaState } from './migrate.ts';
import { rights } from './rights.ts';
import { closeQuietRevisions } from './revisions.ts';
import { rigHeads } from './heads.ts';
import { findRig, updateRig } from './rigs.ts';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const samples = readdirSync(here('../test/fixtures')).flatMap((name) => /^database-(\d+)\.sql$/.exec(name)?.[1] ?? []);

test.each(samples)('a database as migration %s left it comes up with everything in it, and can be written to', async (number) => {
  const database = await testDatabase({ migrated: false });
  const options = { databaseUrl: database.url, dir: here('./migrations'), migrationsTable: 'migrations', log: () => undefined };
  await runner({ ...options, direction: 'up', count: Number(number) });
  await database.owner.query(readFileSync(here(`../test/fixtures/database-${number}.sql`), 'utf8'));
  expect(await migrate(database.url)).toBeGreaterThan(0);
  const kept = await findRig(database.owner, '61000000-0000-4000-8000-000000000001');
  const file = readRigFile(readFileSync(here('../../core/test/fixtures/rig-file-1/thimble.json'), 'utf8'));
  if (!file.ok || !kept?.document.ok) throw new Error('unreadable');
  expect(kept).toMatchObject({ version: 5, createdAt: '2026-01-02T03:04:05.678Z', revision: null });
  expect(kept.document.document.rig).toEqual(file.document.rig);
  const listed = (archived: boolean) =>
    rigHeads(database.owner, { archived, words: '', sort: 'changed', behind: null, limit: 50, program: 'test' });
  expect((await listed(false)).rows.filter((rig) => rig.id.startsWith('61'))).toHaveLength(2);
  expect((await listed(true)).rows.map((rig) => rig.version)).toEqual([1]);
  expect(await updateRig(database.owner, kept.id, 5, kept.document.document)).toMatchObject({ version: 6 });
  // Also what cannot be read is closed into a revision as it stands.
  expect(await closeQuietRevisions(database.owner, 0)).toBe(3);
  const { rows } = await database.owner.query(
    "select document->'rig' as rig from revisions where document->>'name' = 'From tomorrow'",
  );
  expect(rows).toEqual([{ rig: { supply: { kind: 'fusion' } } }]);
  await database.drop();
});

test('every migration goes down and up again', async () => {
  const database = await testDatabase();
  const options = { databaseUrl: database.url, dir: here('./migrations'), migrationsTable: 'migrations', log: () => undefined };
  const tables = async () =>
    (await database.owner.query("select table_name from information_schema.tables where table_schema = 'public' order by 1"))
      .rows;
  const before = await tables();
  await runner({ ...options, direction: 'down', count: 99 });
  expect(await tables()).toEqual([{ table_name: 'migrations' }]);
  await migrate(database.url);
  expect(await tables()).toEqual(before);
  await database.drop();
});

test('a database that a newer program brought up is left alone, and said so', async () => {
  const database = await testDatabase();
  await database.owner.query("insert into migrations (name, run_on) values ('0999_from_tomorrow', now())");
  const state = await schemaState(database.pool);
  expect(state.unknown).toEqual(['0999_from_tomorrow']);
  expect(newerWords(state)).toMatch(/newer Vast Surge \(0999_from_tomorrow\).*Nothing was changed/);
  await database.drop();
});

describe('the application', () => {
  test('has rights to every table, and to none that is not there', async () => {
    const database = await testDatabase();
    const { rows } = await database.owner.query<{ table_name: string }>(
      "select table_name from information_schema.tables where table_schema = 'public' order by 1",
    );
    expect(rows.map((row) => row.table_name)).toEqual(Object.keys(rights).sort());
    await database.drop();
  });

  test('owns nothing: it can neither empty nor drop a table, nor make one, nor switch a trigger off, nor change what is kept for ever', async () => {
    const database = await testDatabase();
    for (const text of [
      ...Object.keys(rights).flatMap((table) => [
        `truncate ${table}`,
        `drop table ${table}`,
        `alter table ${table} disable trigger all`,
      ]),
      'create table mine (id int)',
      'create schema mine',
      'delete from revisions',
      'delete from runs',
      'update runs set plan = null',
      'delete from run_events',
      "update run_events set event = '{}'",
      "update revisions set document = '{}'",
      'delete from rigs',
      'delete from shots',
      'delete from parts',
      "insert into migrations (name, run_on) values ('x', now())",
      "set session_replication_role = 'replica'",
    ])
      await expect(database.pool.query(text), text).rejects.toThrow(/permission denied|must be owner/);
    await database.drop();
  });
});
