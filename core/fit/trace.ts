/** A measured curve: t in s, y in the SI unit. */
export interface Measured {
  readonly t: Float64Array;
  readonly y: Float64Array;
}

/** The part of a trace between two times, s. */
export function between({ t, y }: Measured, from: number, to: number): Measured {
  let [a, b] = [0, t.length];
  while (a < b && (t[a] ?? 0) < from) a++;
  while (b > a && (t[b - 1] ?? 0) > to) b--;
  return { t: t.subarray(a, b), y: y.subarray(a, b) };
}

/** Means of neighbours, so that at most so many points are left: noise falls as it should, and nothing is folded down. */
export function averaged({ t, y }: Measured, most = 4000): Measured {
  const n = Math.ceil(t.length / most);
  if (n <= 1) return { t, y };
  const length = Math.floor(t.length / n);
  const mean = (a: Float64Array, i: number) => {
    let sum = 0;
    for (let k = i * n; k < (i + 1) * n; k++) sum += a[k] ?? 0;
    return sum / n;
  };
  return { t: Float64Array.from({ length }, (_, i) => mean(t, i)), y: Float64Array.from({ length }, (_, i) => mean(y, i)) };
}

/**
 * A trace thinned for drawing: of each stretch its least and its greatest point, so that no spike is lost.
 *
 * @param most how many points are left at the most
 */
export function envelope({ t, y }: Measured, most = 4000): Measured {
  if (t.length <= most) return { t, y };
  const stretches = Math.floor(most / 2);
  const keep: number[] = [];
  for (let s = 0; s < stretches; s++) {
    const [a, b] = [Math.floor((s * t.length) / stretches), Math.floor(((s + 1) * t.length) / stretches)];
    let [low, high] = [a, a];
    for (let i = a; i < b; i++) {
      if ((y[i] ?? 0) < (y[low] ?? 0)) low = i;
      if ((y[i] ?? 0) > (y[high] ?? 0)) high = i;
    }
    keep.push(Math.min(low, high));
    if (low !== high) keep.push(Math.max(low, high));
  }
  return { t: Float64Array.from(keep, (i) => t[i] ?? 0), y: Float64Array.from(keep, (i) => y[i] ?? 0) };
}

/** A trace without the stretches where it stands still at its greatest or least value: a scope that is at its stop. */
export function withoutClipping({ t, y }: Measured): { readonly trace: Measured; readonly clipped: number } {
  if (y.length === 0) return { trace: { t, y }, clipped: 0 };
  let [low, high] = [Infinity, -Infinity];
  for (const v of y) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const keep: number[] = [];
  for (let i = 0; i < y.length;) {
    const v = y[i] ?? 0;
    let j = i + 1;
    while (j < y.length && y[j] === v) j++;
    // Five equal samples at an extreme are no chance: the converter is at its end there. A trace at rest is no clipping.
    const isStop =
      (v === low || v === high) && high > low && j - i >= 5 && j - i < 0.9 * y.length && Math.abs(v) > 0.5 * Math.max(-low, high);
    if (!isStop) for (let k = i; k < j; k++) keep.push(k);
    i = j;
  }
  if (keep.length === y.length) return { trace: { t, y }, clipped: 0 };
  return {
    trace: { t: Float64Array.from(keep, (i) => t[i] ?? 0), y: Float64Array.from(keep, (i) => y[i] ?? 0) },
    clipped: y.length - keep.length,
  };
}
