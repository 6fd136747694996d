import { printPlace, sweptTitle, type Axis, type Output, type SweepPoint } from '@vast-surge/core/study';
import { useWidth } from '../../ui/use-width.ts';
import { Drawing, overFill } from './drawing.tsx';
import { printTick, roomFor, scaleOf } from './scale.ts';

const [height, left, right, top, bottom] = [300, 84, 16, 14, 34];

const hatch = { width: 2, opacity: 0.45 } as const;

interface Props {
  readonly id: string;
  readonly axis: Axis;
  readonly output: Output;
  /** Place of the output in each point. */
  readonly which: number;
  readonly points: readonly (SweepPoint | undefined)[];
  /** Where the rig stands, SI. */
  readonly now: number | null;
  readonly titleOf: (limit: string) => string;
  readonly cursor: number;
  readonly onCursor: (index: number) => void;
}

/** Stretches of the axis on which some limit is over its rating, from half way before the first point to half way behind the last. */
function overStretches(points: Props['points'], values: readonly number[]) {
  const found: { from: number; to: number; readonly limit: string }[] = [];
  const half = (i: number, j: number) => ((values[i] ?? 0) + (values[j] ?? values[i] ?? 0)) / 2;
  points.forEach((point, i) => {
    if (!point || point.over.length === 0) return;
    const [from, to] = [half(i, Math.max(0, i - 1)), half(i, Math.min(values.length - 1, i + 1))];
    const last = found.at(-1);
    if (last && Math.abs(last.to - from) <= 1e-12 * Math.abs(from)) last.to = to;
    else found.push({ from, to, limit: point.tightest?.id ?? '' });
  });
  return found;
}

/** A line through what is known, lifted where something is missing. */
function lineOf(points: readonly (readonly [number, number] | null)[]): string {
  let isDown = false;
  return points
    .map((point) => {
      const word = point ? `${isDown ? 'L' : 'M'}${point[0].toFixed(1)} ${point[1].toFixed(1)}` : '';
      isDown = point !== null;
      return word;
    })
    .join('');
}

/** Where limits are over, with the tightest named where there is room for it. */
function OverStretches({
  id,
  stretches,
  at,
  titleOf,
}: {
  id: string;
  stretches: ReturnType<typeof overStretches>;
  at: (value: number) => number;
  titleOf: (id: string) => string;
}) {
  return (
    <>
      {stretches.map((stretch) => (
        <rect
          key={stretch.from}
          x={at(stretch.from)}
          y={top}
          width={Math.max(1, at(stretch.to) - at(stretch.from))}
          height={height - bottom - top}
          fill={overFill(id)}
        />
      ))}
      {stretches.map((stretch) => {
        const [a, b] = [at(stretch.from), at(stretch.to)];
        // Beside a narrow one it would be read as the name of what is next to it.
        return b - a > 150 ? (
          <text
            key={stretch.from}
            x={b - 6}
            y={height - bottom - 8}
            fontSize={13}
            fontWeight="bold"
            textAnchor="end"
            fill="var(--over)"
            stroke="var(--ground)"
            strokeWidth={4}
            paintOrder="stroke"
          >
            over: {titleOf(stretch.limit)}
          </text>
        ) : null;
      })}
    </>
  );
}

/** What stands beside the lines of the grid. */
function Scales({
  x,
  y,
  axis,
  output,
  width,
  greatest,
}: {
  x: Scale;
  y: Scale;
  axis: Props['axis'];
  output: Props['output'];
  width: number;
  greatest: number;
}) {
  return (
    <g fontSize={13} fill="var(--dim)" className="figure">
      {y.ticks.map((tick) => (
        <text key={tick} x={left - 8} y={y.at(tick) + 4} textAnchor="end">
          {printTick(tick, output, greatest)}
        </text>
      ))}
      {x.ticks.map((tick) => (
        <text key={tick} x={x.at(tick)} y={height - bottom + 18} textAnchor={x.at(tick) > width - 60 ? 'end' : 'middle'}>
          {printPlace(tick, axis)}
        </text>
      ))}
    </g>
  );
}

type Scale = ReturnType<typeof scaleOf>;

/** Where the rig stands. */
const Now = ({ at }: { at: number }) => (
  <>
    <path d={`M${at} ${top}V${height - bottom}`} stroke="var(--ink)" strokeDasharray="4 4" />
    <text x={at + 5} y={top + 12} fontSize={14} fontWeight="bold" fill="var(--ink)">
      now
    </text>
  </>
);

/** Between the worst cases. */
function Band({ high, low }: { high: readonly Placed[]; low: readonly Placed[] }) {
  const around = [...high.filter((p) => p !== null), ...low.filter((p) => p !== null).reverse()];
  if (around.length < 3) return null;
  const path = around.map(([x, y]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L');
  return <path d={`M${path}Z`} fill="var(--select)" opacity={0.14} />;
}

type Placed = readonly [x: number, y: number] | null;

const Levels = ({ at, width }: { at: readonly number[]; width: number }) => (
  <g stroke="var(--rule)" fill="none">
    {at.map((y) => (
      <path key={y} d={`M${left} ${y}H${width - right}`} />
    ))}
  </g>
);

const Here = ({ x, y }: { x: number; y: number }) => (
  <circle cx={x} cy={y} r={7} fill="var(--plate)" stroke="var(--ink)" strokeWidth={3} />
);

/** What is asked over one field: the curve with its worst cases, where limits are over, and where the rig stands. */
export function SweepCurve({ id, axis, output, which, points, now, titleOf, cursor, onCursor }: Props) {
  const [ref, space] = useWidth(760);
  const width = Math.max(280, space);
  const { values } = axis;
  const [low = 0, high = 1] = [values[0], values.at(-1)];
  const x = scaleOf(low, high, left, width - right, axis.isLog);
  const all = points.flatMap((point) => {
    const at = point?.outputs[which];
    return at ? [at.value, at.low, at.high] : [];
  });
  const [from, to] = roomFor(all);
  const y = scaleOf(from, to, height - bottom, top, false, 28);
  const line = (key: 'value' | 'low' | 'high') =>
    values.map((value, i) => {
      const at = points[i]?.outputs[which]?.[key];
      return at !== undefined && Number.isFinite(at) ? ([x.at(value), y.at(at)] as const) : null;
    });
  const at = points[cursor]?.outputs[which];
  const move = (px: number) => {
    let nearest = 0;
    values.forEach((value, i) => {
      if (Math.abs(x.at(value) - px) < Math.abs(x.at(values[nearest] ?? 0) - px)) nearest = i;
    });
    onCursor(nearest);
  };
  return (
    <div ref={ref}>
      <Drawing
        id={id}
        width={width}
        height={height}
        label={`${sweptTitle(output)} over ${axis.title}`}
        hatch={hatch}
        onPoint={move}
      >
        <OverStretches id={id} stretches={overStretches(points, values)} at={x.at} titleOf={titleOf} />
        <Levels at={y.ticks.map(y.at)} width={width} />
        <Band high={line('high')} low={line('low')} />
        <path d={lineOf(line('value'))} stroke="var(--select)" strokeWidth={2.5} fill="none" />
        {now !== null && now >= low && now <= high && <Now at={x.at(now)} />}
        {at && Number.isFinite(at.value) && <Here x={x.at(values[cursor] ?? 0)} y={y.at(at.value)} />}
        <Scales x={x} y={y} axis={axis} output={output} width={width} greatest={Math.max(Math.abs(from), Math.abs(to))} />
      </Drawing>
    </div>
  );
}
