import type { Evaluation } from '@vast-surge/core/evaluation';
import { fileName } from '../../ui/download.ts';
import { useTank } from '../../workers/studies.ts';
import { RunningChart } from '../tank/running-chart.tsx';
import { FigureRow } from './figure-row.tsx';

/** What one asks first of a tank that runs; the rest stands on its page. */
const asked = [
  'break-rate',
  'left-current',
  'break-energy',
  'tank-power',
  'supply-power',
  'doubler-sag',
  'tank-rms',
  'gap-power',
  'gap-run-time',
  'charging-resistor-run-time',
] as const;

interface Props {
  readonly evaluation: Evaluation;
  readonly name: string;
  readonly onTouch: (focus: string) => void;
}

/** Charging ramp, break and ring over many cycles, from seconds down to nanoseconds. */
export function RunningTab({ evaluation, name, onTouch }: Props) {
  const answer = useTank(evaluation.rig, 1);
  const explained = evaluation.problems.some((p) => p.severity === 'error');
  const figures = asked.flatMap((id) => evaluation.figures.find((figure) => figure.id === id && figure.ok) ?? []);
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
      <div className="grid grid-cols-1 gap-x-6 sm:grid-cols-2">
        {figures.map((figure) => (
          <FigureRow key={figure.id} figure={figure} compared={undefined} explained={explained} onTouch={onTouch} />
        ))}
      </div>
    </>
  );
}
