import Papa from 'papaparse';
import type { ECharts } from 'echarts/core';
import type { Trace } from '@vast-surge/core/simulate';
import { download } from '../ui/download.ts';

/** Traces as CSV in SI units. Where their times differ each has a column of its own. */
export function tracesCsv(traces: readonly Trace[]): string {
  const [base] = traces;
  if (!base) return '';
  const columns = traces.flatMap((trace, i) => {
    const values = { head: `${trace.title} / ${trace.unit}`, data: trace.y };
    const sameTimes = i > 0 && sharesTimes(trace, traces[i - 1]);
    return sameTimes ? [values] : [{ head: 't / s', data: trace.t }, values];
  });
  const rows = Math.max(...columns.map((column) => column.data.length));
  const data = Array.from({ length: rows }, (_, i) => columns.map((column) => column.data[i] ?? ''));
  return Papa.unparse({ fields: columns.map((column) => column.head), data }, { newline: '\n' });
}

/** Rows of numbers under their titles, SI. */
export const tableCsv = (titles: readonly string[], rows: readonly (readonly number[])[]): string =>
  Papa.unparse({ fields: [...titles], data: rows.map((row) => [...row]) }, { newline: '\n' });

/** A table that is given by its columns as CSV. */
export const columnsCsv = (
  columns: readonly { readonly name: string; readonly data: readonly (number | string | null)[] }[],
): string =>
  Papa.unparse(
    { fields: columns.map(({ name }) => name), data: (columns[0]?.data ?? []).map((_, i) => columns.map(({ data }) => data[i])) },
    { newline: '\n' },
  );

/** A drawing of the page as a file; the theme's colours are written out, since a picture that is saved has no style sheet. */
export function saveDrawing(id: string, name: string): void {
  const drawn = document.getElementById(id);
  if (!drawn) return;
  const style = getComputedStyle(document.documentElement);
  const text = new XMLSerializer()
    .serializeToString(drawn.cloneNode(true))
    .replace(/var\(--([\w-]+)\)/g, (_, colour: string) => style.getPropertyValue(`--${colour}`).trim());
  download(`${name}.svg`, text, 'image/svg+xml');
}

const sharesTimes = (a: Trace, b: Trace | undefined): boolean =>
  b?.t.length === a.t.length && a.t.every((time, i) => time === b.t[i]);

/** The plot as a drawing, without what stands at the pointer. */
function drawingOf(chart: ECharts): string {
  chart.dispatchAction({ type: 'hideTip' });
  return chart.renderToSVGString();
}

export const saveSvg = (chart: ECharts, name: string): void => download(`${name}.svg`, drawingOf(chart), 'image/svg+xml');

/** The plot as a picture of twice its size on the screen, on the ground colour of the theme. */
export function savePng(chart: ECharts, name: string): void {
  const image = new Image();
  const scale = 2;
  image.onload = () => {
    const canvas = document.createElement('canvas');
    canvas.width = chart.getWidth() * scale;
    canvas.height = chart.getHeight() * scale;
    const context = canvas.getContext('2d');
    if (!context) return;
    context.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--ground');
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    canvas.toBlob((blob) => blob && download(`${name}.png`, blob));
  };
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(drawingOf(chart))}`;
}
