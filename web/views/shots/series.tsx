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
  const all = points.flatMap((p) => [p.y, ...(p.predicted === undefined ? [] : [p.predicted])]);
  const [x0, x1] = [Math.min(...points.map((p) => p.x)), Math.max(...points.map((p) => p.x))];
  const [padX, top] = [(x1 - x0) * 0.06 || Math.abs(x0) * 0.1 || 1, Math.max(...all) * 1.08 || 1];
  const low = Math.min(0, ...all);
  const X = (x: number) => left + ((x - x0 + padX) / (x1 - x0 + 2 * padX)) * (width - left - 10);
  const Y = (y: number) => height - bottom - ((y - low) / (top - low)) * (height - bottom - 10);
  const choice = (label: string, axes: readonly Axis[], value: Axis, set: (key: string) => void) => (
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
  return (
    <section aria-label="Series">
      <div className="flex flex-wrap gap-4">
        {choice('Over', over, xAxis, setX)}
        {choice('what was measured', against, yAxis, setY)}
      </div>
      {points.length === 0 ? (
        <p className="mt-2 text-dim">None of these shots has both.</p>
      ) : (
        <>
          <svg
            viewBox={`0 0 ${width} ${height}`}
            className="mt-2 w-full max-w-[900px] bg-plate"
            role="img"
            aria-label={`${yAxis.title} over ${xAxis.title}`}
          >
            {roundTicks(low, top).map((v) => {
              return (
                <g key={v}>
                  <line x1={left} x2={width - 10} y1={Y(v)} y2={Y(v)} className="stroke-rule" />
                  <text x={left - 6} y={Y(v) + 5} textAnchor="end" className="figure fill-dim text-13">
                    {yAxis.print(v, top)}
                  </text>
                </g>
              );
            })}
            {(x1 > x0 ? roundTicks(x0, x1) : [x0]).map((x) => (
              <text key={x} x={X(x)} y={height - 10} textAnchor="middle" className="figure fill-dim text-13">
                {xAxis.print(x, x1)}
              </text>
            ))}
            {typeof line !== 'string' && x1 > x0 && (
              <line x1={X(x0)} y1={Y(line.at(x0))} x2={X(x1)} y2={Y(line.at(x1))} className="stroke-select" strokeWidth={2} />
            )}
            {points.map((p, i) => (
              <g key={p.shot.id}>
                {p.predicted !== undefined && (
                  <path d={`M${X(p.x) - 6} ${Y(p.predicted)}h12`} className="stroke-ink" strokeWidth={2} />
                )}
                {p.shot.shot.outcome === 'fired' ? (
                  <circle
                    cx={X(p.x)}
                    cy={Y(p.y)}
                    r={5}
                    className={isOff(i) ? 'fill-plate stroke-over' : 'fill-select'}
                    strokeWidth={2.5}
                  />
                ) : (
                  <path d={`M${X(p.x) - 5} ${Y(p.y) - 5}l10 10m0-10l-10 10`} className="stroke-select" strokeWidth={2.5} />
                )}
              </g>
            ))}
          </svg>
          <p className="text-14 text-dim">● measured · × misfire or partial · – predicted · ○ off the trend</p>
          {typeof line === 'string' ? (
            <p>No trend: {line}.</p>
          ) : (
            <p>
              Trend: {yAxis.printMargin(line.slope.value * (x1 - x0 || 1), line.slope.margin * (x1 - x0 || 1))}
              {Number.isFinite(line.slope.margin) && ' (95 %)'} from {xAxis.print(x0)} to {xAxis.print(x1)}, scatter{' '}
              {yAxis.print(line.scatter)}.
              {line.outliers.map((i) => {
                const p = points[i];
                return (
                  p && (
                    <Link key={p.shot.id} className="ml-2 text-select underline" to={`/shots/${p.shot.id}`}>
                      Off the trend: {yAxis.print(p.y)} at {xAxis.print(p.x)}
                    </Link>
                  )
                );
              })}
            </p>
          )}
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
