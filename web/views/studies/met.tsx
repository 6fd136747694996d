import { useState } from 'react';
import { yieldOf, type Goal, type Output } from '@vast-surge/core/study';
import { failureOf } from '../../app/api.ts';
import { useStudyMetQuery } from '../../app/study-api.ts';
import { GoalRange, noGoal, readGoal } from './goal-range.tsx';

interface Counted {
  readonly met: number;
  readonly of: number;
  readonly low: number;
  readonly high: number;
}

const percent = (share: number): string => `${(100 * share).toFixed(share > 0.99 || share < 0.01 ? 2 : 1)} %`;

function Words({ met, of, low, high }: Counted) {
  return (
    <p role="status" className="mt-1">
      <b className="figure text-24">{percent(met / of)}</b> of samples meet it;{' '}
      <span className="figure">
        {percent(low)} to {percent(high)}
      </span>{' '}
      with 95 % confidence.
    </p>
  );
}

/** A goal as it is typed for one output, and what is counted against it. */
function useGoal(output: Output) {
  const [texts, setTexts] = useState(noGoal);
  const read = readGoal(output, texts);
  return { goal: read.ok ? read.goal : null, entry: <GoalRange title="Goal" texts={texts} read={read} onTexts={setTexts} /> };
}

/** How many samples meet what is wanted. */
export function Met({ output, samples }: { output: Output; samples: Float64Array }) {
  const { goal, entry } = useGoal(output);
  return (
    <section aria-label={`Goal for ${output.title}`} className="mt-3">
      {entry}
      {goal && <Words {...yieldOf(samples, goal)} of={samples.length} />}
    </section>
  );
}

function Asked({ id, output, goal }: { id: string; output: string; goal: Goal }) {
  const { data, error } = useStudyMetQuery({ id, output, ...goal });
  return data ? <Words {...data} /> : <p role={error ? 'alert' : 'status'}>{error ? failureOf(error).message : 'Counting …'}</p>;
}

/** The same of a study that the server keeps: it counts. */
export function KeptMet({ id, output }: { id: string; output: Output }) {
  const { goal, entry } = useGoal(output);
  return (
    <section aria-label={`Goal for the kept ${output.title}`} className="mt-3">
      {entry}
      {goal && <Asked id={id} output={output.id} goal={goal} />}
    </section>
  );
}
