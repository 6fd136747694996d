import Papa from 'papaparse';
import type { StoredLot, StoredPart } from '@vast-surge/contract';
import { writePartFile, writeTable } from '@vast-surge/core/format';
import { download } from '../../ui/download.ts';

/** Parts as a table for a spreadsheet, which the import reads back. Its cells are guarded against being taken for formulas. */
export function csvOf(parts: readonly StoredPart[], lots: readonly StoredLot[]): string {
  const names = new Map(lots.map((l) => [l.id, l.lot.name]));
  const rows = writeTable(
    parts.map(({ id, part }) => ({ id, part, lot: part.lot === null ? null : (names.get(part.lot) ?? null) })),
  );
  return `\uFEFF${Papa.unparse(rows, { newline: '\r\n' })}\r\n`;
}

export const exportCsv = (parts: readonly StoredPart[], lots: readonly StoredLot[]): void =>
  download('parts.csv', csvOf(parts, lots), 'text/csv;charset=utf-8');

export function exportJson(parts: readonly StoredPart[], lots: readonly StoredLot[]): void {
  const used = new Set(parts.map((p) => p.part.lot));
  const file = writePartFile({
    parts: parts.map(({ id, part }) => ({ id, part })),
    lots: lots.filter((l) => used.has(l.id)).map(({ id, lot }) => ({ id, lot })),
  });
  download('parts.json', file, 'application/json');
}
