import { inverse } from './coupled.ts';

/**
 * Singly diagonally implicit Runge-Kutta method of order 4 with five stages, L-stable and stiffly accurate, with an
 * embedded method of order 3. Source: Hairer and Wanner, Solving Ordinary Differential Equations II, section IV.6, from
 * memory; its order is shown by a test.
 */
export const gamma = 1 / 4;
export const abscissa = [1 / 4, 3 / 4, 11 / 20, 1 / 2, 1] as const;
/** Row by row, each filled up to the number of stages. */
export const weights = Float64Array.of(
  ...[0, 0, 0, 0, 0],
  ...[1 / 2, 0, 0, 0, 0],
  ...[17 / 50, -1 / 25, 0, 0, 0],
  ...[371 / 1360, -137 / 2720, 15 / 544, 0, 0],
  ...[25 / 24, -49 / 48, 125 / 16, -85 / 12, 0],
);
export const output = [25 / 24, -49 / 48, 125 / 16, -85 / 12, 1 / 4] as const;
export const errorWeights = [-3 / 16, -27 / 32, 25 / 32, 0, 1 / 4] as const;
export const stages = 5;

/** Matrix of the method, its diagonal included. */
const matrix = Float64Array.from(weights, (value, i) => (i % (stages + 1) === 0 ? gamma : value));
const applied = (x: readonly number[]): number[] =>
  x.map((_, i) => x.reduce((sum, value, r) => sum + (matrix[i * stages + r] as number) * value, 0));

/** Weights of the stages that give what a whole method gives at a share of the step, as polynomials of that share. */
function weightsWithin(last: readonly number[], rightHandSide: number): Float64Array {
  const c = [...abscissa];
  const rows = [c.map(() => 1), c, c.map((x) => x * x), applied(c), last];
  const solved = inverse(stages, Float64Array.from(rows.flat())) as Float64Array;
  // The conditions of order up to three, and one of the fourth, at the share s: s, s²/2, s³/3, s³/6, s⁴/…
  const polynomials = new Float64Array(stages * 4);
  for (let i = 0; i < stages; i++) {
    const at = (row: number) => solved[i * stages + row] as number;
    polynomials.set([at(0), at(1) / 2, at(2) / 3 + at(3) / 6, at(4) * rightHandSide], i * 4);
  }
  return polynomials;
}
/** Of order four where the circuit is linear; and another of order three: how far they lie apart says how good either is. */
const withinBest = weightsWithin(applied(applied([...abscissa])), 1 / 24);
const withinOther = weightsWithin(
  applied([...abscissa]).map((x, i) => x * (abscissa[i] as number)),
  1 / 8,
);
const fromStates = inverse(stages, matrix) as Float64Array;
/** The same as weights of the states at the stages: row by row four coefficients. */
export const statesWithin = Float64Array.from({ length: stages * 4 }, (_, at) => {
  let sum = 0;
  for (let r = 0; r < stages; r++)
    sum += (withinBest[r * 4 + (at & 3)] as number) * (fromStates[r * stages + (at >> 2)] as number);
  return sum;
});

const fill = (polynomials: Float64Array, share: number, into: Float64Array): void => {
  for (let i = 0; i < stages; i++) {
    const at = i * 4;
    const [p, q] = [polynomials[at] as number, polynomials[at + 1] as number];
    const [r, s] = [polynomials[at + 2] as number, polynomials[at + 3] as number];
    into[i] = share * (p + share * (q + share * (r + share * s)));
  }
};

/** What a step comes to at a share of it, without another step: weights of the slopes and of the states at its stages. */
export interface Within {
  share: number;
  /** y = y0 + h·Σ slopes·K */
  readonly slopes: Float64Array;
  /** y = y0 + Σ states·(Y − y0), and so for all that depends on the states linearly */
  readonly states: Float64Array;
  /** Difference of the slopes to those of another formula */
  readonly doubt: Float64Array;
}

export const within = (): Within => ({
  share: NaN,
  slopes: new Float64Array(stages),
  states: new Float64Array(stages),
  doubt: new Float64Array(stages),
});

/** Sets the weights for a share of the step, 0 to 1. */
export function setWithin(to: Within, share: number): Within {
  if (to.share === share) return to;
  to.share = share;
  fill(withinBest, share, to.slopes);
  fill(withinOther, share, to.doubt);
  for (let i = 0; i < stages; i++) to.doubt[i] = (to.doubt[i] as number) - (to.slopes[i] as number);
  fill(statesWithin, share, to.states);
  return to;
}

/** An ideal source that has no node on earth is given this, Ω. */
export const idealResistance = 1e-6;
