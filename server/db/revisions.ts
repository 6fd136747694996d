import { readDocument, type KeptDocument, type RevisionRecord } from '@vast-surge/core/format';
import type { RevisionHead } from '@vast-surge/contract';
import type { Queryable } from './pool.ts';

interface HeadRow {
  id: string;
  rig_id: string;
  number: number;
  version: number;
  name: string | null;
  made_at: Date;
}
interface Row extends HeadRow {
  document: unknown;
  file_version: number;
}

const headColumns = 'id, rig_id, number, version, name, made_at';

const head = (row: HeadRow): RevisionHead => ({
  id: row.id,
  rigId: row.rig_id,
  number: row.number,
  version: row.version,
  name: row.name,
  madeAt: row.made_at.toISOString(),
});

export interface KeptRevision extends RevisionHead {
  readonly document: KeptDocument;
}

const kept = (row: Row): KeptRevision => ({ ...head(row), document: readDocument(row.document, row.file_version) });

/** Revisions of a rig without their documents, the newest first. */
export async function listRevisions(db: Queryable, rigId: string): Promise<RevisionHead[]> {
  const { rows } = await db.query<HeadRow>(`select ${headColumns} from revisions where rig_id = $1 order by number desc`, [
    rigId,
  ]);
  return rows.map(head);
}

/** Revisions of a rig with their documents, for an archive: the next ones behind a number. */
export async function revisionRecords(db: Queryable, rigId: string, after: number, most: number): Promise<RevisionRecord[]> {
  const { rows } = await db.query<Row>(
    `select ${headColumns}, document, file_version from revisions where rig_id = $1 and number > $2 order by number limit $3`,
    [rigId, after, most],
  );
  return rows.map(kept);
}

export async function findRevision(db: Queryable, id: string): Promise<KeptRevision | null> {
  const { rows } = await db.query<Row>(`select ${headColumns}, document, file_version from revisions where id = $1`, [id]);
  return rows[0] ? kept(rows[0]) : null;
}

/**
 * Closes the present state of a rig into a revision. Where a revision holds that version already, that one stands, and
 * takes the name if it has none. The caller holds the lock of the rig.
 *
 * @returns the revision that holds the present version; null where there is no such rig
 */
export async function closeRevision(db: Queryable, id: string, rigId: string, name: string | null): Promise<RevisionHead | null> {
  await db.query(
    `insert into revisions (id, rig_id, number, version, name, document, file_version)
     select $1, r.id, 1 + coalesce((select max(number) from revisions where rig_id = r.id), 0), r.version, $3, r.document, r.file_version
     from rigs r where r.id = $2
     on conflict (rig_id, version) do update set name = excluded.name
       where revisions.name is null and excluded.name is not null`,
    [id, rigId, name],
  );
  const { rows } = await db.query<HeadRow>(
    `select ${headColumns} from revisions where rig_id = $1 and version = (select version from rigs where id = $1)`,
    [rigId],
  );
  return rows[0] ? head(rows[0]) : null;
}

/**
 * Closes the edits of every rig that has been left alone for `pause` seconds. Rigs that somebody is writing at the
 * moment are passed over; the next sweep finds them.
 *
 * @returns how many revisions were made
 */
export async function closeQuietRevisions(db: Queryable, pause: number): Promise<number> {
  const { rowCount } = await db.query(
    `with quiet as (
       select r.id, r.version, r.document, r.file_version from rigs r
       where r.updated_at < now() - $1 * interval '1 second'
         and not exists (select from revisions v where v.rig_id = r.id and v.version = r.version)
       for update of r skip locked
     )
     insert into revisions (id, rig_id, number, version, document, file_version)
     select gen_random_uuid(), q.id, 1 + coalesce((select max(number) from revisions where rig_id = q.id), 0),
            q.version, q.document, q.file_version
     from quiet q on conflict do nothing`,
    [pause],
  );
  return rowCount ?? 0;
}
