/** A quantity over time, point by point; at an instant at which it jumps there are two points. */
export interface Trace {
  /** s */
  readonly t: Float64Array;
  readonly y: Float64Array;
}

/** Grows as a run goes on, without keeping the points in objects. */
export class Recorder {
  private t = new Float64Array(256);
  private y: Float64Array[] = [];
  length = 0;

  /** Adds a point in time; `set` gives it its values. */
  add(t: number): void {
    if (this.length === this.t.length) {
      const twice = (from: Float64Array) => {
        const to = new Float64Array(from.length * 2);
        to.set(from);
        return to;
      };
      this.t = twice(this.t);
      this.y = this.y.map(twice);
    }
    this.t[this.length] = t;
    this.length += 1;
  }

  /** The value of trace `i`, numbered from 0 in their order, at the point added last. */
  set(i: number, value: number): void {
    const y = (this.y[i] ??= new Float64Array(this.t.length));
    y[this.length - 1] = value;
  }

  traces(): Trace[] {
    const t = this.t.slice(0, this.length);
    return this.y.map((y) => ({ t, y: y.slice(0, this.length) }));
  }
}

/**
 * A trace with at most about `most` points, that still has every extreme: of each stretch of time its first, least, greatest
 * and last point.
 */
export function decimated({ t, y }: Trace, most: number): Trace {
  if (t.length <= most) return { t, y };
  const [first, last] = [t[0] ?? 0, t.at(-1) ?? 0];
  const stretches = Math.max(1, Math.floor(most / 4));
  const keep: number[] = [];
  let i = 0;
  for (let s = 0; s < stretches && i < t.length; s++) {
    const end = s === stretches - 1 ? Infinity : first + ((last - first) * (s + 1)) / stretches;
    const from = i;
    let [least, greatest] = [i, i];
    while (i < t.length && (t[i] as number) <= end) {
      if ((y[i] as number) < (y[least] as number)) least = i;
      if ((y[i] as number) > (y[greatest] as number)) greatest = i;
      i += 1;
    }
    if (i > from) keep.push(...new Set([from, least, greatest, i - 1].sort((p, q) => p - q)));
  }
  return { t: Float64Array.from(keep.map((k) => t[k] as number)), y: Float64Array.from(keep.map((k) => y[k] as number)) };
}

/** The points of a trace in a stretch of time, and one on either side of it. */
export function stretchOf({ t, y }: Trace, from: number, to: number): Trace {
  let [first, end] = [0, t.length];
  while (first + 1 < t.length && (t[first + 1] as number) < from) first += 1;
  while (end > first + 2 && (t[end - 2] as number) > to) end -= 1;
  return { t: t.slice(first, end), y: y.slice(first, end) };
}

/** A value of a trace between its points, by straight lines. */
export function traceAt({ t, y }: Trace, at: number): number {
  let [low, high] = [0, t.length - 1];
  if (at <= (t[0] ?? 0)) return y[0] ?? NaN;
  if (at >= (t[high] ?? 0)) return y[high] ?? NaN;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((t[middle] as number) <= at) low = middle;
    else high = middle;
  }
  const [t0, t1] = [t[low] as number, t[high] as number];
  return t1 === t0
    ? (y[high] as number)
    : (y[low] as number) + (((y[high] as number) - (y[low] as number)) * (at - t0)) / (t1 - t0);
}
