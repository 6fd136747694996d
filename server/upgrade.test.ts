import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';
import { afterAll, describe, expect, test } from 'vitest';
import { knownMigrations, migrationsFolder, schemaState } from './db/migrate.ts';
import { named, testDatabase, type TestDatabase } from './test/database.ts';
import { isLong } from '../core/test/long.ts';

const root = fileURLToPath(new URL('..', import.meta.url));
const keep = mkdtempSync(join(tmpdir(), 'surge-upgrade-'));
afterAll(() => rmSync(keep, { recursive: true, force: true }));

const newest = knownMigrations().at(-1) ?? '';

/** A database as a migration left it, with what was in it then. */
async function asOf(number: number): Promise<TestDatabase> {
  const database = await testDatabase({ migrated: false });
  await runner({
    databaseUrl: database.url,
    dir: migrationsFolder,
    direction: 'up',
    count: number,
    migrationsTable: 'migrations',
    log: () => undefined,
  });
  const sample = fileURLToPath(new URL(`./test/fixtures/database-${String(number).padStart(4, '0')}.sql`, import.meta.url));
  await database.owner.query(readFileSync(sample, 'utf8'));
  return database;
}

async function bin(database: TestDatabase): Promise<string> {
  const { rows } = await database.owner.query<{ version: string }>("select current_setting('server_version') as version");
  return `/usr/lib/postgresql/${(rows[0]?.version ?? '').split('.')[0]}/bin`;
}

const environment = async (database: TestDatabase) => ({
  ...process.env,
  DATABASE_URL: database.url,
  VAST_SURGE_APP_URL: named(process.env['DATABASE_APP_URL'] ?? '', new URL(database.url).pathname.slice(1)),
  VAST_SURGE_KEEP: keep,
  PG_BIN: await bin(database),
});
const args = ['--import', join(root, 'node_modules/tsx/dist/loader.mjs'), join(root, 'server/upgrade.ts')];
const upgrade = async (database: TestDatabase, more: Record<string, string> = {}) => {
  const { status, stderr } = spawnSync(process.execPath, args, {
    encoding: 'utf8',
    env: { ...(await environment(database)), ...more },
  });
  return { code: status, said: stderr };
};
const dumps = () =>
  readdirSync(keep, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.dump'))
    .map((name) => join(keep, name));

describe('an upgrade', { timeout: 180_000 }, () => {
  test.each(isLong ? [1, 2, 3, 4, 5] : [1, 5])(
    'from migration %i to the newest keeps the database as it was in a file first, and the application may work with what comes of it',
    async (number) => {
      const database = await asOf(number);
      const before = dumps();
      const answer = await upgrade(database);
      expect(answer).toMatchObject({
        code: 0,
        said: expect.stringMatching(
          new RegExp(`was upgraded from 000${number}_\\w+ to ${newest}; as it was before it is kept in`),
        ),
      });
      const [dump = ''] = dumps().filter((path) => !before.includes(path));
      expect(statSync(dump).size).toBeGreaterThan(1000);
      // What was kept is the database as it was: it comes back by the tools of PostgreSQL.
      const back = await testDatabase({ migrated: false });
      const bare = new URL(back.url);
      const env = { ...process.env, PGPASSWORD: bare.password };
      bare.password = '';
      execFileSync(join(await bin(back), 'pg_restore'), [`--dbname=${bare.href}`, '--no-owner', '--no-privileges', dump], {
        env,
      });
      expect((await schemaState(back.owner)).applied).toHaveLength(number);
      const rigs = "select id, document from rigs where id::text like '61%' order by id";
      expect((await back.owner.query(rigs)).rows).toEqual((await database.pool.query(rigs)).rows);
      expect((await database.pool.query('select name from rigs where archived_at is not null')).rows).toEqual([
        { name: 'Put away' },
      ]);
      // Done once: the next time nothing is left to do, and nothing is kept.
      const count = dumps().length;
      expect(await upgrade(database)).toEqual({ code: 0, said: '' });
      expect(dumps()).toHaveLength(count);
      await back.drop();
      await database.drop();
    },
  );

  test('without the tool for the backup is not begun, unless that is said', async () => {
    const database = await asOf(2);
    const answer = await upgrade(database, { PG_BIN: '/nowhere' });
    expect(answer).toMatchObject({
      code: 1,
      said: expect.stringMatching(/was not upgraded, because the backup before it cannot be made/),
    });
    expect((await schemaState(database.owner)).applied).toHaveLength(2);
    expect(await upgrade(database, { PG_BIN: '/nowhere', VAST_SURGE_UPGRADE_WITHOUT_BACKUP: 'yes' })).toMatchObject({ code: 0 });
    await database.drop();
  });

  test('of what a newer program brought up is refused with words', async () => {
    const database = await testDatabase();
    await database.owner.query("insert into migrations (name, run_on) values ('0999_from_tomorrow', now())");
    expect(await upgrade(database)).toMatchObject({
      code: 1,
      said: expect.stringMatching(/brought up by a newer Vast Surge \(0999_from_tomorrow\)/),
    });
    await database.drop();
  });

  test('that is killed half-way leaves the tables as they were, and the next one brings them up', async () => {
    const database = await asOf(3);
    const slow = join(migrationsFolder, '9998_slow.sql');
    writeFileSync(slow, '-- Up Migration\ncreate table half_done (id int);\nselect pg_sleep(20);\n');
    try {
      const child = spawn(process.execPath, args, { env: await environment(database), stdio: 'ignore' });
      const ended = new Promise((resolve) => child.on('exit', resolve));
      const sleeping = async () =>
        (
          await database.owner.query(
            "select from pg_stat_activity where query like '%pg_sleep(20)%' and pid <> pg_backend_pid() and datname = current_database()",
          )
        ).rowCount;
      for (let tries = 0; tries < 200 && !(await sleeping()); tries++) await new Promise((resolve) => setTimeout(resolve, 50));
      expect(await sleeping()).toBe(1);
      child.kill('SIGKILL');
      await ended;
    } finally {
      rmSync(slow);
    }
    // The server finds out that nobody listens any more and takes it back.
    await database.owner.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    );
    const state = await schemaState(database.owner);
    expect([state.applied.length, state.unknown]).toEqual([3, []]);
    expect((await database.owner.query("select to_regclass('half_done') as half")).rows).toEqual([{ half: null }]);
    expect(await upgrade(database)).toMatchObject({ code: 0 });
    await database.drop();
  });
});
