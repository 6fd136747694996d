import Papa from 'papaparse';
import type { ECharts } from 'echarts/core';
import type { Trace } from '@vast-surge/core/simulate';
import { download } from '../ui/download.ts';

/** Traces that share one time base, as CSV in SI units. */
export function tracesCsv(traces: readonly Trace[]): string {
  const [base] = traces;
  if (!base) return '';
  const fields = ['t / s', ...traces.map((trace) => `${trace.title} / ${trace.unit}`)];
  const data = Array.from(base.t, (t, i) => [t, ...traces.map((trace) => trace.y[i])]);
  return Papa.unparse({ fields, data }, { newline: '\n' });
}

export const saveSvg = (chart: ECharts, name: string): void =>
  download(`${name}.svg`, chart.renderToSVGString(), 'image/svg+xml');

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
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(chart.renderToSVGString())}`;
}
