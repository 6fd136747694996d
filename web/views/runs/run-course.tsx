import { useMemo } from 'react';
import type { StoredRun } from '@vast-surge/contract';
import { courseOf, type Course, type RunEvent } from '@vast-surge/core/run';
import type { Trace } from '@vast-surge/core/simulate';
import { Chart } from '../../plot/chart.tsx';
import type { PlotSpec } from '../../plot/option.ts';

const trace = (id: string, title: string, t: readonly number[], y: readonly number[]): Trace => ({
  id,
  title,
  unit: 'V',
  t: Float64Array.from(t),
  y: Float64Array.from(y),
});

function specOf({ t, expected, worst, readings, marks }: Course): PlotSpec {
  return {
    traces: [
      { trace: trace('expected', 'expected', t, expected), axis: 'left', ink: 'select' },
      { trace: trace('worst', 'worst case', t, worst), axis: 'left', ink: 'dim', dash: true },
    ],
    levels: [],
    points: readings.map(({ t: at, v, isFar, text }) => ({ axis: 'left', t: at, y: v, text, ink: isFar ? 'over' : 'ink' })),
    units: { left: 'V' },
    along: { unit: 's', symbol: 't' },
    events: marks,
  };
}

/** A run as voltage over time: what was expected, what was read, what was done; during it, after it, and up to an event of it. */
export function RunCourse({ run, events, speed }: { run: StoredRun; events: readonly RunEvent[]; speed: number }) {
  const course = useMemo(() => courseOf(run.plan, events, speed, run.rehearsal !== null), [run, events, speed]);
  const spec = useMemo(() => specOf(course), [course]);
  if (course.t.length === 0) return null;
  const { readings, marks } = course;
  return (
    <figure className="mt-4">
      <figcaption className="flex flex-wrap gap-x-5 text-15">
        <b>Voltage over the run</b>
        <span className="text-select">expected</span>
        <span className="text-dim">- - worst case</span>
        <span>
          ● read, {readings.length === 1 ? 'once' : `${readings.length} times`}
          {readings.some(({ isFar }) => isFar) && <span className="text-over"> (far from expected)</span>}
        </span>
      </figcaption>
      <div className="h-[240px]">
        <Chart spec={spec} label={`Voltage over the run: ${readings.map(({ text }) => text).join(', ') || 'nothing was read'}`} />
      </div>
      <ol className="flex flex-wrap gap-x-4 text-14 text-dim" aria-label="What acted on the store">
        {marks.map(({ t, text }, i) => (
          <li key={i}>
            <span className="figure">{clock(t)}</span> {text}
          </li>
        ))}
      </ol>
    </figure>
  );
}

/** s as minutes and seconds. */
const clock = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
