import Papa from 'papaparse';
import { parseQuantity, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import { matchColumns, readPartFile, readTable, wordFileIssue } from '@vast-surge/core/format';
import { meterUncertainty, piecesOf, readFilter, type Kept, type Part, type Piece } from '@vast-surge/core/part';
import { UsageError } from './usage.ts';

/** Names a column may have, in any case; the first one found is taken. */
const columns = {
  id: ['id', 'part', 'label', 'name', 'no', 'nr'],
  capacitance: ['capacitance', 'c', 'measured', 'value'],
  rating: ['rating', 'dc rating', 'voltage', 'v', 'vdc'],
  tolerance: ['uncertainty', 'tolerance'],
} as const;
type Column = keyof typeof columns;

const headOf = (found: readonly string[], column: Column): string | undefined =>
  columns[column].map((name) => found.find((head) => head.trim().toLowerCase() === name)).find((head) => head !== undefined);

const units: { readonly [K in Exclude<Column, 'id'>]: UnitId } = { capacitance: 'F', rating: 'V', tolerance: '1' };

const atMost = (wrong: readonly string[]): UsageError =>
  new UsageError([...wrong.slice(0, 20), ...(wrong.length > 20 ? [`and ${wrong.length - 20} more`] : [])].join('\n'));

/** Pieces of parts as the bench has them, under their tags: measured values first, the chosen dc limit as the rating. */
function piecesIn(parts: readonly Part[], filter: string): Piece[] {
  const read = readFilter(filter);
  if (!read.ok) throw new UsageError(`--filter ${read.reason}`);
  const wanted = parts.filter((part) => part.kind === 'capacitor' && read.test(part, ''));
  const made = wanted.map((part) => ({ part, pieces: piecesOf({ id: part.tag, part }) }));
  const pieces = made.flatMap(({ pieces: p }) => (p.ok ? p.pieces : []));
  if (pieces.length > 0) return pieces;
  if (wanted.length === 0) throw new UsageError('PARTS: no capacitor in it fits --filter');
  throw atMost(made.map(({ part, pieces: p }) => `PARTS: ${part.tag} ${p.ok ? '' : p.reason}`));
}

/** Parts as the bench exports them, as JSON or as its own table; null where the text is neither. */
function benchParts(text: string): Part[] | null {
  if (text.trimStart().startsWith('{')) {
    const read = readPartFile(text);
    if (!read.ok) throw atMost(read.issues.map((issue) => `PARTS: ${wordFileIssue(issue)}`));
    return read.file.parts.map((p) => p.part);
  }
  const { data, errors } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy' });
  const [heads = [], ...rows] = data;
  if (!heads.includes('tag') || !heads.includes('kind')) return null;
  const broken = errors.find((error) => error.type === 'Quotes');
  if (broken) throw new UsageError(`PARTS.csv, row ${(broken.row ?? 0) + 1}: ${broken.message}`);
  const { parts, issues } = readTable(rows, matchColumns(heads), '1970-01-01T00:00:00.000Z');
  if (issues.length > 0) throw atMost(issues.map((i) => `PARTS.csv, row ${i.row}, ${i.column}: ${i.reason}`));
  return parts.map((p) => ({ ...p.part, tag: p.part.tag || `row ${p.row}` }));
}

/** The parts of an export of the bench, with their ids. @throws UsageError naming what cannot be read */
export function readShelf(raw: string): readonly Kept[] {
  const read = readPartFile(raw);
  if (!read.ok) throw atMost(read.issues.map((issue) => `PARTS: ${wordFileIssue(issue)}`));
  return read.file.parts;
}

/**
 * Capacitors to be composed: of an export of the bench those that `filter` finds, else those of a plain table.
 *
 * @throws UsageError naming what cannot be read
 */
export function readPieces(raw: string, filter: string): Piece[] {
  const text = raw.replace(/^\uFEFF/, '');
  const parts = benchParts(text);
  if (parts) return piecesIn(parts, filter);
  if (filter !== '') throw new UsageError('--filter is for an export of the parts bench; this is a plain table');
  return readParts(text);
}

/**
 * Capacitors from a plain CSV table with a head: an id, a capacitance and a direct-voltage rating each, and an uncertainty if
 * known. The separator is found out.
 *
 * @throws UsageError naming every row and column that cannot be read, up to twenty
 */
function readParts(text: string): Piece[] {
  const { data, errors, meta } = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
  });
  const found = meta.fields ?? [];
  const heads = Object.fromEntries((Object.keys(columns) as Column[]).map((column) => [column, headOf(found, column)]));
  const missing = (['id', 'capacitance', 'rating'] as const).filter((column) => heads[column] === undefined);
  if (missing.length > 0)
    throw new UsageError(
      missing
        .map((column) => `PARTS.csv: there is no column for ${column}; it may be named ${columns[column].join(', ')}`)
        .join('\n'),
    );
  const wrong: string[] = errors
    .filter((error) => error.type === 'Quotes' || error.code === 'TooManyFields')
    .map((error) => `PARTS.csv, row ${(error.row ?? 0) + 2}: ${error.message}`);
  const pieces = data.map((row, i): Piece => {
    const cell = (column: Column) => (row[heads[column] ?? ''] ?? '').trim();
    const number = (column: Exclude<Column, 'id'>, empty?: number): number => {
      const written = cell(column);
      if (written === '' && empty !== undefined) return empty;
      // A tolerance may be written as one writes it: ±2 %.
      const read = parseQuantity(column === 'tolerance' ? written.replace(/^±\s*/, '') : written, units[column]);
      if (read.ok) return read.quantity.value;
      wrong.push(`PARTS.csv, row ${i + 2}, ${heads[column] ?? column}: ${wordQuantityIssue(read.issue)}`);
      return NaN;
    };
    if (cell('id') === '')
      wrong.push(`PARTS.csv, row ${i + 2}, ${heads['id'] ?? 'id'}: is empty; every part has an id of its own`);
    return {
      id: cell('id'),
      capacitance: number('capacitance'),
      rating: number('rating'),
      uncertainty: number('tolerance', meterUncertainty),
    };
  });
  if (wrong.length > 0) throw atMost(wrong);
  if (pieces.length === 0) throw new UsageError('PARTS.csv: the table has a head and no rows');
  return pieces;
}
