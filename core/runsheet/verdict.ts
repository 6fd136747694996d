import type { Evaluation } from '../evaluation/index.ts';
import { printPercent, printQuantity } from '../quantity/index.ts';

/** What heads a sheet. By calculation: it says nothing about what was actually built. */
export interface Verdict {
  readonly word: 'go at most' | 'not now' | 'do not fire';
  /** The voltage up to which one may go, printed; null where one may not. */
  readonly upTo: string | null;
  readonly because: string;
  /** The one act that would turn it; null where it stands at go. */
  readonly turn: string | null;
}

/**
 * @param stops what is over or wrong
 * @param cannot what cannot be carried out
 * @param withheld what holds back a live run alone
 * @param turn what would mend the first that cannot be carried out
 */
export function verdictOf(
  evaluation: Evaluation,
  stops: readonly string[],
  cannot: readonly string[],
  withheld: readonly string[],
  turn: string | null,
): Verdict {
  const [stop] = stops;
  const over = evaluation.ladder.limits.find((l) => l.worst !== null && l.worst > 1);
  const [relief] = over?.relief ?? [];
  if (stop !== undefined)
    return {
      word: 'do not fire',
      upTo: null,
      because: stop,
      turn: relief
        ? `${relief.direction === 'raise' ? 'Raise' : 'Lower'} ${relief.title.toLowerCase()} to ${printQuantity(relief.value, relief.unit, { trim: true })}.`
        : 'Correct what is named first, and look again.',
    };
  const [first] = cannot;
  if (first !== undefined)
    return { word: 'not now', upTo: null, because: first, turn: turn ?? 'Correct what is named first, and look again.' };
  const [open, ...more] = withheld;
  if (open !== undefined)
    return {
      word: 'not now',
      upTo: null,
      because:
        more.length === 0 ? open : `${open} ${String(more.length)} more like it ${more.length === 1 ? 'is' : 'are'} named below.`,
      turn: 'Enter what is missing, or have a person waive it by name.',
    };
  const V0 = evaluation.corners.nominal().offer('chargedTo').value;
  const tightest = evaluation.ladder.limits.find((l) => l.worst !== null);
  return {
    word: 'go at most',
    upTo: printQuantity(V0, 'V'),
    because: `as set${tightest?.worst != null ? `; tightest limit: ${sentenceTitle(tightest.title)}, ${printPercent(tightest.worst, 2)} worst case` : ''}`,
    turn: null,
  };
}

/** A title within a sentence: an abbreviation keeps its capitals. */
const sentenceTitle = (title: string): string =>
  /^[A-Z][a-z]/.test(title) ? title.charAt(0).toLowerCase() + title.slice(1) : title;

export const verdictWords = ({ word, upTo, because, turn }: Verdict): string =>
  word === 'go at most'
    ? `By calculation, go at most ${upTo ?? ''}, ${because}.`
    : `By calculation, ${word}, because: ${because}${turn === null ? '' : ` What would turn it: ${turn}`}`;
