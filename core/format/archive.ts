import type { Campaign, Check, Entry } from '../campaign/index.ts';
import type { RunPlan } from '../run/index.ts';
import type { Rehearsal } from '../rehearsal/index.ts';
import { keptData, type LotRecord, type PartFileRecord, type PartRecord } from './bench.ts';
import { documentData, documentVersion, type KeptDocument } from './kept-document.ts';
import { rigFileMark } from './rig-file.ts';

/**
 * The workshop archive: a set of small JSON files by path, one for each record, so that a workshop of any size is written and read with
 * one of them in hand at a time. How they are packed into one file is the caller's business. The same record always gives the same text,
 * so that a backup can be compared byte by byte.
 */
export const archiveMark = 'vast-surge-archive';
export const archiveVersion = 5;

/** So many events of a run stand in one file of an archive. */
export const eventsPerEntry = 500;

export interface RigRecord {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly archivedAt: string | null;
  /** The revision of another rig it was branched from. */
  readonly branchedFrom: string | null;
  readonly document: KeptDocument;
}

export interface RevisionRecord {
  readonly rigId: string;
  readonly id: string;
  readonly number: number;
  /** The version of the rig it holds. */
  readonly version: number;
  readonly name: string | null;
  readonly madeAt: string;
  readonly document: KeptDocument;
}

/** A run or a rehearsal as it was planned. */
export interface RunRecord {
  readonly id: string;
  /** The revision of the rig that was run. */
  readonly revisionId: string;
  readonly rehearsal: Rehearsal | null;
  readonly madeAt: string;
  readonly plan: RunPlan;
}

/** What was done in a run, as it was kept: what an older program let through is carried along. */
export interface RunEventsRecord {
  readonly runId: string;
  readonly events: readonly { readonly number: number; readonly receivedAt: string; readonly event: { readonly id: string } }[];
}

/** A campaign as it was planned, with its book. */
export interface CampaignRecord {
  readonly id: string;
  /** The revision of the rig that it was planned for. */
  readonly revisionId: string;
  readonly madeAt: string;
  readonly campaign: Campaign;
  readonly entries: readonly Entry[];
}

/** A check of the workshop that was made. */
export type CheckRecord = Check;

export interface ShotRecord {
  readonly id: string;
  /** The revision of the rig that was fired, and the run it belongs to. */
  readonly revisionId: string;
  readonly runId: string | null;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly removedAt: string | null;
  readonly shot: object;
  readonly predicted: object;
}

/** A trace as JSON with its samples, or a photo as a data URL. */
export interface ShotFileRecord {
  readonly shotId: string;
  readonly id: string;
  readonly kind: 'trace' | 'photo';
  readonly name: string;
  readonly addedAt: string;
  readonly content: string;
}

/** Everything a workshop keeps, by noun. */
export interface WorkshopNouns {
  lot: LotRecord;
  part: PartRecord;
  'part-file': PartFileRecord;
  rig: RigRecord;
  revision: RevisionRecord;
  run: RunRecord;
  'run-events': RunEventsRecord;
  check: CheckRecord;
  campaign: CampaignRecord;
  shot: ShotRecord;
  'shot-file': ShotFileRecord;
}
export type WorkshopNoun = keyof WorkshopNouns;

/** One thing that a workshop keeps. A workshop is a row of these: what is pointed at comes before what points at it. */
export type WorkshopRecord = { [N in WorkshopNoun]: { readonly noun: N; readonly record: WorkshopNouns[N] } }[WorkshopNoun];

/** How many records of each noun an archive holds. */
export type ArchiveCounts = { readonly [N in WorkshopNoun]: number };
export const workshopNouns = [
  'lot',
  'part',
  'part-file',
  'rig',
  'revision',
  'run',
  'run-events',
  'check',
  'campaign',
  'shot',
  'shot-file',
] as const satisfies readonly WorkshopNoun[];
export const noRecords = (): { [N in WorkshopNoun]: number } => ({
  lot: 0,
  part: 0,
  'part-file': 0,
  rig: 0,
  revision: 0,
  run: 0,
  'run-events': 0,
  check: 0,
  campaign: 0,
  shot: 0,
  'shot-file': 0,
});

export type ArchiveEntry = readonly [path: string, text: string];

const text = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;
const rigFile = (id: string, document: KeptDocument) => ({
  format: rigFileMark,
  version: documentVersion(document),
  id,
  ...documentData(document),
});
const padded = (n: number) => String(n).padStart(4, '0');

/** The files of one record. */
export function entriesOf({ noun, record }: WorkshopRecord): readonly ArchiveEntry[] {
  switch (noun) {
    case 'lot':
      return [[`bench/lots/${record.id}.json`, text({ ...record, lot: keptData(record.lot) })]];
    case 'part':
      return [[`bench/parts/${record.id}.json`, text({ ...record, part: keptData(record.part) })]];
    case 'part-file':
      return [[`bench/files/${record.digest}.json`, text(record)]];
    case 'rig': {
      const { document, ...head } = record;
      return [
        [`rigs/${record.id}/record.json`, text(head)],
        // The head is a rig file of its own, so that it can be taken out of the archive and used alone.
        [`rigs/${record.id}/rig.json`, text(rigFile(record.id, document))],
      ];
    }
    case 'revision': {
      const { rigId, document, ...head } = record;
      return [[`rigs/${rigId}/revisions/${padded(head.number)}.json`, text({ ...head, rig: rigFile(rigId, document) })]];
    }
    case 'run':
      return [[`runs/${record.id}/run.json`, text(record)]];
    case 'run-events':
      return [[`runs/${record.runId}/events/${padded(record.events[0]?.number ?? 0)}.json`, text(record.events)]];
    case 'check':
      return [[`checks/${record.id}.json`, text(record)]];
    case 'campaign':
      return [[`campaigns/${record.id}.json`, text(record)]];
    case 'shot':
      return [[`shots/${record.id}/shot.json`, text(record)]];
    case 'shot-file': {
      const { shotId, ...file } = record;
      return [[`shots/${shotId}/files/${file.id}.json`, text(file)]];
    }
  }
}

/** What an archive says of itself. It is written last, when everything was counted. */
export const headEntry = (counts: ArchiveCounts): ArchiveEntry => [
  'archive.json',
  text({ format: archiveMark, version: archiveVersion, holds: counts }),
];
