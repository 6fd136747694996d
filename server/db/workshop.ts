import { randomUUID } from 'node:crypto';
import {
  documentData,
  rigFileVersion,
  type RevisionRecord,
  type RigRecord,
  type RunRecord,
  type Workshop,
} from '@vast-surge/core/format';
import type { BenchTaking, Imported, Taking } from '@vast-surge/contract';
import { benchStanding } from '../archive/preview.ts';
import { readBench, withFreeTags, writeBench } from './parts.ts';
import { allRevisions, closeRevision } from './revisions.ts';
import { allRigs, findRig, lockRig, updateRig, type KeptRig } from './rigs.ts';
import { insertRun, listRuns, restoreEvents } from './runs.ts';
import { allShots, restoreShots } from './shots.ts';
import type { Queryable } from './pool.ts';

const record = ({ revision: _last, ...rig }: KeptRig, revisions: readonly RevisionRecord[]): RigRecord => ({ ...rig, revisions });

/** Runs as an archive holds them, in the order of their ids. */
const readRuns = async (db: Queryable, rigId: string | null): Promise<RunRecord[]> =>
  (await listRuns(db, rigId))
    .map(({ rigId: _rig, revision: _number, events, ...run }) => ({
      ...run,
      events: [...events],
    }))
    .sort((a, b) => (a.id < b.id ? -1 : 1));

/** The whole workshop, or one rig of it without the bench, with all revisions. Read it in one transaction, so that all of it is of one moment. */
export async function readWorkshop(db: Queryable, rigId: string | null = null): Promise<Workshop> {
  const one = rigId === null ? null : await findRig(db, rigId);
  const rigs = rigId === null ? await allRigs(db) : one ? [one] : [];
  const byRig = new Map<string, RevisionRecord[]>();
  for (const { rigId: owner, ...revision } of await allRevisions(db, rigId))
    byRig.set(owner, [...(byRig.get(owner) ?? []), revision]);
  const bench = rigId === null ? await readBench(db) : { lots: [], parts: [] };
  return {
    rigs: rigs.map((rig) => record(rig, byRig.get(rig.id) ?? [])),
    ...bench,
    runs: await readRuns(db, rigId),
    shots: await allShots(db, rigId),
  };
}

const insertRevision = (db: Queryable, rigId: string, r: RevisionRecord, number = r.number, version = r.version, id = r.id) =>
  db.query(
    `insert into revisions (id, rig_id, number, version, name, document, file_version, made_at) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [id, rigId, number, version, r.name, JSON.stringify(documentData(r.document)), rigFileVersion, r.madeAt],
  );

/** Writes a rig that is not here, with its revisions. Where it was branched from is kept only if that revision is here. */
async function insertRecord(db: Queryable, rig: RigRecord, id = rig.id, revisionId: (r: RevisionRecord) => string = (r) => r.id) {
  await db.query(
    `insert into rigs (id, version, document, file_version, created_at, updated_at, archived_at) values ($1, $2, $3, $4, $5, $6, $7)`,
    [id, rig.version, JSON.stringify(documentData(rig.document)), rigFileVersion, rig.createdAt, rig.updatedAt, rig.archivedAt],
  );
  for (const r of rig.revisions) await insertRevision(db, id, r, r.number, r.version, revisionId(r));
}

const linkBranch = (db: Queryable, id: string, branchedFrom: string) =>
  db.query('update rigs set branched_from = $2 where id = $1 and exists (select from revisions where id = $2)', [
    id,
    branchedFrom,
  ]);

/**
 * Takes the archive's state of a rig that is here as its next version: what the rig was becomes a revision first, and
 * so do the archive's revisions that are not here, behind the present ones and before the state that is taken.
 */
async function takeOver(db: Queryable, rig: RigRecord): Promise<void> {
  await lockRig(db, rig.id);
  await closeRevision(db, randomUUID(), rig.id, null);
  const { rows } = await db.query<{ id: string; number: number; version: number }>(
    'select id, number, version from revisions where rig_id = $1 order by number',
    [rig.id],
  );
  const known = new Set(rows.map((r) => r.id));
  let [number, version] = [rows.at(-1)?.number ?? 0, rows.at(-1)?.version ?? 1];
  for (const r of rig.revisions.filter((r) => !known.has(r.id))) {
    number += 1;
    version += 1;
    await insertRevision(db, rig.id, r, number, version);
  }
  await db.query('update rigs set version = $2 where id = $1', [rig.id, version]);
  await updateRig(db, rig.id, version, documentData(rig.document));
}

/** Brings the parts bench of an archive in: what is new, and with `take` also what differs, in the archive's state. */
async function importBench(db: Queryable, archive: Workshop, choice: BenchTaking): Promise<{ made: number; changed: number }> {
  if (choice === 'leave') return { made: 0, changed: 0 };
  const standing = benchStanding(archive, await readBench(db));
  const wanted = <T extends { id: string }>(all: readonly T[]) =>
    all.filter(({ id }) => standing.of(id) === 'new' || (choice === 'take' && standing.of(id) === 'different'));
  const parts = wanted(archive.parts);
  await writeBench(db, { parts: await withFreeTags(db, parts), lots: wanted(archive.lots) });
  const made = parts.filter(({ id }) => standing.of(id) === 'new').length;
  return { made, changed: parts.length - made };
}

/** Brings in the runs of revisions that are here and that have no such run. */
async function importRuns(db: Queryable, runs: readonly RunRecord[]): Promise<void> {
  for (const run of runs) {
    const { rowCount } = await db.query('select from revisions where id = $1', [run.revisionId]);
    if (rowCount === 0 || !(await insertRun(db, run))) continue;
    await restoreEvents(db, run.id, run.events);
  }
}

/** Brings chosen rigs of an archive in. Run it in one transaction: all of the choices are done, or none. */
export async function importWorkshop(
  db: Queryable,
  archive: Workshop,
  choices: Readonly<Record<string, Taking>>,
  bench: BenchTaking = 'leave',
): Promise<Imported> {
  let [made, changed, left] = [0, 0, 0];
  for (const rig of archive.rigs) {
    const choice = choices[rig.id] ?? 'leave';
    const here = await findRig(db, rig.id);
    if (choice === 'leave' || !rig.document.ok) left += 1;
    else if (choice === 'copy') {
      await insertRecord(db, { ...rig, archivedAt: null }, randomUUID(), () => randomUUID());
      made += 1;
    } else if (here) {
      await takeOver(db, rig);
      changed += 1;
    } else {
      await insertRecord(db, rig);
      made += 1;
    }
  }
  const taken = new Set(archive.rigs.filter((r) => choices[r.id] === 'take').flatMap((r) => r.revisions.map((v) => v.id)));
  await importRuns(
    db,
    archive.runs.filter((run) => taken.has(run.revisionId)),
  );
  await restoreShots(
    db,
    archive.shots.filter((shot) => taken.has(shot.revisionId)),
  );
  for (const rig of archive.rigs)
    if (rig.branchedFrom !== null && choices[rig.id] === 'take') await linkBranch(db, rig.id, rig.branchedFrom);
  return { made, changed, left, parts: await importBench(db, archive, bench) };
}

/** Empties the workshop and fills it with exactly what an archive holds. Run it in one transaction. */
export async function replaceWorkshop(db: Queryable, archive: Workshop): Promise<void> {
  await db.query('truncate rigs, revisions, runs, run_events, shots, shot_files, writes, parts, lots, part_photos, part_files');
  for (const rig of archive.rigs) await insertRecord(db, rig);
  for (const rig of archive.rigs) if (rig.branchedFrom !== null) await linkBranch(db, rig.id, rig.branchedFrom);
  await importRuns(db, archive.runs);
  await restoreShots(db, archive.shots);
  await writeBench(db, archive);
  // The demo is not loaded again into a workshop that was restored.
  await db.query("insert into marks (name) values ('demo'), ('demo-bench'), ('demo-record') on conflict do nothing");
}
