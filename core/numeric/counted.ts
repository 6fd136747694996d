/** One word stirred into another, each bit reaching every other. The finaliser is that of MurmurHash3, which is in the public domain. */
function stirred(a: number, b: number): number {
  let x = Math.imul(a ^ (b >>> 0), 0x9e3779b1) ^ (b >>> 0);
  x = Math.imul(x ^ (x >>> 16), 0x85ebca6b);
  x = Math.imul(x ^ (x >>> 13), 0xc2b2ae35);
  return (x ^ (x >>> 16)) >>> 0;
}

/**
 * A number from 0 to below 1 that follows from its place alone: so that a sample can be drawn anywhere, in any order, and again.
 *
 * @param seed whole @param index of the sample, whole from 0 to 2^32 − 1 @param dimension whole, from 0
 */
export function uniformAt(seed: number, index: number, dimension: number): number {
  const at = stirred(stirred(stirred(seed, 0x243f6a88), index), dimension);
  const high = stirred(at, 0x13198a2e);
  const low = stirred(at ^ 0xa4093822, high);
  // 53 bits, as many as a number has.
  return ((high >>> 5) * 2 ** 26 + (low >>> 6)) / 2 ** 53;
}

/** A normal number by its place, of mean 0 and deviation 1. Source: Box and Muller, Ann. Math. Stat. 29 (1958). */
export function normalAt(seed: number, index: number, dimension: number): number {
  const [u, v] = [uniformAt(seed, index, 2 * dimension), uniformAt(seed, index, 2 * dimension + 1)];
  return Math.sqrt(-2 * Math.log(1 - u)) * Math.cos(2 * Math.PI * v);
}
