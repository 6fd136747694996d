import { voltsOn, type PlanCurve } from '@vast-surge/core/run';
import { printDuration, printQuantity } from '@vast-surge/core/quantity';

const [width, height] = [820, 180];

/** The curve that the store should follow at this step, how far it is along it, and the voltage to stop at or to come below. */
export function RunCurve({
  curve,
  seconds,
  mark,
  markWords,
  read,
}: {
  curve: PlanCurve;
  /** s along it */
  seconds: number;
  /** V */
  mark: number;
  markWords: string;
  /** V that the meter shows now; null where it shows nothing. */
  read: number | null;
}) {
  const end = curve.t.at(-1) ?? 1;
  const top = Math.max(...curve.v, mark, read ?? 0) * 1.12 || 1;
  const x = (t: number) => (Math.min(t, end) / end) * width;
  const y = (v: number) => height - (Math.max(0, v) / top) * height;
  const path = (from: (t: number) => boolean) =>
    curve.t.flatMap((t, i) => (from(t) ? [`${x(t).toFixed(1)},${y(curve.v[i] ?? 0).toFixed(1)}`] : [])).join(' ');
  const here = voltsOn(curve, seconds);
  return (
    <svg
      viewBox={`-8 -8 ${width + 16} ${height + 36}`}
      className="mt-2 w-full max-h-[30vh]"
      role="img"
      aria-label={`Expected now ${printQuantity(here, 'V')}, ${markWords}`}
    >
      <line x1={0} x2={width} y1={height} y2={height} className="stroke-dim" strokeWidth={1.5} />
      <line x1={0} x2={width} y1={y(mark)} y2={y(mark)} className="stroke-ink" strokeWidth={1.5} strokeDasharray="7 5" />
      <text x={width - 4} y={y(mark) - 7} textAnchor="end" className="fill-ink text-[17px]">
        {markWords}
      </text>
      <polyline points={path(() => true)} fill="none" className="stroke-dim" strokeWidth={2} />
      <polyline
        points={`${path((t) => t <= seconds)} ${x(seconds)},${y(here)}`}
        fill="none"
        className="stroke-select"
        strokeWidth={4}
      />
      <circle cx={x(seconds)} cy={y(here)} r={6.5} className="fill-select" />
      {read !== null && <circle cx={x(seconds)} cy={y(read)} r={6.5} fill="none" className="stroke-ink" strokeWidth={3} />}
      <text x={0} y={height + 22} className="figure fill-dim text-[16px]">
        0
      </text>
      <text x={width} y={height + 22} textAnchor="end" className="figure fill-dim text-[16px]">
        {printDuration(end)}
      </text>
    </svg>
  );
}
