import { pointsOfCampaign, type Answered, type Kept } from '@vast-surge/core/campaign';
import { inSI, printAsTyped } from '@vast-surge/core/quantity';
import { quantityAt, type RigDocument } from '@vast-surge/core/rig';
import { measures } from '@vast-surge/core/shot';
import type { PlotSpec, PlottedTrace } from '../../plot/option.ts';
import { niceStep } from '../../plot/ticks.ts';

const samples = 81;
/** More curves than this are not told apart. */
const mostCurves = 6;

/** Levels of another field, each with a curve of its own: all of them, or the ends and what lies evenly between. */
function spread(levels: readonly number[]): number[] {
  if (levels.length <= mostCurves) return [...levels];
  return Array.from({ length: mostCurves }, (_, i) => levels[Math.round((i * (levels.length - 1)) / (mostCurves - 1))] ?? NaN);
}

const scale = (low: number, high: number) => {
  const step = niceStep(high - low);
  return { from: Math.floor((low - step / 4) / step) * step, to: Math.ceil((high + step / 4) / step) * step };
};

/** The curve with its band, of one field that is varied. */
function bandTraces(xs: Float64Array, at: (x: number) => { value: number; margin: number }, unit: PlottedTrace['trace']['unit']) {
  const found = [...xs].map(at);
  const trace = (id: string, title: string, y: readonly number[], dash: boolean): PlottedTrace => ({
    trace: { id, title, unit, t: xs, y: Float64Array.from(y) },
    axis: 'left',
    ink: 'select',
    ...(dash ? { dash: true } : {}),
  });
  return [
    trace(
      'mean',
      'curve through the shots',
      found.map(({ value }) => value),
      false,
    ),
    trace(
      'low',
      'at least, 95 %',
      found.map(({ value, margin }) => value - margin),
      true,
    ),
    trace(
      'high',
      'at most, 95 %',
      found.map(({ value, margin }) => value + margin),
      true,
    ),
  ];
}

/**
 * The answer over one field that is varied, with every shot that counts: a band where it is the only one, else a curve for each level of the
 * next field, what else is varied in the middle of its range.
 *
 * @param over which of the fields, from 0
 */
export function answerPlot(kept: Kept, document: RigDocument, { answer }: Answered, over: number): PlotSpec | null {
  const values = kept.campaign.settings[0]?.values ?? [];
  const [first, factor] = [values[over], answer.factors[over]];
  const at = first && quantityAt<string>(document.rig, first.path);
  if (!first || !at || !factor || factor.levels.length < 2) return null;
  const middle = answer.factors.map(({ low, high }) => (low + high) / 2);
  const xs = Float64Array.from({ length: samples }, (_, i) => factor.low + ((factor.high - factor.low) * i) / (samples - 1));
  const { answers } = kept.campaign;
  const unit = 'measure' in answers ? measures[answers.measure].unit : '1';
  const other = answer.factors.findIndex(({ levels }, i) => i !== over && levels.length > 1);
  const levels = (x: number, second: number) => middle.map((m, i) => (i === over ? x : i === other ? second : m));
  const named = (value: number): string => {
    const field = values[other] && quantityAt<string>(document.rig, values[other].path)?.field;
    return field ? inSI(() => printAsTyped(value, field.unit, values[other]?.text ?? '', { trim: true })) : '';
  };
  const seconds = other < 0 ? [] : spread(answer.factors[other]?.levels ?? []);
  const traces =
    other < 0
      ? bandTraces(xs, (x) => answer.at(levels(x, NaN)), unit)
      : seconds.map((second, i): PlottedTrace => ({
          trace: {
            id: `level-${i}`,
            title: `${values[other]?.title ?? ''} ${named(second)}`,
            unit,
            t: xs,
            y: xs.map((x) => answer.at(levels(x, second)).value),
          },
          axis: 'left',
          ink: 'select',
          shade: seconds.length === 1 ? 1 : i / (seconds.length - 1),
        }));
  return {
    isClose: true,
    along: { unit: at.field.unit, symbol: first.title },
    window: scale(factor.low, factor.high),
    traces,
    levels: [],
    points: pointsOfCampaign(kept).map((point) => ({
      axis: 'left' as const,
      t: point.levels[over] ?? NaN,
      y: point.y,
      text: '',
      ink: 'current' as const,
    })),
    units: { left: unit },
  };
}
