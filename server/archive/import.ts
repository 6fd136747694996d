import { randomUUID } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import {
  ArchiveRefused,
  documentData,
  documentName,
  keptData,
  photoLimit,
  type LotRecord,
  type PartRecord,
  type RevisionRecord,
  type RigRecord,
  type ShotFileRecord,
  type WorkshopRecord,
} from '@vast-surge/core/format';
import { differences, differenceWords } from '@vast-surge/core/rig';
import {
  shotPhotoLimit,
  traceContentSchema,
  type BenchTaking,
  type Imported,
  type Preview,
  type PreviewBench,
  type PreviewEntry,
  type Taking,
} from '@vast-surge/contract';
import { keptPicture, NoPicture } from '../picture.ts';
import { traceIssue } from '../trace.ts';
import { lotRecords, partRecords, withFreeTags, writeBench } from '../db/parts.ts';
import { closeRevision } from '../db/revisions.ts';
import { restoreCampaign } from '../db/campaigns.ts';
import { putUses } from '../db/heads.ts';
import { findRig, lockRig, updateRig } from '../db/rigs.ts';
import { insertRun, restoreEvents } from '../db/runs.ts';
import { restoreFile, restoreShot } from '../db/shots.ts';
import { BenchBatch, insertRecord, insertRevision, linkBranch } from '../db/workshop.ts';
import type { Queryable } from '../db/pool.ts';

type Standing = PreviewEntry['standing'];
type Records = AsyncIterable<WorkshopRecord>;

function standing(theirs: RigRecord, ours: RigRecord | null): Pick<PreviewEntry, 'standing' | 'says'> {
  if (!theirs.document.ok) return { standing: 'unreadable', says: `This program cannot read it: ${theirs.document.reason}` };
  if (!ours) return { standing: 'new', says: 'There is no such rig here yet.' };
  if (!ours.document.ok) return { standing: 'different', says: 'What is kept here cannot be read by this program.' };
  const changes = differences(ours.document.document, theirs.document.document);
  return changes.length === 0
    ? { standing: 'same', says: 'The same as kept here.' }
    : { standing: 'different', says: `Here → in the archive: ${differenceWords(changes)}` };
}

interface Batch {
  readonly parts: readonly PartRecord[];
  readonly lots: readonly LotRecord[];
}

/** How each part and lot of a batch stands against the bench that is kept. Times and versions are not compared. */
async function benchStandings(db: Queryable, { parts, lots }: Batch): Promise<Map<string, Standing>> {
  const content = (batch: Batch) =>
    new Map<string, unknown>([
      ...batch.parts.map((p) => [p.id, [keptData(p.part), p.photo, p.removedAt === null]] as const),
      ...batch.lots.map((l) => [l.id, [keptData(l.lot)]] as const),
    ]);
  const ours = content({
    parts: await partRecords(db, { ids: parts.map((p) => p.id) }),
    lots: (await lotRecords(db, { ids: lots.map((l) => l.id) })).filter((l) => l.removedAt === null),
  });
  const unreadable = new Set([...parts.filter((p) => !p.part.ok), ...lots.filter((l) => !l.lot.ok)].map((r) => r.id));
  const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
  return new Map(
    [...content({ parts, lots })].map(([id, theirs]): [string, Standing] => {
      if (unreadable.has(id)) return [id, 'unreadable'];
      if (!ours.has(id)) return [id, 'new'];
      return [id, isDeepStrictEqual(plain(ours.get(id)), plain(theirs)) ? 'same' : 'different'];
    }),
  );
}

/** Ids of these revisions that are kept here. */
async function knownRevisions(db: Queryable, rigId: string): Promise<ReadonlySet<string>> {
  const { rows } = await db.query<{ id: string }>('select id from revisions where rig_id = $1', [rigId]);
  return new Set(rows.map((row) => row.id));
}

/** Ids of these shots that are kept here. */
async function knownShots(db: Queryable, ids: readonly string[]): Promise<ReadonlySet<string>> {
  const { rows } = await db.query<{ id: string }>('select id from shots where id = any($1::uuid[])', [ids]);
  return new Set(rows.map((row) => row.id));
}

const nothingYet = { revisions: 0, newRevisions: 0, runs: 0, shots: 0, newShots: 0, campaigns: 0, photos: 0, traces: 0 };

/** What an archive would bring to the workshop that is kept here. Nothing is written. */
export async function previewOf(db: Queryable, records: Records): Promise<Preview> {
  const entries: { -readonly [K in keyof PreviewEntry]: PreviewEntry[K] }[] = [];
  const bench = { parts: 0, lots: 0, photos: 0, new: 0, same: 0, different: 0, unreadable: 0 } satisfies PreviewBench;
  let known: ReadonlySet<string> = new Set();
  /** Whose a revision or a shot is. */
  const entryOf = new Map<string, (typeof entries)[number]>();
  const shots: string[] = [];
  const batch = new BenchBatch(async (some) => {
    for (const stands of (await benchStandings(db, some)).values()) bench[stands] += 1;
  });
  for await (const { noun, record } of records) {
    if (noun === 'part') {
      bench.parts += 1;
      if (record.photo !== null) bench.photos += 1;
      await batch.add({ part: record });
    } else if (noun === 'lot' && record.removedAt === null) {
      bench.lots += 1;
      await batch.add({ lot: record });
    } else if (noun === 'rig') {
      known = await knownRevisions(db, record.id);
      entries.push({
        id: record.id,
        name: documentName(record.document),
        ...nothingYet,
        ...standing(record, await findRig(db, record.id)),
      });
    } else if (noun === 'revision') {
      const entry = entries.at(-1);
      if (!entry) continue;
      entry.revisions += 1;
      entryOf.set(record.id, entry);
      if (!known.has(record.id)) entry.newRevisions += 1;
    } else if (noun === 'run') {
      const entry = entryOf.get(record.revisionId);
      if (entry) entry.runs += 1;
    } else if (noun === 'campaign') {
      const entry = entryOf.get(record.revisionId);
      if (entry) entry.campaigns += 1;
    } else if (noun === 'shot' && record.removedAt === null) {
      const entry = entryOf.get(record.revisionId);
      if (!entry) continue;
      entry.shots += 1;
      entryOf.set(record.id, entry);
      shots.push(record.id);
    } else if (noun === 'shot-file') {
      const entry = entryOf.get(record.shotId);
      if (entry) entry[record.kind === 'photo' ? 'photos' : 'traces'] += 1;
    }
  }
  await batch.flush();
  const here = await knownShots(db, shots);
  for (const id of shots) {
    const entry = entryOf.get(id);
    if (entry && !here.has(id)) entry.newShots += 1;
  }
  return { entries, bench: bench.parts + bench.lots > 0 ? bench : null };
}

/** A rig of the archive that is being brought in: its revisions come behind it. */
interface Incoming {
  revision(record: RevisionRecord): Promise<void>;
  end(): Promise<void>;
}

const leave: Incoming = { revision: () => Promise.resolve(), end: () => Promise.resolve() };

/**
 * Takes the archive's state of a rig that is here as its next version: what the rig was becomes a revision first, and
 * so do the archive's revisions that are not here, behind the present ones and before the state that is taken.
 */
async function takeOver(db: Queryable, rig: RigRecord): Promise<Incoming> {
  await lockRig(db, rig.id);
  await closeRevision(db, randomUUID(), rig.id, null);
  const known = await knownRevisions(db, rig.id);
  const { rows } = await db.query<{ number: number; version: number }>(
    'select number, version from revisions where rig_id = $1 order by number desc limit 1',
    [rig.id],
  );
  let [number, version] = [rows[0]?.number ?? 0, rows[0]?.version ?? 1];
  return {
    revision: async (record) => {
      if (known.has(record.id)) return;
      number += 1;
      version += 1;
      await insertRevision(db, rig.id, record, number, version);
    },
    end: async () => {
      await db.query('update rigs set version = $2 where id = $1', [rig.id, version]);
      await updateRig(db, rig.id, version, documentData(rig.document));
      if (rig.document.ok) await putUses(db, rig.id, rig.document.document);
    },
  };
}

/** Brings parts and lots in: what is new, and with `take` also what differs, in the archive's state. */
const benchImport = (db: Queryable, choice: BenchTaking, done: { made: number; changed: number }) =>
  new BenchBatch(async (batch) => {
    if (choice === 'leave') return;
    const stands = await benchStandings(db, batch);
    const wanted = <T extends { id: string }>(all: readonly T[]) =>
      all.filter(({ id }) => stands.get(id) === 'new' || (choice === 'take' && stands.get(id) === 'different'));
    const parts = wanted(batch.parts);
    await writeBench(db, { parts: await withFreeTags(db, parts), lots: wanted(batch.lots) });
    const made = parts.filter(({ id }) => stands.get(id) === 'new').length;
    done.made += made;
    done.changed += parts.length - made;
  });

/** Brings chosen rigs of an archive in, a record at a time. Run it in one transaction: all of the choices are done, or none. */
export async function importRecords(
  db: Queryable,
  records: Records,
  choices: Readonly<Record<string, Taking>>,
  bench: BenchTaking = 'leave',
): Promise<Imported> {
  let [made, changed, left] = [0, 0, 0];
  const parts = { made: 0, changed: 0 };
  const batch = benchImport(db, bench, parts);
  const branches: (readonly [string, string])[] = [];
  /** Revisions, runs and shots that came in: what points at them may come too. */
  const taken = new Set<string>();
  let rig: Incoming = leave;
  const begin = async (record: RigRecord): Promise<Incoming> => {
    const choice = choices[record.id] ?? 'leave';
    if (choice === 'leave' || !record.document.ok) {
      left += 1;
      return leave;
    }
    if (choice === 'copy') {
      made += 1;
      const id = randomUUID();
      await insertRecord(db, record, id, null);
      return { ...leave, revision: (r) => insertRevision(db, id, r, r.number, r.version, randomUUID()).then(() => undefined) };
    }
    if (record.branchedFrom !== null) branches.push([record.id, record.branchedFrom]);
    const noting = (incoming: Incoming): Incoming => ({
      ...incoming,
      revision: (r) => {
        taken.add(r.id);
        return incoming.revision(r);
      },
    });
    if (await findRig(db, record.id)) {
      changed += 1;
      return noting(await takeOver(db, record));
    }
    made += 1;
    await insertRecord(db, record);
    return noting({ ...leave, revision: (r) => insertRevision(db, record.id, r).then(() => undefined) });
  };
  for await (const { noun, record } of records) {
    switch (noun) {
      case 'lot':
        if (record.removedAt === null) await batch.add({ lot: record });
        break;
      case 'part':
        await batch.add({ part: { ...record, photo: await checkedPhoto(record) } });
        break;
      case 'part-file':
        break;
      case 'rig':
        await rig.end();
        rig = await begin(record);
        break;
      case 'revision':
        await rig.revision(record);
        break;
      case 'run':
        // Of a revision that is here; one that is here already has all that was done in it.
        if (taken.has(record.revisionId) && (await revisionIsHere(db, record.revisionId)) && (await insertRun(db, record)))
          taken.add(record.id);
        break;
      case 'run-events':
        if (taken.has(record.runId)) await restoreEvents(db, record);
        break;
      case 'check':
        // Checks of another workshop say nothing of this one's tools.
        break;
      case 'campaign':
        if (taken.has(record.revisionId)) await restoreCampaign(db, record);
        break;
      case 'shot':
        if (taken.has(record.revisionId) && (await restoreShot(db, record))) taken.add(record.id);
        break;
      case 'shot-file':
        if (taken.has(record.shotId)) await restoreFile(db, await checkedFile(record));
        break;
    }
  }
  await rig.end();
  await batch.flush();
  for (const [id, branchedFrom] of branches) await linkBranch(db, id, branchedFrom);
  return { made, changed, left, parts };
}

/** A picture out of an archive from elsewhere, as it is kept. @throws ArchiveRefused */
async function picture(path: string, url: string, most: number): Promise<string> {
  try {
    return await keptPicture(url, most, true);
  } catch (error) {
    if (error instanceof NoPicture) throw new ArchiveRefused(path, `has a picture that ${error.message}`);
    throw error;
  }
}

const checkedPhoto = async ({ id, photo }: PartRecord): Promise<string | null> =>
  photo === null ? null : picture(`bench/parts/${id}.json`, photo, photoLimit);

/** @throws ArchiveRefused where a trace does not hang together, or a picture is none */
async function checkedFile(file: ShotFileRecord): Promise<ShotFileRecord> {
  const path = `shots/${file.shotId}/files/${file.id}.json`;
  if (file.kind === 'photo') return { ...file, content: await picture(path, file.content, shotPhotoLimit) };
  let content: unknown = null;
  try {
    content = JSON.parse(file.content);
  } catch {
    throw new ArchiveRefused(path, 'has a trace that is not complete JSON');
  }
  const read = traceContentSchema.safeParse(content);
  const issue = read.success ? traceIssue(read.data) : { path: 'content', reason: 'is no trace' };
  if (issue) throw new ArchiveRefused(path, `${issue.path} ${issue.reason}`);
  return file;
}

async function revisionIsHere(db: Queryable, id: string): Promise<boolean> {
  return (await db.query('select from revisions where id = $1', [id])).rowCount === 1;
}
