import { readdir, readFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { readPartFile, readRigFile, wordFileIssue, type PartFile } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import { lockBench, partRecords, withFreeTags, writeBench } from './parts.ts';
import { writeDemoRecord } from './demo-record.ts';
import { closeRevision } from './revisions.ts';
import { archiveRig, insertRig, lockRig, updateRig } from './rigs.ts';
import type { Pool, Queryable } from './pool.ts';
import { writing, writingAlone } from './gate.ts';

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

/** The demo shelf as its file has it. @throws Error naming the field that is wrong */
async function demoShelf(): Promise<PartFile> {
  const read = readPartFile(await readFile(`${folder}bench/shelf.json`, 'utf8'));
  if (!read.ok) throw new Error(`demo/bench/shelf.json: ${read.issues.map(wordFileIssue).join(' ')}`);
  return read.file;
}

/**
 * Writes the demo shelf as its file has it. Readings that were added to its parts stay; so do the user's own parts.
 *
 * @returns the number of its parts
 */
async function writeShelf(db: Queryable, { parts, lots }: PartFile): Promise<number> {
  // Nobody writes to the bench between the look and the write.
  await lockBench(db);
  const kept = new Map((await partRecords(db, { ids: parts.map(({ id }) => id) })).map((record) => [record.id, record]));
  const now = new Date().toISOString();
  const written = parts.map(({ id, part }) => {
    const was = kept.get(id);
    const readings = was?.part.ok ? was.part.value.readings : [];
    const added = readings.filter((r) => !part.readings.some((own) => own.measure === r.measure && own.at === r.at));
    const value = { ...part, readings: [...part.readings, ...added] };
    const head = { id, version: was?.version ?? 1, createdAt: was?.createdAt ?? now, updatedAt: now, removedAt: null };
    return { ...head, photo: was?.photo ?? null, part: { ok: true as const, value } };
  });
  await writeBench(db, {
    parts: await withFreeTags(db, written),
    lots: lots.map(({ id, lot }) => ({
      id,
      version: 1,
      createdAt: now,
      updatedAt: now,
      removedAt: null,
      lot: { ok: true, value: lot },
    })),
  });
  return parts.length;
}

/** Whether this database has never had `what`; from now on it has. */
const isFirst = async (db: Queryable, what: string): Promise<boolean> =>
  (await db.query('insert into marks (name) values ($1) on conflict do nothing returning name', [what])).rowCount !== 0;

export interface DemoLoaded {
  readonly rigs: number;
  readonly parts: number;
}

/** Loads the demo rigs and the demo shelf, each into a database that has never had it. @returns what was written */
export async function loadDemo(pool: Pool): Promise<DemoLoaded> {
  const [rigs, shelf] = await Promise.all([demoRigs(), demoShelf()]);
  return writing(pool, async (client) => {
    let written = 0;
    if (await isFirst(client, 'demo'))
      for (const { id, document } of rigs) if (await insertRig(client, id, document)) written += 1;
    if (await isFirst(client, 'demo-record')) await writeDemoRecord(client);
    return { rigs: written, parts: (await isFirst(client, 'demo-bench')) ? await writeShelf(client, shelf) : 0 };
  });
}

/**
 * Brings the demo rigs and the demo shelf back to what their files say, and onto their lists. What the rigs had become
 * stays as a revision of each; rigs and parts of the user's own are not touched.
 *
 * @returns the number of demo rigs and parts
 */
export async function resetDemo(pool: Pool): Promise<DemoLoaded> {
  const [rigs, shelf] = await Promise.all([demoRigs(), demoShelf()]);
  return writingAlone(pool, async (client) => {
    await Promise.all(['demo', 'demo-bench', 'demo-record'].map((mark) => isFirst(client, mark)));
    for (const { id, document } of rigs) {
      if (await insertRig(client, id, document)) continue;
      const version = await lockRig(client, id);
      if (version === null) throw new Error(`the demo rig ${id} went away`);
      await closeRevision(client, randomUUID(), id, null);
      await updateRig(client, id, version, document);
      await archiveRig(client, id, false);
    }
    await writeDemoRecord(client);
    return { rigs: rigs.length, parts: await writeShelf(client, shelf) };
  });
}
