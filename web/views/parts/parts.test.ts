import { describe, expect, test } from 'vitest';
import { matchColumns, readTable, tableLimit } from '@vast-surge/core/format';
import { newPart } from '@vast-surge/core/part';
import { emptyBench, withWrite } from '../../app/bench-write.ts';
import { csvOf } from './export.ts';
import { planImport, readCsv, textIn } from './import-read.ts';
import { decodeMarking, fieldsOf } from './marking.tsx';

const id = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const now = '2026-03-01T08:00:00.000Z';
const bytes = (text: string) => new TextEncoder().encode(text);

describe('a CSV file', () => {
  test('is read with a BOM, in UTF-16, and as older spreadsheets write it', () => {
    expect(textIn(bytes('\uFEFFC;4,7 µF'))).toContain('4,7 µF');
    expect(textIn(Uint8Array.from([0xff, 0xfe, 0x43, 0, 0xb5, 0]))).toBe('Cµ');
    expect(textIn(Uint8Array.from([0x34, 0x37, 0x20, 0xb5, 0x46]))).toBe('47 µF');
    expect(readCsv('\uFEFFtag;C\nA;4,7 µF\n')).toEqual({ ok: true, value: { heads: ['tag', 'C'], rows: [['A', '4,7 µF']] } });
  });

  test.each<[string, string, RegExp]>([
    ['with a broken quote', 'tag,C\nA,"4.7 µF\nB,1 µF\n', /quote is opened and not closed/],
    ['that is empty', '', /file is empty/],
    ['with a head alone', 'tag,C\n', /a head and no rows/],
    ['of 200 000 rows', `tag,C\n${'A,1 µF\n'.repeat(200_000)}`, new RegExp(`more than ${tableLimit} rows`)],
  ])('%s is refused with the reason', (_what, text, reason) => {
    const read = readCsv(text);
    expect(read.ok ? 'taken' : read.reason).toMatch(reason);
  });

  test('that the shelf exported is planned as nothing new, and elsewhere as everything', () => {
    const shelf = withWrite(
      emptyBench,
      { do: 'create', parts: [1, 2].map((n) => ({ id: id(n), part: { ...newPart('diode', '=cmd', `D-${n}`), lot: null } })) },
      now,
    );
    const table = readCsv(csvOf([...shelf.parts.values()], []));
    if (!table.ok) throw new Error(table.reason);
    const { parts, issues } = readTable(table.value.rows, matchColumns(table.value.heads), now);
    expect(issues).toEqual([]);
    const file = { parts: parts.map((p) => ({ where: `row ${p.row}`, id: p.id, lotName: p.lot, part: p.part })), lots: [] };
    expect(planImport(file, shelf, false)).toMatchObject({ parts: [], here: ['D-1', 'D-2'] });
    expect(planImport(file, emptyBench, false).parts.map((p) => p.part.name)).toEqual(['=cmd', '=cmd']);
  });

  test('brings no second part with a tag, unless it is to get a new one, and each lot by its name once', () => {
    const bench = withWrite(emptyBench, { do: 'create', parts: [{ id: id(1), part: newPart('diode', 'x', 'D-1') }] }, now);
    const part = (tag: string) => ({ where: tag, id: null, lotName: 'Box', part: newPart('diode', 'y', tag) });
    const file = { parts: [part('d-1'), part('D-7')], lots: [] };
    const left = planImport(file, bench, false);
    expect([left.parts.map((p) => p.part.tag), left.tagTaken, left.lots.length]).toEqual([['D-7'], ['d-1'], 1]);
    const retagged = planImport(file, bench, true);
    expect(retagged.parts.map((p) => p.part.tag)).toEqual(['', 'D-7']);
    expect(new Set(retagged.parts.map((p) => p.part.lot)).size).toBe(1);
  });
});

test('what stands on a part goes into its fields, with tolerance and voltage', () => {
  const only = (kind: string, text: string) => {
    const decoded = decodeMarking(kind, text);
    if (!decoded.ok || decoded.readings.length !== 1 || !decoded.readings[0]) throw new Error('doubtful');
    return fieldsOf(kind, decoded.readings[0]);
  };
  expect(only('capacitor', '104K')).toMatchObject({ C: { value: 1e-7, tolerance: { minus: 0.1, plus: 0.1 } } });
  expect(only('capacitor', '.047K 630V')).toMatchObject({ C: { value: 47e-9 }, Vdc: { value: 630 } });
  expect(only('resistor', 'yellow violet red gold')).toMatchObject({
    R: { value: 4700, tolerance: { minus: 0.05, plus: 0.05 } },
  });
  const doubtful = decodeMarking('capacitor', '100');
  expect(doubtful.ok && doubtful.readings.length).toBeGreaterThan(1);
});
