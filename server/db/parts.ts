import { isDeepStrictEqual } from 'node:util';
import {
  fieldIssues,
  keptData,
  readLot,
  readPart,
  type KeptNoun,
  type LotRecord,
  type PartFileRecord,
  type PartRecord,
} from '@vast-surge/core/format';
import { partKind, partSchema, type Lot, type Part } from '@vast-surge/core/part';
import { partNamesIssue, type FileTaken, type PartEdit } from '@vast-surge/contract';
import { unhurried } from '../breath.ts';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  version: number;
  created_at: Date;
  updated_at: Date;
  change: string;
}
interface PartRow extends Row {
  part: unknown;
  removed_at: Date | null;
  has_photo: boolean;
}
interface LotRow extends Row {
  lot: unknown;
  removed_at: Date | null;
}

export interface KeptPart extends Omit<PartRecord, 'photo'> {
  readonly hasPhoto: boolean;
}
export interface KeptLot extends LotRecord {
  readonly removed: boolean;
}

const head = (row: Row) => ({
  id: row.id,
  version: row.version,
  createdAt: row.created_at.toISOString(),
  updatedAt: row.updated_at.toISOString(),
});

const keptPart = (row: PartRow): KeptPart => ({
  ...head(row),
  removedAt: row.removed_at?.toISOString() ?? null,
  hasPhoto: row.has_photo,
  part: readPart(row.part),
});

const keptLot = (row: LotRow): KeptLot => ({
  ...head(row),
  removed: row.removed_at !== null,
  removedAt: row.removed_at?.toISOString() ?? null,
  lot: readLot(row.lot),
});

const selectParts = `
  select p.id, p.version, p.part, p.created_at, p.updated_at, p.removed_at, p.change,
         exists (select from part_photos f where f.part_id = p.id) as has_photo
  from parts p`;
const selectLots = 'select id, version, lot, created_at, updated_at, removed_at, change from lots';

/** What the bench holds that changed after `mark`, and the mark to go on from. Read it in one transaction. */
export async function benchSince(
  db: Queryable,
  mark: number,
): Promise<{ epoch: string; mark: number; parts: KeptPart[]; lots: KeptLot[] }> {
  const epoch = await db.query<{ value: string }>("select value #>> '{}' as value from settings where name = 'epoch'");
  const parts = await db.query<PartRow>(`${selectParts} where p.change > $1 order by lower(p.tag), p.id`, [mark]);
  const lots = await db.query<LotRow>(`${selectLots} where change > $1 order by created_at, id`, [mark]);
  const last = [...parts.rows, ...lots.rows].reduce((most, row) => Math.max(most, Number(row.change)), mark);
  return { epoch: epoch.rows[0]?.value ?? '', mark: last, parts: parts.rows.map(keptPart), lots: lots.rows.map(keptLot) };
}

/** Waits until no other transaction writes to the bench. Take it before free tags are looked for. */
export const lockBench = (db: Queryable) => db.query("select pg_advisory_xact_lock(hashtext('bench'))");

/**
 * Takes the next number of change. Writers of the bench wait for each other here until they commit, so that a number
 * that is seen has every smaller one behind it.
 */
async function nextChange(db: Queryable): Promise<string> {
  await lockBench(db);
  const { rows } = await db.query<{ next: string }>("select nextval('bench_changes') as next");
  return rows[0]?.next ?? '0';
}

/** Tags of these that parts on the bench have already, but for those parts themselves. */
export async function takenTags(db: Queryable, tags: readonly string[], but: readonly string[] = []): Promise<Set<string>> {
  const { rows } = await db.query<{ tag: string }>(
    'select lower(tag) as tag from parts where removed_at is null and lower(tag) = any($1) and not (id = any($2::uuid[]))',
    [tags.map((t) => t.toLowerCase()), but],
  );
  return new Set(rows.map((r) => r.tag));
}

/** Parts with an empty tag get the next free one of their kind: C-001, C-002. */
export async function withTags<T extends { readonly part: Part }>(db: Queryable, drafts: readonly T[]): Promise<T[]> {
  const kinds = [...new Set(drafts.filter((d) => d.part.tag === '').map((d) => d.part.kind))];
  const next = new Map<string, number>();
  for (const kind of kinds) {
    const { prefix } = partKind(kind);
    const { rows } = await db.query<{ last: number | null }>(
      `select max(substring(tag from '^${prefix}-(\\d{1,8})$')::int) as last from parts`,
    );
    next.set(kind, (rows[0]?.last ?? 0) + 1);
  }
  const own = new Set(drafts.map((d) => d.part.tag.toLowerCase()));
  return drafts.map((draft) => {
    if (draft.part.tag !== '') return draft;
    const { kind } = draft.part;
    let number = next.get(kind) ?? 1;
    const tagOf = (n: number) => `${partKind(kind).prefix}-${String(n).padStart(3, '0')}`;
    while (own.has(tagOf(number).toLowerCase())) number += 1;
    next.set(kind, number + 1);
    return { ...draft, part: { ...draft.part, tag: tagOf(number) } };
  });
}

/** Writes new parts. @throws unique_violation where an id or a tag is here already */
export async function insertParts(db: Queryable, drafts: readonly { readonly id: string; readonly part: Part }[]): Promise<void> {
  const change = await nextChange(db);
  await db.query(
    `insert into parts (id, part, change)
     select (d ->> 'id')::uuid, d -> 'part', $2 from jsonb_array_elements($1::jsonb) d`,
    [JSON.stringify(drafts.map(({ id, part }) => ({ id, part }))), change],
  );
}

/** Parts by id, locked until the transaction ends; the bench first, as every writer does, so that no two wait for each other. */
async function lockParts(db: Queryable, ids: readonly string[]): Promise<Map<string, KeptNoun<Part>>> {
  await lockBench(db);
  const { rows } = await db.query<{ id: string; part: unknown }>(
    'select id, part from parts where id = any($1::uuid[]) order by id for update',
    [ids],
  );
  const parts = new Map<string, KeptNoun<Part>>();
  for await (const row of unhurried(rows)) parts.set(row.id, readPart(row.part));
  return parts;
}

async function updateParts(db: Queryable, changed: ReadonlyMap<string, Part>): Promise<void> {
  const change = await nextChange(db);
  await db.query(
    `update parts p set part = d.part, change = $2, version = p.version + 1, updated_at = clock_timestamp()
     from jsonb_to_recordset($1::jsonb) as d(id uuid, part jsonb) where p.id = d.id`,
    [JSON.stringify([...changed].map(([id, part]) => ({ id, part }))), change],
  );
}

export type EditRefusal =
  | { readonly code: 'no_part'; readonly id: string }
  | { readonly code: 'unreadable'; readonly id: string; readonly reason: string }
  | { readonly code: 'changed'; readonly id: string; readonly tag: string; readonly path: string }
  | { readonly code: 'bad_value'; readonly id: string; readonly tag: string; readonly path: string; readonly reason: string };

/** A write of parts that cannot be done; nothing of it is. */
export class PartsRefused extends Error {
  readonly refusal: EditRefusal;
  constructor(refusal: EditRefusal) {
    super(refusal.code);
    this.name = 'PartsRefused';
    this.refusal = refusal;
  }
}

const editable = new Set(['tag', 'name', 'quantity', 'condition', 'place', 'price', 'lot', 'note', 'own', 'design']);

const plain = (value: unknown): unknown => (value === undefined ? null : (JSON.parse(JSON.stringify(value)) as unknown));

function checked(id: string, was: Part, next: unknown): Part {
  const read = partSchema.safeParse(next);
  if (read.success) return read.data;
  const [issue] = fieldIssues(read.error);
  throw new PartsRefused({ code: 'bad_value', id, tag: was.tag, path: issue?.path ?? 'part', reason: issue?.reason ?? '' });
}

function known(parts: ReadonlyMap<string, KeptNoun<Part>>, id: string): Part {
  const kept = parts.get(id);
  if (!kept) throw new PartsRefused({ code: 'no_part', id });
  if (!kept.ok) throw new PartsRefused({ code: 'unreadable', id, reason: kept.reason });
  return kept.value;
}

function edited(part: Part, { id, set, was }: PartEdit): Part {
  let next: Record<string, unknown> = { ...part };
  for (const [path, value] of Object.entries(set)) {
    const field = path.startsWith('fields.') ? path.slice(7) : null;
    if (field === null ? !editable.has(path) : !Object.hasOwn(part.fields, field))
      throw new PartsRefused({
        code: 'bad_value',
        id,
        tag: part.tag,
        path,
        reason: 'is nothing of this part that can be changed',
      });
    const current = plain(field === null ? part[path as keyof Part] : part.fields[field]);
    // Held already what is wanted: another hand did the same.
    if (!isDeepStrictEqual(current, plain(was[path])) && !isDeepStrictEqual(current, plain(value)))
      throw new PartsRefused({ code: 'changed', id, tag: part.tag, path });
    if (field !== null) next = { ...next, fields: { ...(next['fields'] as object), [field]: value } };
    else if ((path === 'design' || path === 'own') && value === null) {
      const { [path]: _gone, ...rest } = next;
      next = rest;
    } else next = { ...next, [path]: value };
  }
  const names = partNamesIssue({ name: set['name'], tag: set['tag'] });
  if (names) throw new PartsRefused({ code: 'bad_value', id, tag: part.tag, ...names });
  return checked(id, part, next);
}

/** Changes fields of parts, all of them or none. @throws PartsRefused; unique_violation where a tag is taken */
export async function editParts(db: Queryable, edits: readonly PartEdit[]): Promise<number> {
  const parts = await lockParts(
    db,
    edits.map((e) => e.id),
  );
  const changed = new Map<string, Part>();
  for await (const edit of unhurried(edits)) changed.set(edit.id, edited(changed.get(edit.id) ?? known(parts, edit.id), edit));
  await updateParts(db, changed);
  return changed.size;
}

/** Adds readings behind those that are there. @throws PartsRefused */
export async function addReadings(
  db: Queryable,
  readings: readonly { readonly partId: string; readonly reading: unknown }[],
): Promise<number> {
  const parts = await lockParts(
    db,
    readings.map((r) => r.partId),
  );
  const added = new Map<string, unknown[]>();
  for (const { partId, reading } of readings) {
    const own = added.get(partId);
    if (own) own.push(reading);
    else added.set(partId, [reading]);
  }
  const changed = new Map<string, Part>();
  for await (const [partId, own] of unhurried(added)) {
    const part = known(parts, partId);
    changed.set(partId, checked(partId, part, { ...part, readings: [...part.readings, ...own] }));
  }
  await updateParts(db, changed);
  return changed.size;
}

/** Strikes a reading out, or lets it count again. @throws PartsRefused */
export async function strikeReading(db: Queryable, id: string, index: number, struck: boolean): Promise<number> {
  const part = known(await lockParts(db, [id]), id);
  const reading = part.readings[index];
  if (!reading) throw new PartsRefused({ code: 'bad_value', id, tag: part.tag, path: 'index', reason: 'is that of no reading' });
  const { struck: _was, ...plainReading } = reading;
  const readings = part.readings.map((r, i) => (i === index ? { ...plainReading, ...(struck ? { struck } : {}) } : r));
  await updateParts(db, new Map([[id, checked(id, part, { ...part, readings })]]));
  return 1;
}

/** Rigs on the list that use any of these parts. Where nothing was worked out of a rig's last version yet, its document is looked through. */
export async function rigsUsing(db: Queryable, ids: readonly string[]): Promise<{ rig: string; name: string; partId: string }[]> {
  const { rows } = await db.query<{ rig: string; name: string; part_id: string }>(
    `select r.id as rig, r.name, used.id as part_id from rigs r join rig_heads h on h.rig_id = r.id and h.version = r.version,
       lateral (select unnest(h.parts)::text as id) used
     where r.archived_at is null and h.parts && $1::uuid[] and used.id = any($1::text[])
     union
     select r.id, r.name, used.id from rigs r left join rig_heads h on h.rig_id = r.id,
       lateral (select jsonb_path_query(r.document, 'strict $.rig.**.parts[*].id', '{}', true) #>> '{}' as id) used
     where r.archived_at is null and h.version is distinct from r.version and used.id = any($1::text[])`,
    [ids],
  );
  return rows.map((row) => ({ rig: row.rig, name: row.name, partId: row.part_id }));
}

/** Takes parts off the bench, or puts them back; they stay in the database. @throws unique_violation where a tag is taken by now */
export async function removeParts(db: Queryable, ids: readonly string[], removed: boolean): Promise<number> {
  const change = await nextChange(db);
  const { rowCount } = await db.query(
    `update parts set removed_at = case when $2 then clock_timestamp() end, change = $3, version = version + 1, updated_at = clock_timestamp()
     where id = any($1::uuid[]) and (removed_at is null) = $2`,
    [ids, removed, change],
  );
  return rowCount ?? 0;
}

/** Sets or takes away a part's photo. @returns whether there is such a part */
export async function setPhoto(db: Queryable, id: string, photo: string | null): Promise<boolean> {
  const change = await nextChange(db);
  const { rowCount } = await db.query('update parts set change = $2, version = version + 1 where id = $1', [id, change]);
  if (rowCount === 0) return false;
  if (photo === null) await db.query('delete from part_photos where part_id = $1', [id]);
  else
    await db.query(
      'insert into part_photos (part_id, photo) values ($1, $2) on conflict (part_id) do update set photo = excluded.photo',
      [id, photo],
    );
  return true;
}

export async function photoOf(db: Queryable, id: string): Promise<string | null> {
  const { rows } = await db.query<{ photo: string }>('select photo from part_photos where part_id = $1', [id]);
  return rows[0]?.photo ?? null;
}

/** Writes a new lot where `version` is 0, else the next version of one. @returns its version, or null where that is not the current one */
export async function saveLot(db: Queryable, id: string, version: number, lot: Lot): Promise<number | null> {
  const change = await nextChange(db);
  const { rows } =
    version === 0
      ? await db.query<{ version: number }>(
          'insert into lots (id, lot, change) values ($1, $2, $3) on conflict (id) do nothing returning version',
          [id, JSON.stringify(lot), change],
        )
      : await db.query<{ version: number }>(
          `update lots set lot = $3, change = $4, version = version + 1, updated_at = clock_timestamp()
           where id = $1 and version = $2 and removed_at is null returning version`,
          [id, version, JSON.stringify(lot), change],
        );
  return rows[0]?.version ?? null;
}

/** Takes a lot away that no part names. @returns how many parts stand against it */
export async function removeLot(db: Queryable, id: string): Promise<number> {
  const change = await nextChange(db);
  const { rows } = await db.query<{ count: number }>(
    "select count(*)::int as count from parts where removed_at is null and part ->> 'lot' = $1",
    [id],
  );
  const count = rows[0]?.count ?? 0;
  if (count === 0) await db.query('update lots set removed_at = now(), change = $2 where id = $1', [id, change]);
  return count;
}

/** Whether a file of parts was taken in before. */
export async function fileTaken(db: Queryable, digest: string): Promise<FileTaken> {
  const { rows } = await db.query<{ taken_at: Date; parts: number }>('select taken_at, parts from part_files where digest = $1', [
    digest,
  ]);
  return { takenAt: rows[0]?.taken_at.toISOString() ?? null, parts: rows[0]?.parts ?? 0 };
}

export const noteFile = (db: Queryable, digest: string, name: string, parts: number) =>
  db.query(
    `insert into part_files (digest, name, parts) values ($1, $2, $3)
     on conflict (digest) do update set taken_at = now(), parts = excluded.parts`,
    [digest, name, parts],
  );

/** Parts as an archive holds them: those that are named, or the next ones behind an id. In the order of their ids. */
export async function partRecords(
  db: Queryable,
  which: { readonly ids: readonly string[] } | { readonly after: string | null; readonly most: number },
): Promise<PartRecord[]> {
  const { rows } = await db.query<PartRow & { photo: string | null }>(
    `select p.id, p.version, p.part, p.created_at, p.updated_at, p.removed_at, p.change, f.photo, f.photo is not null as has_photo
     from parts p left join part_photos f on f.part_id = p.id
     where ($1::uuid[] is null or p.id = any($1)) and ($2::uuid is null or p.id > $2) order by p.id limit $3`,
    'ids' in which ? [which.ids, null, null] : [null, which.after, which.most],
  );
  return rows.map((row) => {
    const { hasPhoto: _has, ...part } = keptPart(row);
    return { ...part, photo: row.photo };
  });
}

/** Lots as {@link partRecords}. */
export async function lotRecords(
  db: Queryable,
  which: { readonly ids: readonly string[] } | { readonly after: string | null; readonly most: number },
): Promise<LotRecord[]> {
  const { rows } = await db.query<LotRow>(
    `${selectLots} where ($1::uuid[] is null or id = any($1)) and ($2::uuid is null or id > $2) order by id limit $3`,
    'ids' in which ? [which.ids, null, null] : [null, which.after, which.most],
  );
  return rows.map((row) => {
    const { removed: _removed, ...lot } = keptLot(row);
    return lot;
  });
}

/** Files of parts that were taken in, as an archive holds them. */
export async function partFileRecords(db: Queryable): Promise<PartFileRecord[]> {
  const { rows } = await db.query<{ digest: string; name: string; parts: number; taken_at: Date }>(
    'select digest, name, parts, taken_at from part_files order by digest',
  );
  return rows.map(({ taken_at, ...rest }) => ({ ...rest, takenAt: taken_at.toISOString() }));
}

export const writePartFile = (db: Queryable, { digest, name, parts, takenAt }: PartFileRecord) =>
  db.query('insert into part_files (digest, name, parts, taken_at) values ($1, $2, $3, $4) on conflict (digest) do nothing', [
    digest,
    name,
    parts,
    takenAt,
  ]);

/** Writes parts and lots as records have them, over those with the same id. @throws unique_violation where a tag is taken */
export async function writeBench(
  db: Queryable,
  { parts, lots }: { readonly parts: readonly PartRecord[]; readonly lots: readonly LotRecord[] },
): Promise<void> {
  const change = await nextChange(db);
  await db.query(
    `insert into lots (id, version, lot, created_at, updated_at, removed_at, change)
     select d.id, d.version, d.lot, d."createdAt", d."updatedAt", d."removedAt", $2
     from jsonb_to_recordset($1::jsonb) as d(id uuid, version int, lot jsonb, "createdAt" timestamptz, "updatedAt" timestamptz, "removedAt" timestamptz)
     on conflict (id) do update set lot = excluded.lot, version = greatest(lots.version + 1, excluded.version),
       updated_at = excluded.updated_at, removed_at = excluded.removed_at, change = excluded.change`,
    [JSON.stringify(lots.map(({ lot, ...rest }) => ({ ...rest, lot: keptData(lot) }))), change],
  );
  await db.query(
    `insert into parts (id, version, part, created_at, updated_at, removed_at, change)
     select d.id, d.version, d.part, d."createdAt", d."updatedAt", d."removedAt", $2
     from jsonb_to_recordset($1::jsonb) as d(id uuid, version int, part jsonb, "createdAt" timestamptz, "updatedAt" timestamptz, "removedAt" timestamptz)
     on conflict (id) do update set part = excluded.part, version = greatest(parts.version + 1, excluded.version),
       updated_at = excluded.updated_at, removed_at = excluded.removed_at, change = excluded.change`,
    [JSON.stringify(parts.map(({ part, photo: _photo, ...rest }) => ({ ...rest, part: keptData(part) }))), change],
  );
  const photos = parts.flatMap(({ id, photo }) => (photo === null ? [] : [{ id, photo }]));
  await db.query('delete from part_photos where part_id = any($1::uuid[])', [parts.map((p) => p.id)]);
  await db.query(
    `insert into part_photos (part_id, photo)
     select d.id, d.photo from jsonb_to_recordset($1::jsonb) as d(id uuid, photo text)`,
    [JSON.stringify(photos)],
  );
}

/** Parts whose tag another part on the bench has by now get a number behind it: C-004-2. */
export async function withFreeTags(db: Queryable, parts: readonly PartRecord[]): Promise<PartRecord[]> {
  const tags = parts.flatMap(({ part, removedAt }) => (part.ok && removedAt === null ? [part.value.tag] : []));
  const taken = await takenTags(
    db,
    tags,
    parts.map((p) => p.id),
  );
  const own = new Set(tags.map((t) => t.toLowerCase()));
  const isFree = async (tag: string, id: string) => !own.has(tag.toLowerCase()) && (await takenTags(db, [tag], [id])).size === 0;
  const out: PartRecord[] = [];
  for (const record of parts) {
    if (!record.part.ok || record.removedAt !== null || !taken.has(record.part.value.tag.toLowerCase())) {
      out.push(record);
      continue;
    }
    const { value } = record.part;
    let number = 2;
    const tagOf = (n: number) => `${value.tag.slice(0, 20)}-${n}`;
    while (number < 999 && !(await isFree(tagOf(number), record.id))) number += 1;
    own.add(tagOf(number).toLowerCase());
    out.push({ ...record, part: { ok: true, value: { ...value, tag: tagOf(number) } } });
  }
  return out;
}
