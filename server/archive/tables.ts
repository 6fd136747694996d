import Papa from 'papaparse';
import { documentName, type Workshop } from '@vast-surge/core/format';
import { evaluateRig } from '@vast-surge/core/evaluation';

/** Cells that a spreadsheet would take for a formula are quoted with an apostrophe. */
const csv = (fields: string[], data: unknown[][]): string =>
  `${Papa.unparse({ fields, data }, { newline: '\n', escapeFormulae: true })}\n`;

/** Tables for reading along with an archive. They are written only; an import takes nothing from them. */
export function tablesOf({ rigs }: Workshop): Map<string, string> {
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
    ['figures.csv', csv(['rig_id', 'rig', 'figure_id', 'figure', 'unit', 'value', 'low', 'high'], figures)],
  ]);
}
