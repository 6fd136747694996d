import { useDeferredValue, useMemo } from 'react';
import { Link } from 'react-router';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { runSheetOf, verdictTitles } from '@vast-surge/core/runsheet';

/** How far one may go with this rig by calculation, or why not: what heads its run sheet, in one line. */
export function VerdictRow({ id, document, evaluation }: { id: string; document: RigDocument; evaluation: Evaluation }) {
  // The sheet is worked out behind the numbers: a keystroke does not wait for it.
  const settled = useDeferredValue(evaluation);
  const { name, sheet } = document;
  const made = useMemo(() => runSheetOf(name, settled, sheet), [name, settled, sheet]);
  if (!made.ok) return null;
  const { word, because, turn } = made.sheet.verdict;
  const isGo = word === 'go at most';
  return (
    <section
      aria-label="Verdict"
      className={`flex items-baseline gap-3 border-b border-rule px-5 py-0.5 text-[14.5px] ${isGo ? '' : 'border-l-4 border-l-over'}`}
    >
      <span className="min-w-0 flex-1 truncate" title={turn === null ? because : `${because} ${turn}`}>
        <b>
          {verdictTitles[word]}
          {isGo ? '' : ':'}
        </b>{' '}
        {because}
      </span>
      <Link className="shrink-0 text-select underline" to={`/rigs/${id}/run-sheet`}>
        Why, and what to do
      </Link>
    </section>
  );
}
