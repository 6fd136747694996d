import { useState } from 'react';
import {
  pointsThatMeet,
  printOutput,
  printPlace,
  sweptTitle,
  type Axis,
  type Output,
  type SweepPoint,
} from '@vast-surge/core/study';
import { Button } from '../../ui/button.tsx';
import { GoalRange, noGoal, readGoal, type GoalTexts } from './goal-range.tsx';

/** Points that are listed: whoever wants more narrows what is wanted. */
const listed = 12;

interface Props {
  readonly axes: readonly Axis[];
  readonly outputs: readonly Output[];
  readonly points: readonly (SweepPoint | undefined)[];
  readonly isDone: boolean;
  readonly titleOf: (id: string) => string;
  /** Shows a point where all points are drawn. */
  readonly onShow: (point: SweepPoint) => void;
}

const useWords = { unit: '1', from: 'limit' } as const;

function MetRow({
  point,
  axes,
  outputs,
  titleOf,
  onShow,
}: {
  point: SweepPoint;
  axes: Props['axes'];
  outputs: Props['outputs'];
  titleOf: Props['titleOf'];
  onShow: Props['onShow'];
}) {
  return (
    <tr className="border-b border-rule">
      {axes.map((axis, k) => (
        <td key={axis.path} className="figure">
          {printPlace(point.at[k] ?? NaN, axis, 4)}
        </td>
      ))}
      {outputs.map((output, k) => (
        <td key={output.id} className="figure font-bold">
          {printOutput(point.outputs[k]?.value ?? NaN, output)}
        </td>
      ))}
      <td>
        {point.tightest === null ? 'not rated' : `${titleOf(point.tightest.id)} ${printOutput(point.tightest.use, useWords)}`}
      </td>
      <td>
        <Button look="quiet" onClick={() => onShow(point)}>
          Show
        </Button>
      </td>
    </tr>
  );
}

/** The points that meet it, the largest margin first. */
function Met({
  axes,
  outputs,
  met,
  titleOf,
  onShow,
}: {
  axes: Props['axes'];
  outputs: Props['outputs'];
  met: readonly SweepPoint[];
  titleOf: Props['titleOf'];
  onShow: Props['onShow'];
}) {
  return (
    <table className="mt-2 w-full border-collapse text-15 [&_td]:py-1 [&_td]:pr-4">
      <caption className="sr-only">Points that meet the goal, largest margin first</caption>
      <thead className="text-left text-14 text-dim">
        <tr className="border-b border-ink">
          {axes.map(({ path, title }) => (
            <th key={path} scope="col" className="pr-4 font-normal">
              {title}
            </th>
          ))}
          {outputs.map(({ id, title }) => (
            <th key={id} scope="col" className="pr-4 font-normal">
              {title}
            </th>
          ))}
          <th scope="col" className="pr-4 font-normal">
            Tightest limit, worst case
          </th>
          <th scope="col">
            <span className="sr-only">Show</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {met.slice(0, listed).map((point) => (
          <MetRow key={point.at.join()} point={point} axes={axes} outputs={outputs} titleOf={titleOf} onShow={onShow} />
        ))}
      </tbody>
    </table>
  );
}

function HowMany({ chosen, titleOf }: { chosen: ReturnType<typeof pointsThatMeet>; titleOf: Props['titleOf'] }) {
  return (
    <p role="status" className="mt-2">
      <b className="figure text-24">{chosen.met.length}</b> of {chosen.total} points meet the goal with every limit within its
      rating, worst case.
      {chosen.lost.length > 0 && ` Ruled out by: ${chosen.lost.map(({ by, count }) => `${titleOf(by)} (${count})`).join(', ')}.`}
    </p>
  );
}

const MoreThanListed = () => (
  <p className="mt-1 text-14 text-dim">The {listed} with the largest margin are listed; tighten the goal to see others.</p>
);

/** The points that meet what is wanted with every limit within its rating, and what the others fell by. */
export function Wanted({ axes, outputs, points, isDone, titleOf, onShow }: Props) {
  const [texts, setTexts] = useState<Readonly<Record<string, GoalTexts>>>({});
  const [atWorst, setAtWorst] = useState(false);
  const reads = outputs.map((output) => readGoal(output, texts[output.id] ?? noGoal));
  const goals = reads.map((read) => (read.ok ? read.goal : null));
  const known = points.flatMap((point) => point ?? []);
  const chosen = isDone
    ? pointsThatMeet(
        known,
        outputs.map(({ id }) => id),
        goals,
        atWorst,
      )
    : null;
  const isWrong = reads.some((read) => !read.ok);
  return (
    <section aria-label="What is wanted" className="mt-5 border-t-2 border-ink pt-3">
      <h2 className="text-17 font-bold">Find the points that meet a goal</h2>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-8 gap-y-2">
        {outputs.map((output, k) => {
          const read = reads[k];
          return read ? (
            <GoalRange
              key={output.id}
              title={sweptTitle(output)}
              texts={texts[output.id] ?? noGoal}
              read={read}
              onTexts={(next) => setTexts({ ...texts, [output.id]: next })}
            />
          ) : null;
        })}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={atWorst} onChange={(event) => setAtWorst(event.target.checked)} />
          also in the worst case
        </label>
      </div>
      {chosen === null && <p className="mt-2 text-14 text-dim">Once all points are calculated.</p>}
      {chosen && !isWrong && (
        <>
          <HowMany chosen={chosen} titleOf={titleOf} />
          {chosen.met.length > 0 && <Met axes={axes} outputs={outputs} met={chosen.met} titleOf={titleOf} onShow={onShow} />}
          {chosen.met.length > listed && <MoreThanListed />}
        </>
      )}
    </section>
  );
}
