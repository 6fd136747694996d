import { uniforms } from './random.ts';

/** What may be varied: between two bounds, in whole steps or not. */
export interface Variable {
  readonly low: number;
  readonly high: number;
  readonly whole?: boolean;
}

export interface Search {
  readonly variables: readonly Variable[];
  readonly seed: number;
  /** Points that may be asked for in all. */
  readonly evaluations: number;
  /** A point to begin with, as what is there already. */
  readonly from?: readonly number[];
}

export interface Found {
  readonly point: readonly number[];
  readonly score: number;
  /** Points that were asked for. */
  readonly evaluations: number;
}

/** Points that are asked for at a time: enough for several workers, few enough to learn from. */
const populationSize = 24;
/** Share of the points for the global search; the rest go to the local one. */
const globalShare = 0.7;

const settle = ({ low, high, whole }: Variable, x: number): number => {
  const within = Math.min(high, Math.max(low, x));
  return whole ? Math.min(Math.floor(high), Math.max(Math.ceil(low), Math.round(within))) : within;
};

/**
 * The point with the greatest score: differential evolution over all that is allowed, then a pattern search about the best.
 * Storn and Price, Differential evolution, Journal of Global Optimization 11 (1997); Hooke and Jeeves, Journal of the ACM 8 (1961).
 * Points are asked for by the population, so that the answer does not depend on how many workers share them.
 *
 * @param score scores of points in their order, greater is better; −Infinity where there is none
 * @param onProgress after each population: the share of the evaluations that is done, and the best so far
 * @throws Error where there is no variable, or one whose bounds are not in order
 */
export async function optimise(
  { variables, seed, evaluations, from }: Search,
  score: (points: readonly (readonly number[])[]) => Promise<readonly number[]>,
  onProgress: (share: number, best: Found) => void = () => undefined,
): Promise<Found> {
  if (variables.length === 0) throw new Error('there is nothing to vary');
  if (variables.some(({ low, high }) => !(high >= low))) throw new Error('the bounds of a variable are not in order');
  const next = uniforms(seed);
  const n = variables.length;
  const at = (k: number) => variables[k] as Variable;
  let asked = 0;
  let best: { point: readonly number[]; score: number } = { point: variables.map((v) => settle(v, v.low)), score: -Infinity };
  const ask = async (points: readonly (readonly number[])[]): Promise<readonly number[]> => {
    const scores = await score(points);
    asked += points.length;
    scores.forEach((value, k) => {
      if (value > best.score) best = { point: points[k] as readonly number[], score: value };
    });
    onProgress(Math.min(1, asked / evaluations), { ...best, evaluations: asked });
    return scores;
  };

  // Spread evenly over each variable by itself: a Latin square.
  const size = Math.max(4, Math.min(populationSize, evaluations));
  const rank = variables.map(() => {
    const order = Array.from({ length: size }, (_, i) => i);
    for (let i = size - 1; i > 0; i--) {
      const j = Math.floor(next() * (i + 1));
      [order[i], order[j]] = [order[j] as number, order[i] as number];
    }
    return order;
  });
  let people: (readonly number[])[] = Array.from({ length: size }, (_, i) =>
    variables.map((v, k) => settle(v, v.low + ((v.high - v.low) * ((rank[k]?.[i] ?? 0) + next())) / size)),
  );
  if (from) people[0] = variables.map((v, k) => settle(v, from[k] ?? v.low));
  let scores = await ask(people);

  while (asked + size <= globalShare * evaluations) {
    const leader = scores.reduce((lead, value, i) => (value > (scores[lead] as number) ? i : lead), 0);
    const trials = people.map((self, i) => {
      const other = (): readonly number[] => people[Math.floor(next() * size)] as readonly number[];
      const [a, b] = [other(), other()];
      // Drawn towards the best, by a weight that changes from one to the next.
      const weight = 0.4 + 0.5 * next();
      const sure = Math.floor(next() * n);
      return self.map((x, k) => {
        if (k !== sure && next() > 0.85) return x;
        const towards = (people[leader]?.[k] ?? x) - x;
        const moved = x + (i % 3 === 0 ? 0 : weight * towards) + weight * ((a[k] ?? x) - (b[k] ?? x));
        // Out of bounds: somewhere between where it was and the bound.
        const { low, high } = at(k);
        return settle(at(k), moved < low ? x - next() * (x - low) : moved > high ? x + next() * (high - x) : moved);
      });
    });
    const tried = await ask(trials);
    people = people.map((self, i) => ((tried[i] as number) >= (scores[i] as number) ? (trials[i] as readonly number[]) : self));
    scores = scores.map((old, i) => Math.max(old, tried[i] as number));
  }

  // One variable at a time, both ways, and the step that helped last once more; half as far where none of it helps.
  let reach = 0.1;
  while (asked < evaluations && reach > 1e-4) {
    const centre = best;
    const trials = variables
      .flatMap((v, k) =>
        [1, -1].map((way) => {
          const step = v.whole ? Math.max(1, Math.round(reach * (v.high - v.low))) : reach * (v.high - v.low);
          return centre.point.map((x, j) => (j === k ? settle(v, x + way * step) : x));
        }),
      )
      .filter((point) => point.some((x, k) => x !== centre.point[k]))
      .slice(0, Math.max(1, evaluations - asked));
    if (trials.length === 0) break;
    const tried = await ask(trials);
    const gains = trials.flatMap((point, i) =>
      (tried[i] as number) > centre.score ? [{ point, score: tried[i] as number }] : [],
    );
    if (gains.length > 1 && asked < evaluations) {
      // All that helped by itself, together.
      const together = centre.point.map((x, k) => gains.map(({ point }) => point[k] as number).find((y) => y !== x) ?? x);
      await ask([together]);
    }
    if (best.score <= centre.score) reach /= 2;
  }
  return { ...best, evaluations: asked };
}
