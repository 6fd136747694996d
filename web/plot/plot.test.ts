import Papa from 'papaparse';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { readFileSync } from 'node:fs';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { plots } from '../views/rig/plots.ts';
import { tracesCsv } from './export.ts';
import { optionOf } from './option.ts';

const evaluation = (name: string) => {
  const read = readRigFile(readFileSync(new URL(`../../demo/${name}.json`, import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('demo unreadable');
  return evaluateRig(read.document.rig);
};

interface Axis {
  readonly min: number;
  readonly max: number;
  readonly interval: number;
  readonly type: string;
}
interface Drawn {
  readonly yAxis: Axis[];
  readonly series: { yAxisIndex: number; data: Float64Array }[];
}
/** The values of points that stand as time and value in turns. */
const valuesOf = (data: Float64Array) => data.filter((_, i) => i % 2 === 1);
const draw = (spec: ReturnType<(typeof plots)['charge']>) => optionOf(spec) as unknown as Drawn;

beforeAll(() => {
  vi.stubGlobal('document', { documentElement: {} });
  vi.stubGlobal('getComputedStyle', () => ({ getPropertyValue: () => ' #123456' }));
});

describe.each(['anvil', 'thimble'])('plots of %s', (name) => {
  test.each(['charge', 'discharge'] as const)('%s: both noughts lie on one line and no trace leaves its axis', (tab) => {
    const { yAxis, series } = draw(plots[tab](evaluation(name)));
    const [left, right] = yAxis;
    if (!left || !right) throw new Error('two axes');
    expect(left.min / (left.max - left.min)).toBeCloseTo(right.min / (right.max - right.min), 9);
    for (const { yAxisIndex, data } of series) {
      const axis = yAxis[yAxisIndex];
      expect(data.every((value, i) => i % 2 === 1 || value >= 0)).toBe(true);
      expect(valuesOf(data).every((y) => y >= (axis?.min ?? 0) && y <= (axis?.max ?? 0))).toBe(true);
    }
  });

  test('bleed: the axis is logarithmic and a trace breaks off below its floor rather than running along it', () => {
    const { yAxis, series } = draw(plots.bleed(evaluation(name)));
    const floor = yAxis[0]?.min ?? NaN;
    expect(yAxis[0]?.type).toBe('log');
    for (const { data } of series) expect(valuesOf(data).every((y) => Number.isNaN(y) || y >= floor)).toBe(true);
  });

  test('bleed: what one bleeds down to is marked on the plot', () => {
    const { levels } = plots.bleed(evaluation(name));
    expect(levels.map((l) => l.text)).toEqual([expect.stringContaining('verify and strap, not before')]);
  });

  // A negative nought is written as 0.
  test('CSV: every sample of every trace comes back to the last digit', () => {
    const traces = plots.discharge(evaluation(name)).traces.map((t) => t.trace);
    const { data, errors } = Papa.parse<Record<string, number>>(tracesCsv(traces), { header: true, dynamicTyping: true });
    expect(errors).toEqual([]);
    expect(data).toHaveLength(traces[0]?.t.length ?? NaN);
    for (const trace of traces)
      expect(data.map((row) => row[`${trace.title} / ${trace.unit}`])).toEqual([...trace.y].map((y) => y + 0));
  });
});
