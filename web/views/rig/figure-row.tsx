import type { Figure } from '@vast-surge/core/figure';
import { printPercent } from '@vast-surge/core/quantity';
import { worthSaying, type Compared } from '@vast-surge/core/simulate';
import { useAppSelector } from '../../app/store.ts';
import { printBand, printFigure } from '@vast-surge/core/figure';

const offWords = (off: number | null): string => {
  if (off === null) return '';
  if (!Number.isFinite(off)) return ', of zero';
  return off < 1e-3 ? ', within 0.1 %' : `, ${printPercent(off, 2)} apart`;
};

/** The solver's word on a figure where the closed form is more than 2 % off: the reasons stand under the plot. */
function SolverWord({ compared: { id, solver, off, unit } }: { compared: Compared }) {
  if (solver === null || off === null || off <= worthSaying) return null;
  return (
    <span className="figure block text-12 leading-tight font-bold text-third">
      solver {printFigure(id, solver, unit)}
      {offWords(off)}
    </span>
  );
}

interface RowProps {
  readonly figure: Figure;
  readonly compared: Compared | undefined;
  readonly explained: boolean;
  readonly onTouch: (focus: string) => void;
}

/** A figure with its band, and what the solver says of it; a touch shows its working. */
export function FigureRow({ figure, compared, explained, onTouch }: RowProps) {
  const focused = useAppSelector((s) => s.editor.focus === `figure:${figure.id}`);
  if (!figure.ok) {
    return (
      <div className="border-b border-rule py-1 text-13">
        {figure.title}:{' '}
        <span className="text-dim">not available; {explained ? 'the problem beside the block says why' : figure.reason}</span>
      </div>
    );
  }
  const { value, unit } = figure.worked;
  const { low, high, broken } = figure.band;
  return (
    <button
      type="button"
      data-figure={figure.id}
      title={broken ?? figure.title}
      className={`block w-full border-b py-0.5 text-left hover:bg-plate ${focused ? 'border-select' : 'border-rule'}`}
      onClick={() => onTouch(`figure:${figure.id}`)}
    >
      <span className="block truncate text-13 leading-tight">{figure.title}</span>
      <span className="flex flex-wrap items-baseline justify-between gap-x-2 leading-tight">
        <b className="figure text-16 whitespace-nowrap">{printFigure(figure.id, value, unit)}</b>
        {low !== high && (
          <span className="figure text-12 whitespace-nowrap text-dim">{printBand(figure.id, low, high, unit)}</span>
        )}
      </span>
      {compared && <SolverWord compared={compared} />}
    </button>
  );
}
