import { textOf, type FieldSpec } from '../field/index.ts';
import {
  conditions,
  partKind,
  partKinds,
  partSchema,
  readingIssue,
  type Measure,
  type MeterReading,
  type Part,
} from '../part/index.ts';
import { isUnitId, parseQuantity, printExact, unitName, units, wordQuantityIssue, type UnitId } from '../quantity/index.ts';
import { fieldIssues, forbiddenKey } from './rig-file.ts';

/**
 * Parts as a table, one row each, for a spreadsheet and back. What a table is cut into rows and cells by is the caller's
 * business; here are its columns and what stands in them.
 */

/** More rows than any bench has parts; a longer table is refused whole. */
export const tableLimit = 20_000;

/** A column of the table of parts. */
export interface TableColumn {
  /** Its head in a table that this program writes. */
  readonly id: string;
  readonly title: string;
  /** Unit that a bare number is in where the head says none. */
  readonly unit?: UnitId;
  /** Heads by which it is found, in lower case, beside its own. */
  readonly known: readonly string[];
}

const plain: readonly TableColumn[] = [
  { id: 'id', title: 'Id', known: ['uuid'] },
  { id: 'tag', title: 'Tag on its label', known: ['label', 'no', 'nr', 'number', 'part', 'part no'] },
  { id: 'kind', title: 'Kind', known: ['type', 'category'] },
  { id: 'name', title: 'Name', known: ['description', 'title', 'what'] },
  { id: 'quantity', title: 'How many', known: ['qty', 'count', 'pieces', 'how many'] },
  { id: 'condition', title: 'Condition', known: ['state', 'status'] },
  { id: 'place', title: 'Location', known: ['location', 'where', 'shelf', 'box', 'bin'] },
  { id: 'price', title: 'Price, each', known: ['cost', 'worth', 'value, each'] },
  { id: 'lot', title: 'Lot', known: ['source', 'batch'] },
  { id: 'note', title: 'Note', known: ['notes', 'remark', 'remarks', 'comment'] },
];

const kindsWith = (id: string) => partKinds.filter((kind) => id in kind.fields);

const fieldIds = [...new Set(partKinds.flatMap((kind) => Object.keys(kind.fields)))];

const fieldHeads: Readonly<Record<string, readonly string[]>> = {
  C: ['capacitance', 'cap', 'nominal', 'label value'],
  R: ['resistance', 'ohms'],
  L: ['inductance'],
  V: ['voltage', 'rating', 'working voltage'],
  Vdc: ['dc rating', 'vdc', 'voltage dc', 'rated voltage', 'voltage', 'rating', 'working voltage'],
  Vac: ['ac rating', 'vac', 'voltage ac'],
  P: ['power', 'wattage'],
  ESR: ['series resistance'],
  elements: ['number of elements'],
  dielectric: ['type of capacitor'],
};

const titleOf = (titles: readonly string[]): string => titles.slice(0, 2).join(' / ') + (titles.length > 2 ? ' …' : '');

const fieldColumns: readonly TableColumn[] = fieldIds.map((id) => {
  const specs = kindsWith(id)
    .map((kind) => kind.fields[id])
    .filter((spec) => spec !== undefined);
  const [first] = specs;
  return {
    id,
    title: titleOf([...new Set(specs.map((spec) => spec.title))]),
    ...(first?.type === 'quantity' ? { unit: first.unit } : {}),
    known: fieldHeads[id] ?? [],
  };
});

const measureIds = [...new Set(partKinds.flatMap((kind) => kind.measures.map((m) => m.id)))];
const measureOf = (id: string): Measure | undefined => partKinds.flatMap((kind) => kind.measures).find((m) => m.id === id);
const measuredHead = (id: string) => `measured ${id}`;

const measureColumns: readonly TableColumn[] = measureIds.map((id) => {
  const measure = measureOf(id);
  return {
    id: measuredHead(id),
    title: `${measure?.title ?? id}, one reading`,
    ...(measure ? { unit: measure.unit } : {}),
    known: id === 'capacitance' ? ['measured', 'measured c'] : [],
  };
});

const whole: readonly TableColumn[] = [
  { id: 'readings', title: 'All readings, as this program writes them', known: [] },
  { id: 'own', title: 'Quantities of one’s own, as this program writes them', known: [] },
  { id: 'design', title: 'Design of a home-made one, as this program writes it', known: [] },
];

/** Every column there is, in the order in which they are written. */
export const tableColumns: readonly TableColumn[] = [...plain, ...fieldColumns, ...measureColumns, ...whole];

/** Which column of the file stands for which of ours: by our id, the place in the row and the unit of bare numbers. */
export type Matching = Readonly<Record<string, { readonly at: number; readonly unit?: string }>>;

/** "C (µF)" and "C [µF]" say in which unit their numbers are. */
function headOf(text: string): { readonly name: string; readonly unit?: string } {
  const match = /^(.*?)\s*[([]\s*([^)\]]+?)\s*[)\]]\s*$/.exec(text);
  return match?.[1] ? { name: match[1].trim(), unit: match[2] ?? '' } : { name: text.trim() };
}

/**
 * Finds the columns of a file by their heads; what is not found a person matches.
 *
 * @param kind what the parts are where no column says it: only what that kind has is looked for, so that "voltage" is the
 *   dc rating of capacitors and the working voltage of resistors
 */
export function matchColumns(heads: readonly string[], kind?: string): Matching {
  const matched: Record<string, { at: number; unit?: string }> = {};
  const taken = new Set<number>();
  const take = (column: TableColumn, fits: (name: string) => boolean) => {
    if (column.id in matched) return;
    const at = heads.findIndex((head, i) => !taken.has(i) && fits(headOf(head).name));
    if (at < 0) return;
    taken.add(at);
    const { unit } = headOf(heads[at] ?? '');
    matched[column.id] = { at, ...(unit !== undefined && column.unit ? { unit } : {}) };
  };
  // Own names first, exactly as written: "C" and "c" may be two columns of somebody's table.
  for (const column of tableColumns) take(column, (name) => name === column.id);
  for (const column of tableColumns) take(column, (name) => name.toLowerCase() === column.id.toLowerCase());
  const own = 'kind' in matched || kind === undefined ? null : partKind(kind).fields;
  for (const column of tableColumns)
    if (own === null || !fieldIds.includes(column.id) || column.id in own)
      take(column, (name) => column.known.includes(name.toLowerCase()));
  return matched;
}

/**
 * A text that a spreadsheet would take for a formula is written with an apostrophe before it, which is taken off again
 * when it is read; texts that begin with apostrophes before such a sign get one more, so that every text comes back.
 */
export const guarded = (text: string): string => (/^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text);
export const unguarded = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

export interface RowIssue {
  /** Row of the file, the head being row 1. */
  readonly row: number;
  readonly column: string;
  readonly reason: string;
}

/** A part read from a row; its lot as a name, its id where the table has one. */
export interface RowPart {
  readonly row: number;
  readonly id: string | null;
  readonly lot: string | null;
  readonly part: Part;
}

export interface ReadTable {
  readonly parts: readonly RowPart[];
  readonly issues: readonly RowIssue[];
}

/** Units in which a bare number is more likely a slip than meant: nobody has 47 F or 3 H of a salvaged part. */
const needsUnit: readonly UnitId[] = ['F', 'H', 'm'];

interface Row {
  readonly number: number;
  cell(column: string): string;
  unit(column: string): string | undefined;
  refuse(column: string, reason: string): void;
}

const withUnit = (text: string, unit: string | undefined): string =>
  unit !== undefined && /[\d.,]$/.test(text) ? `${text} ${unit}` : text;

function quantityCell(row: Row, column: string, unit: UnitId): string | null {
  const text = withUnit(row.cell(column), row.unit(column));
  if (text === '') return null;
  if (needsUnit.includes(unit) && /^[\d.,\s]+$/.test(text)) {
    row.refuse(
      column,
      `"${text.slice(0, 40)}" has no unit; write it with one, or in the head: ${column} (${units[unit].print.symbol})`,
    );
    return null;
  }
  return text;
}

function numberCell(row: Row, column: string): number | null {
  const text = row.cell(column);
  if (text === '') return null;
  const read = parseQuantity(text, '1');
  if (read.ok) return read.quantity.value;
  row.refuse(column, wordQuantityIssue(read.issue));
  return null;
}

const kindNamed = (text: string) =>
  partKinds.find((k) => k.kind === text || k.title.toLowerCase() === text.toLowerCase() || `${k.kind}s` === text.toLowerCase());

function choiceCell(row: Row, id: string, spec: Extract<FieldSpec, { type: 'choice' }>): string | null {
  const text = row.cell(id);
  if (text === '') return null;
  const option = spec.options.find((o) => o.value === text || o.title.toLowerCase() === text.toLowerCase());
  if (option) return option.value;
  row.refuse(id, `is "${text.slice(0, 40)}"; it must be one of ${spec.options.map((o) => o.value).join(', ')}`);
  return null;
}

function jsonCell(row: Row, column: string): unknown {
  const text = row.cell(column);
  if (text === '') return undefined;
  try {
    const data: unknown = JSON.parse(text);
    const key = forbiddenKey(data);
    if (key === null) return data;
    row.refuse(column, `holds the key "${key}"`);
  } catch {
    row.refuse(column, 'is not as this program writes it: it must be JSON');
  }
  return undefined;
}

function readingsOf(row: Row, kind: string, at: string): unknown {
  const all = jsonCell(row, 'readings');
  const single = measureIds.flatMap((id): MeterReading[] => {
    const head = measuredHead(id);
    const measure = measureOf(id);
    const text = measure ? quantityCell(row, head, measure.unit) : null;
    if (text === null || !measure) return [];
    const read = parseQuantity(text, measure.unit);
    const issue = read.ok ? readingIssue(kind, id, read.quantity.value) : wordQuantityIssue(read.issue);
    if (issue !== null) {
      row.refuse(head, issue);
      return [];
    }
    const value = read.ok ? read.quantity.value : NaN;
    return [{ measure: id, element: 1, value, at, instrument: '', under: null, by: 'imported' }];
  });
  if (all === undefined) return single;
  return Array.isArray(all) ? [...(all as unknown[]), ...single] : all;
}

function readRow(row: Row, at: string, fallback: string): RowPart | null {
  const kindText = row.cell('kind') || fallback;
  const kind = kindNamed(kindText);
  if (!kind) {
    row.refuse('kind', `is "${kindText.slice(0, 40)}"; it must be one of ${partKinds.map((k) => k.kind).join(', ')}`);
    return null;
  }
  const fields: Record<string, unknown> = {};
  for (const id of fieldIds) {
    const spec = kind.fields[id];
    if (!spec) {
      if (row.cell(id) !== '')
        row.refuse(
          id,
          `is taken as ${id}, which a ${kind.title.toLowerCase()} has not got; it has ${Object.keys(kind.fields).join(', ')}`,
        );
      continue;
    }
    const value = spec.type === 'choice' ? choiceCell(row, id, spec) : quantityCell(row, id, spec.unit);
    if (value !== null) fields[id] = value;
  }
  const condition = row.cell('condition').toLowerCase();
  const quantity = numberCell(row, 'quantity');
  const price = numberCell(row, 'price');
  const design = kind.kind === 'capacitor' ? jsonCell(row, 'design') : undefined;
  const own = jsonCell(row, 'own');
  const tag = unguarded(row.cell('tag'));
  const name = unguarded(row.cell('name')) || tag;
  const read = partSchema.safeParse({
    kind: kind.kind,
    // A part without a tag is given one when it is taken in; here it stands for itself.
    tag: tag || `row ${row.number}`,
    name: name || kind.title,
    ...(quantity === null ? {} : { quantity }),
    ...(condition === '' ? {} : { condition }),
    place: unguarded(row.cell('place')),
    price,
    note: unguarded(row.cell('note')),
    fields,
    readings: readingsOf(row, kind.kind, at),
    ...(own === undefined ? {} : { own }),
    ...(design === undefined ? {} : { design }),
  });
  if (!read.success) {
    for (const issue of fieldIssues(read.error)) row.refuse(issue.path.replace(/^fields\./, ''), issue.reason);
    return null;
  }
  const id = row.cell('id');
  if (id !== '' && !/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id)) {
    row.refuse('id', 'must be the id of a part as this program writes it, or empty');
    return null;
  }
  return {
    row: row.number,
    id: id === '' ? null : id.toLowerCase(),
    lot: unguarded(row.cell('lot')) || null,
    part: tag ? read.data : { ...read.data, tag: '' },
  };
}

/**
 * Reads rows of cells as parts.
 *
 * @param rows without the head; the first is row 2 of the file
 * @param at date and time that readings without one are given
 * @param fallback the kind of rows that name none
 * @returns what could be read and every reason against the rest, by row and column. An import takes all or nothing.
 */
export function readTable(
  rows: readonly (readonly string[])[],
  matching: Matching,
  at: string,
  fallback = 'capacitor',
): ReadTable {
  const issues: RowIssue[] = [];
  const seen = new Map<string, number>();
  const parts = rows.flatMap((cells, i): RowPart[] => {
    const number = i + 2;
    const before = issues.length;
    const row: Row = {
      number,
      cell: (column) => {
        const match = matching[column];
        return match ? (cells[match.at] ?? '').trim() : '';
      },
      unit: (column) => matching[column]?.unit,
      refuse: (column, reason) => void issues.push({ row: number, column, reason }),
    };
    const read = readRow(row, at, fallback);
    if (read && read.part.tag !== '') {
      const key = read.part.tag.toLowerCase();
      const first = seen.get(key);
      if (first !== undefined) row.refuse('tag', `is ${read.part.tag}, which row ${first} has already`);
      else seen.set(key, number);
    }
    return read && issues.length === before ? [read] : [];
  });
  return { parts, issues };
}

const conditionText = (condition: Part['condition']): string => (conditions[0] === condition ? '' : condition);

/** A part to be written: its lot as a name. */
export interface TablePart {
  readonly id: string;
  readonly lot: string | null;
  readonly part: Part;
}

function cellOf({ id, lot, part }: TablePart, column: string): string {
  switch (column) {
    case 'id':
      return id;
    case 'tag':
    case 'name':
    case 'place':
    case 'note':
      return guarded(part[column]);
    case 'kind':
      return part.kind;
    case 'quantity':
      return String(part.quantity);
    case 'condition':
      return conditionText(part.condition);
    case 'price':
      return part.price === null ? '' : String(part.price);
    case 'lot':
      return lot === null ? '' : guarded(lot);
    case 'readings':
      return part.readings.length === 0 ? '' : JSON.stringify(part.readings);
    case 'own':
      return part.own ? JSON.stringify(part.own) : '';
    case 'design':
      return part.design ? JSON.stringify(part.design) : '';
    default: {
      const spec = partKind(part.kind).fields[column];
      const value = part.fields[column] ?? null;
      if (!spec || value === null) return '';
      if (spec.type === 'choice') return value === spec.initial ? '' : String(value);
      if (typeof value === 'string' || value.from === 'default') return '';
      // A text without a unit, such as 104 of a plain number, would be doubtful where nothing stands around it.
      return /^[\d.,\s]+$/.test(value.text) && spec.unit !== '1' ? textOf(value, spec.unit) : value.text;
    }
  }
}

/** Parts as rows of cells, the head first; columns that no part fills are left out. */
export function writeTable(parts: readonly TablePart[]): string[][] {
  const written = tableColumns.filter((column) => !column.id.startsWith('measured '));
  const used = written.filter(
    (column) => ['id', 'tag', 'kind', 'name', 'quantity'].includes(column.id) || parts.some((p) => cellOf(p, column.id) !== ''),
  );
  return [used.map((c) => c.id), ...parts.map((part) => used.map((c) => cellOf(part, c.id)))];
}

/** What a head's unit may be for a column, in words; null where it is one. */
export function unitIssue(column: TableColumn, written: string): string | null {
  if (!column.unit || !isUnitId(column.unit)) return null;
  const read = parseQuantity(`1 ${written}`, column.unit);
  return read.ok
    ? null
    : `${written} is no unit for ${column.title}; it takes ${unitName(column.unit)}, such as ${printExact(1, column.unit)}`;
}
