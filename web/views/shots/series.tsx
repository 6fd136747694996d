import { useState } from 'react';
import { Link } from 'react-router';
import type { StoredShot } from '@vast-surge/contract';
import { fitLine, fitShare, NoFit } from '@vast-surge/core/fit';
import { printFixed } from '@vast-surge/core/quantity';
import { roundTicks } from '../../plot/ticks.ts';
import { axesOf, type Axis } from '@vast-surge/core/shot';
import { Select } from '../../ui/select.tsx';

const [width, height, left, bottom] = [760, 300, 70, 34];

interface Point {
  readonly shot: StoredShot;
  readonly x: number;
  readonly y: number;
  readonly predicted: number | undefined;
}

function tried<T>(make: () => T): T | string {
  try {
    return make();
  } catch (error) {
    if (error instanceof NoFit) return error.message;
    throw error;
  }
}

/** Shots of one revision of one rig: what differs between two is no trend. */
interface Group {
  readonly key: string;
  readonly title: string;
  readonly shots: readonly StoredShot[];
}

function groupsOf(shots: readonly StoredShot[]): Group[] {
  const byRevision = new Map<string, StoredShot[]>();
  for (const shot of shots) byRevision.set(shot.revisionId, [...(byRevision.get(shot.revisionId) ?? []), shot]);
  return [...byRevision]
    .map(([key, own]) => ({ key, title: `${own[0]?.rigName ?? ''}, revision ${own[0]?.revision ?? ''}`, shots: own }))
    .sort((a, b) => b.shots.length - a.shots.length);
}

/** A series of shots; of several rigs or revisions one at a time. */
export function Series({ shots }: { shots: readonly StoredShot[] }) {
  const groups = groupsOf(shots);
  const [picked, pick] = useState<string | null>(null);
  const group = groups.find(({ key }) => key === picked) ?? groups[0];
  if (!group) return <p className="text-dim">A series needs shots with a setting and something measured.</p>;
  return (
    <>
      {groups.length > 1 && (
        <p className="mb-2 text-15">
          <label>
            Series of{' '}
            <Select
              aria-label="Rig and revision of the series"
              fit="small"
              value={group.key}
              onChange={(event) => pick(event.target.value)}
            >
              {groups.map(({ key, title, shots: own }) => (
                <option key={key} value={key}>
                  {title}, {own.length === 1 ? '1 shot' : `${own.length} shots`}
                </option>
              ))}
            </Select>
          </label>{' '}
          <span className="text-dim">Shots of other rigs and revisions are not pooled with these.</span>
        </p>
      )}
      <SeriesOf key={group.key} shots={group.shots} />
    </>
  );
}

/** From the least setting to the greatest. */
const rangeOf = (points: readonly Point[]): [from: number, to: number] => [
  Math.min(...points.map((p) => p.x)),
  Math.max(...points.map((p) => p.x)),
];

type Line = ReturnType<typeof fitLine> | string;

/** A shot: what was measured of it, and what was predicted. */
function Mark({ of: p, x, y, isOff }: { of: Point; x: number; y: (value: number) => number; isOff: boolean }) {
  return (
    <g>
      {p.predicted !== undefined && <path d={`M${x - 6} ${y(p.predicted)}h12`} className="stroke-ink" strokeWidth={2} />}
      {p.shot.shot.outcome === 'fired' ? (
        <circle cx={x} cy={y(p.y)} r={5} className={isOff ? 'fill-plate stroke-over' : 'fill-select'} strokeWidth={2.5} />
      ) : (
        <path d={`M${x - 5} ${y(p.y) - 5}l10 10m0-10l-10 10`} className="stroke-select" strokeWidth={2.5} />
      )}
    </g>
  );
}

/** What was measured as points, what was predicted as dashes, the trend as a line; what is off it is hollow. */
function Drawing({
  points,
  x: xAxis,
  y: yAxis,
  line,
  isOff,
}: {
  points: readonly Point[];
  x: Axis;
  y: Axis;
  line: Line;
  isOff: (i: number) => boolean;
}) {
  const all = points.flatMap((p) => [p.y, ...(p.predicted === undefined ? [] : [p.predicted])]);
  const [x0, x1] = rangeOf(points);
  const [padX, top] = [(x1 - x0) * 0.06 || Math.abs(x0) * 0.1 || 1, Math.max(...all) * 1.08 || 1];
  const low = Math.min(0, ...all);
  const X = (x: number) => left + ((x - x0 + padX) / (x1 - x0 + 2 * padX)) * (width - left - 10);
  const Y = (y: number) => height - bottom - ((y - low) / (top - low)) * (height - bottom - 10);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="mt-2 w-full max-w-[900px] bg-plate"
      role="img"
      aria-label={`${yAxis.title} over ${xAxis.title}`}
    >
      {roundTicks(low, top).map((v) => (
        <g key={v}>
          <line x1={left} x2={width - 10} y1={Y(v)} y2={Y(v)} className="stroke-rule" />
          <text x={left - 6} y={Y(v) + 5} textAnchor="end" className="figure fill-dim text-13">
            {yAxis.print(v, top)}
          </text>
        </g>
      ))}
      {(x1 > x0 ? roundTicks(x0, x1) : [x0]).map((x) => (
        <text key={x} x={X(x)} y={height - 10} textAnchor="middle" className="figure fill-dim text-13">
          {xAxis.print(x, x1)}
        </text>
      ))}
      {typeof line !== 'string' && x1 > x0 && (
        <line x1={X(x0)} y1={Y(line.at(x0))} x2={X(x1)} y2={Y(line.at(x1))} className="stroke-select" strokeWidth={2} />
      )}
      {points.map((p, i) => (
        <Mark key={p.shot.id} of={p} x={X(p.x)} y={Y} isOff={isOff(i)} />
      ))}
    </svg>
  );
}

/** The trend in words, with what lies off it. */
function Trend({ points, x, y, line }: { points: readonly Point[]; x: Axis; y: Axis; line: Line }) {
  if (typeof line === 'string') return <p>No trend: {line}.</p>;
  const [from, to] = rangeOf(points);
  const across = to - from || 1;
  return (
    <p>
      Trend: {y.printMargin(line.slope.value * across, line.slope.margin * across)}
      {Number.isFinite(line.slope.margin) && ' (95 %)'} from {x.print(from)} to {x.print(to)}, scatter {y.print(line.scatter)}.
      {line.outliers
        .flatMap((i) => points[i] ?? [])
        .map((p) => (
          <Link key={p.shot.id} className="ml-2 text-select underline" to={`/shots/${p.shot.id}`}>
            Off the trend: {y.print(p.y)} at {x.print(p.x)}
          </Link>
        ))}
    </p>
  );
}

function AxisChoice({
  label,
  axes,
  value,
  set,
}: {
  label: string;
  axes: readonly Axis[];
  value: Axis;
  set: (key: string) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      {label}
      <Select value={value.key} onChange={(event) => set(event.target.value)}>
        {axes.map(({ key, title }) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </Select>
    </label>
  );
}

/** Shots over a setting that was varied: what was measured and what was predicted, the trend, and those that are off it. */
function SeriesOf({ shots }: { shots: readonly StoredShot[] }) {
  const { over, against } = axesOf(shots.map(({ shot }) => shot));
  const [xPick, setX] = useState<string | null>(null);
  const [yPick, setY] = useState<string | null>(null);
  const xAxis = over.find(({ key }) => key === xPick) ?? over[0];
  const isOther = ({ key }: Axis) => key !== xAxis?.key && `set-${key}` !== xAxis?.key;
  const yAxis = against.find(({ key }) => key === yPick) ?? against.find(isOther) ?? against[0];
  if (!xAxis || !yAxis || (over.length === 1 && xAxis === yAxis))
    return <p className="text-dim">A series needs shots with a setting and something measured.</p>;
  const points = shots.flatMap((shot): Point[] => {
    const [x, y] = [xAxis.of(shot.shot), yAxis.of(shot.shot)];
    return x === undefined || y === undefined ? [] : [{ shot, x, y, predicted: yAxis.predicted(shot.predicted) }];
  });
  const line = tried(() =>
    fitLine(
      points.map((p) => p.x),
      points.map((p) => p.y),
    ),
  );
  const isOff = (i: number) => typeof line !== 'string' && line.outliers.includes(i);
  const share = tried(() =>
    fitShare(
      points.flatMap((p, i) => (p.predicted === undefined || isOff(i) ? [] : [{ predicted: p.predicted, measured: p.y }])),
    ),
  );
  return (
    <section aria-label="Series">
      <div className="flex flex-wrap gap-4">
        <AxisChoice label="Over" axes={over} value={xAxis} set={setX} />
        <AxisChoice label="what was measured" axes={against} value={yAxis} set={setY} />
      </div>
      {points.length === 0 ? (
        <p className="mt-2 text-dim">None of these shots has both.</p>
      ) : (
        <>
          <Drawing points={points} x={xAxis} y={yAxis} line={line} isOff={isOff} />
          <p className="text-14 text-dim">● measured · × misfire or partial · – predicted · ○ off the trend</p>
          <Trend points={points} x={xAxis} y={yAxis} line={line} />
          {typeof share !== 'string' && (
            <p>
              Measured/predicted {printFixed(100 * share.share.value, 1)} ± {printFixed(100 * share.share.margin, 1)} % (95 %,
              outliers excluded)
              {yAxis.key === 'speed' && `: ${printFixed(100 * (1 - share.share.value), 1)} % of the speed is lost on the way`}.
            </p>
          )}
        </>
      )}
    </section>
  );
}
