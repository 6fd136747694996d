import { z } from 'zod';
import { campaignSchema, checkSchema, entrySchema, mostEntries } from '../campaign/index.ts';
import { rehearsalSchema } from '../rehearsal/index.ts';
import { planSchema, runEventSchema } from '../run/index.ts';
import { predictedSchema, shotSchema } from '../shot/index.ts';
import {
  archiveMark,
  archiveVersion,
  noRecords,
  workshopNouns,
  type ArchiveCounts,
  type RevisionRecord,
  type RigRecord,
  type WorkshopNoun,
  type WorkshopRecord,
} from './archive.ts';
import { lotRecordSchema, partFileRecordSchema, partRecordSchema, readLot, readPart } from './bench.ts';
import { readDocument, type KeptDocument } from './kept-document.ts';
import { fieldIssues, forbiddenKey, rigFileMark, rigFileVersion, wordFileIssue } from './rig-file.ts';

/** The files of an archive: their paths, and the text of one when it is asked for. */
export interface ArchiveSource {
  readonly paths: readonly string[];
  text(path: string): Promise<string>;
}

/** Something that stands against taking an archive, by file and reason. */
export class ArchiveRefused extends Error {
  readonly path: string;
  readonly reason: string;
  constructor(path: string, reason: string) {
    super(`${path} ${reason}`);
    this.name = 'ArchiveRefused';
    this.path = path;
    this.reason = reason;
  }
}

const instant = z.iso.datetime({ error: () => 'must be a date and time in UTC' });
const idOf = (noun: string) => z.uuid({ error: () => `must be the id of a ${noun}` });
const count = z.int().min(0);
const headSchema = z.object({
  format: z.literal(archiveMark),
  version: z.int().positive(),
  holds: z.record(z.enum(workshopNouns), count).optional(),
  // Up to version 3; the first knew no bench, the second no runs and no shots.
  rigs: count.default(0),
  lots: count.default(0),
  parts: count.default(0),
  runs: count.default(0),
  shots: count.default(0),
});
type Head = z.output<typeof headSchema>;

const recordSchema = z.strictObject({
  id: idOf('rig'),
  version: z.int().positive(),
  createdAt: instant,
  updatedAt: instant,
  archivedAt: instant.nullable(),
  branchedFrom: z.uuid().nullable(),
  /** Up to version 3: the numbers of its revisions. */
  revisions: z.array(z.int().positive()).optional(),
});
const rigFileHead = z.looseObject({ format: z.literal(rigFileMark), version: z.int().min(1).max(rigFileVersion) });
const revisionSchema = z.strictObject({
  id: z.uuid(),
  number: z.int().positive(),
  version: z.int().positive(),
  name: z.string().min(1).nullable(),
  madeAt: instant,
  rig: rigFileHead,
});
const eventSchema = z.strictObject({
  number: z.int().positive(),
  receivedAt: instant,
  // Whatever was kept is restored; what comes in from elsewhere is held to what a run takes now.
  event: z.looseObject({ id: z.uuid(), type: z.string() }),
});
const runSchema = z.strictObject({
  id: idOf('run'),
  revisionId: idOf('revision'),
  rehearsal: rehearsalSchema.nullable(),
  madeAt: instant,
  plan: planSchema,
  /** Up to version 3. */
  events: z.array(eventSchema).optional(),
});
const campaignRecordSchema = z.strictObject({
  id: idOf('campaign'),
  revisionId: idOf('revision'),
  madeAt: instant,
  campaign: campaignSchema,
  entries: z.array(entrySchema).max(mostEntries),
});
const fileSchema = z.strictObject({
  id: z.uuid(),
  kind: z.enum(['trace', 'photo']),
  name: z.string().min(1),
  addedAt: instant,
  content: z.string(),
});
const shotRecordSchema = z.strictObject({
  id: idOf('shot'),
  revisionId: idOf('revision'),
  runId: z.uuid().nullable(),
  version: z.int().positive(),
  createdAt: instant,
  updatedAt: instant,
  removedAt: instant.nullable(),
  shot: z.looseObject({}),
  predicted: z.looseObject({}),
  /** Up to version 3. */
  files: z.array(fileSchema).optional(),
});

/** The document in the form of the newest version, or as it stands where it cannot be read. */
function documentOf({ format: _format, version, id: _id, ...document }: z.output<typeof rigFileHead>): KeptDocument {
  return readDocument(document, version);
}

export interface ReadOptions {
  /** Holds shots and events to what is taken today: for an archive from elsewhere, of which chosen rigs come in. */
  readonly strict?: boolean;
}

class Reader {
  private readonly source: ArchiveSource;
  private readonly strict: boolean;
  private readonly has: ReadonlySet<string>;
  private readonly ids = new Set<string>();
  private readonly revisions = new Set<string>();
  private readonly counts = noRecords();

  constructor(source: ArchiveSource, { strict = false }: ReadOptions) {
    this.source = source;
    this.strict = strict;
    this.has = new Set(source.paths);
  }

  private async parsed<T extends z.ZodType>(path: string, schema: T): Promise<z.output<T>> {
    if (!this.has.has(path)) throw new ArchiveRefused(path, 'is missing');
    let data: unknown;
    const content = await this.source.text(path);
    try {
      data = JSON.parse(content);
    } catch {
      throw new ArchiveRefused(path, 'is not complete JSON');
    }
    const key = forbiddenKey(data);
    if (key !== null) throw new ArchiveRefused(path, `holds the key "${key}", which no archive has`);
    const read = schema.safeParse(data);
    if (read.success) return read.data;
    throw new ArchiveRefused(path, fieldIssues(read.error).map(wordFileIssue).join('; ').slice(0, 400));
  }

  /** Paths of a form in their order. */
  private paths(form: RegExp): string[] {
    return this.source.paths.filter((path) => form.test(path)).sort();
  }

  private counted<R extends WorkshopRecord>(path: string, id: string | null, record: R): R {
    if (id !== null) {
      if (this.ids.has(id)) throw new ArchiveRefused(path, 'names one id twice');
      this.ids.add(id);
    }
    this.counts[record.noun] += 1;
    return record;
  }

  private ofRevision(path: string, revisionId: string): void {
    if (!this.revisions.has(revisionId)) throw new ArchiveRefused(path, 'is of a revision that the archive does not hold');
  }

  async *records(): AsyncGenerator<WorkshopRecord, ArchiveCounts> {
    const head = await this.parsed('archive.json', headSchema);
    if (head.version > archiveVersion)
      throw new ArchiveRefused(
        'archive.json',
        `is of version ${head.version}, and this program reads up to version ${archiveVersion}: use a newer Vast Surge`,
      );
    yield* this.bench();
    yield* this.checks();
    yield* this.rigs();
    yield* this.runs();
    yield* this.campaigns();
    yield* this.shots();
    this.hold(head);
    return this.counts;
  }

  /** What is there against what the archive says of itself. */
  private hold(head: Head): void {
    const says: Partial<Record<WorkshopNoun, number>> =
      head.version >= 4
        ? { ...noRecords(), ...head.holds }
        : { rig: head.rigs, lot: head.lots, part: head.parts, run: head.runs, shot: head.shots };
    for (const noun of workshopNouns)
      if (says[noun] !== undefined && says[noun] !== this.counts[noun])
        throw new ArchiveRefused('archive.json', `says it holds ${says[noun]} of ${noun}, and ${this.counts[noun]} are there`);
  }

  private async *bench(): AsyncGenerator<WorkshopRecord> {
    const lot = (path: string, { lot: data, ...rest }: z.output<typeof lotRecordSchema>) =>
      this.counted(path, rest.id, { noun: 'lot', record: { ...rest, lot: readLot(data) } });
    const part = (path: string, { part: data, ...rest }: z.output<typeof partRecordSchema>) =>
      this.counted(path, rest.id, { noun: 'part', record: { ...rest, part: readPart(data) } });
    // Up to version 3 all of them stand in one file.
    for (const path of this.paths(/^bench\/lots\.json$/))
      for (const one of await this.parsed(path, z.array(lotRecordSchema))) yield lot(path, one);
    for (const path of this.paths(/^bench\/lots\/[^/]+\.json$/)) yield lot(path, await this.parsed(path, lotRecordSchema));
    for (const path of this.paths(/^bench\/parts\.json$/))
      for (const one of await this.parsed(path, z.array(partRecordSchema))) yield part(path, one);
    for (const path of this.paths(/^bench\/parts\/[^/]+\.json$/)) yield part(path, await this.parsed(path, partRecordSchema));
    for (const path of this.paths(/^bench\/files\/[^/]+\.json$/)) {
      const record = await this.parsed(path, partFileRecordSchema);
      yield this.counted(path, record.digest, { noun: 'part-file', record });
    }
  }

  private async *rigs(): AsyncGenerator<WorkshopRecord> {
    const revisions = new Map<string, string[]>();
    for (const path of this.paths(/^rigs\/[^/]+\/revisions\/\d+\.json$/)) {
      const folder = path.slice(0, path.indexOf('/', 5));
      const paths = revisions.get(folder);
      if (paths) paths.push(path);
      else revisions.set(folder, [path]);
    }
    for (const path of this.paths(/^rigs\/[^/]+\/record\.json$/)) {
      const folder = path.slice(0, -'/record.json'.length);
      const { revisions: numbers, ...head } = await this.parsed(path, recordSchema);
      if (folder !== `rigs/${head.id}`) throw new ArchiveRefused(path, `says it is of another rig, ${head.id}`);
      const document = documentOf(await this.parsed(`${folder}/rig.json`, rigFileHead));
      const record: RigRecord = { ...head, document };
      yield this.counted(path, record.id, { noun: 'rig', record });
      const own = (revisions.get(folder) ?? []).sort(
        (a, b) => Number(/(\d+)\.json$/.exec(a)?.[1]) - Number(/(\d+)\.json$/.exec(b)?.[1]),
      );
      const found = new Set<number>();
      const versions = new Set<number>();
      for (const at of own) {
        const revision = await this.revision(at, record);
        if (versions.has(revision.version) || found.has(revision.number))
          throw new ArchiveRefused(path, 'names a revision twice');
        versions.add(revision.version);
        found.add(revision.number);
        yield this.counted(at, revision.id, { noun: 'revision', record: revision });
      }
      const lost = numbers?.find((number) => !found.has(number));
      if (lost !== undefined) throw new ArchiveRefused(`${folder}/revisions/${String(lost).padStart(4, '0')}.json`, 'is missing');
    }
  }

  private async revision(path: string, rig: RigRecord): Promise<RevisionRecord> {
    const { rig: file, ...head } = await this.parsed(path, revisionSchema);
    if (head.number !== Number(/(\d+)\.json$/.exec(path)?.[1]))
      throw new ArchiveRefused(path, `says it is number ${head.number}`);
    if (head.version > rig.version) throw new ArchiveRefused(path, 'is of a version the rig has not reached');
    this.revisions.add(head.id);
    return { rigId: rig.id, ...head, document: documentOf(file) };
  }

  private async *runs(): AsyncGenerator<WorkshopRecord> {
    const events = new Map<string, string[]>();
    for (const path of this.paths(/^runs\/[^/]+\/events\/\d+\.json$/)) {
      const id = path.split('/')[1] ?? '';
      events.set(id, [...(events.get(id) ?? []), path]);
    }
    for (const path of this.paths(/^runs\/[^/]+(\/run)?\.json$/)) {
      const { events: inside, ...record } = await this.parsed(path, runSchema);
      if (path !== `runs/${record.id}.json` && path !== `runs/${record.id}/run.json`)
        throw new ArchiveRefused(path, `says it is of another run, ${record.id}`);
      this.ofRevision(path, record.revisionId);
      yield this.counted(path, record.id, { noun: 'run', record });
      let last = 0;
      const held = (at: string, list: readonly z.output<typeof eventSchema>[]): WorkshopRecord => {
        for (const { number, event } of list) {
          if (number !== last + 1) throw new ArchiveRefused(at, 'does not number its events from 1 without a gap');
          last = number;
          if (this.strict) this.strictly(at, `event ${number}`, runEventSchema, event);
        }
        return this.counted(at, null, { noun: 'run-events', record: { runId: record.id, events: list } });
      };
      if (inside && inside.length > 0) yield held(path, inside);
      const number = (at: string) => Number(/(\d+)\.json$/.exec(at)?.[1]);
      for (const at of (events.get(record.id) ?? []).sort((a, b) => number(a) - number(b)))
        yield held(at, await this.parsed(at, z.array(eventSchema).min(1)));
    }
  }

  private async *campaigns(): AsyncGenerator<WorkshopRecord> {
    for (const path of this.paths(/^campaigns\/[^/]+\.json$/)) {
      const record = await this.parsed(path, campaignRecordSchema);
      if (path !== `campaigns/${record.id}.json`) throw new ArchiveRefused(path, `says it is of another campaign, ${record.id}`);
      this.ofRevision(path, record.revisionId);
      yield this.counted(path, record.id, { noun: 'campaign', record });
    }
  }

  private async *checks(): AsyncGenerator<WorkshopRecord> {
    for (const path of this.paths(/^checks\/[^/]+\.json$/)) {
      const record = await this.parsed(path, checkSchema);
      if (path !== `checks/${record.id}.json`) throw new ArchiveRefused(path, `says it is of another check, ${record.id}`);
      yield this.counted(path, record.id, { noun: 'check', record });
    }
  }

  private async *shots(): AsyncGenerator<WorkshopRecord> {
    const files = new Map<string, string[]>();
    for (const path of this.paths(/^shots\/[^/]+\/files\/[^/]+\.json$/)) {
      const id = path.split('/')[1] ?? '';
      files.set(id, [...(files.get(id) ?? []), path]);
    }
    for (const path of this.paths(/^shots\/[^/]+(\/shot)?\.json$/)) {
      const { files: inside = [], ...record } = await this.parsed(path, shotRecordSchema);
      if (path !== `shots/${record.id}.json` && path !== `shots/${record.id}/shot.json`)
        throw new ArchiveRefused(path, `says it is of another shot, ${record.id}`);
      this.ofRevision(path, record.revisionId);
      if (this.strict) {
        this.strictly(path, 'shot', shotSchema, record.shot);
        this.strictly(path, 'predicted', predictedSchema, record.predicted);
      }
      yield this.counted(path, record.id, { noun: 'shot', record });
      for (const file of inside) yield this.counted(path, file.id, { noun: 'shot-file', record: { shotId: record.id, ...file } });
      for (const at of files.get(record.id) ?? []) {
        const file = await this.parsed(at, fileSchema);
        yield this.counted(at, file.id, { noun: 'shot-file', record: { shotId: record.id, ...file } });
      }
    }
  }

  private strictly(path: string, what: string, schema: z.ZodType, data: unknown): void {
    const read = schema.safeParse(data);
    if (read.success) return;
    throw new ArchiveRefused(path, `${what}: ${fieldIssues(read.error).map(wordFileIssue).join('; ').slice(0, 300)}`);
  }
}

/**
 * The records of an archive, one at a time: what is pointed at before what points at it, the revisions of a rig behind the rig, the
 * events and files of a run and a shot behind these. Files it does not know, such as the tables, are left aside.
 *
 * @returns at the end, how many there were
 * @throws ArchiveRefused at the first file that cannot be taken; what came before it must not be kept
 */
export const archiveRecords = (source: ArchiveSource, options: ReadOptions = {}): AsyncGenerator<WorkshopRecord, ArchiveCounts> =>
  new Reader(source, options).records();
