import { bleedGoal } from '@vast-surge/core/block';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import { bleedTraces, bleedTracesToGoal, chargeTraces, dischargeTraces } from '@vast-surge/core/simulate';
import type { Ink, LevelMark, PlotSpec } from '../../plot/option.ts';

export type Tab = 'charge' | 'discharge' | 'bleed';

const rated = (evaluation: Evaluation, id: string): number | null =>
  evaluation.ladder.limits.find((l) => l.id === id)?.rating?.value ?? null;

/** A rating is drawn where it is near enough to be read beside the trace. */
function ratingLevel(value: number | null, peak: number, axis: 'left' | 'right', text: string): LevelMark[] {
  if (value === null || value > peak * 1.6) return [];
  return [{ axis, at: value, text, ink: 'over' as Ink }];
}

function chargePlot(evaluation: Evaluation): PlotSpec {
  const { traces, supplyVoltage, target, chargeTime } = chargeTraces(evaluation.rig);
  const [voltage, current] = traces;
  if (!voltage || !current) throw new Error('the charge has two traces');
  const rating = rated(evaluation, 'capacitor-voltage');
  return {
    traces: [
      { trace: voltage, axis: 'left', ink: 'select' },
      { trace: current, axis: 'right', ink: 'current' },
    ],
    levels: ratingLevel(
      rating,
      Math.max(target, supplyVoltage * 0.8),
      'left',
      `bank rating ${printQuantity(rating ?? 0, 'V', { trim: true })}`,
    ),
    points: chargeTime === null ? [] : [{ axis: 'left', t: chargeTime, y: target, text: '', ink: 'select' }],
    units: { left: 'V', right: 'A' },
  };
}

function dischargePlot(evaluation: Evaluation): PlotSpec {
  const { traces, peakTime, peakCurrent } = dischargeTraces(evaluation.rig);
  const [current, voltage, charged] = traces;
  if (!voltage || !current) throw new Error('the discharge has two traces');
  const rating = rated(evaluation, 'switch-current');
  const erects = evaluation.corners.nominal().offers('store').ladder !== undefined;
  return {
    traces: [
      { trace: current, axis: 'left', ink: 'current' },
      { trace: voltage, axis: 'right', ink: 'select' },
      ...(charged ? [{ trace: charged, axis: 'right', ink: 'ink' } as const] : []),
    ],
    levels: ratingLevel(rating, peakCurrent, 'left', `switch rating ${printQuantity(rating ?? 0, 'A', { trim: true })}`),
    points: [
      {
        axis: 'left',
        t: peakTime,
        y: peakCurrent,
        text: `${erects ? 'closed form ' : ''}${printQuantity(peakCurrent, 'A')} at ${printQuantity(peakTime, 's')}`,
        ink: 'current',
      },
    ],
    units: { left: 'A', right: 'V' },
  };
}

const bleedInks: Readonly<Record<string, { ink: Ink; dash?: boolean }>> = {
  bleeder: { ink: 'select' },
  worst: { ink: 'select', dash: true },
  'one-open': { ink: 'over', dash: true },
  open: { ink: 'over' },
  dump: { ink: 'current', dash: true },
  tool: { ink: 'current' },
};

function bleedPlot(evaluation: Evaluation): PlotSpec {
  const goal = bleedGoal(evaluation.corners.nominal());
  return {
    traces: bleedTraces(evaluation.rig).traces.map((trace) => ({
      trace,
      axis: 'left' as const,
      ink: 'dim' as Ink,
      ...bleedInks[trace.id],
    })),
    levels: [
      {
        axis: 'left',
        at: goal.voltage.value,
        text: `${goal.text}: verify and strap, not before`,
        ink: 'over',
        textAt: 'left',
      },
    ],
    points: [],
    units: { left: 'V' },
    // Far enough below the goal that a trace is seen to pass it.
    logFrom: 10 ** Math.floor(Math.log10(goal.voltage.value / 2)),
  };
}

/** Every way down to the voltage that is aimed at, seconds and days in one picture, each with its time at its end. */
export function bleedWaysPlot(evaluation: Evaluation): PlotSpec {
  const plot = bleedPlot(evaluation);
  const goal = bleedGoal(evaluation.corners.nominal());
  const traces = bleedTracesToGoal(evaluation.rig);
  const ends = traces.map(({ t }) => t.at(-1) ?? 1);
  const isFollowed = (i: number) =>
    ends.some((end, j) => (end > (ends[i] ?? 0) || (end === ends[i] && j > i)) && end < (ends[i] ?? 0) * 1.8);
  return {
    ...plot,
    levels: plot.levels.map((level) => ({ ...level, text: goal.text })),
    traces: traces.map((trace, i) => ({
      trace,
      axis: 'left' as const,
      ink: 'dim' as Ink,
      ...bleedInks[trace.id],
      // Of those that end beside each other the last one says when.
      ...(isFollowed(i) ? {} : { end: printDuration(ends[i] ?? 0) }),
    })),
    // Room for what stands behind the last of them.
    alongLog: { from: Math.min(...traces.map(({ t }) => t[0] ?? 1)), to: Math.max(...ends) * 8 },
  };
}

export const plots: { readonly [K in Tab]: (evaluation: Evaluation) => PlotSpec } = {
  charge: chargePlot,
  discharge: dischargePlot,
  bleed: (evaluation) => ({
    ...bleedWaysPlot(evaluation),
    levels: bleedPlot(evaluation).levels.map((level) => ({ ...level, textAt: 'left below' })),
  }),
};
