import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link } from 'react-router';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { Band } from '@vast-surge/core/figure';
import { workingOf, type Worked } from '@vast-surge/core/formula';
import { fieldName, midSentence } from '@vast-surge/core/rig';
import { workingToggled } from '../../app/editor.ts';
import { togglePin, usePins } from '../../app/pins.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { FormulaText } from '../../ui/formula-text.tsx';
import { Backwards } from './backwards.tsx';
import { printFigure } from '@vast-surge/core/figure';
import { Terms } from '../../ui/terms.tsx';
import { WorkingLines } from '../../ui/working-lines.tsx';
import type { FigureId } from '@vast-surge/core/block';

type Focused = FocusedOn & ({ readonly kind: 'figure'; readonly id: FigureId } | { readonly kind: 'limit'; readonly id: string });

interface FocusedOn {
  readonly title: string;
  readonly worked: Worked;
  readonly band: Band;
}

/** The number the working is shown of: a figure or the stress of a limit. */
function focusedIn(evaluation: Evaluation, focus: string): Focused | null {
  const [kind, id = ''] = focus.split(':');
  if (kind === 'limit') {
    const limit = evaluation.ladder.limits.find((l) => l.id === id);
    return limit ? { id, kind: 'limit', title: limit.title, worked: limit.stress, band: limit.band } : null;
  }
  const figure = evaluation.figures.find((f) => f.id === id);
  return figure?.ok ? { id: figure.id, kind: 'figure', title: figure.title, worked: figure.worked, band: figure.band } : null;
}

function cornerText(evaluation: Evaluation, corner: Band['highAt']): string {
  return Object.entries(corner)
    .map(([path, side]) => `${fieldName(evaluation.rig, path)} at its ${side === 'high' ? 'highest' : 'lowest'}`)
    .join('; ');
}

const studyWords = { vary: 'Vary a field', matters: 'What matters', scatter: 'How it scatters' } as const;

function Panel({ evaluation, focused }: { evaluation: Evaluation; focused: Focused }) {
  const dispatch = useAppDispatch();
  const heading = useRef<HTMLHeadingElement>(null);
  const { worked, band } = focused;
  useEffect(() => heading.current?.focus(), [focused.id, focused.kind]);
  return (
    <section aria-label="Working" className="max-h-[46vh] shrink-0 overflow-y-auto border-t-2 border-ink bg-plate px-5 py-3">
      <div className="flex items-baseline justify-between gap-4">
        <h2 ref={heading} tabIndex={-1} className="text-19 font-bold outline-none">
          <Terms>{focused.title}</Terms>: <span className="figure">{printFigure(focused.id, worked.value, worked.unit)}</span>
        </h2>
        <button
          type="button"
          className="border border-rule px-2 py-0.5 hover:border-ink"
          onClick={() => dispatch(workingToggled(false))}
        >
          Close (Esc)
        </button>
      </div>
      {band.low !== band.high && (
        <p className="text-14">
          Over the tolerances <b className="figure">{printFigure(focused.id, band.low, worked.unit)}</b> to{' '}
          <b className="figure">{printFigure(focused.id, band.high, worked.unit)}</b>; highest with{' '}
          {cornerText(evaluation, band.highAt)}.
        </p>
      )}
      {band.broken && <p className="text-14 font-bold text-over">At some corner it cannot be worked out: {band.broken}</p>}
      {focused.kind === 'figure' && <Backwards key={focused.id} evaluation={evaluation} figureId={focused.id} worked={worked} />}
      <WorkingLines rig={evaluation.rig} worked={worked} />
      {focused.kind === 'figure' && (
        <p className="mt-2 text-14">
          <Link className="text-select underline" to={`/evidence/figures/${focused.id}`}>
            What {midSentence(focused.title)} was checked against
          </Link>
          {(['vary', 'matters', 'scatter'] as const).map((of) => (
            <Link
              key={of}
              className="ml-5 text-select underline"
              to={`studies?${new URLSearchParams({ of, figure: focused.id })}`}
            >
              {studyWords[of]}
            </Link>
          ))}
        </p>
      )}
    </section>
  );
}

/** The working of the number last touched: one line always, the whole on `w` or a click. */
export function WorkingBar({ evaluation }: { evaluation: Evaluation }) {
  const dispatch = useAppDispatch();
  const { focus, workingOpen } = useAppSelector((s) => s.editor);
  const focused = focusedIn(evaluation, focus) ?? focusedIn(evaluation, 'figure:stored-energy');
  const isPinned = usePins().includes(focused?.id ?? '');
  useHotkeys('p', () => focused?.kind === 'figure' && togglePin(focused.id), { useKey: true });
  if (!focused) return null;
  if (workingOpen) return <Panel evaluation={evaluation} focused={focused} />;
  const [line] = workingOf(focused.worked);
  return (
    <footer className="sticky bottom-0 flex min-h-[42px] shrink-0 items-center gap-4 border-t-2 border-ink bg-plate px-5 py-1">
      <button
        type="button"
        className="flex min-w-0 flex-1 items-baseline gap-4 text-left"
        onClick={() => dispatch(workingToggled(true))}
        aria-expanded={false}
        aria-label={`Working of ${focused.title}`}
      >
        <b className="whitespace-nowrap">{focused.title}</b>
        <span className="figure truncate text-16">
          {line ? <FormulaText text={line.substitution} /> : printFigure(focused.id, focused.worked.value, focused.worked.unit)}
        </span>
      </button>
      <span className="hidden gap-4 text-14 whitespace-nowrap text-dim md:flex">
        {focused.kind === 'figure' && (
          <button type="button" className="text-select underline" onClick={() => togglePin(focused.id)}>
            <kbd className="figure border border-rule px-1 text-dim no-underline">p</kbd> {isPinned ? 'unpin' : 'pin'}
          </button>
        )}
        <span>
          <kbd className="figure border border-rule px-1">w</kbd> working
        </span>
        <span>
          <kbd className="figure border border-rule px-1">[ ]</kbd> block
        </span>
        <span>
          <kbd className="figure border border-rule px-1">?</kbd> keys
        </span>
      </span>
    </footer>
  );
}
