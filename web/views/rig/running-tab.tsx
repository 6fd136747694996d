import type { Evaluation } from '@vast-surge/core/evaluation';
import { fileName } from '../../ui/download.ts';
import { useTank } from '../../workers/studies.ts';
import { RunningChart } from '../tank/running-chart.tsx';
import { FigurePanel } from './figure-panel.tsx';

interface Props {
  readonly evaluation: Evaluation;
  readonly name: string;
  readonly onTouch: (focus: string) => void;
}

/** Charging ramp, break and ring over many cycles, from seconds down to nanoseconds. */
export function RunningTab({ evaluation, name, onTouch }: Props) {
  const answer = useTank(evaluation.rig, 1);
  const row = answer?.ok ? answer.value.row : null;
  return (
    <>
      {answer === null && (
        <p role="status" className="text-dim">
          Working out its breaks …
        </p>
      )}
      {answer && !answer.ok && (
        <p role="alert" className="border-l-4 border-over bg-plate p-3">
          It cannot be worked out: {answer.reason}.
        </p>
      )}
      {answer?.ok &&
        (row ? (
          <RunningChart row={row} study={answer.value} name={`${fileName(name)}-running`} />
        ) : (
          <p role="alert" className="border-l-4 border-over bg-plate p-3 font-bold">
            The gap never fires at this supply: there is no break to draw.
          </p>
        ))}
      <FigurePanel evaluation={evaluation} onTouch={onTouch} />
    </>
  );
}
