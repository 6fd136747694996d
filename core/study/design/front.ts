/** What designs are compared by. */
export interface Merits {
  /** What has to be bought, in the currency of the prices. */
  readonly cost: number;
  /** J stored. */
  readonly energy: number;
  /** Room of the tightest limit: rating over stress, less one, at the worst corner. */
  readonly margin: number;
  /** kg */
  readonly mass: number;
}

export type Merit = keyof Merits;
export const merits: readonly Merit[] = ['cost', 'energy', 'margin', 'mass'];

/** Less than this apart, as a ratio, two are alike. */
const alike = 1e-3;

/** By how much one is better than another in one thing: below nought where it is worse, nought where they are alike. */
function better(a: Merits, b: Merits, of: Merit, wantsEnergy: boolean): number {
  const [x, y] = [a[of], b[of]];
  const size = Math.max(Math.abs(x), Math.abs(y), 1e-9);
  if (Math.abs(x - y) <= alike * size) return 0;
  return of === 'margin' || (of === 'energy' && wantsEnergy) ? x - y : y - x;
}

/** In what one is better than another, and not worse in anything; null where it is not better in all. */
export function beats(a: Merits, b: Merits, wantsEnergy: boolean): readonly Merit[] | null {
  const signs = merits.map((of) => better(a, b, of, wantsEnergy));
  return signs.some((sign) => sign < 0) || signs.every((sign) => sign === 0)
    ? null
    : merits.filter((_, k) => (signs[k] ?? 0) > 0);
}

export interface Ranked<T> {
  readonly one: T;
  /** The place in the list of what beats it, and in what; null where nothing does. */
  readonly beaten: { readonly by: number; readonly in: readonly Merit[] } | null;
}

/**
 * Those that nothing beats, cheapest first, then all others, each with the first that beats it.
 *
 * @param all what is compared; of two that are alike in everything the first stays
 */
export function ranked<T extends { readonly merits: Merits }>(all: readonly T[], wantsEnergy: boolean): Ranked<T>[] {
  const byCost = (a: T, b: T) =>
    (wantsEnergy ? b.merits.energy - a.merits.energy : 0) || a.merits.cost - b.merits.cost || a.merits.mass - b.merits.mass;
  const isTwin = (one: T, k: number) =>
    all.slice(0, k).some((other) => merits.every((of) => better(one.merits, other.merits, of, wantsEnergy) === 0));
  const unlike = all.filter((one, k) => !isTwin(one, k));
  const front = unlike.filter((one) => !unlike.some((other) => beats(other.merits, one.merits, wantsEnergy))).sort(byCost);
  const rest = unlike.filter((one) => !front.includes(one)).sort(byCost);
  const beatenBy = (one: T): Ranked<T>['beaten'] => {
    for (const [by, other] of front.entries()) {
      const found = beats(other.merits, one.merits, wantsEnergy);
      if (found) return { by, in: found };
    }
    return null;
  };
  return [...front.map((one) => ({ one, beaten: null })), ...rest.map((one) => ({ one, beaten: beatenBy(one) }))];
}
