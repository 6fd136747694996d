import { blockIn, endsAt, spotsOf, withTrialValue, type Rig } from '../../rig/index.ts';

export interface Range {
  readonly low: number;
  readonly high: number;
}

/** Fields of a rig that are known to a tolerance, with its ends, SI. */
const uncertain = (rig: Rig) =>
  spotsOf(rig).flatMap((spot) =>
    Object.keys(blockIn(rig, spot).fields).flatMap((id) => {
      const path = `${spot}.${id}`;
      const ends = endsAt(rig, path);
      return ends ? [{ path, ...ends }] : [];
    }),
  );

/**
 * From what to what a number goes that is no figure of a rig: each field is moved alone to both ends of its tolerance, then all of them
 * together as they lower it and as they raise it. Exact where the number falls or rises with every field, as bands of figures are.
 *
 * @param at the number of a rig, with the error of its own model; NaN where there is none
 * @returns NaN at both ends where some corner has no number
 */
export function rangeOver(rig: Rig, at: (rig: Rig) => Range): Range {
  const middle = ({ low, high }: Range): number => (low + high) / 2;
  const ends: Range[] = [at(rig)];
  let [down, up] = [rig, rig];
  for (const { path, low, high } of uncertain(rig)) {
    const [less, more] = [low, high].map((value) => at(withTrialValue(rig, path, value))) as [Range, Range];
    ends.push(less, more);
    const isRising = middle(more) >= middle(less);
    down = withTrialValue(down, path, isRising ? low : high);
    up = withTrialValue(up, path, isRising ? high : low);
  }
  ends.push(at(down), at(up));
  // What is no number at one of them is none at all: Math.min hands that on.
  return { low: Math.min(...ends.map(({ low }) => low)), high: Math.max(...ends.map(({ high }) => high)) };
}
