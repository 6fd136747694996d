import {
  documentData,
  documentVersion,
  eventsPerEntry,
  type LotRecord,
  type PartRecord,
  type RevisionRecord,
  type RigRecord,
  type RunRecord,
  type WorkshopRecord,
} from '@vast-surge/core/format';
import { partsUsed } from '@vast-surge/core/rig';
import { campaignRecords, checkRecords, insertCheck, restoreCampaign } from './campaigns.ts';
import { putUses } from './heads.ts';
import { lotRecords, partFileRecords, partRecords, writeBench, writePartFile } from './parts.ts';
import { revisionRecords } from './revisions.ts';
import { rigRecord, rigRecords } from './rigs.ts';
import { eventsAfter, insertRun, restoreEvents, runRecords } from './runs.ts';
import { fileIds, findFile, restoreFile, restoreShot, shotRecords } from './shots.ts';
import type { Queryable } from './pool.ts';

/** Rows in hand at once: few where each may be large. */
const page = { campaigns: 10, bench: 50, rigs: 50, revisions: 50, runs: 10, shots: 100 };

/** Rows in the order of their ids, a page at a time. */
async function* paged<T extends { readonly id: string }>(
  most: number,
  next: (after: string | null, most: number) => Promise<readonly T[]>,
): AsyncGenerator<T> {
  let after: string | null = null;
  for (;;) {
    const rows: readonly T[] = await next(after, most);
    yield* rows;
    after = rows.at(-1)?.id ?? null;
    if (rows.length < most || after === null) return;
  }
}

async function* rigWithRevisions(db: Queryable, rig: RigRecord): AsyncGenerator<WorkshopRecord> {
  yield { noun: 'rig', record: rig };
  for (let after = 0; ;) {
    const revisions = await revisionRecords(db, rig.id, after, page.revisions);
    for (const record of revisions) yield { noun: 'revision', record };
    after = revisions.at(-1)?.number ?? after;
    if (revisions.length < page.revisions) return;
  }
}

/** The parts that a rig stands on, as it is and as it was in any of its revisions, and the lots they came with: nobody else's. */
async function* benchOfRig(db: Queryable, rig: RigRecord): AsyncGenerator<WorkshopRecord> {
  const ids = new Set<string>();
  const note = ({ document }: Pick<RigRecord, 'document'>) => {
    if (document.ok) for (const id of partsUsed(document.document.rig)) ids.add(id);
  };
  note(rig);
  for await (const { noun, record } of rigWithRevisions(db, rig)) if (noun === 'revision') note(record);
  const inOrder = [...ids].sort();
  const lots = new Set<string>();
  const records: (readonly string[])[] = [];
  for (let from = 0; from < inOrder.length; from += page.bench) records.push(inOrder.slice(from, from + page.bench));
  for (const some of records)
    for (const { part } of await partRecords(db, { ids: some })) if (part.ok && part.value.lot !== null) lots.add(part.value.lot);
  for (const record of await lotRecords(db, { ids: [...lots] })) yield { noun: 'lot', record };
  for (const some of records) for (const record of await partRecords(db, { ids: some })) yield { noun: 'part', record };
}

/**
 * The whole workshop, or one rig of it with the parts that it stands on, as records in the order of an archive, a page in memory at a time. Read it in one
 * transaction, so that all of it is of one moment.
 */
export async function* workshopRecords(db: Queryable, rigId: string | null = null): AsyncGenerator<WorkshopRecord> {
  if (rigId === null) {
    for await (const record of paged(page.bench, (after, most) => lotRecords(db, { after, most }))) yield { noun: 'lot', record };
    for await (const record of paged(page.bench, (after, most) => partRecords(db, { after, most })))
      yield { noun: 'part', record };
    for (const record of await partFileRecords(db)) yield { noun: 'part-file', record };
    for (const record of await checkRecords(db)) yield { noun: 'check', record };
    for await (const rig of paged(page.rigs, (after, most) => rigRecords(db, after, most))) yield* rigWithRevisions(db, rig);
  } else {
    const rig = await rigRecord(db, rigId);
    if (rig) {
      yield* benchOfRig(db, rig);
      yield* rigWithRevisions(db, rig);
    }
  }
  for await (const record of paged(page.runs, (after, most) => runRecords(db, rigId, after, most))) {
    yield { noun: 'run', record };
    for (let after = 0; ; after += eventsPerEntry) {
      const events = await eventsAfter(db, record.id, after, eventsPerEntry);
      if (events.length > 0) yield { noun: 'run-events', record: { runId: record.id, events } };
      if (events.length < eventsPerEntry) break;
    }
  }
  for await (const record of paged(page.campaigns, (after, most) => campaignRecords(db, rigId, after, most)))
    yield { noun: 'campaign', record };
  for await (const record of paged(page.shots, (after, most) => shotRecords(db, rigId, after, most))) {
    yield { noun: 'shot', record };
    for (const id of await fileIds(db, record.id)) {
      const file = await findFile(db, id);
      if (!file) continue;
      const { kind, name, addedAt, content } = file;
      yield { noun: 'shot-file', record: { shotId: record.id, id, kind, name, addedAt, content } };
    }
  }
}

export const insertRevision = (
  db: Queryable,
  rigId: string,
  r: RevisionRecord,
  number = r.number,
  version = r.version,
  id = r.id,
) =>
  db.query(
    `insert into revisions (id, rig_id, number, version, name, document, file_version, made_at) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [id, rigId, number, version, r.name, JSON.stringify(documentData(r.document)), documentVersion(r.document), r.madeAt],
  );

/** Writes a rig that is not here, without its revisions and without what it was branched from. */
export async function insertRecord(db: Queryable, rig: RigRecord, id = rig.id, archivedAt = rig.archivedAt): Promise<void> {
  await db.query(
    `insert into rigs (id, version, document, file_version, created_at, updated_at, archived_at) values ($1, $2, $3, $4, $5, $6, $7)`,
    [
      id,
      rig.version,
      JSON.stringify(documentData(rig.document)),
      documentVersion(rig.document),
      rig.createdAt,
      rig.updatedAt,
      archivedAt,
    ],
  );
  if (rig.document.ok) await putUses(db, id, rig.document.document);
}

/** Says where a rig was branched from, if that revision is here. */
export const linkBranch = (db: Queryable, id: string, branchedFrom: string) =>
  db.query('update rigs set branched_from = $2 where id = $1 and exists (select from revisions where id = $2)', [
    id,
    branchedFrom,
  ]);

/** Parts and lots are written some at a time: one by one each would take a number of change of its own. */
export class BenchBatch {
  private parts: PartRecord[] = [];
  private lots: LotRecord[] = [];

  constructor(private readonly write: (batch: { parts: readonly PartRecord[]; lots: readonly LotRecord[] }) => Promise<void>) {}

  async add(one: { readonly part: PartRecord } | { readonly lot: LotRecord }): Promise<void> {
    if ('part' in one) this.parts.push(one.part);
    else this.lots.push(one.lot);
    if (this.parts.length + this.lots.length >= page.bench) await this.flush();
  }

  async flush(): Promise<void> {
    const { parts, lots } = this;
    [this.parts, this.lots] = [[], []];
    if (parts.length + lots.length > 0) await this.write({ parts, lots });
  }
}

/** Every table that holds what an archive holds, or what was worked out from that; studies are asked again. One order for all who lock them. */
const workshopTables =
  'rigs, revisions, runs, run_events, campaigns, campaign_entries, checks, shots, shot_files, writes, parts, lots, part_photos, part_files, rig_heads, run_heads, studies, study_chunks';

/**
 * Empties the workshop and fills it with exactly what an archive holds, a record at a time. Run it in one transaction, as the owner.
 *
 * @returns how many rigs and parts came in
 */
export async function replaceWorkshop(
  db: Queryable,
  records: AsyncIterable<WorkshopRecord>,
): Promise<{ rigs: number; parts: number }> {
  await db.query(`truncate ${workshopTables}`);
  const branches: (readonly [id: string, branchedFrom: string])[] = [];
  const bench = new BenchBatch((batch) => writeBench(db, batch));
  let [rigs, parts] = [0, 0];
  for await (const { noun, record } of records) {
    switch (noun) {
      case 'lot':
        await bench.add({ lot: record });
        break;
      case 'part':
        await bench.add({ part: record });
        parts += 1;
        break;
      case 'part-file':
        await writePartFile(db, record);
        break;
      case 'rig':
        await insertRecord(db, record);
        rigs += 1;
        if (record.branchedFrom !== null) branches.push([record.id, record.branchedFrom]);
        break;
      case 'revision':
        await insertRevision(db, record.rigId, record);
        break;
      case 'run':
        await insertRun(db, record satisfies RunRecord);
        break;
      case 'run-events':
        await restoreEvents(db, record);
        break;
      case 'check':
        await insertCheck(db, record);
        break;
      case 'campaign':
        await restoreCampaign(db, record);
        break;
      case 'shot':
        await restoreShot(db, record);
        break;
      case 'shot-file':
        await restoreFile(db, record);
        break;
    }
  }
  await bench.flush();
  for (const [id, branchedFrom] of branches) await linkBranch(db, id, branchedFrom);
  // Pages that know a bench from before forget it.
  await db.query(
    `insert into settings (name, value) values ('epoch', to_jsonb(gen_random_uuid()::text))
     on conflict (name) do update set value = excluded.value`,
  );
  // The demo is not loaded again into a workshop that was restored.
  await db.query("insert into marks (name) values ('demo'), ('demo-bench'), ('demo-record') on conflict do nothing");
  return { rigs, parts };
}
