import { createWriteStream, type WriteStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import Papa from 'papaparse';
import { documentName, writeTable, type LotRecord, type RigRecord, type WorkshopRecord } from '@vast-surge/core/format';
import { evaluateRig } from '@vast-surge/core/evaluation';
import type { Part } from '@vast-surge/core/part';

const heads = {
  'rigs.csv': ['rig_id', 'name', 'version', 'created_at', 'updated_at', 'archived_at'],
  'revisions.csv': ['rig_id', 'rig', 'number', 'version', 'name', 'made_at', 'revision_id'],
  'readings.csv': ['part_id', 'tag', 'measure', 'element', 'value', 'under', 'at', 'instrument', 'by', 'struck'],
  'lots.csv': ['lot_id', 'name', 'source', 'date', 'paid', 'hours', 'units', 'broken', 'note'],
  'figures.csv': ['rig_id', 'rig', 'figure_id', 'figure', 'unit', 'value', 'low', 'high'],
} as const;
type Table = keyof typeof heads;

/** Cells that a spreadsheet would take for a formula are quoted with an apostrophe. */
const csv = (rows: readonly (readonly unknown[])[]): string =>
  `${Papa.unparse(rows as unknown[][], { newline: '\n', escapeFormulae: true })}\n`;

/**
 * Tables for reading along with an archive, written row by row as its records go by. They are written only; nothing is read from them.
 * They stand in files of their own until the archive takes them in, so that a large workshop needs no more memory than a small one.
 */
export class Tables {
  private readonly files = new Map<Table, WriteStream>();
  private readonly lots = new Map<string, string>();
  private readonly shelf: { id: string; part: Part }[] = [];

  private constructor(private readonly folder: string) {
    for (const table of Object.keys(heads) as Table[]) {
      const file = createWriteStream(join(folder, table));
      // A disk that is full is told when the file is closed.
      file.on('error', () => undefined);
      file.write(csv([heads[table]]));
      this.files.set(table, file);
    }
  }

  static async begin(): Promise<Tables> {
    return new Tables(await mkdtemp(join(tmpdir(), 'vast-surge-tables-')));
  }

  private async row(table: Table, rows: readonly (readonly unknown[])[]): Promise<void> {
    const file = this.files.get(table);
    if (rows.length > 0 && file && !file.write(csv(rows)) && !file.errored) await once(file, 'drain');
  }

  /** Takes note of a record. */
  async note({ noun, record }: WorkshopRecord): Promise<void> {
    switch (noun) {
      case 'lot':
        return this.lot(record);
      case 'part': {
        if (!record.part.ok || record.removedAt !== null) return;
        const { id, part } = record;
        this.shelf.push({ id, part: part.value });
        return this.row(
          'readings.csv',
          part.value.readings.map((r) => [
            id,
            part.value.tag,
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
      }
      case 'rig':
        return this.rig(record);
      case 'revision':
        return this.row('revisions.csv', [
          [
            record.rigId,
            documentName(record.document),
            record.number,
            record.version,
            record.name ?? '',
            record.madeAt,
            record.id,
          ],
        ]);
      default:
    }
  }

  private async lot({ id, lot }: LotRecord): Promise<void> {
    if (!lot.ok) return;
    const { name, source, date, paid, hours, units, broken, note } = lot.value;
    this.lots.set(id, name);
    await this.row('lots.csv', [[id, name, source, date ?? '', paid ?? '', hours ?? '', units, broken, note]]);
  }

  private async rig({ id, document, version, createdAt, updatedAt, archivedAt }: RigRecord): Promise<void> {
    const name = documentName(document);
    await this.row('rigs.csv', [[id, name, version, createdAt, updatedAt, archivedAt ?? '']]);
    if (!document.ok) return;
    const { figures } = evaluateRig(document.document.rig);
    await this.row(
      'figures.csv',
      figures.flatMap((f) => (f.ok ? [[id, name, f.id, f.title, f.worked.unit, f.worked.value, f.band.low, f.band.high]] : [])),
    );
  }

  /** The finished tables, as files by their name in the archive. */
  async finish(): Promise<readonly (readonly [path: string, file: string])[]> {
    const parts = createWriteStream(join(this.folder, 'parts.csv'));
    // Its cells are guarded already, in the way that is undone when they are read.
    const rows = writeTable(
      this.shelf.map((p) => ({ ...p, lot: p.part.lot === null ? null : (this.lots.get(p.part.lot) ?? null) })),
    );
    parts.write(`${Papa.unparse(rows, { newline: '\n' })}\n`);
    const all: [string, WriteStream][] = [...this.files, ['parts.csv', parts]];
    for (const [, file] of all) {
      file.end();
      await finished(file);
    }
    return all.map(([table]) => [table, join(this.folder, table)] as const).sort(([a], [b]) => (a < b ? -1 : 1));
  }

  async drop(): Promise<void> {
    for (const file of this.files.values()) file.destroy();
    await rm(this.folder, { recursive: true, force: true });
  }
}
