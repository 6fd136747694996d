import { readDocument, rigFileVersion, type RigRecord } from '@vast-surge/core/format';
import type { RigDocument } from '@vast-surge/core/rig';
import type { RigReceipt } from '@vast-surge/contract';
import { putUses } from './heads.ts';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  version: number;
  document: unknown;
  file_version: number;
  created_at: Date;
  updated_at: Date;
  archived_at: Date | null;
  branched_from: string | null;
  revision_number: number | null;
  revision_version: number | null;
}

/** A rig as it is kept, with its last revision; its document may be one that this program cannot read. */
export interface KeptRig extends RigRecord {
  readonly revision: { readonly number: number; readonly version: number } | null;
}

const select = `
  select r.id, r.version, r.document, r.file_version, r.created_at, r.updated_at, r.archived_at, r.branched_from,
         last.number as revision_number, last.version as revision_version
  from rigs r
  left join lateral (
    select number, version from revisions where rig_id = r.id order by number desc limit 1
  ) last on true`;

const kept = (row: Row): KeptRig => ({
  id: row.id,
  version: row.version,
  createdAt: row.created_at.toISOString(),
  updatedAt: row.updated_at.toISOString(),
  archivedAt: row.archived_at?.toISOString() ?? null,
  branchedFrom: row.branched_from,
  revision:
    row.revision_number === null || row.revision_version === null
      ? null
      : { number: row.revision_number, version: row.revision_version },
  document: readDocument(row.document, row.file_version),
});

function recordOf(row: Row): RigRecord {
  const { revision: _last, ...rig } = kept(row);
  return rig;
}

/** Rigs for an archive: the next ones behind an id, in the order of their ids. */
export async function rigRecords(db: Queryable, after: string | null, most: number): Promise<RigRecord[]> {
  const { rows } = await db.query<Row>(`${select} where $1::uuid is null or r.id > $1 order by r.id limit $2`, [after, most]);
  return rows.map(recordOf);
}

/** One rig as an archive holds it. */
export async function rigRecord(db: Queryable, id: string): Promise<RigRecord | null> {
  const { rows } = await db.query<Row>(`${select} where r.id = $1`, [id]);
  return rows[0] ? recordOf(rows[0]) : null;
}

export async function findRig(db: Queryable, id: string): Promise<KeptRig | null> {
  const { rows } = await db.query<Row>(`${select} where r.id = $1`, [id]);
  return rows[0] ? kept(rows[0]) : null;
}

interface ReceiptRow {
  id: string;
  version: number;
  updated_at: Date;
}

const receipt = (row: ReceiptRow | undefined): RigReceipt | null =>
  row ? { id: row.id, version: row.version, updatedAt: row.updated_at.toISOString() } : null;

/** Writes a new rig; null where there is one with this id already, which is left as it is. */
export async function insertRig(
  db: Queryable,
  id: string,
  document: RigDocument,
  branchedFrom: string | null = null,
): Promise<RigReceipt | null> {
  const { rows } = await db.query<ReceiptRow>(
    `insert into rigs (id, document, file_version, branched_from) values ($1, $2, $3, $4)
     on conflict (id) do nothing returning id, version, updated_at`,
    [id, JSON.stringify(document), rigFileVersion, branchedFrom],
  );
  if (rows[0]) await putUses(db, id, document);
  return receipt(rows[0]);
}

/** Writes the next version of a rig; null where `version` is no longer the current one or there is no such rig. */
export async function updateRig(
  db: Queryable,
  id: string,
  version: number,
  document: object,
  fileVersion: number = rigFileVersion,
): Promise<RigReceipt | null> {
  const { rows } = await db.query<ReceiptRow>(
    `update rigs set document = $3, file_version = $4, version = version + 1, updated_at = clock_timestamp()
     where id = $1 and version = $2 returning id, version, updated_at`,
    [id, version, JSON.stringify(document), fileVersion],
  );
  return receipt(rows[0]);
}

/** Takes a rig off the list or brings it back; its document and its version stay. */
export async function archiveRig(db: Queryable, id: string, archived: boolean): Promise<RigReceipt | null> {
  const { rows } = await db.query<ReceiptRow>(
    `update rigs set archived_at = case when $2 then coalesce(archived_at, now()) end
     where id = $1 returning id, version, updated_at`,
    [id, archived],
  );
  return receipt(rows[0]);
}

/** Locks a rig until the transaction ends, so that what is read of it stays true. @returns its version, or null */
export async function lockRig(db: Queryable, id: string): Promise<number | null> {
  const { rows } = await db.query<{ version: number }>('select version from rigs where id = $1 for update', [id]);
  return rows[0]?.version ?? null;
}
