import type { RigDocument } from '@vast-surge/core/format';
import type { StoredRig } from '@vast-surge/contract';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  version: number;
  document: RigDocument;
  created_at: Date;
  updated_at: Date;
  archived_at: Date | null;
}

const columns = 'id, version, document, created_at, updated_at, archived_at';

const stored = (row: Row): StoredRig => ({
  id: row.id,
  version: row.version,
  document: row.document,
  createdAt: row.created_at.toISOString(),
  updatedAt: row.updated_at.toISOString(),
  archivedAt: row.archived_at?.toISOString() ?? null,
});

async function one(db: Queryable, text: string, values: unknown[]): Promise<StoredRig | null> {
  const { rows } = await db.query<Row>(text, values);
  return rows[0] ? stored(rows[0]) : null;
}

/** Rigs that are not archived, the last changed first. */
export async function listRigs(db: Queryable): Promise<StoredRig[]> {
  const { rows } = await db.query<Row>(`select ${columns} from rigs where archived_at is null order by updated_at desc, id`);
  return rows.map(stored);
}

export const findRig = (db: Queryable, id: string): Promise<StoredRig | null> =>
  one(db, `select ${columns} from rigs where id = $1`, [id]);

/** Writes a new rig; one with this id is left as it is and returned. */
export async function insertRig(
  db: Queryable,
  id: string,
  document: RigDocument,
): Promise<{ rig: StoredRig | null; made: boolean }> {
  const made = await one(db, `insert into rigs (id, document) values ($1, $2) on conflict (id) do nothing returning ${columns}`, [
    id,
    JSON.stringify(document),
  ]);
  return made ? { rig: made, made: true } : { rig: await findRig(db, id), made: false };
}

/** Writes the next version of a rig; null where `version` is no longer the current one or there is no such rig. */
export const updateRig = (db: Queryable, id: string, version: number, document: RigDocument): Promise<StoredRig | null> =>
  one(
    db,
    `update rigs set document = $3, version = version + 1, updated_at = now() where id = $1 and version = $2 returning ${columns}`,
    [id, version, JSON.stringify(document)],
  );

/** Takes a rig off the list or brings it back; its document stays. */
export const archiveRig = (db: Queryable, id: string, archived: boolean): Promise<StoredRig | null> =>
  one(db, `update rigs set archived_at = case when $2 then coalesce(archived_at, now()) end where id = $1 returning ${columns}`, [
    id,
    archived,
  ]);
