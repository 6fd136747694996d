import { printQuantity } from '@vast-surge/core/quantity';
import type { Rig } from '@vast-surge/core/rig';
import type { Predicted } from '@vast-surge/core/study';
import { printBand } from '@vast-surge/core/figure';
import { usePredictedShot } from '../../workers/studies.ts';

function Row({ title, of, unit }: { title: string; of: Predicted; unit: 'A' | 's' | 'V' }) {
  return (
    <div className="border-b border-rule py-0.5" data-predicted={title}>
      <span className="block truncate text-13 leading-tight">{title}, by the solver</span>
      <span className="flex flex-wrap items-baseline justify-between gap-x-2 leading-tight">
        <b className="figure text-16 whitespace-nowrap">{printQuantity(of.value, unit)}</b>
        <span className="figure text-12 whitespace-nowrap text-dim">{printBand('', of.low, of.high, unit)}</span>
      </span>
    </div>
  );
}

/** What a shot comes to where stages erect one after another: the prediction is the solver’s, and stands before the closed forms. */
export function PredictedRows({ rig }: { rig: Rig }) {
  const known = usePredictedShot(rig);
  if (!known) return <p className="py-1 text-13 text-dim">Solving the shot …</p>;
  const { answer, isCurrent } = known;
  if (!answer.ok) return <p className="py-1 text-13">No shot is predicted: {answer.reason}</p>;
  const { current, time, output } = answer.value;
  return (
    <div aria-busy={!isCurrent} className={isCurrent ? '' : 'opacity-60'}>
      {output && <Row title="Output, peak" of={output} unit="V" />}
      {current && <Row title="Peak current" of={current} unit="A" />}
      {time && <Row title="Time to peak" of={time} unit="s" />}
    </div>
  );
}
