import { uniforms } from '../../numeric/index.ts';
import type { Piece } from './bank.ts';

/**
 * Assigns pieces to groups in series so that the usable voltage of the bank is as high as can be:
 * U = min over groups of (rating · C) · Σ 1/C, where a group's C is the sum of its pieces and its rating their lowest.
 *
 * Groups are arrays of indices into the pieces. All functions here are deterministic; chance comes from a seed.
 */
export type Groups = readonly (readonly number[])[];

/** Usable voltage of groups, V, without making anything else of them. */
export function usable(pieces: readonly Piece[], groups: Groups): number {
  let inverse = 0;
  let least = Infinity;
  for (const group of groups) {
    let c = 0;
    let rating = Infinity;
    for (const i of group) {
      const piece = pieces[i];
      if (!piece) continue;
      c += piece.capacitance;
      if (piece.rating < rating) rating = piece.rating;
    }
    inverse += 1 / c;
    if (rating * c < least) least = rating * c;
  }
  return least * inverse;
}

/** Numbers from 0 to 1, the same for the same seed. */
export const chance = (seed: number): (() => number) => uniforms(seed ^ 0x9e3779b9);

/** The `count` pieces to use, as indices: those of the highest rating times capacitance. */
export const strongest = (pieces: readonly Piece[], count: number): number[] =>
  pieces
    .map((_, i) => i)
    .sort((a, b) => strength(pieces, b) - strength(pieces, a) || a - b)
    .slice(0, count);

const strength = (pieces: readonly Piece[], i: number): number => (pieces[i]?.capacitance ?? 0) * (pieces[i]?.rating ?? 0);

/** Sorted by capacitance and dealt out to and fro: 1 2 3 3 2 1 1 2 3. */
export function snake(pieces: readonly Piece[], indices: readonly number[], groupCount: number): number[][] {
  const sorted = indices.slice().sort((a, b) => (pieces[b]?.capacitance ?? 0) - (pieces[a]?.capacitance ?? 0) || a - b);
  const groups: number[][] = Array.from({ length: groupCount }, () => []);
  sorted.forEach((index, i) => {
    const [round, place] = [Math.floor(i / groupCount), i % groupCount];
    groups[round % 2 === 0 ? place : groupCount - 1 - place]?.push(index);
  });
  return groups;
}

/** Dealt out in a random order. */
export function shuffled(indices: readonly number[], groupCount: number, random: () => number): number[][] {
  const order = indices.slice();
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [order[i], order[j]] = [order[j] ?? 0, order[i] ?? 0];
  }
  const groups: number[][] = Array.from({ length: groupCount }, () => []);
  order.forEach((index, i) => groups[i % groupCount]?.push(index));
  return groups;
}

/** The best of `tries` random assignments. */
export function bestOfRandom(
  pieces: readonly Piece[],
  indices: readonly number[],
  groupCount: number,
  tries: number,
  random: () => number,
): number[][] {
  let best = shuffled(indices, groupCount, random);
  let value = usable(pieces, best);
  for (let i = 1; i < tries; i++) {
    const next = shuffled(indices, groupCount, random);
    const u = usable(pieces, next);
    if (u > value) [best, value] = [next, u];
  }
  return best;
}

interface Score {
  readonly value: number;
  /** Spread of rating · C between the groups, which tells banks of one usable voltage apart; the less the better. */
  readonly uneven: number;
}

/** A spread that is less than this below another is the rounding of even groups: taken for better, it would be swapped to and fro for ever. */
const evenAt = 1e-12;

const better = (a: Score, b: Score): boolean =>
  a.value > b.value * (1 + 1e-12) || (a.value > b.value * (1 - 1e-12) && a.uneven < b.uneven * (1 - 1e-9) - evenAt);

/** Score from each group's capacitance and lowest rating. */
function scoreOf(capacitances: Float64Array, ratings: Float64Array): Score {
  const n = capacitances.length;
  let [inverse, least, total, squares] = [0, Infinity, 0, 0];
  for (let g = 0; g < n; g++) {
    const c = capacitances[g] ?? 0;
    const strength = c * (ratings[g] ?? 0);
    inverse += 1 / c;
    if (strength < least) least = strength;
    total += strength;
    squares += strength * strength;
  }
  return { value: least * inverse, uneven: (squares * n) / (total * total) - 1 };
}

/** Capacitance and lowest rating of a group, written into place `g`. */
function weigh(
  pieces: readonly Piece[],
  group: readonly number[],
  capacitances: Float64Array,
  ratings: Float64Array,
  g: number,
): void {
  let [c, rating] = [0, Infinity];
  for (const i of group) {
    const piece = pieces[i];
    if (!piece) continue;
    c += piece.capacitance;
    if (piece.rating < rating) rating = piece.rating;
  }
  capacitances[g] = c;
  ratings[g] = rating;
}

/**
 * Swaps pieces between two groups, or with spares, while that makes the bank better.
 *
 * @param spares indices that stand in no group; changed in place as pieces are swapped in
 */
export function improve(pieces: readonly Piece[], start: Groups, spares: number[]): number[][] {
  const groups = start.map((group) => group.slice());
  const capacitances = new Float64Array(groups.length);
  const ratings = new Float64Array(groups.length);
  const weighAt = (g: number) => {
    const group = groups[g];
    if (group) weigh(pieces, group, capacitances, ratings, g);
  };
  for (let g = 0; g < groups.length; g++) weighAt(g);
  let score = scoreOf(capacitances, ratings);
  const tried = (a: number[], i: number, g: number, b: number[], j: number, h: number): boolean => {
    [a[i], b[j]] = [b[j] ?? 0, a[i] ?? 0];
    weighAt(g);
    if (h >= 0) weighAt(h);
    const next = scoreOf(capacitances, ratings);
    if (better(next, score)) {
      score = next;
      return true;
    }
    [a[i], b[j]] = [b[j] ?? 0, a[i] ?? 0];
    weighAt(g);
    if (h >= 0) weighAt(h);
    return false;
  };
  for (let again = true; again;) {
    again = false;
    for (const [g, a] of groups.entries())
      for (let h = g + 1; h <= groups.length; h++) {
        const b = h < groups.length ? (groups[h] ?? []) : spares;
        const place = h < groups.length ? h : -1;
        for (let i = 0; i < a.length; i++) for (let j = 0; j < b.length; j++) if (tried(a, i, g, b, j, place)) again = true;
      }
  }
  return groups;
}

/** How many ways there are to part `n` pieces into `g` groups of `n / g`. */
export function waysOf(n: number, g: number): number {
  const size = n / g;
  let ways = 1;
  for (let left = n; left > size; left -= size) for (let i = 1; i < size; i++) ways = (ways * (left - i)) / i;
  return ways;
}

/** How many ways there are to choose `k` of `n`. */
export function choicesOf(n: number, k: number): number {
  let ways = 1;
  for (let i = 1; i <= k; i++) ways = (ways * (n - k + i)) / i;
  return ways;
}

/** Every choice of `groupCount · size` pieces and every way to part them into equal groups, the best kept. For few pieces only. */
export function exhaustive(pieces: readonly Piece[], groupCount: number, size: number): number[][] {
  const groups: number[][] = Array.from({ length: groupCount }, () => []);
  const capacitances = new Float64Array(groupCount);
  const ratings = new Float64Array(groupCount);
  let best: number[][] = [];
  let score: Score = { value: -Infinity, uneven: Infinity };
  let spare = pieces.length - groupCount * size;
  const place = (index: number): void => {
    if (index === pieces.length) {
      groups.forEach((group, g) => weigh(pieces, group, capacitances, ratings, g));
      const next = scoreOf(capacitances, ratings);
      if (better(next, score)) [best, score] = [groups.map((g) => g.slice()), next];
      return;
    }
    if (spare > 0) {
      spare -= 1;
      place(index + 1);
      spare += 1;
    }
    for (const group of groups) {
      if (group.length >= size) continue;
      group.push(index);
      place(index + 1);
      group.pop();
      // Empty groups are alike: a piece need be tried in the first of them only.
      if (group.length === 0) return;
    }
  };
  place(0);
  return best;
}
