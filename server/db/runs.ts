import type { KeptEvent, RunTail, StoredRun } from '@vast-surge/contract';
import type { Rehearsal } from '@vast-surge/core/rehearsal';
import type { RunEvent, RunPlan } from '@vast-surge/core/run';
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

/** Runs with their events, the newest first: all, those of one rig, or the named ones. */
export async function listRuns(
  db: Queryable,
  rigId: string | null = null,
  ids: readonly string[] | null = null,
): Promise<StoredRun[]> {
  const { rows } = await db.query<Row>(
    `${select} where ($1::uuid is null or v.rig_id = $1) and ($2::uuid[] is null or r.id = any($2)) order by r.made_at desc, r.id`,
    [rigId, ids],
  );
  const events = await db.query<EventRow>(
    'select run_id, number, event, received_at from run_events where run_id = any($1) order by run_id, number',
    [rows.map((r) => r.id)],
  );
  const byRun = new Map<string, EventRow[]>(rows.map((row) => [row.id, []]));
  for (const event of events.rows) byRun.get(event.run_id)?.push(event);
  return rows.map((row) => kept(row, byRun.get(row.id) ?? []));
}

/** How many events each run has, the newest run first: what a list needs to know which of them went on. */
export async function countEvents(
  db: Queryable,
  rigId: string | null,
): Promise<{ readonly id: string; readonly events: number }[]> {
  const { rows } = await db.query<{ id: string; events: number }>(
    `select r.id, (select count(*)::int from run_events e where e.run_id = r.id) as events
     from runs r join revisions v on v.id = r.revision_id
     where $1::uuid is null or v.rig_id = $1 order by r.made_at desc, r.id`,
    [rigId],
  );
  return rows;
}

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

/**
 * Appends what was done, in the order in which it was sent. Whatever is here already, by its id, is passed over: a screen that got no
 * answer sends it again. Two screens are put in a row by the lock of the run.
 *
 * @returns whether the run is there
 */
export async function appendEvents(db: Queryable, id: string, events: readonly RunEvent[]): Promise<boolean> {
  // The run itself is never updated, so its row is a lock that stands in nobody's way.
  const run = await db.query('select from runs where id = $1 for update', [id]);
  if (run.rowCount === 0) return false;
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
    await db.query('insert into run_events (run_id, number, id, event) values ($1, $2, $3, $4)', [
      id,
      number,
      event.id,
      JSON.stringify(event),
    ]);
  }
  return true;
}

/** Writes the events of a run out of an archive as they were kept there. */
export async function restoreEvents(db: Queryable, id: string, events: readonly KeptEvent[]): Promise<void> {
  for (const { number, receivedAt, event } of events)
    await db.query(
      'insert into run_events (run_id, number, id, event, received_at) values ($1, $2, $3, $4, $5) on conflict (id) do nothing',
      [id, number, event.id, JSON.stringify(event), receivedAt],
    );
}
