import { createHash } from 'node:crypto';
import Papa from 'papaparse';
import type { AuditCheck, AuditEntry, PageOf } from '@vast-surge/contract';
import { patternsOf } from '../db/page.ts';
import type { Queryable } from '../db/pool.ts';
import { visitorNow } from './visitor.ts';

export interface Act {
  readonly who: string | null;
  readonly device: string | null;
  readonly act: string;
  readonly about: string | null;
  readonly what?: unknown;
}

/** Adds to the audit, in the transaction of what was done: both stand, or neither. The database chains it. */
export const noteAct = (db: Queryable, { who, device, act, about, what }: Act) =>
  db.query('insert into audit (who, device, act, about, what) values ($1, $2, $3, $4, $5)', [
    who,
    device,
    act,
    about,
    what === undefined ? null : JSON.stringify(what),
  ]);

/** Adds what the visitor who asks does; nothing in a workshop without accounts. */
export async function noteVisitor(db: Queryable, what?: unknown): Promise<void> {
  const visitor = visitorNow();
  if (!visitor || visitor.isNoted) return;
  const { account, device, act, about } = visitor;
  await noteAct(db, { who: account.id, device, act, about, what });
  visitor.isNoted = true;
}

/** Adds a thing of its own that the visitor does with what they ask; nothing in a workshop without accounts. */
export async function noteBeside(db: Queryable, act: string, about: string, what?: unknown): Promise<void> {
  const visitor = visitorNow();
  if (visitor) await noteAct(db, { who: visitor.account.id, device: visitor.device, act, about, what });
}

interface Row {
  number: string;
  at: Date;
  who: string | null;
  device: string | null;
  act: string;
  about: string | null;
  what: unknown;
  what_text: string | null;
  before: Buffer;
  hash: Buffer;
  name: string | null;
  device_name: string | null;
}

const columns = `l.number, l.at, l.who, l.device, l.act, l.about, l.what, l.what::text as what_text, l.before, l.hash,
  a.name, d.name as device_name`;
const from = 'audit l left join accounts a on a.id = l.who left join devices d on d.id = l.device';

const entryOf = (row: Row): AuditEntry => ({
  number: Number(row.number),
  at: row.at.toISOString(),
  who: row.who,
  name: row.name,
  device: row.device_name,
  act: row.act,
  about: row.about,
  what: row.what,
  hash: row.hash.toString('hex'),
});

export interface AuditQuery {
  readonly words: string;
  readonly who: string | null;
  /** Entries before this number. */
  readonly before: number | null;
  readonly limit: number;
}

const matching = `($1::uuid is null or l.who = $1)
  and lower(concat_ws(' ', l.act, l.about, a.name, d.name, l.what::text)) like all ($2::text[])`;

/** A page of the audit, the newest first. */
export async function auditPage(db: Queryable, { words, who, before, limit }: AuditQuery): Promise<PageOf<AuditEntry>> {
  const asked = [who, patternsOf(words)];
  const { rows } = await db.query<Row>(
    `select ${columns} from ${from} where ${matching} and ($3::bigint is null or l.number < $3) order by l.number desc limit $4`,
    [...asked, before, limit + 1],
  );
  const { rows: counted } = await db.query<{ count: number }>(
    `select count(*)::int as count from ${from} where ${matching}`,
    asked,
  );
  const shown = rows.slice(0, limit).map(entryOf);
  const last = shown.at(-1);
  return { rows: shown, next: rows.length > limit && last ? String(last.number) : null, total: counted[0]?.count ?? 0 };
}

/** So many entries are read at a time. */
const batch = 2000;

/** Every entry, the oldest first. */
async function* auditFrom(db: Queryable, after = 0): AsyncGenerator<Row> {
  for (let last = after; ;) {
    const { rows } = await db.query<Row>(`select ${columns} from ${from} where l.number > $1 order by l.number limit $2`, [
      last,
      batch,
    ]);
    yield* rows;
    const end = rows.at(-1);
    if (!end || rows.length < batch) return;
    last = Number(end.number);
  }
}

/** The sum of an entry, worked out here and not by the database that keeps it. */
function sumOf(row: Row): Buffer {
  const text = [
    row.number,
    String(row.at.getTime()),
    row.who ?? '-',
    row.device ?? '-',
    row.act,
    row.about ?? '-',
    row.what_text ?? '-',
  ].join('\n');
  return createHash('sha256').update(row.before).update(text).digest();
}

/** Follows the chain from its beginning. */
export async function checkAudit(db: Queryable): Promise<AuditCheck> {
  let entries = 0;
  let last: Buffer = Buffer.alloc(0);
  for await (const row of auditFrom(db)) {
    const fits = Number(row.number) === entries + 1 && row.before.equals(last) && row.hash.equals(sumOf(row));
    if (!fits) return { entries, brokenAt: entries + 1, last: last.toString('hex') };
    entries += 1;
    last = row.hash;
  }
  return { entries, brokenAt: null, last: entries === 0 ? null : last.toString('hex') };
}

/** The whole audit as CSV, a line at a time. */
export async function* auditCsv(db: Queryable): AsyncGenerator<string> {
  yield 'number,at,who,name,device,act,about,what,hash\n';
  for await (const row of auditFrom(db)) {
    const { number, at, who, name, device, act, about, hash } = entryOf(row);
    // What people are called may not be taken for a formula by whatever opens it.
    yield `${Papa.unparse([[number, at, who, name, device, act, about, row.what_text, hash]], { escapeFormulae: true })}\n`;
  }
}
