/** The stretch in which a condition turns: it holds at `below` and no longer at `above`, or the other way about. */
export interface Edge {
  readonly below: number;
  readonly above: number;
  /** Between the two: halfway, on a logarithmic scale by ratio. */
  readonly middle: number;
}

export interface EdgeOptions {
  /** Width of the stretch at which it is narrow enough, as a share of its upper end. */
  readonly within?: number;
  readonly rounds?: number;
  /** Halved by ratio: of a quantity that spans decades. Both ends above nought. */
  readonly isRatio?: boolean;
}

/**
 * Where a condition turns, by halving.
 *
 * @param holds at `from`, and not at `to`; that is not asked
 * @returns a stretch no wider than asked, or as narrow as the rounds made it
 */
export function edge(holds: (x: number) => boolean, from: number, to: number, options: EdgeOptions = {}): Edge {
  const { within = 1e-15, rounds = 200, isRatio = false } = options;
  const halfway = isRatio ? (a: number, b: number) => Math.sqrt(a) * Math.sqrt(b) : (a: number, b: number) => (a + b) / 2;
  let [yes, no] = [from, to];
  for (let round = 0; round < rounds && Math.abs(no - yes) > within * Math.max(Math.abs(no), Math.abs(yes)); round++) {
    const middle = halfway(yes, no);
    if (middle === yes || middle === no) break;
    if (holds(middle)) yes = middle;
    else no = middle;
  }
  return { below: yes, above: no, middle: halfway(yes, no) };
}

export interface RootOptions {
  /** Width of the stretch at which it is narrow enough, as a share of its upper end; `least` as it stands. */
  readonly within?: number;
  readonly least?: number;
  /** A value of the function that counts as nought. */
  readonly nought?: number;
  readonly rounds?: number;
}

/**
 * Where a function passes nought between two ends at which it has unlike signs: by false position, the value of an end that stays
 * halved (the Illinois method: Dowell and Jarratt, BIT 11, 1971), so that both ends come nearer.
 *
 * @returns the root; NaN where both ends have the same sign
 */
export function root(f: (x: number) => number, from: number, to: number, options: RootOptions = {}): number {
  const { within = 1e-15, least = 0, nought = 0, rounds = 100 } = options;
  let [a, b, fa, fb] = [from, to, f(from), f(to)];
  if (Math.abs(fa) <= nought) return a;
  if (Math.abs(fb) <= nought) return b;
  if (fa > 0 === fb > 0) return NaN;
  let stays = 0;
  for (let round = 0; round < rounds && Math.abs(b - a) > Math.max(least, within * Math.max(Math.abs(a), Math.abs(b))); round++) {
    const straight = (fb * a - fa * b) / (fb - fa);
    const x = straight > Math.min(a, b) && straight < Math.max(a, b) ? straight : (a + b) / 2;
    const fx = f(x);
    if (Math.abs(fx) <= nought || x === a || x === b) return x;
    if (fx > 0 === fa > 0) {
      [a, fa] = [x, fx];
      if (stays === -1) fb /= 2;
      stays = -1;
    } else {
      [b, fb] = [x, fx];
      if (stays === 1) fa /= 2;
      stays = 1;
    }
  }
  return stays === 1 ? b : a;
}

/**
 * Where a function that falls and then rises is least, by the golden section (Kiefer, 1953).
 *
 * @param within width of the stretch at which it is narrow enough, as a share of its upper end
 */
export function minimum(f: (x: number) => number, from: number, to: number, within = 1e-12, rounds = 90): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [from, to];
  let [x1, x2] = [b - golden * (b - a), a + golden * (b - a)];
  let [f1, f2] = [f(x1), f(x2)];
  for (let round = 0; round < rounds && b - a > within * Math.abs(b); round++) {
    if (f1 < f2) {
      [b, x2, f2] = [x2, x1, f1];
      x1 = b - golden * (b - a);
      f1 = f(x1);
    } else {
      [a, x1, f1] = [x1, x2, f2];
      x2 = a + golden * (b - a);
      f2 = f(x2);
    }
  }
  return (a + b) / 2;
}
