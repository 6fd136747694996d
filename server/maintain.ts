// What ./surge backup, backups, restore, reset-demo, open, close and audit run, over the database that DATABASE_URL names, as its owner.
import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { archiveRecords, ArchiveRefused } from '@vast-surge/core/format';
import { backupSettingsSchema, type BackupRow, type BackupSettings } from '@vast-surge/contract';
import { backUp, backUpWithin, readThrough, type Written } from './archive/backup.ts';
import { openArchive, ownFile } from './archive/zip-read.ts';
import { backupSettings, lastVerifiedAt, listBackups, noteBackup, setBackups } from './db/backups.ts';
import { resetDemo } from './db/demo.ts';
import { writingAlone } from './db/gate.ts';
import { openPool, isDiskFull, type Pool } from './db/pool.ts';
import { replaceWorkshop } from './db/workshop.ts';
import { fail, messageOf } from './fail.ts';
import { auditWords, closeWorkshop, openWorkshop } from './opening/terminal.ts';
import { databaseUrl, expectTables } from './prepare.ts';

const count = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`;

const words = (error: unknown): string => (isDiskFull(error) ? 'the disk is full' : messageOf(error));

async function note(pool: Pool, kind: BackupRow['kind'], path: string, { bytes, records }: Written): Promise<void> {
  await noteBackup(pool, { kind, path: resolve(path), bytes, records });
}

async function backup(pool: Pool, path: string): Promise<string> {
  const written = await backUp(pool, path).catch((error: unknown) =>
    fail(`FILE: ${path} cannot be written: ${words(error)}. Nothing of it was kept`),
  );
  await note(pool, 'asked', path, written);
  const { rig, revision, part, run, shot } = written.counts;
  return `${count(rig, 'rig')} with ${count(revision, 'revision')}, ${count(part, 'part')}, ${count(run, 'run')} and ${count(shot, 'shot')} written to ${path} and read back`;
}

/**
 * Nothing is lost by a restore: the archive is read through first, then nobody else may write, what is there is written to a file of its own
 * that is read back, and only then is it replaced.
 */
async function restore(pool: Pool, path: string, keepIn: string): Promise<string> {
  await readThrough(path).catch((error: unknown) =>
    error instanceof ArchiveRefused
      ? fail(`FILE: ${path} is not a workshop archive: ${error.path} ${error.reason}`, 2)
      : fail(`FILE: ${path} cannot be read: ${messageOf(error)}`, 2),
  );
  const folder = join(keepIn, 'backups');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const archive = await openArchive(path, ownFile);
  const stamp = new Date().toISOString().replace(/[:.]/g, '-');
  const safety = join(folder, `before-restore-${stamp}.zip`);
  const { done, kept } = await writingAlone(pool, async (client) => {
    const written = await backUpWithin(client, safety).catch((error: unknown) =>
      fail(`what is here cannot be kept in ${safety}: ${words(error)}. Nothing was restored`),
    );
    // Whoever else is in the way gives up first. A role that may not say so takes its chance.
    await client.query(
      "do $$ begin perform set_config('deadlock_timeout', '120s', true); exception when insufficient_privilege then null; end $$",
    );
    return { kept: written, done: await replaceWorkshop(client, archiveRecords(archive)) };
  });
  archive.close();
  await note(pool, 'before-restore', safety, kept);
  return `${count(done.rigs, 'rig')} and ${count(done.parts, 'part')} restored from ${path}; what was here before is in ${safety}`;
}

async function demoAgain(pool: Pool): Promise<string> {
  const { rigs, parts } = await resetDemo(pool);
  return `${count(rigs, 'demo rig')} and ${count(parts, 'demo part')} as at first; what the rigs had become is a revision of each, readings that were added stay`;
}

/** Hours out of `24h`, `90min` or `7d`. */
function hoursOf(text: string): number {
  const [, number, unit] = /^(\d+(?:\.\d+)?)\s*(min|h|d)$/.exec(text) ?? [];
  const hours = Number(number) * (unit === 'min' ? 1 / 60 : unit === 'd' ? 24 : 1);
  return Number.isFinite(hours) ? hours : fail(`--every is "${text}"; it must be a time such as 12h, 90min or 7d`, 2);
}

const settingWords = ({ folder, every, keep }: BackupSettings): string =>
  `scheduled backups: every ${every} h into ${folder}, the last ${keep} kept`;

/** Shows the schedule of backups, or switches it on or off. */
async function backups(pool: Pool, args: readonly string[]): Promise<string> {
  const { values, positionals } = parseArgs({
    args: [...args],
    allowPositionals: true,
    options: { every: { type: 'string', default: '24h' }, keep: { type: 'string', default: '14' } },
  });
  const [folder] = positionals;
  if (folder === 'off') await setBackups(pool, null);
  else if (folder !== undefined) {
    const read = backupSettingsSchema.safeParse({
      folder: resolve(folder),
      every: hoursOf(values.every),
      keep: Number(values.keep),
    });
    if (!read.success) {
      const [issue] = read.error.issues;
      fail(`${issue?.path[0] === 'folder' ? 'FOLDER' : `--${String(issue?.path[0])}`} ${issue?.message ?? ''}`, 2);
    }
    if (!existsSync(read.data.folder))
      await mkdir(read.data.folder).catch((error: unknown) =>
        fail(`FOLDER: ${read.data.folder} cannot be made: ${messageOf(error)}`, 2),
      );
    await setBackups(pool, read.data);
  }
  const settings = await backupSettings(pool);
  const last = await lastVerifiedAt(pool);
  const rows = (await listBackups(pool, 5)).map(
    (b) =>
      `\n  ${b.madeAt.slice(0, 16).replace('T', ' ')}  ${b.failed === null ? `${(b.bytes / 1e6).toPrecision(3)} MB, read back` : `FAILED: ${b.failed}`}  ${b.path}`,
  );
  return `${settings ? settingWords(settings) : 'scheduled backups: off'}; last backup read back: ${last === null ? 'none' : `${last.slice(0, 16).replace('T', ' ')} UTC`}${rows.join('')}`;
}

async function main([what = '', ...args]: string[]): Promise<void> {
  const [path = ''] = args;
  if ((what === 'backup' || what === 'restore') && path === '') fail(`FILE is missing: ./surge ${what} FILE`, 2);
  // A file that cannot be read is said before anything is opened.
  if (what === 'restore' && !existsSync(path)) fail(`FILE: ${path} is not there`, 2);
  const pool = openPool(databaseUrl(), () => undefined, { max: 2, patience: 0 });
  await expectTables(pool);
  const keepIn = process.env['VAST_SURGE_KEEP'] ?? '.';
  const work: { readonly [verb: string]: () => Promise<string> } = {
    backup: () => backup(pool, path),
    restore: () => restore(pool, path, keepIn),
    'reset-demo': () => demoAgain(pool),
    backups: () => backups(pool, args),
    open: () => openWorkshop(pool, args, keepIn),
    close: () => closeWorkshop(pool),
    audit: () => auditWords(pool),
  };
  const said = await (work[what] ?? (() => fail(`there is no ${what}`, 2)))();
  await pool.end();
  process.stdout.write(`surge: ${said}\n`);
}

main(process.argv.slice(2)).catch((error: unknown) => fail(messageOf(error)));
