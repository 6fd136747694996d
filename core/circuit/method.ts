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

/** An ideal source that has no node on earth is given this, Ω. */
export const idealResistance = 1e-6;
/** A seeded source of normal numbers. */
export function normals(seed: number): () => number {
  let s = seed >>> 0 || 1;
  const uniform = () => {
    s = (s + 0x6d2b79f5) >>> 0;
    let x = Math.imul(s ^ (s >>> 15), s | 1);
    x ^= x + Math.imul(x ^ (x >>> 7), x | 61);
    return ((x ^ (x >>> 14)) >>> 0) / 2 ** 32;
  };
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform());
}
