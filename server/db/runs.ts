import type { KeptEvent, Rehearsed, RunHead, RunTail, StoredRun } from '@vast-surge/contract';
import type { Rehearsal } from '@vast-surge/core/rehearsal';
import type { RunEventsRecord, RunRecord } from '@vast-surge/core/format';
import type { RunEvent, RunPlan } from '@vast-surge/core/run';
import { cursorOf, dayOf, patternsOf, type Behind } from './page.ts';
import type { Queryable } from './pool.ts';

interface Row {
  id: string;
  rig_id: string;
  revision_id: string;
  revision: number;
  plan: RunPlan;
  rehearsal: Rehearsal | null;
  made_at: Date;
}
interface EventRow {
  run_id: string;
  number: number;
  event: RunEvent;
  received_at: Date;
}

const select = `
  select r.id, v.rig_id, r.revision_id, v.number as revision, r.plan, r.rehearsal, r.made_at
  from runs r join revisions v on v.id = r.revision_id`;

const keptEvent = ({ number, event, received_at }: EventRow): KeptEvent => ({
  number,
  receivedAt: received_at.toISOString(),
  event,
});

const kept = (row: Row, events: readonly EventRow[]): StoredRun => ({
  id: row.id,
  rigId: row.rig_id,
  revisionId: row.revision_id,
  revision: row.revision,
  rehearsal: row.rehearsal,
  madeAt: row.made_at.toISOString(),
  plan: row.plan,
  events: events.map(keptEvent),
});

/** The named runs with their events. */
export async function runsOf(db: Queryable, ids: readonly string[]): Promise<StoredRun[]> {
  const { rows } = await db.query<Row>(`${select} where r.id = any($1) order by r.made_at desc, r.id`, [ids]);
  const events = await db.query<EventRow>(
    'select run_id, number, event, received_at from run_events where run_id = any($1) order by run_id, number',
    [rows.map((r) => r.id)],
  );
  const byRun = new Map<string, EventRow[]>(rows.map((row) => [row.id, []]));
  for (const event of events.rows) byRun.get(event.run_id)?.push(event);
  return rows.map((row) => kept(row, byRun.get(row.id) ?? []));
}

interface HeadRow {
  id: string;
  made_at: Date;
  head: RunHead | null;
}

export const runKinds = ['live', 'rehearsal'] as const;
export type RunKind = (typeof runKinds)[number];

export interface RunQuery {
  readonly rigId: string | null;
  /** Live runs or rehearsals alone; null: both. */
  readonly kind: RunKind | null;
  readonly words: string;
  readonly behind: Behind | null;
  readonly limit: number;
  readonly program: string;
}

/** A head is believed while the run has as many events as when it was worked out, by this program. */
const isFresh = `h.program = $1 and h.events = coalesce((select max(number) from run_events e where e.run_id = r.id), 0)`;

/** What a run is found by: what it is called in a list, the rig's note, who was there, and how it went. */
const words = `lower(case when r.rehearsal is null then 'run' else 'rehearsal' end || ' of ' || g.words || ' ' || ${dayOf('r.made_at')} || ' '
  || coalesce(h.acts, '') || ' ' || coalesce(h.head ->> 'reads', '') || ' ' || coalesce(h.head ->> 'outcomes', ''))`;

const ofKind = (parameter: string) => `(${parameter}::text is null or (${parameter} = 'rehearsal') = (r.rehearsal is not null))`;

/** A page of runs, the newest first: of each its head, or null where it is to be worked out. */
export async function runHeads(db: Queryable, { rigId, kind, words: asked, behind, limit, program }: RunQuery) {
  const { rows } = await db.query<HeadRow>(
    `select r.id, r.made_at, case when ${isFresh} then h.head end as head
     from runs r join revisions v on v.id = r.revision_id join rigs g on g.id = v.rig_id left join run_heads h on h.run_id = r.id
     where ($2::uuid is null or v.rig_id = $2) and ${words} like all ($3::text[])
       and ($4::timestamptz is null or r.made_at < $4 or (r.made_at = $4 and r.id > $5::uuid)) and ${ofKind('$7')}
     order by r.made_at desc, r.id limit $6`,
    [program, rigId, patternsOf(asked), behind?.key ?? null, behind?.id ?? null, limit + 1, kind],
  );
  const shown = rows.slice(0, limit);
  const last = shown.at(-1);
  return {
    rows: shown.map(({ id, head }) => ({ id, head })),
    next: rows.length > limit && last ? cursorOf({ key: last.made_at.toISOString(), id: last.id }) : null,
  };
}

export async function countRuns(
  db: Queryable,
  { rigId, kind, words: asked }: Pick<RunQuery, 'rigId' | 'kind' | 'words'>,
): Promise<number> {
  const { rows } = await db.query<{ count: number }>(
    `select count(*)::int as count from runs r join revisions v on v.id = r.revision_id join rigs g on g.id = v.rig_id
     left join run_heads h on h.run_id = r.id where ($1::uuid is null or v.rig_id = $1) and ${words} like all ($2::text[])
       and ${ofKind('$3')}`,
    [rigId, patternsOf(asked), kind],
  );
  return rows[0]?.count ?? 0;
}

/** The newest runs whose heads are to be worked out. */
export async function staleRuns(db: Queryable, program: string, most: number): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    `select r.id from runs r left join run_heads h on h.run_id = r.id
     where (${isFresh}) is not true order by r.made_at desc, r.id limit $2`,
    [program, most],
  );
  return rows.map((row) => row.id);
}

/** Live runs over a store that may be charged. */
export async function openRuns(db: Queryable): Promise<RunHead[]> {
  const { rows } = await db.query<{ head: RunHead }>(
    'select h.head from run_heads h join runs r on r.id = h.run_id where h.is_open order by r.made_at desc, r.id limit 20',
  );
  return rows.map((row) => row.head);
}

/** Rehearsals that ended, by who acted; who rehearsed last stands first. */
export async function rehearsedBy(db: Queryable): Promise<Rehearsed[]> {
  const { rows } = await db.query<Rehearsed>(
    `select h.acts as who, count(*)::int as rehearsals, (array_agg(h.points order by r.made_at desc))[1] as last, max(h.points) as best
     from run_heads h join runs r on r.id = h.run_id where h.points is not null and h.acts <> ''
     group by h.acts order by max(r.made_at) desc limit 50`,
  );
  return rows;
}

export const putRunHead = (db: Queryable, head: RunHead, program: string, isOpen: boolean) =>
  db.query(
    `insert into run_heads (run_id, events, program, head, is_open, acts, points)
     select $1, $2, $3, $4, $5, $6, $7 where exists (select from runs where id = $1)
     on conflict (run_id) do update set events = excluded.events, program = excluded.program, head = excluded.head,
       is_open = excluded.is_open, acts = excluded.acts, points = excluded.points
     where run_heads.events <= excluded.events`,
    [head.id, head.events, program, JSON.stringify(head), isOpen, head.acts, head.points],
  );

export async function findRun(db: Queryable, id: string): Promise<StoredRun | null> {
  const { rows } = await db.query<Row>(`${select} where r.id = $1`, [id]);
  const [row] = rows;
  if (!row) return null;
  const events = await db.query<EventRow>(
    'select run_id, number, event, received_at from run_events where run_id = $1 order by number',
    [id],
  );
  return kept(row, events.rows);
}

export interface NewRun {
  readonly id: string;
  readonly revisionId: string;
  readonly plan: RunPlan;
  readonly rehearsal: Rehearsal | null;
  /** Of a run out of an archive. */
  readonly madeAt?: string;
}

/** @returns whether it was made: false where a run has this id already */
export async function insertRun(db: Queryable, { id, revisionId, plan, rehearsal, madeAt }: NewRun): Promise<boolean> {
  const { rowCount } = await db.query(
    `insert into runs (id, revision_id, plan, rehearsal, made_at) values ($1, $2, $3, $4, coalesce($5::timestamptz, now()))
     on conflict (id) do nothing`,
    [id, revisionId, JSON.stringify(plan), rehearsal ? JSON.stringify(rehearsal) : null, madeAt ?? null],
  );
  return rowCount === 1;
}

/** What was kept after a number, with the time of the server. */
export async function runTail(db: Queryable, id: string, after: number): Promise<RunTail> {
  const { rows } = await db.query<EventRow & { now: Date }>(
    'select run_id, number, event, received_at from run_events where run_id = $1 and number > $2 order by number',
    [id, after],
  );
  return { events: rows.map(keptEvent), now: new Date().toISOString() };
}

/** The last that was kept of a run, in its order. */
export async function runEnd(db: Queryable, id: string, most: number): Promise<RunTail> {
  const { rows } = await db.query<EventRow>(
    `select * from (select run_id, number, event, received_at from run_events where run_id = $1 order by number desc limit $2) as last
     order by number`,
    [id, most],
  );
  return { events: rows.map(keptEvent), now: new Date().toISOString() };
}

/**
 * Appends what was done, in the order in which it was sent. Whatever is here already, by its id, is passed over: a screen that got no
 * answer sends it again. Two screens are put in a row by the lock of the run.
 *
 * @param by whose device they come from, in a workshop with accounts
 * @returns whether the run is there
 */
export async function appendEvents(
  db: Queryable,
  id: string,
  events: readonly RunEvent[],
  by: string | null = null,
): Promise<boolean> {
  const run = await db.query('select from runs where id = $1', [id]);
  if (run.rowCount === 0) return false;
  // The application may not lock a row that it may not change.
  await db.query("select pg_advisory_xact_lock(hashtextextended('run ' || $1, 0))", [id]);
  const { rows } = await db.query<{ last: number }>('select coalesce(max(number), 0) as last from run_events where run_id = $1', [
    id,
  ]);
  const known = await db.query<{ id: string; run_id: string }>('select id, run_id from run_events where id = any($1)', [
    events.map((e) => e.id),
  ]);
  const here = new Set(known.rows.map((r) => r.id));
  let number = rows[0]?.last ?? 0;
  for (const event of events) {
    if (here.has(event.id)) continue;
    here.add(event.id);
    number += 1;
    await db.query('insert into run_events (run_id, number, id, event, by_account) values ($1, $2, $3, $4, $5)', [
      id,
      number,
      event.id,
      JSON.stringify(event),
      by,
    ]);
  }
  return true;
}

/** Runs as an archive holds them, without their events: the next ones behind an id, of all rigs or of one. */
export async function runRecords(db: Queryable, rigId: string | null, after: string | null, most: number): Promise<RunRecord[]> {
  const { rows } = await db.query<Row>(
    `${select} where ($1::uuid is null or v.rig_id = $1) and ($2::uuid is null or r.id > $2) order by r.id limit $3`,
    [rigId, after, most],
  );
  return rows.map(({ id, revision_id, plan, rehearsal, made_at }) => ({
    id,
    revisionId: revision_id,
    rehearsal,
    madeAt: made_at.toISOString(),
    plan,
  }));
}

/** The next events of a run behind a number. */
export async function eventsAfter(db: Queryable, id: string, after: number, most: number): Promise<KeptEvent[]> {
  const { rows } = await db.query<EventRow>(
    'select run_id, number, event, received_at from run_events where run_id = $1 and number > $2 order by number limit $3',
    [id, after, most],
  );
  return rows.map(keptEvent);
}

/** Writes the events of a run out of an archive as they were kept there. */
export const restoreEvents = (db: Queryable, { runId, events }: RunEventsRecord) =>
  db.query(
    `insert into run_events (run_id, number, id, event, received_at)
     select $1, d.number, (d.event ->> 'id')::uuid, d.event, d."receivedAt"
     from jsonb_to_recordset($2::jsonb) as d(number int, event jsonb, "receivedAt" timestamptz) on conflict (id) do nothing`,
    [runId, JSON.stringify(events)],
  );
