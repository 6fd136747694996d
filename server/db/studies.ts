import type { StoredStudy, StoredStudyWorkers, StudyQuestion } from '@vast-surge/contract';
import type { SweepLayout, SweepStretch } from '@vast-surge/core/study';
import type { Queryable } from './pool.ts';

/** Priorities as the queue has them: what is lower comes first. */
export const priorities = { first: -10, usual: 0, last: 10 } as const;

interface Row {
  id: string;
  rig_id: string;
  revision_id: string;
  revision: number;
  question: StudyQuestion;
  total: number;
  program: string;
  priority: number;
  state: StoredStudy['state'];
  fault: string | null;
  digest: string | null;
  chunk: number;
  chunks: number;
  made: number;
  has_last: boolean;
  seconds: number;
  hosts: string[] | null;
  made_at: Date;
  ended_at: Date | null;
}

const columns = `s.id, v.rig_id, s.revision_id, v.number as revision, s.question, s.total, s.program, s.priority, s.state, s.fault, s.digest, s.chunk,
  s.chunks, s.made_at, s.ended_at, c.made, c.has_last, c.seconds, c.hosts
  from studies s join revisions v on v.id = s.revision_id
  cross join lateral (select count(*)::int as made, coalesce(bool_or(number = s.chunks - 1), false) as has_last,
    coalesce(sum(seconds), 0)::float8 as seconds, array_agg(distinct worker) as hosts from study_chunks where study_id = s.id) as c`;

const priorityOf = (number: number): StoredStudy['priority'] =>
  number < priorities.usual ? 'first' : number > priorities.usual ? 'last' : 'usual';

/** Samples or points that lie in so many chunks: the last may be shorter. */
function doneOf({ chunk, chunks, made, has_last, total }: Row): number {
  const short = chunks * chunk - total;
  return made * chunk - (has_last ? short : 0);
}

const stored =
  (program: string) =>
  (row: Row): StoredStudy => ({
    id: row.id,
    rigId: row.rig_id,
    revisionId: row.revision_id,
    revision: row.revision,
    question: row.question,
    program: row.program,
    isOfNow: row.program === program,
    priority: priorityOf(row.priority),
    state: row.state,
    fault: row.fault,
    digest: row.digest,
    total: row.total,
    done: doneOf(row),
    seconds: row.seconds,
    hosts: row.hosts ?? [],
    madeAt: row.made_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
  });

/** Studies of a rig, the newest first. */
export async function listStudies(db: Queryable, rigId: string, program: string): Promise<StoredStudy[]> {
  const { rows } = await db.query<Row>(`select ${columns} where v.rig_id = $1 order by s.made_at desc, s.id limit 100`, [rigId]);
  return rows.map(stored(program));
}

export async function findStudy(db: Queryable, id: string, program: string): Promise<StoredStudy | null> {
  const { rows } = await db.query<Row>(`select ${columns} where s.id = $1`, [id]);
  return rows[0] ? stored(program)(rows[0]) : null;
}

export interface NewStudy {
  readonly id: string;
  readonly revisionId: string;
  readonly question: StudyQuestion;
  readonly program: string;
  readonly account: string | null;
  readonly priority: number;
  /** Samples or points in all, and of a chunk. */
  readonly total: number;
  readonly chunk: number;
  readonly chunks: number;
  /** Columns, and of a sweep how its points lie in them. */
  readonly width: number;
  readonly layout: SweepLayout | null;
}

/** @returns whether it was made: false where a study has this id already */
export async function insertStudy(db: Queryable, study: NewStudy): Promise<boolean> {
  const { id, revisionId, question, program, account, priority, total, chunk, chunks, width, layout } = study;
  const { rowCount } = await db.query(
    `insert into studies (id, revision_id, question, program, account_id, priority, total, chunk, chunks, width, layout)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11) on conflict (id) do nothing`,
    [
      id,
      revisionId,
      JSON.stringify(question),
      program,
      account,
      priority,
      total,
      chunk,
      chunks,
      width,
      layout && JSON.stringify(layout),
    ],
  );
  return rowCount === 1;
}

/** Studies of a person that are not at their end; without accounts, of everybody. */
export async function underWay(db: Queryable, account: string | null): Promise<number> {
  const { rows } = await db.query<{ n: number }>(
    "select count(*)::int as n from studies where state in ('asked', 'paused') and account_id is not distinct from $1",
    [account],
  );
  return rows[0]?.n ?? 0;
}

/** Studies that a person asked for. */
export async function studiesOfPerson(db: Queryable, account: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>('select id from studies where account_id = $1 order by made_at, id', [account]);
  return rows.map(({ id }) => id);
}

/** Pauses a study, takes it up again, or gives it up. @returns whether it was in a state that it can be left from */
export async function setStudyState(db: Queryable, id: string, state: 'asked' | 'paused' | 'cancelled'): Promise<boolean> {
  const { rowCount } = await db.query(
    `update studies set state = $2, ended_at = case when $2 = 'cancelled' then now() end
     where id = $1 and state in ('asked', 'paused')`,
    [id, state],
  );
  return rowCount === 1;
}

/** Chunks of a study that are not there yet, and what its jobs are called by. */
export async function missingChunks(
  db: Queryable,
  id: string,
): Promise<{
  readonly id: string;
  readonly program: string;
  readonly priority: number;
  readonly numbers: readonly number[];
} | null> {
  const { rows } = await db.query<{ program: string; priority: number; numbers: number[] | null }>(
    `select s.program, s.priority, (select array_agg(n order by n) from generate_series(0, s.chunks - 1) as n
       where not exists (select from study_chunks c where c.study_id = s.id and c.number = n)) as numbers
     from studies s where s.id = $1`,
    [id],
  );
  const [row] = rows;
  return row ? { id, program: row.program, priority: row.priority, numbers: row.numbers ?? [] } : null;
}

/** The chunks of one column of a study that are there, in their order: numbers as they lie in memory. */
export async function columnOf(db: Queryable, id: string, column: number): Promise<Float64Array> {
  const { rows } = await db.query<{ part: Buffer }>(
    `select substring(c.columns from 1 + $2 * (octet_length(c.columns) / s.width) for octet_length(c.columns) / s.width) as part
     from study_chunks c join studies s on s.id = c.study_id where c.study_id = $1 order by c.number`,
    [id, column],
  );
  return numbersIn(Buffer.concat(rows.map(({ part }) => part)));
}

/** Numbers in a buffer, by themselves: it may be a piece of a larger one. */
const numbersIn = ({ buffer, byteOffset, byteLength }: Buffer): Float64Array =>
  new Float64Array(buffer.slice(byteOffset, byteOffset + byteLength));

/** What is there of a sweep, stretch by stretch as it lies in memory, and how it lies; null where a study is none. */
export async function sweepOf(
  db: Queryable,
  id: string,
): Promise<{ readonly layout: SweepLayout; readonly stretches: readonly SweepStretch[] } | null> {
  const { rows } = await db.query<{ layout: SweepLayout | null; from: number | null; columns: Buffer | null }>(
    `select s.layout, c.number * s.chunk as from, c.columns
     from studies s left join study_chunks c on c.study_id = s.id where s.id = $1 order by c.number`,
    [id],
  );
  const layout = rows[0]?.layout;
  return layout
    ? {
        layout,
        stretches: rows.flatMap(({ from, columns }) => (from !== null && columns ? [{ from, numbers: numbersIn(columns) }] : [])),
      }
    : null;
}

/** A chunk with the sample it begins at; null where it is not there. */
export async function chunkAt(
  db: Queryable,
  id: string,
  number: number,
): Promise<{ from: number; columns: Float64Array } | null> {
  const { rows } = await db.query<{ columns: Buffer; from: number }>(
    `select c.columns, c.number * s.chunk as from from study_chunks c join studies s on s.id = c.study_id
     where c.study_id = $1 and c.number = $2`,
    [id, number],
  );
  return rows[0] ? { from: rows[0].from, columns: numbersIn(rows[0].columns) } : null;
}

export const deleteStudy = async (db: Queryable, id: string): Promise<boolean> =>
  (await db.query("delete from studies where id = $1 and state in ('done', 'cancelled', 'failed')", [id])).rowCount === 1;

/** What a chunk needs to be worked out; null where it need not be: it is there, or the study is paused or at its end. */
export async function chunkToDo(
  db: Queryable,
  id: string,
  number: number,
): Promise<{
  readonly document: unknown;
  readonly fileVersion: number;
  readonly question: StudyQuestion;
  readonly layout: SweepLayout | null;
  readonly total: number;
  readonly chunk: number;
} | null> {
  const { rows } = await db.query<{
    document: unknown;
    file_version: number;
    question: StudyQuestion;
    layout: SweepLayout | null;
    total: number;
    chunk: number;
  }>(
    `select v.document, v.file_version, s.question, s.layout, s.total, s.chunk from studies s join revisions v on v.id = s.revision_id
     where s.id = $1 and s.state = 'asked' and not exists (select from study_chunks c where c.study_id = s.id and c.number = $2)`,
    [id, number],
  );
  const [row] = rows;
  if (!row) return null;
  const { document, file_version: fileVersion, question, layout, total, chunk } = row;
  return { document, fileVersion, question, layout, total, chunk };
}

/** Keeps a chunk, once, whoever brings it; and where it was the last that lacked, the study is done. */
export async function keepChunk(
  db: Queryable,
  id: string,
  number: number,
  made: { readonly columns: Buffer; readonly seconds: number; readonly host: string },
): Promise<void> {
  await db.query(
    `insert into study_chunks (study_id, number, columns, seconds, worker)
     select $1, $2, $3, $4, $5 where exists (select from studies where id = $1) on conflict do nothing`,
    [id, number, made.columns, made.seconds, made.host],
  );
}

/** Ends a study of which no chunk lacks. Its sum is over the sums of its columns: however they were cut it is the same. */
export async function endIfWhole(db: Queryable, id: string): Promise<void> {
  await db.query(
    `update studies s set state = 'done', ended_at = now(), digest = (
       select encode(sha256(string_agg(whole.sum, ''::bytea order by whole.k)), 'hex') from (
         select k, sha256(string_agg(substring(c.columns from 1 + k * part for part), ''::bytea order by c.number)) as sum
         from generate_series(0, s.width - 1) as k
         cross join (select number, columns, octet_length(columns) / s.width as part
           from study_chunks where study_id = s.id) as c
         group by k) as whole)
     where s.id = $1 and s.state in ('asked', 'paused') and s.chunks = (select count(*) from study_chunks c where c.study_id = s.id)`,
    [id],
  );
}

/** A study that cannot be worked out, and why. */
export const failStudy = async (db: Queryable, id: string, fault: string): Promise<void> => {
  await db.query("update studies set state = 'failed', fault = $2, ended_at = now() where id = $1 and state = 'asked'", [
    id,
    fault.slice(0, 500),
  ]);
};

/** A sign of life of whoever works on studies. */
export async function noteWorker(
  db: Queryable,
  {
    id,
    host,
    program,
    slots,
  }: { readonly id: string; readonly host: string; readonly program: string; readonly slots: readonly string[] },
): Promise<void> {
  await db.query(
    `insert into study_workers (id, host, program, slots) values ($1, $2, $3, $4)
     on conflict (id) do update set slots = excluded.slots, seen_at = clock_timestamp()`,
    [id, host, program, slots],
  );
}

export const dropWorker = async (db: Queryable, id: string): Promise<void> => {
  await db.query('delete from study_workers where id = $1', [id]);
};

/** Takes out whoever gave no sign of life for so many seconds. @returns the names by which they held jobs */
export async function deadSlots(db: Queryable, seconds: number): Promise<string[]> {
  const { rows } = await db.query<{ slots: string[] }>(
    `delete from study_workers where seen_at < clock_timestamp() - make_interval(secs => $1) returning slots`,
    [seconds],
  );
  return rows.flatMap(({ slots }) => slots);
}

export async function listWorkers(db: Queryable, program: string, seconds: number): Promise<StoredStudyWorkers> {
  const { rows } = await db.query<{ host: string; program: string; threads: number }>(
    `select host, program, cardinality(slots)::int as threads from study_workers
     where seen_at > clock_timestamp() - make_interval(secs => $1) order by host, id limit 200`,
    [seconds],
  );
  return rows.map((row) => ({ ...row, isOfNow: row.program === program }));
}
