import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, test } from 'vitest';
import { newDesign, newLot, newPart, partKinds, partSchema, shapes, conditions, type Part } from '../part/index.ts';
import { labelledPart, reading } from '../test/parts.ts';
import {
  guarded,
  matchColumns,
  readPartFile,
  readTable,
  tableColumns,
  unguarded,
  unitIssue,
  wordFileIssue,
  writePartFile,
  writeTable,
  type RowIssue,
} from './index.ts';

const at = '2026-03-01T08:00:00.000Z';
const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** Reads a table as it stands in a file: its first line is the head. */
function read(lines: readonly (readonly string[])[]) {
  const [heads = [], ...rows] = lines;
  return readTable(rows, matchColumns(heads, 'capacitor'), at);
}
const reasons = (issues: readonly RowIssue[]) => issues.map((i) => `row ${i.row} ${i.column}: ${i.reason}`).join(' | ');

/** Texts that a spreadsheet or a person may put into a cell: formulas, quotes, line ends, apostrophes. */
const cellText = fc
  .oneof(
    fc.string({ maxLength: 20 }),
    fc.constantFrom('=1+1', "'=x", "''+a", '@b', '-3', '"', 'a;b,c', 'ü µ Ω', '\tx', '1\n2', "'"),
  )
  // Blanks at the ends are cut where a person types them as well.
  .map((text) => text.trim())
  .filter((text) => partSchema.safeParse({ ...newPart('diode', 'x', 'x'), note: text }).success);
const name = cellText.filter((text) => text !== '' && text.length <= 24);

const anyPart: fc.Arbitrary<Part> = fc
  .record({
    kind: fc.constantFrom(...partKinds.map((k) => k.kind)),
    name,
    place: cellText,
    note: cellText,
    quantity: fc.nat(1000),
    condition: fc.constantFrom(...conditions),
    price: fc.option(fc.double({ min: 0, max: 1e6, noNaN: true })),
    mantissa: fc.integer({ min: 100, max: 999 }),
    tolerance: fc.constantFrom('', ' ±10 %', ' -20/+80 %'),
    value: fc.option(fc.double({ min: 1e-3, max: 1e-1, noNaN: true })),
    shape: fc.option(fc.constantFrom(...shapes.map((s) => s.id))),
  })
  .map(({ kind: id, mantissa, tolerance, value, shape, ...rest }) => {
    const kind = partKinds.find((k) => k.kind === id);
    const label = Object.fromEntries(
      Object.entries(kind?.fields ?? {}).flatMap(([field, spec]): [string, string][] => {
        if (spec.type === 'choice') return [[field, spec.options.at(mantissa % spec.options.length)?.value ?? spec.initial]];
        if (spec.integer || spec.unit === '1') return [];
        const middle = spec.max >= 1 ? mantissa / 1000 : spec.max / 2;
        return [[field, `${middle} ${spec.unit}${spec.tolerance ? tolerance : ''}`]];
      }),
    );
    const measure = kind?.measures[0];
    const readings =
      measure && value !== null ? [{ ...reading(measure.id, value * Math.min(1, measure.max)), struck: true as const }] : [];
    const fits = readings.every((r) => measure && r.value >= measure.min);
    const part = { ...labelledPart(id, label, fits ? readings : []), ...rest, tag: '' };
    return id === 'capacitor' && shape !== null ? { ...part, design: newDesign(shape) } : part;
  });

describe('a table of parts', () => {
  test('written, cut into cells by a CSV package and read back, is the same parts, whatever their texts hold', () =>
    fc.assert(
      fc.property(fc.array(anyPart, { minLength: 1, maxLength: 6 }), fc.constantFrom(',', ';', '\t'), (parts, delimiter) => {
        const rows = parts.map((part, i) => ({ id: uuid(i + 1), lot: i % 2 ? '=lot' : null, part: { ...part, tag: `T-${i}` } }));
        const text = Papa.unparse(writeTable(rows), { delimiter });
        const back = read(Papa.parse<string[]>(text, { delimiter }).data);
        expect(reasons(back.issues)).toBe('');
        expect(back.parts.map(({ id, lot, part }) => ({ id, lot, part: JSON.parse(JSON.stringify(part)) as Part }))).toEqual(
          rows.map(({ id, lot, part }) => ({ id, lot, part: JSON.parse(JSON.stringify(part)) as Part })),
        );
      }),
    ));

  test('no cell of it begins as a formula does', () =>
    fc.assert(
      fc.property(anyPart, (part) => {
        const [, row = []] = writeTable([{ id: uuid(1), lot: '=x', part: { ...part, tag: '+a' } }]);
        const texts = row.filter((cell) => !/^[-+]?[\d.]/.test(cell));
        expect(texts.filter((cell) => /^[=+\-@\t\r]/.test(cell))).toEqual([]);
      }),
    ));

  test('guarding a text and taking the guard off again gives the text', () =>
    fc.assert(
      fc.property(
        fc.oneof(
          cellText,
          fc.string().map((s) => `'${s}`),
          fc.string().map((s) => `=${s}`),
        ),
        (text) => {
          expect(unguarded(guarded(text))).toBe(text);
          expect(guarded(text)).not.toMatch(/^[=+\-@\t\r]/);
        },
      ),
    ));

  test('finds its columns by what people call them, with the unit in the head', () => {
    const heads = ['No', 'What', 'Cap (µF)', 'Voltage', 'Qty', 'Shelf', 'Measured (nF)', 'Remarks', 'colour'];
    const { parts, issues } = read([
      heads,
      ['A-1', 'Blue film', '4,7', '630 V', '2', 'bin 3', '4810', 'x', 'blue'],
      ['A-2', 'Blue film', '4u7 ±10 %', '1 kV', '', 'bin 3', '', '', 'blue'],
    ]);
    expect(reasons(issues)).toBe('');
    expect(parts.map(({ part }) => [part.tag, part.quantity, (part.fields['C'] as { value: number }).value])).toEqual([
      ['A-1', 2, 4.7e-6],
      ['A-2', 1, 4.7e-6],
    ]);
    expect(parts[0]?.part.readings).toMatchObject([{ measure: 'capacitance', value: 4.81e-6 }]);
    expect(parts[1]?.part.fields['C']).toMatchObject({ tolerance: { minus: 0.1, plus: 0.1 } });
    expect(matchColumns(['Voltage'], 'resistor')['V']).toEqual({ at: 0 });
  });

  test.each<[string, string[], string[], RegExp]>([
    ['a negative capacitance', ['tag', 'C'], ['A', '-3 µF'], /row 2 C: is −3 µF; it must be above 0 F/],
    ['a capacitance in volts', ['tag', 'C'], ['A', '3 V'], /row 2 C: /],
    [
      'a capacitance without a unit',
      ['tag', 'C'],
      ['A', '47'],
      /row 2 C: "47" has no unit; write it with one, or in the head: C \(F\)/,
    ],
    ['a mixed decimal comma', ['tag', 'C (µF)'], ['A', '1.234,5'], /row 2 C: /],
    ['a kind that is none', ['tag', 'kind'], ['A', 'flux'], /row 2 kind: is "flux"; it must be one of capacitor/],
    ['a state that is none', ['tag', 'condition'], ['A', 'fine'], /row 2 condition: must be one of unknown/],
    ['half a piece', ['tag', 'quantity'], ['A', '1.5'], /row 2 quantity: must be a whole number/],
    ['a reading of zero', ['tag', 'measured capacitance'], ['A', '0 F'], /row 2 measured capacitance: must be from/],
    [
      'a field of another kind',
      ['tag', 'kind', 'IGT'],
      ['A', 'capacitor', '3 A'],
      /row 2 IGT: is taken as IGT, which a capacitor has not got/,
    ],
    ['an id that is none', ['tag', 'id'], ['A', '7'], /row 2 id: must be the id of a part/],
    ['readings that are no JSON', ['tag', 'readings'], ['A', '[{'], /row 2 readings: is not as this program writes it/],
  ])('with %s is refused by row and column', (_what, heads, row, reason) => {
    const { parts, issues } = read([heads, row]);
    expect([parts.length, reasons(issues)]).toEqual([0, expect.stringMatching(reason)]);
  });

  test('a tag twice is said with the row that has it already, and one bad row does not hide the next', () => {
    const { parts, issues } = read([
      ['tag', 'C'],
      ['A', '1 µF'],
      ['a', '2 µF'],
      ['B', '-1 µF'],
      ['C', '3 µF'],
    ]);
    expect(reasons(issues)).toMatch(/row 3 tag: is a, which row 2 has already \| row 4 C:/);
    expect(parts.map((p) => p.part.tag)).toEqual(['A', 'C']);
  });

  test('a unit in a head that is none of the column’s is said', () => {
    const C = tableColumns.find((c) => c.id === 'C');
    if (!C) throw new Error('no column');
    expect([unitIssue(C, 'nF'), unitIssue(C, 'kg')]).toEqual([null, expect.stringMatching(/kg is no unit for Capacitance/)]);
  });

  test('nothing that stands in a row makes the reader throw', () =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...tableColumns.map((c) => c.id)), { maxLength: 12 }),
        fc.array(fc.string(), { maxLength: 12 }),
        (heads, cells) => {
          expect(() => read([heads, cells])).not.toThrow();
        },
      ),
    ));
});

describe('a file of parts', () => {
  test('is read back as it was written, to the same text', () =>
    fc.assert(
      fc.property(fc.array(anyPart, { maxLength: 5 }), (parts) => {
        const file = {
          parts: parts.map((part, i) => ({ id: uuid(i + 1), part: { ...part, tag: `T-${i}` } })),
          lots: [{ id: uuid(99), lot: newLot('=Box') }],
        };
        const text = writePartFile(file);
        const back = readPartFile(text);
        if (!back.ok) throw new Error(back.issues.map(wordFileIssue).join());
        expect(writePartFile(back.file)).toBe(text);
      }),
    ));

  test.each<[string, string, RegExp]>([
    ['no JSON', '{"parts": [', /./],
    ['of something else', '{"format": "zoo"}', /vast-surge-parts/],
    ['of a newer version', '{"format": "vast-surge-parts", "version": 9, "lots": [], "parts": []}', /newer|version/i],
    [
      'with a __proto__ key',
      '{"format": "vast-surge-parts", "version": 1, "__proto__": {}, "lots": [], "parts": []}',
      /__proto__/,
    ],
    [
      'with a part that is none',
      `{"format": "vast-surge-parts", "version": 1, "lots": [], "parts": [{"id": "${uuid(1)}", "part": {"kind": "diode", "tag": "D", "name": "d", "quantity": -1}}]}`,
      /parts\[0\]\.part\.quantity must be from 0 to 100000/,
    ],
  ])('%s is refused with the reason', (_what, text, reason) => {
    const file = readPartFile(text);
    expect(file.ok ? 'taken' : file.issues.map(wordFileIssue).join()).toMatch(reason);
  });
});
