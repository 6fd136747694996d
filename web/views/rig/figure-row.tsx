import type { Figure } from '@vast-surge/core/figure';
import { printPercent } from '@vast-surge/core/quantity';
import { worthSaying, type Compared } from '@vast-surge/core/simulate';
import { useAppSelector } from '../../app/store.ts';
import { printFigure } from '../../ui/print-figure.ts';

const offWords = (off: number | null): string => {
  if (off === null) return '';
  if (!Number.isFinite(off)) return ', of zero';
  return off < 1e-3 ? ', within 0.1 %' : `, ${printPercent(off, 2)} apart`;
};

/** The solver's word on a figure, and why it differs where it does by more than 2 %. */
function SolverWord({ compared }: { compared: Compared }) {
  const { id, solver, off, unit } = compared;
  if (solver === null)
    return <span className="col-span-2 text-right text-[12.5px] text-dim">solver: not reached in its run</span>;
  const apart = off !== null && off > worthSaying;
  return (
    <>
      <span className={`figure col-span-2 text-right text-[12.5px] ${apart ? 'font-bold text-third' : 'text-dim'}`}>
        solver {printFigure(id, solver, unit)}
        {offWords(off)}
      </span>
    </>
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
      <div className="border-b border-rule py-1 text-[13.5px]">
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
      title={broken}
      className={`grid w-full grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3 border-b py-1 text-left hover:bg-plate ${focused ? 'border-select' : 'border-rule'}`}
      onClick={() => onTouch(`figure:${figure.id}`)}
    >
      <span className="leading-tight">{figure.title}</span>
      <b className="figure text-right text-[16px] whitespace-nowrap">{printFigure(figure.id, value, unit)}</b>
      {low !== high && (
        <span className="figure col-span-2 -mt-0.5 text-right text-[12.5px] whitespace-nowrap text-dim">
          {printFigure(figure.id, low, unit)} to {printFigure(figure.id, high, unit)}
        </span>
      )}
      {compared && <SolverWord compared={compared} />}
    </button>
  );
}
