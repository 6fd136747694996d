import type { LineEnd } from '../element.ts';
import { LineHistory, pointsOfStep } from './line-history.ts';

/** One end of a delay line as the solver has it. */
interface End {
  /** Its branch, and the history of what leaves it. */
  readonly k: number;
  readonly far: number;
  readonly delay: number;
  readonly Z0: number;
  readonly history: LineHistory;
}

/** A jump of a wave, as a share of the error that a step may have, that is followed when it comes out at the other end. */
const followed = 0.1;
/** Arrivals that are followed however small: behind the first two what is left of a kink is smooth. */
const alwaysFollowed = 2;
/** Times within this share of the run are one. */
const sameTime = 1e-12;

/**
 * Delay lines of a circuit: each end is its wave impedance with a source behind it that repeats what left the other end a delay ago.
 * Source: method of characteristics of a lossless line (Bergeron); from memory.
 */
export class Lines {
  private readonly ends: readonly End[];
  /** Times at which something arrives, in order, and how often it has been through a line. */
  private readonly arrivals: { t: number; generation: number }[] = [];
  private readonly near: number;
  /** What is read just behind an instant is another than just before it. */
  right = false;

  constructor(
    poles: readonly { readonly kind: string; readonly name: string }[],
    private readonly a: Int32Array,
    private readonly b: Int32Array,
    until: number,
  ) {
    const at = new Map(poles.map((e, k) => [e.name, k]));
    const found = poles.flatMap((e, k) => (e.kind === 'line-end' ? [{ k, e: e as unknown as LineEnd }] : []));
    const order = new Map(found.map(({ k }, i) => [k, i]));
    this.ends = found.map(({ k, e }) => ({
      k,
      far: order.get(at.get(e.far) ?? -1) ?? -1,
      delay: e.delay,
      Z0: e.Z0,
      history: new LineHistory(e.V0 ?? 0),
    }));
    this.near = until * sameTime;
  }

  get count(): number {
    return this.ends.length;
  }

  /** s: a step may not look past what has left. */
  get shortest(): number {
    return this.ends.reduce((least, { delay }) => Math.min(least, delay), Infinity);
  }

  branch(m: number): number {
    return (this.ends[m] as End).k;
  }

  /** V of the source behind an end at a time. */
  source(m: number, t: number): number {
    const { far, delay } = this.ends[m] as End;
    return (this.ends[far] as End).history.at(t - delay, this.right, this.near);
  }

  /**
   * Notes what left each end in a step that was taken.
   *
   * @param rows voltages of the nodes at its start, its quarters and its end
   */
  note(from: number, h: number, rows: readonly Float64Array[]): void {
    if (!(h > 0)) return;
    this.ends.forEach(({ k, delay, history }, m) => {
      const [p, q] = [this.a[k] as number, this.b[k] as number];
      const left = rows.map((row, i) => {
        this.right = i === 0;
        return 2 * ((row[p] as number) - (row[q] as number)) - this.source(m, from + (h * i) / (pointsOfStep - 1));
      });
      this.waiting[m] = left;
      history.forget(from - delay);
    });
    this.right = false;
    // Only then: what an end repeats is what was there before this step.
    this.ends.forEach(({ history }, m) => history.add(from, h, this.waiting[m] as number[]));
  }
  private readonly waiting: number[][] = [];

  /** How far what arrives within a step is from the polynomial that the step is kept by, V: too long a step would smear an edge. */
  roughness(from: number, h: number): number {
    const { eighths } = this;
    let most = 0;
    for (let m = 0; m < this.ends.length; m++) {
      for (let i = 0; i <= 8; i++) {
        this.right = i === 0;
        eighths[i] = this.source(m, from + (h * i) / 8);
      }
      this.right = false;
      for (let i = 1; i < 8; i += 2) {
        const weights = betweenQuarters[(i - 1) / 2] as readonly number[];
        let sum = 0;
        for (let q = 0; q < pointsOfStep; q++) sum += (weights[q] as number) * (eighths[2 * q] as number);
        most = Math.max(most, Math.abs(sum - (eighths[i] as number)));
      }
    }
    return most;
  }
  private readonly eighths = new Float64Array(9);

  /**
   * Looks at what leaves right after an instant at which something changed: a jump comes out a delay later.
   *
   * @param allowed V that a step may be wrong by
   */
  follow(t: number, v: Float64Array, allowed: number, generation: number): void {
    this.right = true;
    this.ends.forEach(({ k, delay, history }, m) => {
      const now = 2 * ((v[this.a[k] as number] as number) - (v[this.b[k] as number] as number)) - this.source(m, t);
      const jump = Math.abs(now - history.last);
      if (jump > followed * allowed || generation < alwaysFollowed) this.arrive(t + delay, generation + 1);
    });
    this.right = false;
  }

  private arrive(t: number, generation: number): void {
    const at = this.arrivals.findIndex((one) => one.t > t - this.near);
    const there = this.arrivals[at];
    if (there && Math.abs(there.t - t) <= this.near) {
      there.generation = Math.min(there.generation, generation);
      return;
    }
    if (at < 0) this.arrivals.push({ t, generation });
    else this.arrivals.splice(at, 0, { t, generation });
  }

  /** s of the next arrival. */
  get next(): number {
    return this.arrivals[0]?.t ?? Infinity;
  }

  /** Takes the arrivals up to a time. @returns how often the least of them has been through a line; 0 where none was due */
  taken(t: number): number {
    let least = Infinity;
    while (this.arrivals.length > 0 && this.next <= t + this.near)
      least = Math.min(least, this.arrivals.shift()?.generation ?? Infinity);
    return least === Infinity ? 0 : least;
  }

  /** J that are on the way in all lines. */
  stored(t: number): number {
    return this.ends.reduce((sum, { delay, Z0, history }) => sum + history.squared(t - delay, t) / (4 * Z0), 0);
  }
}

/** Weights of the quarters of a step in the polynomial through them, at its odd eighths. */
const betweenQuarters = [0.5, 1.5, 2.5, 3.5].map((x) =>
  [0, 1, 2, 3, 4].map((i) => [0, 1, 2, 3, 4].reduce((product, j) => (j === i ? product : (product * (x - j)) / (i - j)), 1)),
);
