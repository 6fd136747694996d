import { printDuration, printQuantity } from '@vast-surge/core/quantity';
import { voltsAtWorst, voltsOn, type Expected, type RunPlan } from '@vast-surge/core/run';
import { useWidth } from '../../ui/use-width.ts';

/** px: more where there is room, so that the curve is read from further off. */
const heightOf = (width: number): number => (width > 1000 ? 240 : 118);

/** What the mark is for, in words. */
const markWords = ({ does, mark }: Expected, { goalText }: RunPlan['numbers']): string =>
  does === 'charge' ? `stop at ${printQuantity(mark, 'V')}` : `${goalText}: read, not before`;

interface Props {
  readonly along: Expected;
  readonly goal: RunPlan['numbers'];
  /** V that is read or shown; null where nothing is. */
  readonly read: number | null;
}

const label = 'text-15';

function WorstCase({ points, at }: { points: string; at: readonly [x: number, y: number] }) {
  return (
    <>
      <polyline points={points} fill="none" className="stroke-dim" strokeWidth={1.5} strokeDasharray="4 4" />
      <text x={at[0]} y={at[1]} className={`fill-dim ${label}`}>
        worst case
      </text>
    </>
  );
}

function Ends({ width, height, end }: { width: number; height: number; end: number }) {
  return (
    <>
      <text x={0} y={height + 19} className={`figure fill-dim ${label}`}>
        0
      </text>
      <text x={width} y={height + 19} textAnchor="end" className={`figure fill-dim ${label}`}>
        {printDuration(end)}
      </text>
    </>
  );
}

/** The curve that the store should follow at this step, its worst case, how far it is along it, and the voltage to come to. */
export function RunCurve({ along, goal, read }: Props) {
  const [ref, space] = useWidth(820);
  // A px of the drawing is one of the screen, so that its text keeps its size.
  const width = Math.max(200, space - 16);
  const height = heightOf(width);
  const { curve, seconds, mark, span, volts: here } = along;
  const worstTime = span?.worst ?? null;
  const end = Math.max(curve.t.at(-1) ?? 1, worstTime === null || worstTime > 8 * (curve.t.at(-1) ?? 1) ? 0 : 1.1 * worstTime);
  const top = Math.max(...curve.v, mark, read ?? 0) * 1.12 || 1;
  const x = (t: number) => (Math.min(t, end) / end) * width;
  const y = (v: number) => height - (Math.max(0, v) / top) * height;
  const line = (volts: (t: number) => number, until: number) =>
    Array.from({ length: 121 }, (_, i) => (i * until) / 120)
      .map((t) => `${x(t).toFixed(1)},${y(volts(t)).toFixed(1)}`)
      .join(' ');
  const words = markWords(along, goal);
  return (
    <figure ref={ref} className="mt-2">
      <svg
        viewBox={`-8 -8 ${width + 16} ${height + 32}`}
        className="w-full"
        role="img"
        aria-label={`Expected now ${printQuantity(here, 'V')}, ${words}`}
      >
        <line x1={0} x2={width} y1={height} y2={height} className="stroke-dim" strokeWidth={1.5} />
        <line x1={0} x2={width} y1={y(mark)} y2={y(mark)} className="stroke-ink" strokeWidth={1.5} strokeDasharray="7 5" />
        <text x={width - 4} y={y(mark) - 6} textAnchor="end" className={`fill-ink ${label}`}>
          {words}
        </text>
        <polyline points={line((t) => voltsOn(curve, t), end)} fill="none" className="stroke-dim" strokeWidth={2} />
        {worstTime !== null && (
          <WorstCase
            points={line((t) => Math.max(voltsOn(curve, t), voltsAtWorst(goal, worstTime, t)), end)}
            at={[x(0.42 * end), y(voltsAtWorst(goal, worstTime, 0.42 * end)) - 8]}
          />
        )}
        <polyline
          points={`${line((t) => voltsOn(curve, t), Math.min(seconds, end))} ${x(seconds)},${y(here)}`}
          fill="none"
          className="stroke-select"
          strokeWidth={4}
        />
        <circle cx={x(seconds)} cy={y(here)} r={6.5} className="fill-select" />
        {read !== null && <circle cx={x(seconds)} cy={y(read)} r={6.5} fill="none" className="stroke-ink" strokeWidth={3} />}
        <Ends width={width} height={height} end={end} />
      </svg>
    </figure>
  );
}
