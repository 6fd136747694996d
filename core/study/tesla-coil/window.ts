import { chargeState, coupledSamples, coupledModes, type CoupledLoops, type CoupledSamples } from '../../model/index.ts';
import type { TankRow } from './row.ts';

/** What can be drawn of a running tank. */
export type TankSignal = 'tank' | 'top' | 'path';

/** A ring for 1 V of the tank, with the least and greatest of each stretch of it, so that no window loses a peak. */
export interface RingShape {
  readonly samples: CoupledSamples;
  readonly span: number;
  readonly peaks: { readonly [K in 'v1' | 'v2']: { readonly low: Float64Array; readonly high: Float64Array } };
}

const perCycle = 80;
const mostSamples = 20_000;
const stretch = 64;

function extremes(y: Float64Array): { low: Float64Array; high: Float64Array } {
  const n = Math.ceil(y.length / stretch);
  const [low, high] = [new Float64Array(n).fill(Infinity), new Float64Array(n).fill(-Infinity)];
  for (let k = 0; k < y.length; k++) {
    const [s, v] = [Math.floor(k / stretch), y[k] ?? 0];
    low[s] = Math.min(low[s] ?? 0, v);
    high[s] = Math.max(high[s] ?? 0, v);
  }
  return { low, high };
}

/** The ring of a tank and its secondary, until a thousandth of its energy is left. */
export function ringShape(loops: Omit<CoupledLoops, 'V'>): RingShape {
  const { high } = coupledModes(loops);
  const samples = coupledSamples({ ...loops, V: 1 }, 1 / (high * perCycle), mostSamples, 1e-4);
  return { samples, span: samples.dt * samples.v1.length, peaks: { v1: extremes(samples.v1), v2: extremes(samples.v2) } };
}

/** Between two samples by a cubic through both with their slopes. */
function between(y: Float64Array, slope: (k: number) => number, x: number, dt: number): number {
  const k = Math.floor(x);
  const u = x - k;
  const [a, b] = [y[k] ?? 0, y[k + 1] ?? 0];
  const [p, q] = [slope(k) * dt, slope(k + 1) * dt];
  return a + u * (p + u * (3 * (b - a) - 2 * p - q + u * (2 * (a - b) + p + q)));
}

class Least {
  low = Infinity;
  high = -Infinity;
  /** In time: what it begins and ends with. */
  first = NaN;
  end = NaN;
  take(v: number): void {
    if (Number.isNaN(this.first)) this.first = v;
    if (v < this.low) this.low = v;
    if (v > this.high) this.high = v;
  }
  takeEnd(v: number): void {
    this.take(v);
    this.end = v;
  }
}

/** Takes all that a ring passes between two times after its break, V for 1 V of the tank. */
function takeRing(
  ring: RingShape,
  loops: Pick<CoupledLoops, 'C1' | 'C2'>,
  which: 'v1' | 'v2',
  scale: number,
  from: number,
  to: number,
  into: Least,
): void {
  const { dt, v1, v2, i1, i2 } = ring.samples;
  const y = which === 'v1' ? v1 : v2;
  const slope = which === 'v1' ? (k: number) => -(i1[k] ?? 0) / loops.C1 : (k: number) => (i2[k] ?? 0) / loops.C2;
  const [a, b] = [Math.max(0, from / dt), Math.min(y.length - 1.001, to / dt)];
  if (b < 0 || a > y.length - 1) {
    into.takeEnd(0);
    return;
  }
  into.take(scale * between(y, slope, a, dt));
  into.takeEnd(scale * between(y, slope, Math.max(a, b), dt));
  const [first, last] = [Math.ceil(a), Math.floor(b)];
  const { low, high } = ring.peaks[which];
  for (let k = first; k <= last;) {
    if (k % stretch === 0 && k + stretch - 1 <= last) {
      const s = k / stretch;
      into.take(scale * (low[s] ?? 0));
      into.take(scale * (high[s] ?? 0));
      k += stretch;
    } else {
      into.take(scale * (y[k] ?? 0));
      k += 1;
    }
  }
}

/** Index of the last break whose charge began at or before a time; -1 before all. */
function breakAt({ breaks }: TankRow, t: number): number {
  let [low, high] = [-1, breaks.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((breaks[middle]?.from ?? Infinity) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

const state = { v: 0, i: 0 };

/** V and A of the charge a time after its beginning, of a direct supply; of an alternating one as it was followed. */
function charging(row: TankRow, n: number, t: number): { v: number; i: number } {
  const one = row.breaks[n];
  const { followed } = row;
  if (followed) {
    const dt = (followed.t[1] ?? 1) - (followed.t[0] ?? 0);
    const x = Math.min(followed.t.length - 1, Math.max(0, t / dt));
    const k = Math.min(followed.t.length - 2, Math.floor(x));
    const mix = (y: Float64Array) => (y[k] ?? 0) + (x - k) * ((y[k + 1] ?? 0) - (y[k] ?? 0));
    state.v = mix(followed.v);
    state.i = mix(followed.i);
  } else if (one) chargeState(row.path, one.i0, t - one.from, state);
  return state;
}

/** A of the path while the gap conducts. */
function conducting(row: TankRow, n: number, t: number): number {
  const one = row.breaks[n];
  if (!one) return 0;
  if (row.followed) return charging(row, n, t).i;
  const { Vs, R, L } = row.path;
  if (L <= 0) return Vs / R;
  return Vs / R + (one.i1 - Vs / R) * Math.exp((-R * (t - one.at)) / L);
}

/** Points of a charge between two times that are looked at: it is smooth. */
const looks = 6;

function takeOne(
  row: TankRow,
  ring: RingShape | null,
  loops: Pick<CoupledLoops, 'C1' | 'C2'> | null,
  signal: TankSignal,
  n: number,
  from: number,
  to: number,
  into: Least,
): void {
  const one = row.breaks[n];
  if (!one) return;
  const [c0, c1] = [Math.max(from, one.from), Math.min(to, one.at)];
  if (c0 <= c1)
    for (let k = 0; k <= looks; k++) {
      const s = charging(row, n, c0 + ((c1 - c0) * k) / looks);
      into.takeEnd(signal === 'tank' ? s.v : signal === 'path' ? s.i : 0);
    }
  const [g0, g1] = [Math.max(from, one.at), Math.min(to, one.until)];
  if (g0 > g1) return;
  if (signal === 'path') for (let k = 0; k <= looks; k++) into.takeEnd(conducting(row, n, g0 + ((g1 - g0) * k) / looks));
  else if (ring && loops) takeRing(ring, loops, signal === 'tank' ? 'v1' : 'v2', one.V, g0 - one.at, g1 - one.at, into);
  else into.takeEnd(0);
}

/**
 * A stretch of a running tank, in so many columns, each with its least and its greatest value: from seconds to nanoseconds nothing that
 * sticks out is lost.
 */
export function tankWindow(
  row: TankRow,
  ring: RingShape | null,
  loops: Pick<CoupledLoops, 'C1' | 'C2'> | null,
  signal: TankSignal,
  from: number,
  to: number,
  columns = 600,
): { readonly t: Float64Array; readonly y: Float64Array } {
  const [t, y] = [new Float64Array(2 * columns), new Float64Array(2 * columns)];
  for (let c = 0; c < columns; c++) {
    const [a, b] = [from + ((to - from) * c) / columns, from + ((to - from) * (c + 1)) / columns];
    const into = new Least();
    for (let n = Math.max(0, breakAt(row, a)); n < row.breaks.length && (row.breaks[n]?.from ?? Infinity) <= b; n++)
      takeOne(row, ring, loops, signal, n, a, b, into);
    const empty = into.low > into.high;
    // A column that falls is drawn from its greatest to its least, so that a curve without a turn in it stays one.
    const falls = into.end < into.first;
    t[2 * c] = a + (b - a) / 4;
    t[2 * c + 1] = a + (3 * (b - a)) / 4;
    y[2 * c] = empty ? 0 : falls ? into.high : into.low;
    y[2 * c + 1] = empty ? 0 : falls ? into.low : into.high;
  }
  return { t, y };
}
