import Papa from 'papaparse';
import { parseQuantity, wordQuantityIssue, type UnitId } from '@vast-surge/core/quantity';
import type { Piece } from '@vast-surge/core/part';
import { UsageError } from './usage.ts';

/** Names a column may have, in any case; the first one found is taken. */
const columns = {
  id: ['id', 'part', 'label', 'name', 'no', 'nr'],
  capacitance: ['capacitance', 'c', 'measured', 'value'],
  rating: ['rating', 'dc rating', 'voltage', 'v', 'vdc'],
  tolerance: ['uncertainty', 'tolerance'],
} as const;
type Column = keyof typeof columns;

/** What a measured capacitance is taken to be uncertain by where the file does not say. Common practice, no source: a hand meter. */
const meterUncertainty = 0.01;

const headOf = (found: readonly string[], column: Column): string | undefined =>
  columns[column].map((name) => found.find((head) => head.trim().toLowerCase() === name)).find((head) => head !== undefined);

const units: { readonly [K in Exclude<Column, 'id'>]: UnitId } = { capacitance: 'F', rating: 'V', tolerance: '1' };

/**
 * Capacitors from a CSV table with a head: an id, a capacitance and a direct-voltage rating each, and an uncertainty if
 * known. The separator is found out, a byte-order mark is passed over.
 *
 * @throws UsageError naming every row and column that cannot be read, up to twenty
 */
export function readParts(text: string): Piece[] {
  const { data, errors, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
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
  if (wrong.length > 0)
    throw new UsageError([...wrong.slice(0, 20), ...(wrong.length > 20 ? [`and ${wrong.length - 20} more`] : [])].join('\n'));
  if (pieces.length === 0) throw new UsageError('PARTS.csv: the table has a head and no rows');
  return pieces;
}
