import { partsUsed, type RigDocument } from '@vast-surge/core/rig';
import type { Headline } from '@vast-surge/core/runsheet';
import type { RigHead, RigSort, RigUse } from '@vast-surge/contract';
import { cursorOf, patternsOf, type Behind } from './page.ts';
import type { Queryable } from './pool.ts';

/** A rig whose numbers are to be worked out. */
export interface StaleRig {
  readonly id: string;
  readonly version: number;
  readonly document: unknown;
  readonly fileVersion: number;
}

/** What was worked out of one. */
export interface FoundHead {
  readonly headline: Headline | null;
  readonly unreadable: string | null;
  readonly built: boolean;
  readonly parts: readonly string[];
}

interface HeadRow {
  id: string;
  version: number;
  name: string | null;
  note: string | null;
  updated_at: Date;
  archived_at: Date | null;
  revision: number | null;
  headline: Headline | null;
  unreadable: string | null;
  is_fresh: boolean;
  last_shot: RigHead['lastShot'];
  key: string | number | Date;
}

export interface RigQuery {
  readonly archived: boolean;
  readonly words: string;
  readonly sort: RigSort;
  readonly behind: Behind | null;
  readonly limit: number;
  /** Which numbers are believed. */
  readonly program: string;
}

/** By what a list is sorted, as SQL: the key, its type, and whether the largest stands first. */
const sorts: { readonly [S in RigSort]: readonly [key: string, type: string, order: 'asc' | 'desc'] } = {
  changed: ['coalesce(r.archived_at, r.updated_at)', 'timestamptz', 'desc'],
  name: ['lower(r.name)', 'text', 'asc'],
  energy: ['coalesce(h.energy, -1)', 'float8', 'desc'],
};

const head = (row: HeadRow): RigHead => ({
  id: row.id,
  version: row.version,
  name: row.name?.trim() ? row.name : 'unnamed',
  note: row.note ?? '',
  updatedAt: row.updated_at.toISOString(),
  archivedAt: row.archived_at?.toISOString() ?? null,
  revision: row.revision,
  headline: row.is_fresh ? row.headline : null,
  unreadable: row.is_fresh ? row.unreadable : null,
  lastShot: row.last_shot,
});

/** Rigs are found by name, note, and by what kind of rig they were worked out to be. */
const foundBy = (words: string) => `(r.words || ' ' || lower(coalesce(h.headline ->> 'kind', ''))) like all (${words}::text[])`;

/** A page of the list of rigs, and which of its rows have no numbers yet. */
export async function rigHeads(
  db: Queryable,
  { archived, words, sort, behind, limit, program }: RigQuery,
): Promise<{ rows: RigHead[]; next: string | null; stale: string[] }> {
  const [key, type, order] = sorts[sort];
  const { rows } = await db.query<HeadRow>(
    `select r.id, r.version, r.name, left(r.document ->> 'note', 300) as note, r.updated_at, r.archived_at,
            (select max(number) from revisions where rig_id = r.id) as revision,
            (select jsonb_build_object('id', s.id, 'at', s.shot ->> 'at', 'outcome', s.shot ->> 'outcome')
             from shots s join revisions v on v.id = s.revision_id where v.rig_id = r.id and s.removed_at is null
             order by s.shot ->> 'at' desc, s.id limit 1) as last_shot,
            h.headline, h.unreadable, coalesce(h.version = r.version and h.program = $2, false) as is_fresh, ${key} as key
     from rigs r left join rig_heads h on h.rig_id = r.id
     where (r.archived_at is not null) = $1 and ${foundBy('$3')}
       and ($4::text is null or ${order === 'asc' ? `(${key}, r.id) > ($4::${type}, $5::uuid)` : `(${key} < $4::${type} or (${key} = $4::${type} and r.id > $5::uuid))`})
     order by ${key} ${order}, r.id limit $6`,
    [archived, program, patternsOf(words), behind?.key ?? null, behind?.id ?? null, limit + 1],
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  const keyOf = (row: HeadRow) => (row.key instanceof Date ? row.key.toISOString() : row.key);
  return {
    rows: shown.map(head),
    next: rows.length > limit && last ? cursorOf({ key: keyOf(last), id: last.id }) : null,
    stale: shown.filter((row) => !row.is_fresh).map((row) => row.id),
  };
}

export async function countRigs(db: Queryable, archived: boolean, words: string): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    `select count(*)::int as count from rigs r left join rig_heads h on h.rig_id = r.id
     where (r.archived_at is not null) = $1 and ${foundBy('$2')}`,
    [archived, patternsOf(words)],
  );
  return rows[0]?.count ?? 0;
}

/** Rigs whose numbers are of another version of them or of the program, the last saved first: those that are named, or any but some. */
export async function staleRigs(
  db: Queryable,
  program: string,
  most: number,
  ids: readonly string[] | null = null,
  but: readonly string[] = [],
): Promise<StaleRig[]> {
  const { rows } = await db.query<{ id: string; version: number; document: unknown; file_version: number }>(
    `select r.id, r.version, r.document, r.file_version from rigs r left join rig_heads h on h.rig_id = r.id
     where (h.rig_id is null or h.version <> r.version or h.program <> $1) and ($2::uuid[] is null or r.id = any($2))
       and r.id <> all($4::uuid[])
     order by r.updated_at desc limit $3`,
    [program, ids, most, but],
  );
  return rows.map(({ file_version, ...row }) => ({ ...row, fileVersion: file_version }));
}

export const putHead = (db: Queryable, { id, version }: StaleRig, program: string, found: FoundHead) =>
  db.query(
    `insert into rig_heads (rig_id, version, program, headline, unreadable, energy, built, parts)
     select $1, $2, $3, $4, $5, $6, $7, $8::uuid[] where exists (select from rigs where id = $1)
     on conflict (rig_id) do update set version = excluded.version, program = excluded.program, headline = excluded.headline,
       unreadable = excluded.unreadable, energy = excluded.energy,
       -- Numbers of a version that was saved over meanwhile are still numbers; what the rig stands on was written with the save.
       built = case when (select r.version from rigs r where r.id = excluded.rig_id) = excluded.version then excluded.built else rig_heads.built end,
       parts = case when (select r.version from rigs r where r.id = excluded.rig_id) = excluded.version then excluded.parts else rig_heads.parts end
     where rig_heads.version <= excluded.version`,
    [
      id,
      version,
      program,
      found.headline ? JSON.stringify(found.headline) : null,
      found.unreadable,
      found.headline?.energy?.value ?? null,
      found.built,
      found.parts,
    ],
  );

/**
 * What a rig stands on, written together with it: a warning that a part is in a built rig cannot wait for the numbers of
 * the rig, which are worked out behind it. The row stays an old one, of version 0, until they are.
 */
export const putUses = (db: Queryable, id: string, { rig, built }: RigDocument) =>
  db.query(
    `insert into rig_heads (rig_id, version, program, built, parts) values ($1, 0, '', $2, $3::uuid[])
     on conflict (rig_id) do update set built = excluded.built, parts = excluded.parts`,
    [id, built, partsUsed(rig)],
  );

/** The rigs on the list that use parts of the shelf. */
export async function rigUses(db: Queryable): Promise<RigUse[]> {
  const { rows } = await db.query<{ id: string; name: string; built: boolean; parts: string[] }>(
    `select r.id, r.name, h.built, h.parts from rigs r join rig_heads h on h.rig_id = r.id
     where r.archived_at is null and h.parts <> '{}' order by lower(r.name), r.id`,
  );
  return rows.map(({ id, ...rest }) => ({ rigId: id, ...rest }));
}
