import { useDeferredValue, useMemo } from 'react';
import { Link } from 'react-router';
import type { Evaluation } from '@vast-surge/core/evaluation';
import type { RigDocument } from '@vast-surge/core/rig';
import { runSheetOf, verdictTitles } from '@vast-surge/core/runsheet';
import { VerdictSign } from './verdict-sign.tsx';

/** How far one may go with this rig by calculation, or why not: what heads its run sheet, in one line. */
export function VerdictLine({ id, document, evaluation }: { id: string; document: RigDocument; evaluation: Evaluation }) {
  // The sheet is worked out behind the numbers: a keystroke does not wait for it.
  const settled = useDeferredValue(evaluation);
  const { name, sheet } = document;
  const made = useMemo(() => runSheetOf(name, settled, sheet), [name, settled, sheet]);
  if (!made.ok) return null;
  const { verdict, unrated } = made.sheet;
  const { word, upTo, because, turn } = verdict;
  return (
    <section
      aria-label="Verdict"
      className="flex min-w-0 flex-1 items-center gap-2 border-rule text-15 max-lg:order-last max-lg:basis-full lg:border-l lg:pl-4"
    >
      <VerdictSign word={word} />
      <Link
        to={`/rigs/${id}/run-sheet`}
        className="line-clamp-2 min-w-0 hover:underline"
        title={`${because}${turn === null ? '' : ` ${turn}`} By calculation: it says nothing about what was actually built.`}
      >
        <b>
          {verdictTitles[word]}
          {upTo === null ? ':' : ` ${upTo},`}
        </b>{' '}
        {because}
      </Link>
      {unrated.length > 0 && <span className="shrink-0 text-13 font-bold">{unrated.length} not rated</span>}
    </section>
  );
}
