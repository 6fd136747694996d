import { randomUUID } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { readRigFile, wordFileIssue } from '@vast-surge/core/format';
import { insertRig } from './rigs.ts';
import type { Pool } from './pool.ts';

const folder = fileURLToPath(new URL('../../demo/', import.meta.url));

/** Loads the demo workshop into a database that has never had it. @returns the number of rigs written */
export async function loadDemo(pool: Pool): Promise<number> {
  const names = (await readdir(folder)).filter((name) => name.endsWith('.json')).sort();
  const client = await pool.connect();
  try {
    await client.query('begin');
    const mark = await client.query("insert into marks (name) values ('demo') on conflict do nothing returning name");
    if (mark.rowCount === 0) {
      await client.query('rollback');
      return 0;
    }
    for (const name of names) {
      const read = readRigFile(await readFile(folder + name, 'utf8'));
      if (!read.ok) throw new Error(`demo/${name}: ${read.issues.map(wordFileIssue).join(' ')}`);
      await insertRig(client, randomUUID(), read.document);
    }
    await client.query('commit');
    return names.length;
  } catch (error) {
    await client.query('rollback');
    throw error;
  } finally {
    client.release();
  }
}
