/**
 * What has left one end of a delay line, and reaches the other a delay later: the wave w = v + Z0·i, in V.
 *
 * Kept by steps, five even points of each, and read by the polynomial through them: as good as the method that made them. Where it
 * jumps two steps meet, and it is asked from which side.
 */
export class LineHistory {
  private readonly start: number[] = [];
  private readonly length: number[] = [];
  private readonly points: number[] = [];
  /** Steps before it are older than any that is asked for. */
  private first = 0;

  /** @param before V that has always left it until t = 0. */
  constructor(private readonly before: number) {}

  /** Adds a step from `t` of `h` s, its wave at its start, its quarters and its end. */
  add(t: number, h: number, w: readonly number[]): void {
    this.start.push(t);
    this.length.push(h);
    for (let i = 0; i < pointsOfStep; i++) this.points.push(w[i] as number);
  }

  /** The wave at the end of the last step. */
  get last(): number {
    return this.points.length === 0 ? this.before : (this.points.at(-1) as number);
  }

  /** Forgets what lies before a time, now and then. */
  forget(t: number): void {
    while (this.first < this.start.length - 1 && (this.start[this.first + 1] as number) < t) this.first += 1;
    if (this.first < 4096) return;
    this.start.splice(0, this.first);
    this.length.splice(0, this.first);
    this.points.splice(0, this.first * pointsOfStep);
    this.first = 0;
  }

  /** The step that holds a time: of two that meet there the one on the side that is asked for. */
  private stepAt(t: number, right: boolean, near: number): number {
    let low = this.first;
    let high = this.start.length - 1;
    const edge = right ? t + near : t - near;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.start[middle] as number) <= edge) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /**
   * The wave that left at a time, V.
   *
   * @param right what it is just after that time, not just before
   * @param near s within which a time is taken for the edge of a step
   */
  at(t: number, right: boolean, near: number): number {
    if (t < -near || (!right && t <= near) || this.start.length === 0) return this.before;
    const i = this.stepAt(t, right, near);
    return this.within(i, (t - (this.start[i] as number)) / (this.length[i] as number));
  }

  private within(i: number, share: number): number {
    const x = 4 * Math.min(Math.max(share, 0), 1);
    const { points } = this;
    const at = i * pointsOfStep;
    const [p, q, r, s, u] = [x, x - 1, x - 2, x - 3, x - 4];
    return (
      (q * r * s * u * (points[at] as number)) / 24 -
      (p * r * s * u * (points[at + 1] as number)) / 6 +
      (p * q * s * u * (points[at + 2] as number)) / 4 -
      (p * q * r * u * (points[at + 3] as number)) / 6 +
      (p * q * r * s * (points[at + 4] as number)) / 24
    );
  }

  /** ∫w² dt over what has left between two times, V²s. */
  squared(from: number, to: number): number {
    let sum = Math.max(0, Math.min(0, to) - from) * this.before ** 2;
    for (let i = this.first; i < this.start.length; i++) {
      const [t, h] = [this.start[i] as number, this.length[i] as number];
      const [a, b] = [Math.max(from, t), Math.min(to, t + h)];
      if (!(b > a)) continue;
      for (let m = 0; m < gauss.length; m++) {
        const [x, weight] = gauss[m] as readonly [number, number];
        const w = this.within(i, ((a + b) / 2 + (x * (b - a)) / 2 - t) / h);
        sum += (weight * (b - a) * w * w) / 2;
      }
    }
    return sum;
  }
}

/** Points that a step is kept by: its start, its quarters, its end. */
export const pointsOfStep = 5;

/** Places and weights of Gauss’s rule of five points: exact for the square of a polynomial of fourth order. */
const gauss = [
  [0, 128 / 225],
  ...[1, -1].flatMap((sign) => [
    [(sign * Math.sqrt(5 - 2 * Math.sqrt(10 / 7))) / 3, (322 + 13 * Math.sqrt(70)) / 900] as const,
    [(sign * Math.sqrt(5 + 2 * Math.sqrt(10 / 7))) / 3, (322 - 13 * Math.sqrt(70)) / 900] as const,
  ]),
] as const;
