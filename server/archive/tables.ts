import Papa from 'papaparse';
import { documentName, writeTable, type Workshop } from '@vast-surge/core/format';
import { evaluateRig } from '@vast-surge/core/evaluation';

/** Cells that a spreadsheet would take for a formula are quoted with an apostrophe. */
const csv = (fields: string[], data: unknown[][]): string =>
  `${Papa.unparse({ fields, data }, { newline: '\n', escapeFormulae: true })}\n`;

/** The bench as tables: parts as the page exports them, readings and lots one to a row. */
function benchTables({ parts, lots }: Workshop): [string, string][] {
  const lotNames = new Map(lots.flatMap(({ id, lot }) => (lot.ok ? [[id, lot.value.name] as const] : [])));
  const shelf = parts.flatMap(({ id, part, removedAt }) => (part.ok && removedAt === null ? [{ id, part: part.value }] : []));
  const rows = writeTable(shelf.map((p) => ({ ...p, lot: p.part.lot === null ? null : (lotNames.get(p.part.lot) ?? null) })));
  const readings = shelf.flatMap(({ id, part }) =>
    part.readings.map((r) => [
      id,
      part.tag,
      r.measure,
      r.element,
      r.value,
      r.under ?? '',
      r.at,
      r.instrument,
      r.by,
      r.struck ? 1 : '',
    ]),
  );
  const bought = lots.flatMap(({ id, lot: kept }) => {
    if (!kept.ok) return [];
    const { name, source, date, paid, hours, units, broken, note } = kept.value;
    return [[id, name, source, date ?? '', paid ?? '', hours ?? '', units, broken, note]];
  });
  // Its cells are guarded already, in the way that is undone when they are read.
  const partTable = `${Papa.unparse(rows, { newline: '\n' })}\n`;
  return [
    ['parts.csv', partTable],
    [
      'readings.csv',
      csv(['part_id', 'tag', 'measure', 'element', 'value', 'under', 'at', 'instrument', 'by', 'struck'], readings),
    ],
    ['lots.csv', csv(['lot_id', 'name', 'source', 'date', 'paid', 'hours', 'units', 'broken', 'note'], bought)],
  ];
}

/** Tables for reading along with an archive. They are written only; an import takes nothing from them. */
export function tablesOf(workshop: Workshop): Map<string, string> {
  const { rigs } = workshop;
  const list = rigs.map((rig) => [
    rig.id,
    documentName(rig.document),
    rig.version,
    rig.createdAt,
    rig.updatedAt,
    rig.archivedAt ?? '',
    rig.revisions.length,
  ]);
  const revisions = rigs.flatMap((rig) =>
    rig.revisions.map((r) => [rig.id, documentName(r.document), r.number, r.version, r.name ?? '', r.madeAt, r.id]),
  );
  const figures = rigs.flatMap((rig) =>
    rig.document.ok
      ? evaluateRig(rig.document.document.rig).figures.flatMap((f) =>
          f.ok
            ? [[rig.id, documentName(rig.document), f.id, f.title, f.worked.unit, f.worked.value, f.band.low, f.band.high]]
            : [],
        )
      : [],
  );
  return new Map([
    ['rigs.csv', csv(['rig_id', 'name', 'version', 'created_at', 'updated_at', 'archived_at', 'revisions'], list)],
    ['revisions.csv', csv(['rig_id', 'rig', 'number', 'version', 'name', 'made_at', 'revision_id'], revisions)],
    ...benchTables(workshop),
    ['figures.csv', csv(['rig_id', 'rig', 'figure_id', 'figure', 'unit', 'value', 'low', 'high'], figures)],
  ]);
}
