import { root } from './root.ts';

/** Chance of at most k of n where each comes with p. */
function atMost(k: number, n: number, p: number): number {
  if (p <= 0) return 1;
  if (p >= 1) return k >= n ? 1 : 0;
  // Term by term from none on, in logarithms: n may be hundreds.
  let log = n * Math.log1p(-p);
  let sum = Math.exp(log);
  for (let i = 1; i <= k; i++) {
    log += Math.log((n - i + 1) / i) + Math.log(p / (1 - p));
    sum += Math.exp(log);
  }
  return Math.min(1, sum);
}

/**
 * The exact interval of a share that was seen k times of n. Source: Clopper and Pearson, Biometrika 26 (1934).
 *
 * @param k whole, 0 to n
 * @param n whole, 1 or more
 * @param share of cases that it holds, above 0 and below 1, at the least
 * @throws RangeError
 */
export function binomialInterval(k: number, n: number, share: number): { readonly low: number; readonly high: number } {
  if (!Number.isInteger(k) || !Number.isInteger(n) || n < 1 || k < 0 || k > n)
    throw new RangeError(`${k} of ${n} is no count of cases`);
  if (!(share > 0 && share < 1)) throw new RangeError('share must be above 0 and below 1');
  const tail = (1 - share) / 2;
  const low = k === 0 ? 0 : root((p) => 1 - atMost(k - 1, n, p) - tail, 0, 1, { within: 1e-12 });
  const high = k === n ? 1 : root((p) => atMost(k, n, p) - tail, 0, 1, { within: 1e-12 });
  return { low, high };
}
