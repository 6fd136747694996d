import { z } from 'zod';
import { textUpTo } from '../field/index.ts';
import { rigDocumentSchema, type RigDocument } from '../rig/index.ts';
import { keptData, lotRecordSchema, partRecordSchema, readLot, readPart, type LotRecord, type PartRecord } from './bench.ts';
import { fieldIssues, forbiddenKey, rigFileMark, rigFileVersion, wordFileIssue, type FileIssue } from './rig-file.ts';
import { runRecordSchema, type RunRecord } from './run-record.ts';
import { shotRecordSchema, type ShotRecord } from './shot-record.ts';
import { upgraded } from './upgrade.ts';

/**
 * The workshop archive: rigs with their revisions, and the parts bench, as a set of small JSON files, by path. How they are packed into one
 * file is the caller's business. The same workshop always gives the same texts, so that a backup can be compared byte by
 * byte.
 */
export const archiveMark = 'vast-surge-archive';
export const archiveVersion = 3;
/** Far above any workshop; a larger archive is refused before it is unpacked. */
export const archiveLimits = { files: 50_000, bytes: 256 * 1024 * 1024 } as const;

/**
 * A document as it is kept: readable, or as plain data that this program cannot read, such as one with a block from a
 * newer version. Such data is carried along unchanged.
 */
export type KeptDocument =
  { readonly ok: true; readonly document: RigDocument } | { readonly ok: false; readonly data: object; readonly reason: string };

export interface RevisionRecord {
  readonly id: string;
  readonly number: number;
  /** The version of the rig it holds. */
  readonly version: number;
  readonly name: string | null;
  readonly madeAt: string;
  readonly document: KeptDocument;
}

export interface RigRecord {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly archivedAt: string | null;
  /** The revision of another rig it was branched from. */
  readonly branchedFrom: string | null;
  readonly document: KeptDocument;
  readonly revisions: readonly RevisionRecord[];
}

export interface Workshop {
  readonly rigs: readonly RigRecord[];
  /** The parts bench: its lots, and its parts with what was taken off it. */
  readonly lots: readonly LotRecord[];
  readonly parts: readonly PartRecord[];
  /** Runs and rehearsals of these rigs, each with all that was done in it. */
  readonly runs: readonly RunRecord[];
  /** Shots with their traces and photos. */
  readonly shots: readonly ShotRecord[];
}

export type ArchiveIssue = { readonly path: string; readonly reason: string };

export type ReadArchive =
  { readonly ok: true; readonly workshop: Workshop } | { readonly ok: false; readonly issues: readonly ArchiveIssue[] };

/** Reads a document out of storage or an archive. `version` is the version of the rig file it was written by. */
export function readDocument(data: unknown, version: number = rigFileVersion): KeptDocument {
  const object = (typeof data === 'object' && data !== null ? data : {}) as object;
  const key = forbiddenKey(data);
  if (key !== null) return { ok: false, data: {}, reason: `holds the key "${key}"` };
  const { format: _f, version: _v, id: _i, ...raw } = upgraded({ ...object, version }, version) as Record<string, unknown>;
  const read = rigDocumentSchema.safeParse(raw);
  if (read.success) return { ok: true, document: read.data };
  return { ok: false, data: object, reason: fieldIssues(read.error).map(wordFileIssue).join('; ').slice(0, 400) };
}

export const documentName = (kept: KeptDocument): string => {
  const name: unknown = kept.ok ? kept.document.name : (kept.data as { name?: unknown }).name;
  return typeof name === 'string' && name.trim() !== '' ? name.slice(0, 80) : 'unnamed';
};

/** A document as it is stored and sent, readable or not. */
export const documentData = (kept: KeptDocument): object => (kept.ok ? kept.document : kept.data);

const text = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

const revisionPath = (rigId: string, number: number) => `rigs/${rigId}/revisions/${String(number).padStart(4, '0')}.json`;

/** The files of an archive by path, in the order of their paths. */
export function writeArchive({ rigs, lots, parts, runs, shots }: Workshop): Map<string, string> {
  const head = {
    format: archiveMark,
    version: archiveVersion,
    rigs: rigs.length,
    lots: lots.length,
    parts: parts.length,
    runs: runs.length,
    shots: shots.length,
  };
  const files: [string, string][] = [
    ['archive.json', text(head)],
    ['bench/lots.json', text(lots.map(({ lot, ...rest }) => ({ ...rest, lot: keptData(lot) })))],
    ['bench/parts.json', text(parts.map(({ part, ...rest }) => ({ ...rest, part: keptData(part) })))],
  ];
  for (const shot of shots) files.push([`shots/${shot.id}.json`, text(shot)]);
  for (const run of runs) files.push([`runs/${run.id}.json`, text(run)]);
  for (const rig of rigs) {
    const { id, version, createdAt, updatedAt, archivedAt, branchedFrom } = rig;
    const revisions = rig.revisions.map(({ number }) => number);
    files.push([`rigs/${id}/record.json`, text({ id, version, createdAt, updatedAt, archivedAt, branchedFrom, revisions })]);
    // The head is a rig file of its own, so that it can be taken out of the archive and used alone.
    files.push([
      `rigs/${id}/rig.json`,
      text({ format: rigFileMark, version: rigFileVersion, id, ...documentData(rig.document) }),
    ]);
    for (const revision of rig.revisions) {
      const { document, ...head } = revision;
      files.push([
        revisionPath(id, revision.number),
        text({ ...head, rig: { format: rigFileMark, version: rigFileVersion, id, ...documentData(document) } }),
      ]);
    }
  }
  return new Map(files.sort(([a], [b]) => (a < b ? -1 : 1)));
}

const headSchema = z.object({
  format: z.literal(archiveMark),
  version: z.int().positive(),
  rigs: z.int().min(0),
  // Version 1 knew no bench.
  lots: z.int().min(0).default(0),
  parts: z.int().min(0).default(0),
  // Version 2 knew no runs and no shots.
  runs: z.int().min(0).default(0),
  shots: z.int().min(0).default(0),
});
const instant = z.iso.datetime({ error: () => 'must be a date and time in UTC' });
const recordSchema = z.strictObject({
  id: z.uuid({ error: () => 'must be the id of a rig' }),
  version: z.int().positive(),
  createdAt: instant,
  updatedAt: instant,
  archivedAt: instant.nullable(),
  branchedFrom: z.uuid().nullable(),
  revisions: z.array(z.int().positive()).max(100_000),
});
const rigFileHead = z.looseObject({ format: z.literal(rigFileMark), version: z.int().min(1).max(rigFileVersion) });
const revisionSchema = z.strictObject({
  id: z.uuid(),
  number: z.int().positive(),
  version: z.int().positive(),
  name: textUpTo(80).min(1).nullable(),
  madeAt: instant,
  rig: rigFileHead,
});

class Refused extends Error {
  readonly issue: ArchiveIssue;
  constructor(path: string, reason: string) {
    super(reason);
    this.issue = { path, reason };
  }
}

function parsed<T extends z.ZodType>(files: ReadonlyMap<string, string>, path: string, schema: T): z.output<T> {
  const content = files.get(path);
  if (content === undefined) throw new Refused(path, 'is missing');
  let data: unknown;
  try {
    data = JSON.parse(content);
  } catch {
    throw new Refused(path, 'is not complete JSON');
  }
  const key = forbiddenKey(data);
  if (key !== null) throw new Refused(path, `holds the key "${key}", which no archive has`);
  const read = schema.safeParse(data);
  if (read.success) return read.data;
  const issues: FileIssue[] = fieldIssues(read.error);
  throw new Refused(path, issues.map(wordFileIssue).join('; ').slice(0, 400));
}

/** The document in the form of the newest version, or as it stands where it cannot be read. */
function documentOf({ format: _format, version, id: _id, ...document }: z.output<typeof rigFileHead>): KeptDocument {
  return readDocument(document, version);
}

function readRig(files: ReadonlyMap<string, string>, folder: string): RigRecord {
  const { revisions: numbers, ...record } = parsed(files, `${folder}/record.json`, recordSchema);
  if (folder !== `rigs/${record.id}`) throw new Refused(`${folder}/record.json`, `says it is of another rig, ${record.id}`);
  const document = documentOf(parsed(files, `${folder}/rig.json`, rigFileHead));
  const revisions = numbers.map((number) => {
    const path = revisionPath(record.id, number);
    const { rig, ...head } = parsed(files, path, revisionSchema);
    if (head.number !== number) throw new Refused(path, `says it is number ${head.number}`);
    if (head.version > record.version) throw new Refused(path, 'is of a version the rig has not reached');
    return { ...head, document: documentOf(rig) };
  });
  if (
    new Set(revisions.map((r) => r.id)).size !== revisions.length ||
    new Set(revisions.map((r) => r.version)).size !== revisions.length
  )
    throw new Refused(`${folder}/record.json`, 'names a revision twice');
  return { ...record, document, revisions };
}

const noDoubles = (path: string, ids: readonly string[]): void => {
  if (new Set(ids).size !== ids.length) throw new Refused(path, 'names one id twice');
};

function readBench(
  files: ReadonlyMap<string, string>,
  counts: { lots: number; parts: number },
): Pick<Workshop, 'lots' | 'parts'> {
  const [lotPath, partPath] = ['bench/lots.json', 'bench/parts.json'];
  const rows = <T extends z.ZodType>(path: string, schema: T, count: number): z.output<T>[] => {
    if (count === 0 && !files.has(path)) return [];
    const found = parsed(files, path, z.array(schema));
    if (found.length !== count) throw new Refused(path, `holds ${found.length} entries, and archive.json says ${count}`);
    return found;
  };
  const lots = rows(lotPath, lotRecordSchema, counts.lots).map(({ lot, ...rest }) => ({ ...rest, lot: readLot(lot) }));
  const parts = rows(partPath, partRecordSchema, counts.parts).map(({ part, ...rest }) => ({ ...rest, part: readPart(part) }));
  noDoubles(
    lotPath,
    lots.map((l) => l.id),
  );
  noDoubles(
    partPath,
    parts.map((p) => p.id),
  );
  return { lots, parts };
}

/** Runs of the rigs that are there: one that points at nothing would be a record of nothing. */
function readRuns(files: ReadonlyMap<string, string>, count: number, rigs: readonly RigRecord[]): RunRecord[] {
  const paths = [...files.keys()].filter((path) => /^runs\/[^/]+\.json$/.test(path)).sort();
  if (paths.length !== count) throw new Refused('archive.json', `says it holds ${count} runs, and ${paths.length} are there`);
  const revisions = new Set(rigs.flatMap((rig) => rig.revisions.map((r) => r.id)));
  return paths.map((path) => {
    const run = parsed(files, path, runRecordSchema);
    if (path !== `runs/${run.id}.json`) throw new Refused(path, `says it is of another run, ${run.id}`);
    if (!revisions.has(run.revisionId)) throw new Refused(path, 'is of a revision that the archive does not hold');
    if (run.events.some((e, i) => e.number !== i + 1)) throw new Refused(path, 'does not number its events from 1 without a gap');
    return run;
  });
}

function readShots(files: ReadonlyMap<string, string>, count: number, rigs: readonly RigRecord[]): ShotRecord[] {
  const paths = [...files.keys()].filter((path) => /^shots\/[^/]+\.json$/.test(path)).sort();
  if (paths.length !== count) throw new Refused('archive.json', `says it holds ${count} shots, and ${paths.length} are there`);
  const revisions = new Set(rigs.flatMap((rig) => rig.revisions.map((r) => r.id)));
  return paths.map((path) => {
    const shot = parsed(files, path, shotRecordSchema);
    if (path !== `shots/${shot.id}.json`) throw new Refused(path, `says it is of another shot, ${shot.id}`);
    if (!revisions.has(shot.revisionId)) throw new Refused(path, 'is of a revision that the archive does not hold');
    return shot;
  });
}

/** Reads the files of an archive. Files it does not know, such as the CSV tables, are left aside. It never throws. */
export function readArchive(files: ReadonlyMap<string, string>): ReadArchive {
  const folders = [...files.keys()].flatMap((path) => /^(rigs\/[^/]+)\/record\.json$/.exec(path)?.[1] ?? []).sort();
  let bench: Pick<Workshop, 'lots' | 'parts'>;
  let [runCount, shotCount] = [0, 0];
  try {
    const { version, rigs, runs, shots, ...counts } = parsed(files, 'archive.json', headSchema);
    if (version > archiveVersion)
      throw new Refused(
        'archive.json',
        `is of version ${version}, and this program reads up to version ${archiveVersion}: use a newer Vast Surge`,
      );
    if (rigs !== folders.length) throw new Refused('archive.json', `says it holds ${rigs} rigs, and ${folders.length} are there`);
    bench = readBench(files, counts);
    [runCount, shotCount] = [runs, shots];
  } catch (error) {
    if (error instanceof Refused) return { ok: false, issues: [error.issue] };
    throw error;
  }
  const issues: ArchiveIssue[] = [];
  const rigs = folders.flatMap((folder) => {
    try {
      return [readRig(files, folder)];
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      issues.push(error.issue);
      return [];
    }
  });
  if (issues.length > 0) return { ok: false, issues: issues.slice(0, 20) };
  try {
    return {
      ok: true,
      workshop: { rigs, ...bench, runs: readRuns(files, runCount, rigs), shots: readShots(files, shotCount, rigs) },
    };
  } catch (error) {
    if (error instanceof Refused) return { ok: false, issues: [error.issue] };
    throw error;
  }
}
