import { useState } from 'react';
import { useParams } from 'react-router';
import { numberedSpot, quantityAt, spotAt, type RigDocument } from '@vast-surge/core/rig';
import {
  printOutput,
  printPlace,
  sweepColumns,
  sweptTitle,
  type Axis,
  type Output,
  type SweepPoint,
} from '@vast-surge/core/study';
import { valueSet } from '../../app/edits.ts';
import { useMayNotOn } from '../../app/may.ts';
import { useAppDispatch } from '../../app/store.ts';
import { columnsCsv, saveDrawing } from '../../plot/export.ts';
import { Button } from '../../ui/button.tsx';
import { download, fileName } from '../../ui/download.ts';
import { SweepCurve } from './sweep-curve.tsx';
import { SweepMap } from './sweep-map.tsx';
import { Wanted } from './wanted.tsx';

/** The place of a point in a sweep of these axes. */
const indexOf = (axes: readonly Axis[], place: readonly number[]): number =>
  axes.reduce((index, { values }, k) => index * values.length + (place[k] ?? 0), 0);

const nearest = (values: readonly number[], value: number | null): number => {
  if (value === null) return Math.floor(values.length / 2);
  let best = 0;
  values.forEach((v, i) => {
    if (Math.abs(v - value) < Math.abs((values[best] ?? 0) - value)) best = i;
  });
  return best;
};

/** What a limit is called. */
export const limitTitles =
  (all: readonly Output[]) =>
  (id: string): string =>
    all.find((one) => one.id === id)?.of ?? id.replace(/^limit:/, '');

/** What stands at a point, in words, and the way to take it into the rig. */
function Readout({
  axes,
  point,
  outputs,
  titleOf,
}: {
  axes: readonly Axis[];
  point: SweepPoint | undefined;
  outputs: readonly Output[];
  titleOf: (id: string) => string;
}) {
  const dispatch = useAppDispatch();
  const { id = null } = useParams();
  const mayNot = useMayNotOn(id, 'designs');
  if (!point) return <p role="status">Calculating …</p>;
  const take = () => {
    // All of them come back with one step of undo.
    const burst = crypto.randomUUID();
    axes.forEach(({ path, isWhole }, k) => {
      const value = point.at[k] ?? NaN;
      const [spot = '', id = ''] = path.split('.');
      const { slot, channel } = spotAt(spot);
      // By its number: whichever channel the rig was looked at from last.
      dispatch(
        valueSet({
          path: `${numberedSpot(slot, channel ?? 0)}.${id}`,
          value: isWhole ? value : Number(value.toPrecision(4)),
          burst,
        }),
      );
    });
  };
  return (
    <section aria-label="At this point" className="border-l-4 border-ink bg-plate p-3">
      {axes.map((axis, k) => (
        <p key={axis.path} className="text-15">
          {axis.title} <b className="figure">{printPlace(point.at[k] ?? NaN, axis, 4)}</b>
        </p>
      ))}
      <dl className="mt-2 grid gap-2">
        {outputs.map((output, k) => {
          const at = point.outputs[k];
          return (
            <div key={output.id}>
              <dt className="text-14 text-dim">{sweptTitle(output)}</dt>
              <dd className="figure text-24 font-bold">{printOutput(at?.value ?? NaN, output)}</dd>
              {at && at.high > at.low && (
                <dd className="figure text-14">
                  {printOutput(at.low, output)} to {printOutput(at.high, output)}
                </dd>
              )}
            </div>
          );
        })}
        <div>
          <dt className="text-14 text-dim">Tightest limit, worst case</dt>
          <dd className={`text-17 font-bold ${(point.tightest?.use ?? 0) > 1 ? 'text-over' : ''}`}>
            {point.tightest === null
              ? 'not rated'
              : `${titleOf(point.tightest.id)} ${printOutput(point.tightest.use, { unit: '1', from: 'limit' })}`}
          </dd>
          {point.over.length > 0 && <dd className="max-w-[30rem] text-14">Over rating: {point.over.map(titleOf).join(', ')}</dd>}
        </div>
      </dl>
      <p className="mt-2 flex flex-wrap items-center gap-3">
        <Button onClick={take} disabled={mayNot !== null}>
          Put this point into the rig
        </Button>
        {mayNot !== null && <span className="text-14">{mayNot}</span>}
      </p>
    </section>
  );
}

/** One place of the cursor, moved by keys or by hand. */
function Place({ axis, index, onIndex }: { axis: Axis; index: number; onIndex: (index: number) => void }) {
  return (
    <label className="flex items-center gap-3">
      <span className="min-w-[12rem] text-14">{axis.title}</span>
      <input
        type="range"
        className="min-w-0 flex-1 accent-(--ink)"
        min={0}
        max={axis.values.length - 1}
        value={index}
        aria-valuetext={printPlace(axis.values[index] ?? NaN, axis, 4)}
        onChange={(event) => onIndex(Number(event.target.value))}
      />
      <b className="figure w-24 text-right">{printPlace(axis.values[index] ?? NaN, axis, 4)}</b>
    </label>
  );
}

interface SweptProps {
  /** The rig that is varied, with its name. */
  readonly document: RigDocument;
  readonly axes: readonly Axis[];
  readonly outputs: readonly Output[];
  readonly points: readonly (SweepPoint | undefined)[];
  readonly isDone: boolean;
  readonly titleOf: (id: string) => string;
  /** What its drawings are called by, each once on a page. */
  readonly as: string;
}

/** The points of a sweep as curves or a map, with what stands at one of them. */
export function SweptShown({ document: { rig, name }, axes, outputs, points, isDone, titleOf, as }: SweptProps) {
  const nowOf = (path: string) => quantityAt<string>(rig, path)?.value?.value ?? null;
  const [chosen, setChosen] = useState<{ readonly of: readonly Axis[]; readonly place: readonly number[] } | null>(null);
  const place = chosen?.of === axes ? chosen.place : axes.map(({ path, values }) => nearest(values, nowOf(path)));
  const put = (k: number, index: number) => setChosen({ of: axes, place: place.with(k, index) });
  const [one, two] = axes;
  const [first] = outputs;
  if (!one || !first) return null;
  const file = `${fileName(name)}-${axes.map(({ path }) => path).join('-')}`;
  return (
    <>
      <div className="grid gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1.7fr)_minmax(0,1fr)]">
        <div className="min-w-0">
          {two ? (
            <SweepMap
              id={`${as}-map`}
              across={one}
              up={two}
              output={first}
              pointAt={(i, j) => points[indexOf(axes, [i, j, place[2] ?? 0])]}
              now={[nowOf(one.path), nowOf(two.path)]}
              cursor={[place[0] ?? 0, place[1] ?? 0]}
              onCursor={(i, j) => setChosen({ of: axes, place: place.with(0, i).with(1, j) })}
            />
          ) : (
            outputs.map((output, k) => (
              <figure key={output.id} className="m-0 mt-2">
                <figcaption className="font-bold">{sweptTitle(output)}</figcaption>
                <SweepCurve
                  id={`${as}-curve-${k}`}
                  axis={one}
                  output={output}
                  which={k}
                  points={points}
                  now={nowOf(one.path)}
                  titleOf={titleOf}
                  cursor={place[0] ?? 0}
                  onCursor={(index) => put(0, index)}
                />
              </figure>
            ))
          )}
          <div className="mt-2 grid gap-1">
            {axes.map((axis, k) => (
              <Place key={axis.path} axis={axis} index={place[k] ?? 0} onIndex={(index) => put(k, index)} />
            ))}
          </div>
        </div>
        <div className="min-w-0">
          <Readout axes={axes} point={points[indexOf(axes, place)]} outputs={outputs} titleOf={titleOf} />
          <p className="mt-3 flex flex-wrap gap-3">
            <Button
              onClick={() =>
                download(
                  `${file}.csv`,
                  columnsCsv(
                    sweepColumns(
                      axes,
                      outputs,
                      points.flatMap((point) => point ?? []),
                    ),
                  ),
                  'text/csv',
                )
              }
            >
              CSV
            </Button>
            <Button onClick={() => saveDrawing(two ? `${as}-map` : `${as}-curve-0`, file)}>SVG</Button>
            <span className="self-center text-14 text-dim">
              Shaded: worst case over the tolerances. Hatched: a limit is over its rating, worst case.
              {two && ' The cross is where the rig stands.'}
            </span>
          </p>
        </div>
      </div>
      <Wanted
        axes={axes}
        outputs={outputs}
        points={points}
        isDone={isDone}
        titleOf={titleOf}
        onShow={({ at }) => setChosen({ of: axes, place: axes.map(({ values }, k) => nearest(values, at[k] ?? null)) })}
      />
    </>
  );
}
