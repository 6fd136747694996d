import { mean } from 'simple-statistics';
import {
  bestOfRandom,
  chance,
  choicesOf,
  exhaustive,
  improve,
  shuffled,
  snake,
  strongest,
  usable,
  waysOf,
  type Groups,
} from './assign.ts';
import { judge, type JudgedBank, type Piece } from './bank.ts';

/** What the bank is to do. SI units. */
export interface Target {
  /** Voltage the bank is to be charged to, V. */
  readonly voltage: number;
  /** Margin between that and what it may bear, as a fraction of the voltage. */
  readonly margin: number;
  /** Energy at that voltage, J; none asked for if null. */
  readonly energy: number | null;
}

/** An arrangement of groups in series and pieces in parallel that the pieces allow. */
export interface Arrangement {
  readonly ns: number;
  readonly np: number;
  /** Estimate before anything is assigned: all pieces as their mean. */
  readonly capacitance: number;
  readonly rating: number;
  readonly energy: number;
  readonly meets: boolean;
  readonly says: string;
}

export interface Composed {
  readonly bank: JudgedBank;
  readonly spares: readonly Piece[];
  /** Whether every assignment was tried; otherwise it is the best that was found. */
  readonly exact: boolean;
  /** Usable voltage of the two baselines, V: in a serpentine sort, and the best of a thousand at random. */
  readonly baselines: { readonly snake: number; readonly random: number };
  /** What uneven groups cost against even ones of the same ratings: V, and J at the same bank capacitance. */
  readonly cost: { readonly volts: number; readonly joules: number };
  /** The spare that would help most where it is put in parallel to the weakest group; null where none helps. */
  readonly help: { readonly spare: Piece; readonly group: number; readonly usableVoltage: number } | null;
}

export type ComposeIssue =
  | { readonly code: 'too_few'; readonly have: number; readonly need: number }
  | { readonly code: 'too_many'; readonly have: number; readonly most: number }
  | { readonly code: 'bad_piece'; readonly id: string; readonly field: string; readonly reason: string }
  | { readonly code: 'twice'; readonly id: string }
  | { readonly code: 'bad_target'; readonly field: string; readonly reason: string };

export class ComposeError extends Error {
  readonly issue: ComposeIssue;
  constructor(issue: ComposeIssue) {
    super(wordComposeIssue(issue));
    this.name = 'ComposeError';
    this.issue = issue;
  }
}

export function wordComposeIssue(issue: ComposeIssue): string {
  switch (issue.code) {
    case 'too_few':
      return `parts: there are ${issue.have}, and ${issue.need} are needed`;
    case 'too_many':
      return `parts: there are ${issue.have}, and at most ${issue.most} are composed at once`;
    case 'bad_piece':
      return `${issue.id}: ${issue.field} ${issue.reason}`;
    case 'twice':
      return `${issue.id}: this id is given twice; every part has one of its own`;
    case 'bad_target':
      return `${issue.field} ${issue.reason}`;
    default:
      return issue satisfies never;
  }
}

/** Up to so many assignments all of them are tried. */
const exactLimit = 20_000;
/** Far above any bench; the search grows with the square of the number. */
const mostPieces = 500;
const randomTries = 1000;
const restarts = 24;

/** @throws ComposeError naming the part or the target that cannot be taken */
function check(pieces: readonly Piece[], target: Target): void {
  if (pieces.length > mostPieces) throw new ComposeError({ code: 'too_many', have: pieces.length, most: mostPieces });
  const seen = new Set<string>();
  for (const { id, capacitance, uncertainty, rating } of pieces) {
    if (seen.has(id)) throw new ComposeError({ code: 'twice', id });
    seen.add(id);
    const bad = (field: string, reason: string) => new ComposeError({ code: 'bad_piece', id, field, reason });
    if (!(capacitance > 0 && capacitance <= 1e3)) throw bad('capacitance', 'must be above 0 F up to 1000 F');
    if (!(rating > 0 && rating <= 1e6)) throw bad('rating', 'must be above 0 V up to 1 MV');
    if (!(uncertainty >= 0 && uncertainty < 1)) throw bad('tolerance', 'must be from 0 % to below 100 %');
  }
  const wrong = (field: string, reason: string) => new ComposeError({ code: 'bad_target', field, reason });
  if (!(target.voltage > 0 && target.voltage <= 1e7)) throw wrong('voltage', 'must be above 0 V up to 10 MV');
  if (!(target.margin >= 0 && target.margin <= 10)) throw wrong('margin', 'must be from 0 % to 1000 %');
  if (target.energy !== null && !(target.energy > 0 && target.energy <= 1e12))
    throw wrong('energy', 'must be above 0 J up to 1 TJ');
}

/**
 * Arrangements that the pieces allow: those that meet the target first, then those that bear the voltage, each by the most
 * energy, then the others by what they bear.
 *
 * @throws ComposeError where a part or the target cannot be taken
 */
export function arrangements(pieces: readonly Piece[], target: Target): Arrangement[] {
  check(pieces, target);
  if (pieces.length === 0) throw new ComposeError({ code: 'too_few', have: 0, need: 1 });
  const lowest = Math.min(...pieces.map((p) => p.rating));
  const c = mean(pieces.map((p) => p.capacitance));
  const wanted = target.voltage * (1 + target.margin);
  const all = Array.from({ length: pieces.length }, (_, i) => i + 1).map((ns): Arrangement => {
    const np = Math.floor(pieces.length / ns);
    const capacitance = (c * np) / ns;
    const energy = 0.5 * capacitance * target.voltage ** 2;
    const [bears, enough] = [ns * lowest >= wanted, target.energy === null || energy >= target.energy];
    const says = !bears
      ? 'too few in series for the voltage and its margin'
      : !enough
        ? 'too little energy at that voltage'
        : 'meets the voltage with its margin' + (target.energy === null ? '' : ' and the energy');
    return { ns, np, capacitance, rating: ns * lowest, energy, meets: bears && enough, says };
  });
  const bears = (a: Arrangement) => a.rating >= wanted;
  return all.sort(
    (a, b) =>
      Number(b.meets) - Number(a.meets) ||
      Number(bears(b)) - Number(bears(a)) ||
      (bears(a) ? b.energy - a.energy : b.rating - a.rating),
  );
}

/**
 * The first arrangement whose assigned bank bears the voltage with its margin at the worst corner of the measurements and
 * holds the energy; where none does, of those that bear the voltage the one with the most energy, and where none bears it the
 * one that comes nearest to it.
 *
 * @throws ComposeError where a part or the target cannot be taken
 */
export function composeFor(
  pieces: readonly Piece[],
  target: Target,
  seed = 1,
): { arrangement: Arrangement; composed: Composed; meets: boolean } {
  const wanted = target.voltage * (1 + target.margin);
  let nearest: { arrangement: Arrangement; composed: Composed; bears: boolean; by: number } | null = null;
  // A few are enough: each further one has fewer in parallel or fewer in series than one that was tried.
  for (const arrangement of arrangements(pieces, target).slice(0, 8)) {
    const composed = compose(pieces, arrangement.ns, arrangement.np, seed);
    const energy = 0.5 * composed.bank.capacitance * target.voltage ** 2;
    const bears = composed.bank.worstUsableVoltage >= wanted;
    if (bears && (target.energy === null || energy >= target.energy)) return { arrangement, composed, meets: true };
    const score = bears ? { bears, by: energy } : { bears, by: composed.bank.worstUsableVoltage };
    if (!nearest || (score.bears && !nearest.bears) || (score.bears === nearest.bears && score.by > nearest.by))
      nearest = { arrangement, composed, ...score };
  }
  if (!nearest) throw new ComposeError({ code: 'too_few', have: 0, need: 1 });
  return { arrangement: nearest.arrangement, composed: nearest.composed, meets: false };
}

/** The spare whose place beside the weakest group raises the usable voltage most. */
function helpOf(pieces: readonly Piece[], groups: Groups, spares: readonly number[]): Composed['help'] {
  const now = usable(pieces, groups);
  let best: Composed['help'] = null;
  for (const spare of spares) {
    for (const [g, group] of groups.entries()) {
      const value = usable(
        pieces,
        groups.map((other, i) => (i === g ? [...group, spare] : other)),
      );
      const piece = pieces[spare];
      if (piece && value > (best?.usableVoltage ?? now) * (1 + 1e-9)) best = { spare: piece, group: g, usableVoltage: value };
    }
  }
  return best;
}

/**
 * Assigns pieces to `ns` groups of `np`, so that the bank may be charged as high as possible before a group exceeds its
 * rating. Up to some thousand assignments all are tried; beyond, swaps improve the two baselines and random starts, so
 * that the result is never below either baseline. The same seed gives the same result.
 *
 * @throws ComposeError where there are too few pieces or one cannot be taken
 */
export function compose(pieces: readonly Piece[], ns: number, np: number, seed = 1): Composed {
  check(pieces, { voltage: 1, margin: 0, energy: null });
  const need = ns * np;
  if (!Number.isInteger(ns) || ns < 1)
    throw new ComposeError({ code: 'bad_target', field: 'ns', reason: 'must be a whole number from 1' });
  if (!Number.isInteger(np) || np < 1)
    throw new ComposeError({ code: 'bad_target', field: 'np', reason: 'must be a whole number from 1' });
  if (pieces.length < need) throw new ComposeError({ code: 'too_few', have: pieces.length, need });
  const random = chance(seed);
  const used = strongest(pieces, need);
  const unused = pieces.map((_, i) => i).filter((i) => !used.includes(i));
  const bySnake = snake(pieces, used, ns);
  const byRandom = bestOfRandom(pieces, used, ns, randomTries, random);
  const exact = choicesOf(pieces.length, need) * waysOf(need, ns) <= exactLimit;
  let best: { groups: number[][]; spares: number[]; value: number } | null = null;
  const consider = (groups: number[][], spares: number[]) => {
    const value = usable(pieces, groups);
    if (!best || value > best.value) best = { groups, spares, value };
  };
  if (exact) {
    const groups = exhaustive(pieces, ns, np);
    const inGroup = new Set(groups.flat());
    consider(
      groups,
      pieces.map((_, i) => i).filter((i) => !inGroup.has(i)),
    );
  } else {
    const starts = [bySnake, byRandom, ...Array.from({ length: restarts }, () => shuffled(used, ns, random))];
    for (const start of starts) {
      const spares = unused.slice();
      consider(improve(pieces, start, spares), spares);
    }
  }
  // `best` is set by the first call of `consider`, which the type checker does not see.
  const { groups, spares } = best as unknown as { groups: number[][]; spares: number[] };
  const bank = judge(groups.map((group) => group.flatMap((i) => pieces[i] ?? [])));
  return {
    bank,
    spares: spares.flatMap((i) => pieces[i] ?? []),
    exact,
    baselines: { snake: usable(pieces, bySnake), random: usable(pieces, byRandom) },
    cost: {
      volts: bank.idealVoltage - bank.usableVoltage,
      joules: 0.5 * bank.capacitance * (bank.idealVoltage ** 2 - bank.usableVoltage ** 2),
    },
    help: helpOf(pieces, groups, spares),
  };
}
