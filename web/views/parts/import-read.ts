import Papa from 'papaparse';
import { partFileLimit, tableLimit, type RowIssue } from '@vast-surge/core/format';
import { newLot, type Lot, type Part } from '@vast-surge/core/part';
import type { KnownBench } from '../../app/bench-write.ts';

/** The rows of a table as they stand in a file. */
export interface TableFile {
  readonly heads: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

export type ReadText<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

const refuse = (reason: string) => ({ ok: false as const, reason });

/** A file as text: UTF-8 or UTF-16 with its mark, else as older spreadsheets write it. */
export function textIn(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Cuts a CSV text into rows. A quote that is never closed, and more rows than any bench has parts, are refused with the row. */
export function readCsv(text: string): ReadText<TableFile> {
  if (text.length > partFileLimit) return refuse(`the file has ${text.length} characters; at most ${partFileLimit} are read`);
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    preview: tableLimit + 2,
  });
  const broken = errors.find((e) => e.type === 'Quotes');
  if (broken) return refuse(`row ${(broken.row ?? 0) + 1}: a quote is opened and not closed; nothing after it can be read`);
  const [heads, ...rows] = data;
  if (!heads) return refuse('the file is empty');
  if (rows.length === 0) return refuse('the file has a head and no rows');
  if (rows.length > tableLimit) return refuse(`the table has more than ${tableLimit} rows; cut it into several files`);
  return { ok: true, value: { heads, rows } };
}

/** A part out of a file, with the row it stood in; its lot by id or by name. */
export interface FilePart {
  readonly where: string;
  readonly id: string | null;
  readonly lotName: string | null;
  readonly part: Part;
}

export interface FileLot {
  readonly id: string;
  readonly lot: Lot;
}

/** What would come in, and what would not. */
export interface ImportPlan {
  readonly parts: readonly { readonly id: string; readonly part: Part }[];
  readonly lots: readonly FileLot[];
  /** Parts that are on the bench already, by their id. */
  readonly here: readonly string[];
  /** Parts of which another part on the bench has the tag. */
  readonly tagTaken: readonly string[];
}

/** Sorts parts of a file into those that are new and those that are here, so that nothing is doubled unseen. */
export function planImport(
  file: { readonly parts: readonly FilePart[]; readonly lots: readonly FileLot[] },
  bench: KnownBench,
  retag: boolean,
): ImportPlan {
  const tags = new Set([...bench.parts.values()].filter((p) => p.removedAt === null).map((p) => p.part.tag.toLowerCase()));
  const lotsByName = new Map([...bench.lots.values()].map((l) => [l.lot.name.toLowerCase(), l.id]));
  const newLots = new Map<string, FileLot>();
  for (const lot of file.lots) if (!bench.lots.has(lot.id)) newLots.set(lot.id, lot);
  const lotOf = (name: string | null, own: string | null): string | null => {
    if (name === null) return own !== null && (newLots.has(own) || bench.lots.has(own)) ? own : null;
    const key = name.toLowerCase();
    const known = lotsByName.get(key);
    if (known !== undefined) return known;
    const id = crypto.randomUUID();
    lotsByName.set(key, id);
    newLots.set(id, { id, lot: newLot(name.slice(0, 80)) });
    return id;
  };
  const plan = { parts: [] as { id: string; part: Part }[], here: [] as string[], tagTaken: [] as string[] };
  for (const { where, id, lotName, part } of file.parts) {
    const words = part.tag || where;
    if (id !== null && bench.parts.has(id)) {
      plan.here.push(words);
      continue;
    }
    const taken = part.tag !== '' && tags.has(part.tag.toLowerCase());
    if (taken) plan.tagTaken.push(words);
    if (taken && !retag) continue;
    const placed: Part = { ...part, lot: lotOf(lotName, part.lot), tag: taken ? '' : part.tag };
    plan.parts.push({ id: id ?? crypto.randomUUID(), part: placed });
  }
  const used = new Set(plan.parts.map((p) => p.part.lot));
  return { ...plan, lots: [...newLots.values()].filter((l) => used.has(l.id)) };
}

/** The SHA-256 of a file, in hex: by it the same file is known again. */
export async function digestOf(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const sum = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...sum].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** A row's issue in words, with the head as it stands in the file. */
export const issueWords = ({ row, column, reason }: RowIssue, headOf: (column: string) => string): string =>
  `Row ${row}, ${headOf(column)}: ${reason}`;
