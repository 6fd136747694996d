import type { Goal } from './scatter.ts';
import type { SweepPoint } from './sweep.ts';

/** What became of the points of a sweep when something was wanted of them. */
export interface Chosen {
  /** Points that meet every goal with all limits within rating, worst case; the one with most to spare first. Where none is rated, as they come. */
  readonly met: readonly SweepPoint[];
  /** How many fell by what, each counted once by the first that it failed: goals in their order, then the tightest limit. */
  readonly lost: readonly { readonly by: string; readonly count: number }[];
  readonly total: number;
}

const meets = (value: number, { from, to }: Goal): boolean =>
  Number.isFinite(value) && (from === null || value >= from) && (to === null || value <= to);

/**
 * The points that meet what is wanted.
 *
 * @param goals by the place of the output; null where nothing is wanted of it
 * @param atWorst whether a goal has to hold over the tolerances as well, and not only nominally
 */
export function pointsThatMeet(
  points: readonly SweepPoint[],
  outputs: readonly string[],
  goals: readonly (Goal | null)[],
  atWorst: boolean,
): Chosen {
  const lost = new Map<string, number>();
  const met = points.filter(({ outputs: read, tightest, over }) => {
    const failed = goals.findIndex((goal, k) => {
      const at = read[k];
      if (!goal) return false;
      return !at || !(atWorst ? [at.low, at.value, at.high] : [at.value]).every((value) => meets(value, goal));
    });
    const by = failed >= 0 ? outputs[failed] : over.length > 0 ? tightest?.id : undefined;
    if (by === undefined) return true;
    lost.set(by, (lost.get(by) ?? 0) + 1);
    return false;
  });
  const use = ({ tightest }: SweepPoint) => tightest?.use ?? 0;
  return {
    met: [...met].sort((a, b) => use(a) - use(b)),
    lost: [...lost].map(([by, count]) => ({ by, count })).sort((a, b) => b.count - a.count),
    total: points.length,
  };
}
