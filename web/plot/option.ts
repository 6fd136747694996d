import type { EChartsCoreOption } from 'echarts/core';
import { formOf, mannerNow, printDuration, printQuantity, type UnitId } from '@vast-surge/core/quantity';
import { traceAt } from '@vast-surge/core/circuit';
import type { Trace } from '@vast-surge/core/simulate';
import { niceStep } from './ticks.ts';

export type Ink = 'select' | 'current' | 'third' | 'over' | 'dim' | 'ink';

export interface PlottedTrace {
  readonly trace: Trace;
  readonly axis: 'left' | 'right';
  readonly ink: Ink;
  readonly dash?: boolean | 'dotted';
  /** Of traces of one kind in a row, how far along it is, 0 to 1: from grey to the ink. */
  readonly shade?: number;
  /** What stands at its end. */
  readonly end?: string;
}

/** Something that happened at a time: a line down, its text at the top where there is room. */
export interface EventMark {
  readonly t: number;
  readonly text: string;
}

/** A rating or threshold drawn across, or an event marked at a time. */
export interface LevelMark {
  readonly axis: 'left' | 'right';
  readonly at: number;
  readonly text: string;
  readonly ink: Ink;
  /** At which end the text stands, and under its line, so that it keeps clear of the traces; above it at the right one unless said. */
  readonly textAt?: 'left' | 'left below';
}

export interface PointMark {
  readonly axis: 'left' | 'right';
  readonly t: number;
  readonly y: number;
  readonly text: string;
  readonly ink: Ink;
}

export interface PlotSpec {
  readonly traces: readonly PlottedTrace[];
  readonly levels: readonly LevelMark[];
  readonly points: readonly PointMark[];
  readonly units: { readonly left: UnitId; readonly right?: UnitId };
  /** What runs along the bottom; time if left out. */
  readonly along?: { readonly unit: UnitId; readonly symbol: string };
  /** Logarithmic left axis from this value up. */
  readonly logFrom?: number;
  /** Logarithmic time, s, for what lasts seconds beside what lasts days. */
  readonly alongLog?: { readonly from: number; readonly to: number };
  readonly events?: readonly EventMark[];
  /** Stands above or below a plot with an axis at the right, over the same time: as wide as that one. */
  readonly inLine?: boolean;
  /** The left axis is about its values, and nought may be off it: what differs little between them is seen. */
  readonly isClose?: boolean;
  /** The stretch of time that is shown, s; all of it if left out. */
  readonly window?: { readonly from: number; readonly to: number };
}

/** How long the traces of a plot go on, s. */
export const spanOf = (spec: PlotSpec): number => Math.max(...spec.traces.map(({ trace }) => trace.t.at(-1) ?? 0));

/** The colours of the theme in use, as plain values: SVG that is saved has no style sheet. */
export function inks(): { readonly [K in Ink | 'rule' | 'plate']: string } {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    select: of('select'),
    current: of('current'),
    third: of('third'),
    over: of('over'),
    dim: of('dim'),
    ink: of('ink'),
    rule: of('rule'),
    plate: of('plate'),
  };
}

/** A colour between two, `#rrggbb` each; share 0 is the first. */
function mixed(from: string, to: string, share: number): string {
  const parts = (hex: string) => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  const [a, b] = [parts(from), parts(to)];
  return `#${a
    .map((value, i) =>
      Math.round(value + ((b[i] ?? 0) - value) * share)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
}

/** The colour of a trace: its ink, or its place on the ramp to it. */
const colourOf = ({ ink, shade }: PlottedTrace, all: ReturnType<typeof inks>): string =>
  shade === undefined ? all[ink] : mixed(all.rule, all[ink], 0.35 + 0.65 * shade);

const fonts = "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace";
const axisIndex = (axis: 'left' | 'right') => (axis === 'left' ? 0 : 1);
/** @param top the greatest value of the axis: all are printed in its unit */
const axisText = (unit: UnitId, top: number) => (value: number) =>
  printQuantity(Number(value.toPrecision(6)), unit, { digits: 3, trim: true, like: top });

interface Scale {
  readonly min: number;
  readonly max: number;
  readonly interval: number;
}

/** Scales of both axes with as many steps above and below nought, so that the two noughts are one line. */
function alignedScales(spec: PlotSpec): { left: Scale; right: Scale } {
  const range = (axis: 'left' | 'right') => {
    const values = [
      ...spec.traces.filter((t) => t.axis === axis).flatMap((t) => [...t.trace.y]),
      ...spec.levels.filter((l) => l.axis === axis).map((l) => l.at),
      ...spec.points.filter((p) => p.axis === axis).map((p) => p.y),
    ].filter(Number.isFinite);
    const top = values.reduce((a, b) => Math.max(a, b), 0);
    const bottom = values.reduce((a, b) => Math.min(a, b), 0);
    const span = Math.max(top, -bottom) || 1;
    // Round in the unit of the reader: inches, psi.
    const one = formOf(span, spec.units[axis] ?? '1', mannerNow()).factor;
    const step = niceStep(span / one) * one;
    return { step, up: Math.ceil(top / step), down: Math.ceil(-bottom / step) };
  };
  const [left, right] = [range('left'), range('right')];
  const up = Math.max(left.up, right.up);
  const down = Math.max(left.down, right.down);
  const scale = (step: number): Scale => ({ min: -down * step, max: up * step, interval: step });
  return { left: scale(left.step), right: scale(right.step) };
}

/** A scale from the lowest to the highest value of the left axis, in round steps. */
function closeScale({ traces, points, units }: PlotSpec): Scale {
  const values = [...traces.flatMap(({ trace }) => [...trace.y]), ...points.map(({ y }) => y)].filter(Number.isFinite);
  const [low, high] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity]);
  const one = formOf(Math.max(Math.abs(low), Math.abs(high)), units.left, mannerNow()).factor;
  const step = niceStep((high - low || Math.abs(high) || 1) / one) * one;
  return { min: Math.floor(low / step) * step, max: Math.ceil(high / step) * step, interval: step };
}

/** Times that people count in, s. */
const countedTimes = [
  1e-6,
  1e-5,
  1e-4,
  1e-3,
  0.01,
  0.1,
  1,
  10,
  60,
  600,
  3600,
  6 * 3600,
  86400,
  10 * 86400,
  100 * 86400,
  1e8,
  1e9,
];

/** The time axis in equal ratios, with the times that people count in. */
function logTimeAxis({ from, to }: { readonly from: number; readonly to: number }) {
  const customValues = countedTimes.filter((t) => t >= from && t <= to);
  return {
    type: 'log' as const,
    min: from,
    max: to,
    axisTick: { lineStyle: { color: inks().dim }, customValues },
    axisLabel: { color: inks().dim, fontFamily: fonts, fontSize: 12, formatter: printDuration, customValues, hideOverlap: true },
    splitLine: { show: false },
  };
}

function valueAxis(unit: UnitId, side: 'left' | 'right', logFrom: number | undefined, scale: Scale) {
  const ink = inks();
  const bounds = logFrom === undefined ? scale : { type: 'log' as const, min: logFrom, logBase: 10 };
  return {
    type: 'value',
    position: side,
    axisLabel: { color: ink.dim, fontFamily: fonts, fontSize: 12, formatter: axisText(unit, scale.max) },
    axisLine: { show: false },
    axisTick: { show: false },
    splitLine: { show: side === 'left', lineStyle: { color: ink.rule, width: 1, opacity: 0.6 } },
    ...bounds,
  };
}

/** Points of a trace, times and values in turns; below the floor of a logarithmic axis, and before the start of one, it breaks off at what is no number. */
function pointsOf({ t, y }: Trace, floor: number | undefined, start: number | undefined): Float64Array {
  const points = new Float64Array(t.length * 2);
  for (let i = 0; i < t.length; i++) {
    const [time, value] = [t[i] ?? NaN, y[i] ?? NaN];
    const isOut = (floor !== undefined && value < floor) || (start !== undefined && time < start);
    points[2 * i] = start !== undefined ? Math.max(time, start) : time;
    points[2 * i + 1] = isOut ? NaN : value;
  }
  return points;
}

function tooltip(spec: PlotSpec) {
  const ink = inks();
  return {
    trigger: 'axis',
    axisPointer: { type: 'line', lineStyle: { color: ink.ink, width: 1 } },
    backgroundColor: ink.plate,
    borderColor: ink.ink,
    borderRadius: 0,
    padding: 8,
    textStyle: { color: ink.ink, fontFamily: fonts, fontSize: 13 },
    extraCssText: 'box-shadow:none',
    // At once: a plot that is saved has it hidden before it is drawn.
    hideDelay: 0,
    renderMode: 'richText' as const,
    formatter: (params: unknown) => {
      const rows = params as { value: [number, number | null] }[];
      const time = rows[0]?.value[0] ?? 0;
      // Traces have times of their own: each is read between its points.
      const lines = spec.traces.map(({ trace }) => `${trace.title}: ${printQuantity(traceAt(trace, time), trace.unit)}`);
      const { from, to } = spec.window ?? { from: 0, to: spanOf(spec) };
      const beside = (spec.events ?? []).filter((event) => Math.abs(event.t - time) < (to - from) / 150).slice(0, 3);
      const said = beside.map((event) => `${event.text} at ${printQuantity(event.t, 's')}`);
      const along = spec.along ?? { unit: 's', symbol: 't' };
      return [`${along.symbol} = ${printQuantity(time, along.unit)}`, ...lines, ...said].join('\n');
    },
  };
}

function markLines(spec: PlotSpec, axis: 'left' | 'right') {
  return {
    silent: true,
    symbol: 'none',
    animation: false,
    // Its default rounds microseconds to nought.
    precision: 15,
    data: [...(axis === 'left' ? eventLines(spec) : []), ...levelLines(spec, axis)],
  };
}

/** As many events as can be told apart; where there are few they bear their text, and the cursor reads those beside it. */
function eventLines(spec: PlotSpec) {
  const ink = inks();
  const { from, to } = spec.window ?? { from: 0, to: spanOf(spec) };
  const seen = (spec.events ?? []).filter(({ t }) => t > from && t < to);
  if (seen.length > 60) return [];
  return seen.map(({ t, text }) => ({
    xAxis: t,
    lineStyle: { color: ink.third, type: 'dotted', width: 1 },
    label: {
      show: seen.length <= 2,
      formatter: text,
      position: 'insideEndTop',
      rotate: 90,
      color: ink.third,
      fontFamily: fonts,
      fontSize: 11,
    },
  }));
}

const textPlaces = { right: 'insideEndTop', left: 'insideStartTop', 'left below': 'insideStartBottom' } as const;

const levelLines = (spec: PlotSpec, axis: 'left' | 'right') => {
  const ink = inks();
  return spec.levels
    .filter((level) => level.axis === axis)
    .map((level) => ({
      yAxis: level.at,
      lineStyle: { color: ink[level.ink], type: 'dashed', width: 1 },
      label: {
        formatter: level.text,
        position: textPlaces[level.textAt ?? 'right'],
        color: ink[level.ink],
        fontFamily: fonts,
        fontSize: 12,
      },
    }));
};

const isNarrow = (): boolean => typeof innerWidth === 'number' && innerWidth < 640;

function markPoints(spec: PlotSpec, axis: 'left' | 'right') {
  const ink = inks();
  const { from, to } = spec.window ?? { from: 0, to: spanOf(spec) };
  return {
    silent: true,
    animation: false,
    symbol: 'circle',
    symbolSize: 8,
    data: spec.points
      .filter((point) => point.axis === axis)
      .map((point) => ({
        coord: [point.t, point.y],
        itemStyle: { color: ink[point.ink] },
        label: {
          show: true,
          // On a phone one line is longer than what is left of the plot.
          formatter: isNarrow() ? point.text.replace(' at ', '\nat ') : point.text,
          align: point.t > from + 0.85 * (to - from) ? 'right' : 'left',
          lineHeight: 17,
          // At the end of the plot there is no room behind a point.
          position: point.t > from + 0.85 * (to - from) ? 'left' : 'right',
          distance: 8,
          color: ink[point.ink],
          fontFamily: fonts,
          fontWeight: 'bold',
          fontSize: 14,
        },
      })),
  };
}

/** How often a trace turns from rising to falling. */
function turns({ y }: Trace): number {
  let count = 0;
  for (let i = 2; i < y.length; i++) {
    const [a, b, c] = [y[i - 2] ?? 0, y[i - 1] ?? 0, y[i] ?? 0];
    if (b > a && b > c) count += 1;
  }
  return count;
}

/** The chart library's description of a plot. */
export function optionOf(spec: PlotSpec): EChartsCoreOption {
  const ink = inks();
  const scales = spec.isClose ? { ...alignedScales(spec), left: closeScale(spec) } : alignedScales(spec);
  const first = (axis: 'left' | 'right') => spec.traces.findIndex((t) => t.axis === axis);
  const { from, to } = spec.window ?? { from: 0, to: spanOf(spec) };
  const alongUnit = spec.along?.unit ?? 's';
  const along = formOf(to, alongUnit, mannerNow());
  return {
    animation: false,
    grid: {
      left: 66,
      right: !spec.alongLog && spec.traces.some(({ end }) => end !== undefined) ? 84 : spec.units.right || spec.inLine ? 66 : 18,
      top: 16,
      bottom: 28,
    },
    xAxis: {
      type: 'value' as const,
      min: from,
      max: to,
      axisLine: { onZero: false, lineStyle: { color: ink.dim } },
      axisTick: { lineStyle: { color: ink.dim } },
      axisLabel: {
        color: ink.dim,
        fontFamily: fonts,
        fontSize: 12,
        formatter: axisText(alongUnit, to),
        showMaxLabel: false,
        hideOverlap: true,
      },
      splitLine: { show: false },
      splitNumber: 5,
      // Powers of ten are rounded by the chart itself.
      ...(Number.isInteger(Math.log10(along.factor)) ? {} : { interval: niceStep((to - from) / along.factor) * along.factor }),
      ...(spec.alongLog ? logTimeAxis(spec.alongLog) : {}),
    },
    yAxis: [
      valueAxis(spec.units.left, 'left', spec.logFrom, scales.left),
      ...(spec.units.right ? [valueAxis(spec.units.right, 'right', undefined, scales.right)] : []),
    ],
    tooltip: tooltip(spec),
    series: spec.traces.map((plotted, i) => ({
      type: 'line',
      name: plotted.trace.title,
      yAxisIndex: axisIndex(plotted.axis),
      showSymbol: false,
      ...(plotted.end === undefined
        ? {}
        : {
            endLabel: {
              show: true,
              formatter: plotted.end,
              color: ink[plotted.ink],
              fontFamily: fonts,
              fontSize: spec.alongLog ? 14 : 12,
              distance: 4,
              // Beside what falls on a threshold: clear of its line.
              ...(spec.alongLog ? { offset: [2, -10], fontWeight: 'bold' as const } : {}),
            },
            ...(spec.alongLog ? {} : { labelLayout: { moveOverlap: 'shiftY' } }),
          }),
      lineStyle: {
        color: colourOf(plotted, ink),
        // A trace of many cycles would cover all others.
        ...(plotted.dash === 'dotted' && turns(plotted.trace) > 40
          ? { width: 1, opacity: turns(plotted.trace) > 400 ? 0.2 : 0.45, type: 'solid' }
          : {
              width: plotted.ink === 'dim' ? 1.6 : 2.5,
              type: plotted.dash === 'dotted' ? 'dotted' : plotted.dash ? 'dashed' : 'solid',
            }),
      },
      z: plotted.dash === 'dotted' && turns(plotted.trace) > 40 ? 1 : 2,
      itemStyle: { color: colourOf(plotted, ink) },
      // Points as plain numbers have to be told apart.
      dimensions: ['t', 'y'],
      data: pointsOf(plotted.trace, plotted.axis === 'left' ? spec.logFrom : undefined, spec.alongLog?.from),
      ...(i === first(plotted.axis)
        ? { markLine: markLines(spec, plotted.axis), markPoint: markPoints(spec, plotted.axis) }
        : {}),
    })),
  };
}
