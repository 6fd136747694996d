import { readdir, readFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { readRigFile, wordFileIssue } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { closeRevision } from './revisions.ts';
import { archiveRig, insertRig, lockRig, updateRig } from './rigs.ts';
import type { Pool } from './pool.ts';
import { inTransaction } from './transaction.ts';

const folder = fileURLToPath(new URL('../../demo/', import.meta.url));

interface DemoRig {
  readonly id: string;
  readonly document: RigDocument;
}

/** The demo workshop as its files have it. @throws Error naming the file and field that is wrong */
async function demoRigs(): Promise<DemoRig[]> {
  const names = (await readdir(folder)).filter((name) => name.endsWith('.json')).sort();
  return Promise.all(
    names.map(async (name) => {
      const read = readRigFile(await readFile(folder + name, 'utf8'));
      if (!read.ok) throw new Error(`demo/${name}: ${read.issues.map(wordFileIssue).join(' ')}`);
      if (read.id === undefined) throw new Error(`demo/${name}: id is missing; a demo rig is known again by it`);
      return { id: read.id, document: read.document };
    }),
  );
}

/** Loads the demo workshop into a database that has never had it. @returns the number of rigs written */
export async function loadDemo(pool: Pool): Promise<number> {
  const rigs = await demoRigs();
  return inTransaction(pool, async (client) => {
    const mark = await client.query("insert into marks (name) values ('demo') on conflict do nothing returning name");
    if (mark.rowCount === 0) return 0;
    let written = 0;
    for (const { id, document } of rigs) if (await insertRig(client, id, document)) written += 1;
    return written;
  });
}

/**
 * Brings the demo rigs back to what their files say, and onto the list. What they had become stays as a revision of
 * each; rigs of the user's own are not touched.
 *
 * @returns the number of demo rigs
 */
export async function resetDemo(pool: Pool): Promise<number> {
  const rigs = await demoRigs();
  return inTransaction(pool, async (client) => {
    await client.query("insert into marks (name) values ('demo') on conflict do nothing");
    for (const { id, document } of rigs) {
      if (await insertRig(client, id, document)) continue;
      const version = await lockRig(client, id);
      if (version === null) throw new Error(`the demo rig ${id} went away`);
      await closeRevision(client, randomUUID(), id, null);
      await updateRig(client, id, version, document);
      await archiveRig(client, id, false);
    }
    return rigs.length;
  });
}
