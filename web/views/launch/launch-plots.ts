import { printQuantity } from '@vast-surge/core/quantity';
import type { LaunchStudy } from '@vast-surge/core/study';
import type { Ink, PlotSpec } from '../../plot/option.ts';

/** How long is shown, s: until the projectile is well out, or the run is over. */
export function spanOf({ run, coils, projectile }: LaunchStudy): number {
  const last = coils.at(-1);
  const out = (last?.at ?? 0) + (last?.winding.length ?? 0) / 2 + projectile.length;
  const k = run.x.findIndex((x) => x > out);
  const end = run.t.at(-1) ?? 0;
  return k > 0 ? Math.min(end, (run.t[k] ?? end) * 1.05) : end;
}

/** All that is drawn or saved of a launch. */
export function tracesOf({ run, coils }: LaunchStudy) {
  const of = (k: number) => (coils.length > 1 ? ` of coil ${k + 1}` : '');
  return {
    currents: coils.map((_, k) => ({
      id: `current-${k}`,
      title: `current${of(k)}`,
      unit: 'A' as const,
      t: run.t,
      y: run.i[k] ?? new Float64Array(),
    })),
    stores: coils.map((_, k) => ({
      id: `store-${k}`,
      title: `voltage of the store${of(k)}`,
      unit: 'V' as const,
      t: run.t,
      y: run.V[k] ?? new Float64Array(),
    })),
    force: { id: 'force', title: 'force', unit: 'N' as const, t: run.t, y: run.F },
    speed: { id: 'speed', title: 'speed', unit: 'm/s' as const, t: run.t, y: run.v },
    place: { id: 'place', title: 'centre of the projectile', unit: 'm' as const, t: run.t, y: run.x },
  };
}

/** Current and force, or speed, over time, with a mark at an instant. */
export function flightPlot(study: LaunchStudy, of: 'force' | 'speed', span: number, now: number): PlotSpec {
  const traces = tracesOf(study);
  return {
    window: { from: 0, to: span },
    traces:
      of === 'force'
        ? [
            ...traces.currents.map((trace) => ({ trace, axis: 'left' as const, ink: 'current' as const })),
            { trace: traces.force, axis: 'right', ink: 'select' },
          ]
        : [{ trace: traces.speed, axis: 'left', ink: 'select' }],
    levels: [],
    points: [],
    events: [{ t: now, text: '' }],
    units: of === 'force' ? { left: 'A', right: 'N' } : { left: 'm/s' },
    inLine: true,
  };
}

const inks = ['select', 'current', 'third', 'dim'] as const satisfies readonly Ink[];

/** Speed at the exit over how early or late a coil fires. */
export function timingPlot({ timing, exit }: LaunchStudy): PlotSpec | null {
  if (!timing) return null;
  return {
    along: { unit: 's', symbol: 'late by' },
    window: { from: timing.error[0] ?? 0, to: timing.error.at(-1) ?? 1 },
    traces: timing.exit.map((y, k) => ({
      trace: { id: `coil-${k + 2}`, title: `exit, coil ${k + 2} so late`, unit: 'm/s', t: timing.error, y },
      axis: 'left',
      ink: inks[k % inks.length] ?? 'select',
    })),
    levels: [],
    points: [{ axis: 'left', t: 0, y: exit, text: 'as set', ink: 'ink' }],
    units: { left: 'm/s' },
  };
}

/** What one step early and late costs at the exit, in words, for a coil behind the first. */
export function timingWords({ timing, exit }: LaunchStudy, coil: number): string | null {
  const exits = timing?.exit[coil - 1];
  if (!timing || !exits) return null;
  const middle = Math.floor(timing.error.length / 2);
  const step = Math.abs(timing.error[middle + 1] ?? NaN);
  const change = (k: number) => {
    const d = (exits[middle + k] ?? NaN) - exit;
    return `${d < 0 ? '−' : '+'}${printQuantity(Math.abs(d), 'm/s', { digits: 2 })}`;
  };
  return `${printQuantity(step, 's', { trim: true })} early ${change(-1)}, late ${change(1)}`;
}
