import { dot } from '../numeric/index.ts';
import { codedIn, factorsOf, inverseOf, same, settingsOf, termsOf, type Answer, type End } from './answer.ts';

/**
 * Where one more shot teaches the most: after it the curve is known best on the mean over all settings (designs that are optimal for the mean
 * variance; Atkinson, Donev and Tobias, Optimum Experimental Designs; from memory). Of a linear model that depends on where was fired and
 * not on what was read; what was read decides where the curve has to be known, for a campaign that seeks its highest or lowest point.
 */

type Levels = readonly number[];

/** Parts of a shot that are taken for known of each term before any was fired: next to nothing, so that the first points have an order. */
const known = 1e-3;

/** The share that every setting counts with, however unlikely it is what is sought: what is thought unlikely may be wrong. */
const leastShare = 0.05;

const nearest = (candidates: readonly Levels[], coded: (levels: Levels) => number[], to: Levels): number => {
  const away = candidates.map((levels) => coded(levels).reduce((sum, x, i) => sum + (x - (to[i] ?? 0)) ** 2, 0));
  return away.indexOf(Math.min(...away));
};

/** Settings that come first, each once: every corner and the middle. Without them no curve is known. */
function opening(candidates: readonly Levels[]): number[] {
  const factors = factorsOf(candidates);
  const coded = codedIn(factors);
  const corners = factors.reduce<number[][]>(
    (points, { low, high }) =>
      points.flatMap((point) =>
        low === high
          ? [[...point, 0]]
          : [
              [...point, -1],
              [...point, 1],
            ],
      ),
    [[]],
  );
  return [...new Set([...corners, factors.map(() => 0)].map((to) => nearest(candidates, coded, to)))];
}

/**
 * The setting of which one more shot teaches the most.
 *
 * @param fired levels of the shots so far
 * @param candidates settings that may be fired
 * @param how `shares`: how much each candidate is asked about, adding up to one, where they are not all alike; `first`: whether every
 *   candidate has to be fired once before any is chosen, or the corners and the middle alone
 * @returns index into candidates; null where nothing is to be chosen
 */
export function nextBest(
  fired: readonly Levels[],
  candidates: readonly Levels[],
  how: { readonly shares?: readonly number[]; readonly first?: 'every' | 'opening' } = {},
): number | null {
  if (settingsOf(candidates).length < 2) return null;
  const first = how.first === 'opening' ? opening(candidates) : candidates.map((_, i) => i);
  const without = first.find((i) => !fired.some((other) => same(candidates[i] ?? [], other)));
  if (without !== undefined) return without;
  const coded = codedIn(factorsOf(candidates));
  const terms = termsOf(factorsOf(candidates), true);
  const rows = fired.map((levels) => terms(coded(levels)));
  const all = candidates.map((levels) => terms(coded(levels)));
  const shares = how.shares ?? candidates.map(() => 1 / candidates.length);
  const variance = (more: readonly number[]): number => {
    const inverse = inverseOf([...rows, more], known);
    if (!inverse) return Infinity;
    return all.reduce(
      (sum, row, i) =>
        sum +
        (shares[i] ?? 0) *
          dot(
            inverse.map((one) => dot(one, row)),
            row,
          ),
      0,
    );
  };
  const found = all.map(variance);
  const least = Math.min(...found);
  return Number.isFinite(least) ? found.findIndex((v) => v <= least * (1 + 1e-9)) : null;
}

/** How much a campaign asks about each of its settings: alike for the curve, by how likely each is the highest or lowest one. */
export function sharesOf(answer: Answer | null, candidates: readonly Levels[], seeks: 'curve' | End): number[] {
  const even = candidates.map(() => 1 / candidates.length);
  if (!answer || seeks === 'curve') return even;
  const chances = answer.chances(seeks, candidates);
  return even.map((share, i) => leastShare * share + (1 - leastShare) * (chances[i] ?? 0));
}

/** So many shots, each where it teaches the most after those before it, with nothing read yet. @returns indices into candidates */
export function bestSequence(candidates: readonly Levels[], shots: number): number[] {
  const row: number[] = [];
  for (let n = 0; n < shots; n++)
    row.push(
      nextBest(
        row.map((i) => candidates[i] ?? []),
        candidates,
        { first: 'opening' },
      ) ?? 0,
    );
  return row;
}
