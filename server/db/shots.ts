import type { AddFile, ShotFileHead, ShotRig, StoredShot } from '@vast-surge/contract';
import { documentName, readDocument, type ShotFileRecord, type ShotRecord } from '@vast-surge/core/format';
import type { Shot, Values } from '@vast-surge/core/shot';
import { cursorOf, dayOf, patternsOf, type Behind } from './page.ts';
import type { Queryable } from './pool.ts';

interface FileRow {
  id: string;
  shot_id: string;
  kind: 'trace' | 'photo';
  name: string;
  bytes: number;
  added_at: Date;
}
interface Row {
  id: string;
  rig_id: string;
  revision_id: string;
  revision: number;
  document: unknown;
  file_version: number;
  run_id: string | null;
  version: number;
  updated_at: Date;
  shot: Shot;
  predicted: Values;
}

const fileHead = (f: FileRow): ShotFileHead => ({
  id: f.id,
  kind: f.kind,
  name: f.name,
  bytes: f.bytes,
  addedAt: f.added_at.toISOString(),
});

const select = `
  select s.id, v.rig_id, s.revision_id, v.number as revision, jsonb_build_object('name', v.document -> 'name') as document,
         v.file_version, s.run_id, s.version, s.updated_at, s.shot, s.predicted
  from shots s join revisions v on v.id = s.revision_id join rigs g on g.id = v.rig_id`;

async function withFiles(db: Queryable, rows: readonly Row[]): Promise<StoredShot[]> {
  const files = await db.query<FileRow>(
    'select id, shot_id, kind, name, bytes, added_at from shot_files where shot_id = any($1) order by added_at, id',
    [rows.map((r) => r.id)],
  );
  const byShot = new Map<string, ShotFileHead[]>(rows.map((r) => [r.id, []]));
  for (const file of files.rows) byShot.get(file.shot_id)?.push(fileHead(file));
  return rows.map((row) => ({
    id: row.id,
    rigId: row.rig_id,
    rigName: documentName(readDocument(row.document, row.file_version)),
    revisionId: row.revision_id,
    revision: row.revision,
    runId: row.run_id,
    version: row.version,
    updatedAt: row.updated_at.toISOString(),
    shot: { ...row.shot, campaign: row.shot.campaign ?? null },
    predicted: row.predicted,
    files: byShot.get(row.id) ?? [],
  }));
}

export interface ShotQuery {
  readonly rigId: string | null;
  readonly outcome: string;
  readonly words: string;
  readonly behind: Behind | null;
  readonly limit: number;
}

/** Every word is somewhere in what was written of the shot, or in what it is called in a list. */
const wanted = `s.removed_at is null and ($1::uuid is null or v.rig_id = $1) and ($2 = '' or s.shot ->> 'outcome' = $2)
  and (s.words || ' ' || lower('shot of ' || g.name || ' ' || ${dayOf(`(s.shot ->> 'at')::timestamptz`)})) like all ($3::text[])`;

/** A page of the shots that are on the list, the newest first. */
export async function listShots(db: Queryable, { rigId, outcome, words, behind, limit }: ShotQuery) {
  const { rows } = await db.query<Row>(
    `${select} where ${wanted}
       and ($4::text is null or s.shot ->> 'at' < $4 or (s.shot ->> 'at' = $4 and s.id > $5::uuid))
     order by s.shot ->> 'at' desc, s.id limit $6`,
    [rigId, outcome, patternsOf(words), behind === null ? null : String(behind.key), behind?.id ?? null, limit + 1],
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    rows: await withFiles(db, shown),
    next: rows.length > limit && last ? cursorOf({ key: last.shot.at, id: last.id }) : null,
  };
}

export async function countShots(db: Queryable, { rigId, outcome, words }: Pick<ShotQuery, 'rigId' | 'outcome' | 'words'>) {
  const { rows } = await db.query<{ count: number }>(
    `select count(*)::int as count from shots s join revisions v on v.id = s.revision_id join rigs g on g.id = v.rig_id where ${wanted}`,
    [rigId, outcome, patternsOf(words)],
  );
  return rows[0]?.count ?? 0;
}

/** The rigs that have shots on the list. */
export async function rigsWithShots(db: Queryable): Promise<ShotRig[]> {
  const { rows } = await db.query<ShotRig>(
    `select g.id, g.name, count(*)::int as shots from shots s join revisions v on v.id = s.revision_id join rigs g on g.id = v.rig_id
     where s.removed_at is null group by g.id, g.name order by lower(g.name), g.id`,
  );
  return rows;
}

export async function findShot(db: Queryable, id: string): Promise<StoredShot | null> {
  const { rows } = await db.query<Row>(`${select} where s.id = $1`, [id]);
  return (await withFiles(db, rows))[0] ?? null;
}

/** Shots of a campaign that are on the list, the first first. */
export async function shotsOfCampaign(db: Queryable, campaignId: string): Promise<StoredShot[]> {
  const { rows } = await db.query<Row>(
    `${select} where s.removed_at is null and s.shot -> 'campaign' ->> 'id' = $1 order by s.shot ->> 'at', s.id`,
    [campaignId],
  );
  return withFiles(db, rows);
}

export interface NewShot {
  readonly id: string;
  readonly revisionId: string;
  readonly runId: string | null;
  readonly shot: Shot;
  readonly predicted: Values;
}

/** @returns whether it was made: false where a shot has this id already */
export async function insertShot(db: Queryable, { id, revisionId, runId, shot, predicted }: NewShot): Promise<boolean> {
  const { rowCount } = await db.query(
    'insert into shots (id, revision_id, run_id, shot, predicted) values ($1, $2, $3, $4, $5) on conflict (id) do nothing',
    [id, revisionId, runId, JSON.stringify(shot), JSON.stringify(predicted)],
  );
  return rowCount === 1;
}

/** @returns the version it has now; null where the version that was built on is no longer the present one */
export async function updateShot(
  db: Queryable,
  id: string,
  version: number,
  shot: Shot,
  predicted: Values,
): Promise<number | null> {
  const { rows } = await db.query<{ version: number }>(
    `update shots set shot = $3, predicted = $4, version = version + 1, updated_at = now()
     where id = $1 and version = $2 returning version`,
    [id, version, JSON.stringify(shot), JSON.stringify(predicted)],
  );
  return rows[0]?.version ?? null;
}

export async function removeShot(db: Queryable, id: string, removed: boolean): Promise<boolean> {
  const { rowCount } = await db.query('update shots set removed_at = case when $2 then now() end where id = $1', [id, removed]);
  return rowCount === 1;
}

/** @returns false where a file has this id already */
export async function insertFile(db: Queryable, shotId: string, file: AddFile): Promise<boolean> {
  const content = file.kind === 'trace' ? JSON.stringify(file.content) : file.content;
  const { rowCount } = await db.query(
    'insert into shot_files (id, shot_id, kind, name, content, bytes) values ($1, $2, $3, $4, $5, $6) on conflict (id) do nothing',
    [file.id, shotId, file.kind, file.name, content, content.length],
  );
  return rowCount === 1;
}

export async function findFile(db: Queryable, id: string): Promise<(ShotFileHead & { readonly content: string }) | null> {
  const { rows } = await db.query<FileRow & { content: string }>(
    'select id, shot_id, kind, name, bytes, added_at, content from shot_files where id = $1',
    [id],
  );
  return rows[0] ? { ...fileHead(rows[0]), content: rows[0].content } : null;
}

export const removeFile = async (db: Queryable, id: string): Promise<boolean> =>
  (await db.query('delete from shot_files where id = $1', [id])).rowCount === 1;

/** Shots as an archive holds them, those that are off the list as well: the next ones behind an id, of all rigs or of one. */
export async function shotRecords(
  db: Queryable,
  rigId: string | null,
  after: string | null,
  most: number,
): Promise<ShotRecord[]> {
  const { rows } = await db.query<Row & { removed_at: Date | null; created_at: Date }>(
    `select s.id, s.revision_id, s.run_id, s.version, s.created_at, s.updated_at, s.removed_at, s.shot, s.predicted
     from shots s join revisions v on v.id = s.revision_id
     where ($1::uuid is null or v.rig_id = $1) and ($2::uuid is null or s.id > $2) order by s.id limit $3`,
    [rigId, after, most],
  );
  return rows.map((row) => ({
    id: row.id,
    revisionId: row.revision_id,
    runId: row.run_id,
    version: row.version,
    createdAt: row.created_at.toISOString(),
    updatedAt: row.updated_at.toISOString(),
    removedAt: row.removed_at?.toISOString() ?? null,
    shot: row.shot,
    predicted: row.predicted,
  }));
}

/** Ids of the files of a shot, in their order. */
export async function fileIds(db: Queryable, shotId: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>('select id from shot_files where shot_id = $1 order by id', [shotId]);
  return rows.map((row) => row.id);
}

/** Writes a shot out of an archive whose revision is here and that is not here yet. @returns whether it was written */
export async function restoreShot(db: Queryable, s: ShotRecord): Promise<boolean> {
  const { rowCount } = await db.query(
    `insert into shots (id, revision_id, run_id, version, created_at, updated_at, removed_at, shot, predicted)
     select $1, $2, (select id from runs where id = $3), $4, $5, $6, $7, $8, $9
     where exists (select from revisions where id = $2) on conflict (id) do nothing`,
    [
      s.id,
      s.revisionId,
      s.runId,
      s.version,
      s.createdAt,
      s.updatedAt,
      s.removedAt,
      JSON.stringify(s.shot),
      JSON.stringify(s.predicted),
    ],
  );
  return rowCount === 1;
}

export const restoreFile = (db: Queryable, { id, shotId, kind, name, content, addedAt }: ShotFileRecord) =>
  db.query(
    `insert into shot_files (id, shot_id, kind, name, content, bytes, added_at) values ($1, $2, $3, $4, $5, $6, $7)
     on conflict (id) do nothing`,
    [id, shotId, kind, name, content, content.length, addedAt],
  );
