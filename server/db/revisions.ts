import { readDocument, type KeptDocument, type RevisionRecord } from '@vast-surge/core/format';
import { differences, saidDifferences } from '@vast-surge/core/rig';
import type { RevisionHead, RevisionRow } from '@vast-surge/contract';
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

type Changed = Pick<RevisionRow, 'changes' | 'furtherChanges'>;

/** Changes that a row of the list says. */
const saidAtMost = 4;

/** What each revision changed, by its id: a revision never changes, so it is worked out once. As many as a busy workshop looks at. */
const changedBy = new Map<string, Changed>();
const keptAtMost = 5000;

/** The longest text of a field that a row says whole. */
const cut = (text: string | null): string | null => (text !== null && text.length > 60 ? `${text.slice(0, 59)}…` : text);

function changedFrom(before: KeptDocument | null, after: KeptDocument): Changed {
  if (!before?.ok || !after.ok) return { changes: null, furtherChanges: 0 };
  const said = saidDifferences(differences(before.document, after.document));
  return {
    changes: said.slice(0, saidAtMost).map(({ title, from, to }) => ({ title, from: cut(from), to: cut(to) })),
    furtherChanges: Math.max(0, said.length - saidAtMost),
  };
}

/** Revisions of a rig without their documents, the newest first, with what each changed. */
export async function listRevisions(db: Queryable, rigId: string): Promise<RevisionRow[]> {
  const { rows } = await db.query<HeadRow>(`select ${headColumns} from revisions where rig_id = $1 order by number desc`, [
    rigId,
  ]);
  const unknown = rows.filter(({ id }) => !changedBy.has(id)).map(({ number }) => number);
  const made = new Map<string, Changed>();
  if (unknown.length > 0) {
    let before: KeptDocument | null = null;
    const [last, least] = [Math.max(...unknown), Math.min(...unknown)];
    // From the one before the first that is not known, a page at a time.
    let after: number | undefined = rows.filter(({ number }) => number < least)[1]?.number ?? 0;
    while (after !== undefined && after < last) {
      const some: readonly RevisionRecord[] = await revisionRecords(db, rigId, after, 50);
      for (const one of some) {
        made.set(one.id, changedFrom(before, one.document));
        before = one.document;
      }
      after = some.at(-1)?.number;
    }
    if (changedBy.size + made.size > keptAtMost) changedBy.clear();
    const wanted = new Set(unknown);
    for (const { id, number } of rows) {
      const changed = made.get(id);
      if (changed && wanted.has(number)) changedBy.set(id, changed);
    }
  }
  const nothing: Changed = { changes: null, furtherChanges: 0 };
  return rows.map((row) => ({ ...head(row), ...(changedBy.get(row.id) ?? made.get(row.id) ?? nothing) }));
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
