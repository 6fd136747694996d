import { printPercent, printQuantity } from '@vast-surge/core/quantity';
import type { LaunchOutcome } from '@vast-surge/core/study';
import { roundTicks } from '../../plot/ticks.ts';

const [width, height, left, bottom] = [440, 300, 76, 40];

/** Over what the speed is drawn. */
export type Against = 'efficiency' | 'peakCurrent';
const printed = (against: Against, value: number, like: number) =>
  against === 'efficiency' ? printPercent(value, 2) : printQuantity(value, 'A', { trim: true, like });

/** Those of which none is at once faster and better in the other: along the edge of the cloud. */
function edgeOf(tried: readonly LaunchOutcome[], against: Against): LaunchOutcome[] {
  const better = (a: LaunchOutcome, b: LaunchOutcome) =>
    against === 'efficiency' ? b.efficiency - a.efficiency : a.peakCurrent - b.peakCurrent;
  let fastest = -Infinity;
  return [...tried].sort(better).filter(({ exit }) => {
    if (exit <= fastest) return false;
    fastest = exit;
    return true;
  });
}

/** Every design that was tried and keeps within the limits: its speed against its efficiency or its peak current. */
export function TradeOff({
  tried,
  best,
  now,
  against,
}: {
  tried: readonly LaunchOutcome[];
  best: LaunchOutcome | null;
  now: Pick<LaunchOutcome, 'exit' | 'efficiency' | 'peakCurrent'> | null;
  against: Against;
}) {
  const marks = [...tried, ...(now ? [now] : [])];
  const most = Math.max(...marks.map(({ exit }) => exit), 1e-9) * 1.08;
  const far = Math.max(...marks.map((one) => one[against]), 1e-9) * 1.04;
  const x = (value: number) => left + (Math.max(0, value) / far) * (width - left - 12);
  const y = (exit: number) => height - bottom - (Math.max(0, exit) / most) * (height - bottom - 12);
  const at = (one: Pick<LaunchOutcome, 'exit' | 'efficiency' | 'peakCurrent'>) =>
    `${x(one[against]).toFixed(1)} ${y(one.exit).toFixed(1)}`;
  const edge = edgeOf(tried, against);
  return (
    <svg
      id="trade-off"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Speed against ${against === 'efficiency' ? 'efficiency' : 'peak current'} of ${tried.length} designs`}
      className="w-full"
    >
      <g stroke="var(--rule)" fill="none">
        {roundTicks(0, most).map((speed) => (
          <path key={speed} d={`M${left} ${y(speed)}H${width - 12}`} />
        ))}
      </g>
      <path
        d={tried.map((one) => `M${at(one)}h0.01`).join('')}
        stroke="var(--dim)"
        strokeWidth={3}
        strokeLinecap="round"
        opacity={0.5}
        fill="none"
      />
      {edge.length > 1 && <path d={`M${edge.map(at).join('L')}`} stroke="var(--select)" strokeWidth={2} fill="none" />}
      {now && (
        <g stroke="var(--ink)" fill="var(--ink)">
          <circle cx={x(now[against])} cy={y(now.exit)} r={9} fill="var(--ground)" stroke="none" />
          <path d={`M${x(now[against]) - 7} ${y(now.exit)}h14m-7 -7v14`} strokeWidth={3} fill="none" />
          <text x={x(now[against]) + 9} y={y(now.exit) + 18} fontSize={14} fontWeight="bold" stroke="none">
            now
          </text>
        </g>
      )}
      {best && (
        <circle cx={x(best[against])} cy={y(best.exit)} r={6} fill="var(--plate)" stroke="var(--select)" strokeWidth={3} />
      )}
      <g fontSize={12} fill="var(--dim)" className="figure">
        {roundTicks(0, most).map((speed) => (
          <text key={speed} x={left - 6} y={y(speed) + 4} textAnchor="end">
            {printQuantity(speed, 'm/s', { trim: true, like: most })}
          </text>
        ))}
        {roundTicks(0, far).map((value) => (
          <text key={value} x={x(value)} y={height - bottom + 15} textAnchor={value > 0.95 * far ? 'end' : 'middle'}>
            {printed(against, value, far)}
          </text>
        ))}
      </g>
      <text x={width - 12} y={height - 6} textAnchor="end" fontSize={13} fill="var(--ink)">
        {against === 'efficiency' ? 'efficiency, of the energy taken' : 'peak current'}
      </text>
    </svg>
  );
}
