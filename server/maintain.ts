// What ./surge backup, restore and reset-demo run, over the database that DATABASE_URL names.
import { existsSync } from 'node:fs';
import { readFile, rename, stat, writeFile } from 'node:fs/promises';
import { archiveFileLimit } from '@vast-surge/contract';
import { packWorkshop, unpackWorkshop } from './archive/archive.ts';
import { resetDemo } from './db/demo.ts';
import { openPool, type Pool } from './db/pool.ts';
import { inTransaction } from './db/transaction.ts';
import { readWorkshop, replaceWorkshop } from './db/workshop.ts';
import { fail, messageOf } from './fail.ts';
import { databaseUrl, prepareDatabase } from './prepare.ts';

const count = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`;

/** Writes the whole file or none: under another name first, then renamed. */
async function writeWhole(path: string, bytes: Uint8Array): Promise<void> {
  const part = `${path}.part`;
  await writeFile(part, bytes);
  await rename(part, path);
}

async function backup(pool: Pool, path: string): Promise<string> {
  const workshop = await inTransaction(pool, (client) => readWorkshop(client), 'repeatable read');
  await writeWhole(path, packWorkshop(workshop)).catch((error: unknown) =>
    fail(`FILE: ${path} cannot be written: ${messageOf(error)}`),
  );
  const revisions = workshop.rigs.reduce((sum, rig) => sum + rig.revisions.length, 0);
  return `${count(workshop.rigs.length, 'rig')} with ${count(revisions, 'revision')} and ${count(workshop.parts.length, 'part')} written to ${path}`;
}

async function archiveAt(path: string) {
  const { size } = await stat(path).catch((error: unknown) => fail(`FILE: ${path} cannot be read: ${messageOf(error)}`, 2));
  if (size > archiveFileLimit) fail(`FILE: ${path} has ${size} bytes; an archive has at most ${archiveFileLimit}`, 2);
  const read = unpackWorkshop(await readFile(path));
  if (read.ok) return read.workshop;
  return fail(`FILE: ${path} is not a workshop archive: ${read.issues.map((i) => `${i.path} ${i.reason}`).join('; ')}`, 2);
}

/** Nothing is lost by a restore: what was there is written to a file of its own first. */
async function restore(pool: Pool, path: string, keepIn: string): Promise<string> {
  const workshop = await archiveAt(path);
  const { kept } = await inTransaction(pool, async (client) => {
    await client.query('lock table rigs, revisions, parts, lots, part_photos in access exclusive mode');
    const present = await readWorkshop(client);
    let file = '';
    if (present.rigs.length + present.parts.length + present.lots.length > 0) {
      const stamp = new Date().toISOString().replace(/[:.]/g, '-');
      file = `${keepIn}/before-restore-${stamp}.zip`;
      await writeWhole(file, packWorkshop(present));
    }
    await replaceWorkshop(client, workshop);
    return { kept: file };
  });
  const was = kept !== '' ? `; what was here before is in ${kept}` : '';
  return `${count(workshop.rigs.length, 'rig')} and ${count(workshop.parts.length, 'part')} restored from ${path}${was}`;
}

async function demoAgain(pool: Pool): Promise<string> {
  const { rigs, parts } = await resetDemo(pool);
  return `${count(rigs, 'demo rig')} and ${count(parts, 'demo part')} as at first; what the rigs had become is a revision of each, readings that were added stay`;
}

async function main([what = '', path = '']: string[]): Promise<void> {
  if (what !== 'reset-demo' && path === '') fail(`FILE is missing: ./surge ${what} FILE`, 2);
  // A file that cannot be read is said before anything is opened.
  if (what === 'restore' && !existsSync(path)) fail(`FILE: ${path} is not there`, 2);
  const url = databaseUrl();
  const pool = openPool(url, () => undefined);
  await prepareDatabase(url, pool);
  const keepIn = process.env['VAST_SURGE_KEEP'] ?? '.';
  const said =
    what === 'backup'
      ? await backup(pool, path)
      : what === 'restore'
        ? await restore(pool, path, keepIn)
        : what === 'reset-demo'
          ? await demoAgain(pool)
          : fail(`there is no ${what}`, 2);
  await pool.end();
  process.stdout.write(`surge: ${said}\n`);
}

main(process.argv.slice(2)).catch((error: unknown) => fail(messageOf(error)));
