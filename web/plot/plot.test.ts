import Papa from 'papaparse';
import { beforeAll, describe, expect, test, vi } from 'vitest';
import { readFileSync } from 'node:fs';
import { evaluateRig } from '@vast-surge/core/evaluation';
import { readRigFile } from '@vast-surge/core/format';
import { plots } from '../views/rig/plots.ts';
import { tracesCsv } from './export.ts';
import { optionOf } from './option.ts';
import { roundTicks } from './ticks.ts';

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

test('traces in a row go from grey to their ink, each named at its end; a point at the end has its words before it', () => {
  const of = (id: string, shade: number) => ({
    trace: { id, title: id, unit: 'V' as const, t: Float64Array.of(0, 1), y: Float64Array.of(0, shade) },
    axis: 'left' as const,
    ink: 'select' as const,
    shade,
    end: id,
  });
  vi.stubGlobal('getComputedStyle', () => ({
    getPropertyValue: (name: string) => (name === '--rule' ? '#000000' : '#c86432'),
  }));
  const option = optionOf({
    traces: [of('first', 0), of('middle', 0.5), of('last', 1)],
    levels: [],
    points: [
      { axis: 'left', t: 0.1, y: 1, text: 'early', ink: 'ink' },
      { axis: 'left', t: 0.95, y: 1, text: 'late', ink: 'ink' },
    ],
    units: { left: 'V' },
  }) as unknown as {
    grid: { right: number };
    series: {
      lineStyle: { color: string };
      endLabel?: { formatter: string };
      markPoint?: { data: { label: { position: string } }[] };
    }[];
  };
  const reds = option.series.map(({ lineStyle }) => Number.parseInt(lineStyle.color.slice(1, 3), 16));
  // 200 at full; the first stands at 35 % of the way.
  expect(reds).toEqual([70, 135, 200]);
  expect(option.series.map(({ endLabel }) => endLabel?.formatter)).toEqual(['first', 'middle', 'last']);
  expect(option.grid.right).toBeGreaterThan(60);
  expect(option.series[0]?.markPoint?.data.map(({ label }) => label.position)).toEqual(['right', 'left']);
});

test('an axis of its own has round values, from its first to its last', () => {
  expect(roundTicks(0, 15.1)).toEqual([0, 5, 10, 15]);
  expect(roundTicks(0, 3744)).toEqual([0, 1000, 2000, 3000]);
  expect(roundTicks(12.1e3, 16.9e3)).toEqual([14e3, 16e3]);
  expect(roundTicks(-0.3, 0.8)).toEqual([0, 0.5]);
});
