import { useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Evaluation } from '@vast-surge/core/evaluation';
import { figureGroups, type Figure } from '@vast-surge/core/figure';
import type { Compared } from '@vast-surge/core/simulate';
import { usePins } from '../../app/pins.ts';
import { useHigh } from '../../ui/use-wide.ts';
import { FigureRow } from './figure-row.tsx';
import { PredictedRows } from './predicted-rows.tsx';

interface Props {
  readonly evaluation: Evaluation;
  /** What the solver says of a figure. */
  readonly word?: (id: string) => Compared | undefined;
  readonly onTouch: (focus: string) => void;
}

interface GroupProps extends Props {
  readonly title: string;
  readonly figures: readonly Figure[];
  /** How many are seen while the group is folded. */
  readonly most: number;
  readonly isOpen: boolean;
  /** What stands before them. */
  readonly before?: ReactNode;
  readonly onToggle: () => void;
}

function Group({ title, figures, most, isOpen, before, onToggle, evaluation, word, onTouch }: GroupProps) {
  const explained = evaluation.problems.some((p) => p.severity === 'error');
  const more = figures.length - most;
  return (
    <section aria-label={title} className="min-w-0">
      <h3 className="border-b-2 border-ink text-14 font-bold">{title}</h3>
      {before}
      {figures.map((figure, i) => (
        <div key={figure.id} hidden={!isOpen && i >= most}>
          <FigureRow figure={figure} compared={word?.(figure.id)} explained={explained} onTouch={onTouch} />
        </div>
      ))}
      {more > 0 && (
        <button type="button" className="min-h-[24px] text-13 text-select underline" aria-expanded={isOpen} onClick={onToggle}>
          {isOpen ? 'fewer' : `${more} more`}
        </button>
      )}
    </section>
  );
}

/** The figures by what is asked of a rig, a few of each in view; those that were pinned stand first. */
export function FigurePanel({ evaluation, ...rest }: Props) {
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const most = useHigh() ? 5 : 3;
  const pins = usePins();
  const groups = figureGroups(evaluation.rig, evaluation.figures);
  const pinned = pins.flatMap((id) => evaluation.figures.find((figure) => figure.id === id) ?? []);
  // Stages that erect one after another: what is predicted is the solver’s, with its range.
  const erects = evaluation.corners.nominal().offers('store').ladder !== undefined;
  const isAllOpen = groups.every(({ question }) => open.has(question));
  useHotkeys('f', () => setOpen(isAllOpen ? new Set() : new Set(groups.map(({ question }) => question))), { useKey: true });
  const toggle = (question: string) => {
    const next = new Set(open);
    if (!next.delete(question)) next.add(question);
    setOpen(next);
  };
  return (
    <div className="grid grid-cols-1 gap-x-6 gap-y-3 sm:grid-cols-2 xl:grid-cols-3 min-[108rem]:grid-cols-4">
      {pinned.length > 0 && (
        <Group
          title="Pinned"
          figures={pinned}
          most={pinned.length}
          isOpen
          onToggle={() => undefined}
          evaluation={evaluation}
          {...rest}
        />
      )}
      {groups.map(({ question, title, figures }) => (
        <Group
          key={question}
          title={title}
          figures={figures.filter(({ id }) => !pins.includes(id))}
          {...(erects && question === 'out' ? { before: <PredictedRows rig={evaluation.rig} />, most: most - 3 } : { most })}
          isOpen={open.has(question)}
          onToggle={() => toggle(question)}
          evaluation={evaluation}
          {...rest}
        />
      ))}
    </div>
  );
}
