import Papa from 'papaparse';
import { format } from 'date-fns';
import type { StoredShot } from '@vast-surge/contract';
import { inSI, printQuantity } from '@vast-surge/core/quantity';
import { measureIds, measures, ownAxes, settable, type MeasureId, type Values } from '@vast-surge/core/shot';

export const printMeasure = (id: MeasureId, values: Values): string => {
  const value = values[id];
  return value === undefined ? '–' : printQuantity(value, measures[id].unit);
};

/** Measures that any of these shots has, in their order. */
export const measuresIn = (shots: readonly StoredShot[]): MeasureId[] =>
  measureIds.filter((id) => shots.some((s) => s.shot.measured[id] !== undefined || s.predicted[id] !== undefined));

/** All shots as a table: in SI units, and what people named themselves in the unit that they gave it. */
export function shotsCsv(shots: readonly StoredShot[]): string {
  const own = ownAxes(shots.map(({ shot }) => shot));
  const titles = (what: string, ids: readonly MeasureId[]) => ids.map((id) => `${what} ${id} / ${measures[id].unit}`);
  const fields = [
    'at',
    'rig',
    'revision',
    'outcome',
    ...titles('set', settable),
    ...titles('predicted', measureIds),
    ...titles('measured', measureIds),
    ...own.map(({ name, unit }) => `${name} / ${unit}`),
    'sound',
    'remarks',
    'shot_id',
  ];
  const data = shots.map((s) => [
    s.shot.at,
    s.rigName,
    s.revision,
    s.shot.outcome,
    ...settable.map((id) => s.shot.set[id] ?? ''),
    ...measureIds.map((id) => s.predicted[id] ?? ''),
    ...measureIds.map((id) => s.shot.measured[id] ?? ''),
    ...own.map(({ of }) => of(s.shot) ?? ''),
    s.shot.sound,
    s.shot.remarks,
    s.id,
  ]);
  return Papa.unparse({ fields, data }, { newline: '\n', escapeFormulae: true });
}

export const shotsJson = (shots: readonly StoredShot[]): string =>
  `${JSON.stringify({ format: 'vast-surge-shots', version: 1, shots }, null, 2)}\n`;

const escaped = (text: string): string => text.replace(/[\\`*_[\]<>#|]/g, (c) => `\\${c}`).replace(/\s+/g, ' ');

/** A report of these shots as Markdown. */
export const shotsMarkdown = (title: string, shots: readonly StoredShot[]): string => inSI(() => markdownOf(title, shots));

function markdownOf(title: string, shots: readonly StoredShot[]): string {
  const ids = measuresIn(shots);
  const own = ownAxes(shots.map(({ shot }) => shot));
  const set = settable.filter((id) => shots.some((s) => s.shot.set[id] !== undefined));
  const head = [
    'when',
    'rig',
    'outcome',
    ...set.map((id) => `${measures[id].title}, set`),
    ...ids.map((id) => `${measures[id].title}: measured (predicted)`),
    ...own.map(({ name }) => escaped(name)),
    'remarks',
  ];
  const rows = shots.map((s) => [
    format(new Date(s.shot.at), 'yyyy-MM-dd HH:mm'),
    `${escaped(s.rigName)}, revision ${s.revision}`,
    s.shot.outcome,
    ...set.map((id) => printMeasure(id, s.shot.set)),
    ...ids.map((id) => `${printMeasure(id, s.shot.measured)} (${printMeasure(id, s.predicted)})`),
    ...own.map(({ of, print }) => {
      const value = of(s.shot);
      return value === undefined ? '–' : escaped(print(value));
    }),
    escaped([s.shot.sound, s.shot.remarks].filter(Boolean).join('; ')),
  ]);
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  return [`# Shots: ${escaped(title)}`, '', line(head), line(head.map(() => '---')), ...rows.map(line), ''].join('\n');
}
