import { estimate, fitModel, studentFactor, type Estimate, type Fitted } from '../numeric/index.ts';
import { averaged, withoutClipping, type Measured } from './trace.ts';

/** Why a fit cannot be made. */
export class NoFit extends Error {
  constructor(reason: string) {
    super(reason);
    this.name = 'NoFit';
  }
}

interface Common {
  /** Standard deviation of what the fit leaves, in the unit of the trace. */
  readonly scatter: number;
  /** Samples left out because the scope was at its stop. */
  readonly clipped: number;
  /** The fitted curve at a time, s. */
  at(t: number): number;
}

function prepared(measured: Measured, least: number): { trace: Measured; clipped: number } {
  const { trace, clipped } = withoutClipping(measured);
  if (trace.t.length < least) throw new NoFit(`there are ${trace.t.length} usable points, and at least ${least} are needed`);
  return { trace: averaged(trace), clipped };
}

/** @throws NoFit */
function found(fitted: Fitted | null, what: string): Fitted {
  if (!fitted || !fitted.isSettled || fitted.values.some((v) => !Number.isFinite(v)))
    throw new NoFit(`no ${what} fits these points`);
  return fitted;
}

const mean = (y: ArrayLike<number>, from: number, to: number): number => {
  let sum = 0;
  for (let i = from; i < to; i++) sum += y[i] ?? 0;
  return sum / Math.max(1, to - from);
};

export interface DecayFit extends Common {
  /** s */
  readonly tau: Estimate;
  /** V at the first point, and V it comes to. */
  readonly start: Estimate;
  readonly rest: Estimate;
}

/**
 * A bleed-down: an exponential to a rest of its own, such as the offset of a meter.
 *
 * @throws NoFit where it does not fall by a third, or no exponential fits
 */
export function fitDecay(measured: Measured): DecayFit {
  const { trace, clipped } = prepared(measured, 8);
  const { t, y } = trace;
  const n = t.length;
  const [t0, span] = [t[0] ?? 0, (t[n - 1] ?? 0) - (t[0] ?? 0)];
  const few = Math.max(1, Math.floor(n / 50));
  const [first, last] = [mean(y, 0, few), mean(y, n - few, n)];
  const fall = first - last;
  if (!(span > 0) || Math.abs(fall) < 0.33 * Math.max(Math.abs(first), Math.abs(last)))
    throw new NoFit('the trace does not fall by a third: a longer stretch of the bleed is needed');
  const third = t.findIndex((_, i) => Math.abs((y[i] ?? 0) - last) < Math.abs(fall) / Math.E);
  const tau0 = Math.max(span / n, (t[third < 0 ? n - 1 : third] ?? 0) - t0 || span / 3);
  const model = (x: number, v: readonly number[]) => (v[2] ?? 0) + (v[0] ?? 0) * Math.exp(-(x - t0) / Math.abs(v[1] ?? 1));
  const fitted = found(fitModel(t, y, model, [fall, tau0, last], [fall, tau0, fall]), 'exponential');
  return {
    tau: estimate(fitted, (v) => Math.abs(v[1] ?? 0)),
    start: estimate(fitted, (v) => (v[0] ?? 0) + (v[2] ?? 0)),
    rest: estimate(fitted, (v) => v[2] ?? 0),
    scatter: fitted.scatter,
    clipped,
    at: (x) => model(x, fitted.values),
  };
}

export interface RingFit extends Common {
  /** 1/s: half of R/L. */
  readonly damping: Estimate;
  /** s of its beginning. */
  readonly begins: number;
  /** Whether it rings, or is damped so strongly that it only comes and goes. */
  readonly isRinging: boolean;
  /** H and Ω, by the capacitance of the loop. */
  readonly L: Estimate;
  readonly R: Estimate;
  /** F, by the voltage instead of the capacitance; null where no voltage is known. */
  readonly C: Estimate | null;
}

/** A pulse of a loop of R, L and C that begins with unit slope: a sine, damped, or two exponentials. `q` is the square of what it rings with. */
function pulse(t: number, a: number, q: number): number {
  const x = q * t * t;
  if (Math.abs(x) < 1e-6) return t * Math.exp(-a * t) * (1 - x / 6);
  if (q > 0) return (Math.exp(-a * t) * Math.sin(Math.sqrt(q) * t)) / Math.sqrt(q);
  const k = Math.sqrt(-q);
  return (Math.exp((k - a) * t) - Math.exp(-(k + a) * t)) / (2 * k);
}

interface RingStart {
  readonly begins: number;
  readonly rest: number;
  /** s from the beginning to the peak. */
  readonly quarter: number;
  /** What it begins to rise with, damping and square of the ring: where to begin looking. */
  readonly tries: readonly (readonly [slope: number, a: number, q: number])[];
}

/** Where a ring begins, how fast and how strongly it rings, roughly. @throws NoFit */
function ringStart(t: Float64Array, y: Float64Array): RingStart {
  const n = y.length;
  const peak = y.reduce((m, v, i) => (Math.abs(v) > Math.abs(y[m] ?? 0) ? i : m), 0);
  const height = y[peak] ?? 0;
  let begin = peak;
  while (begin > 0 && Math.abs(y[begin] ?? 0) > 0.05 * Math.abs(height)) begin--;
  const rest = begin > 10 ? mean(y, 0, Math.floor(begin * 0.8)) : mean(y, Math.floor(n * 0.95), n);
  const crossings: number[] = [];
  // Only while it is well above what is left: noise crosses nought as well.
  let isDown = height < rest;
  for (let i = peak; i < n; i++) {
    const v = (y[i] ?? 0) - rest;
    if (Math.abs(v) > 0.04 * Math.abs(height) && v < 0 !== isDown) {
      isDown = v < 0;
      crossings.push(t[i] ?? 0);
    }
  }
  const begins = t[begin] ?? 0;
  const quarter = (t[peak] ?? 0) - begins;
  if (!(quarter > 0)) throw new NoFit('the trace has no peak that a discharge could be fitted to');
  const [one, two] = crossings;
  const half = one !== undefined && two !== undefined ? ((crossings.at(-1) ?? two) - one) / (crossings.length - 1) : 2 * quarter;
  const w = Math.PI / half;
  const later = y.findIndex((v, i) => i > peak && Math.abs(v - rest) < Math.abs(height) / Math.E);
  const slow = 1 / Math.max(quarter, (t[later < 0 ? n - 1 : later] ?? 0) - (t[peak] ?? 0));
  const fast = 3 / quarter;
  const ringing = [0.05, 0.3, 1].map((share) => [height * w, share * w, w * w] as const);
  const strong = [1, 4].map((f) => [height * f * fast, (f * fast + slow) / 2, -(((f * fast - slow) / 2) ** 2)] as const);
  return { begins, rest, quarter, tries: one === undefined ? [...strong, ...ringing] : [...ringing, ...strong] };
}

/**
 * The current of a discharge through a loop of R, L and C, ringing or not. R and L by the capacitance of the loop; C by the voltage.
 *
 * @param known C of the loop, F, and V it was charged to, where that is known
 * @throws NoFit where there is no such pulse
 */
export function fitRing(measured: Measured, known: { readonly C: number; readonly V?: number }): RingFit {
  const { trace, clipped } = prepared(measured, 20);
  const { t, y } = trace;
  const { begins: start, rest, quarter, tries } = ringStart(t, y);
  const model = (x: number, v: readonly number[]) => {
    const [S = 0, a = 0, q = 0, t0 = 0, level = 0] = v;
    return x <= t0 ? level : level + S * pulse(x - t0, a, q);
  };
  // A start that is off ends in another valley: further ones are tried until one leaves but little.
  const height = y.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  let best: Fitted | null = null;
  for (const [S, a, q] of tries) {
    const scales = [S, a, Math.abs(q), quarter, height];
    const tried = fitModel(t, y, model, [S, a, q, start, rest], scales);
    if (tried?.isSettled && (!best || tried.scatter < best.scatter)) best = tried;
    if (best && best.scatter < 0.05 * height) break;
  }
  const fitted = found(best, 'discharge of R, L and C');
  const [, a = 0, q = 0, begins = 0] = fitted.values;
  // Of noise alone no curve explains half.
  const level = mean(y, 0, y.length);
  const spread = y.reduce((sum, v) => sum + (v - level) ** 2, 0) / y.length;
  if (!(a > 0) || !(q + a * a > 0) || fitted.scatter ** 2 > 0.5 * spread)
    throw new NoFit('no discharge of R, L and C fits these points');
  const squared = (v: readonly number[]) => (v[2] ?? 0) + (v[1] ?? 0) ** 2;
  const L = (v: readonly number[]) => 1 / (known.C * squared(v));
  const { V } = known;
  return {
    damping: estimate(fitted, (v) => v[1] ?? 0),
    begins,
    isRinging: q > 0,
    L: estimate(fitted, L),
    R: estimate(fitted, (v) => 2 * (v[1] ?? 0) * L(v)),
    // The first slope is V/L.
    C: V === undefined ? null : estimate(fitted, (v) => Math.abs(v[0] ?? 0) / (V * squared(v))),
    scatter: fitted.scatter,
    clipped,
    at: (x) => model(x, fitted.values),
  };
}

export interface ChargeFit extends Common {
  /** s, and V it comes to. */
  readonly tau: Estimate;
  readonly reach: Estimate;
  /** Ω from the supply to the store, and Ω across the store; the latter null where it cannot be told from none. */
  readonly R: Estimate;
  readonly leakage: Estimate | null;
}

/**
 * A charge through a resistance with a leak across the store: 1 - exp towards what it comes to.
 *
 * @param known C of the store, F, and V of the supply without load
 * @throws NoFit where the trace does not bend towards a voltage, or goes above the supply
 */
export function fitCharge(measured: Measured, known: { readonly C: number; readonly Vs: number }): ChargeFit {
  const { trace, clipped } = prepared(measured, 8);
  const { t, y } = trace;
  const n = t.length;
  const span = (t[n - 1] ?? 0) - (t[0] ?? 0);
  const few = Math.max(1, Math.floor(n / 50));
  const [first, last] = [mean(y, 0, few), mean(y, n - few, n)];
  if (!(span > 0) || !(last - first > 0.2 * known.Vs))
    throw new NoFit('the trace does not rise by a fifth of the supply voltage');
  const model = (x: number, v: readonly number[]) => {
    const [reach = 0, tau = 1, t0 = 0] = v;
    return x <= t0 ? 0 : -reach * Math.expm1(-(x - t0) / Math.abs(tau));
  };
  const rise = t[y.findIndex((v) => v > 0.02 * last)] ?? 0;
  const start = [last * 1.05, span / 3, first > 0.02 * last ? (t[0] ?? 0) : rise];
  const fitted = found(fitModel(t, y, model, start, [last, span, span / 10]), 'charge curve');
  const reachValue = fitted.values[0] ?? 0;
  if (reachValue > known.Vs * 1.1)
    throw new NoFit(
      `reaches ${reachValue.toPrecision(3)} V, above the ${known.Vs.toPrecision(3)} V of the supply: a longer stretch, or another supply voltage`,
    );
  const R = (v: readonly number[]) => (Math.abs(v[1] ?? 0) * known.Vs) / (known.C * (v[0] ?? 1));
  const conductance = estimate(fitted, (v) => (known.Vs - (v[0] ?? 0)) / (R(v) * (v[0] ?? 1)));
  const isTold = conductance.value > conductance.margin;
  return {
    tau: estimate(fitted, (v) => Math.abs(v[1] ?? 0)),
    reach: estimate(fitted, (v) => v[0] ?? 0),
    R: estimate(fitted, R),
    leakage: isTold ? estimate(fitted, (v) => (R(v) * (v[0] ?? 1)) / (known.Vs - (v[0] ?? 0))) : null,
    scatter: fitted.scatter,
    clipped,
    at: (x) => model(x, fitted.values),
  };
}

/** Pairs of what was predicted and what was measured, through nought: the share that is reached. */
export function fitShare(pairs: readonly { readonly predicted: number; readonly measured: number }[]): {
  share: Estimate;
  scatter: number;
} {
  const used = pairs.filter((p) => p.predicted > 0 && Number.isFinite(p.measured));
  if (used.length < 2)
    throw new NoFit(`there are ${used.length} shots with a prediction and a measurement, and at least 2 are needed`);
  const sum = (f: (p: { predicted: number; measured: number }) => number) => used.reduce((s, p) => s + f(p), 0);
  const share = sum((p) => p.predicted * p.measured) / sum((p) => p.predicted ** 2);
  const scatter = Math.sqrt(sum((p) => (p.measured - share * p.predicted) ** 2) / (used.length - 1));
  return {
    share: { value: share, margin: (studentFactor(used.length - 1) * scatter) / Math.sqrt(sum((p) => p.predicted ** 2)) },
    scatter,
  };
}

export interface LineFit {
  readonly slope: Estimate;
  readonly at0: Estimate;
  readonly scatter: number;
  /** Places of points that are more than three times the scatter of the others off the line. */
  readonly outliers: readonly number[];
  at(x: number): number;
}

/** A straight line through points; one that is far off is told and left out. @throws NoFit */
export function fitLine(x: readonly number[], y: readonly number[]): LineFit {
  const line = (use: readonly number[]) => {
    const n = use.length;
    const [mx, my] = [use.reduce((s, i) => s + (x[i] ?? 0), 0) / n, use.reduce((s, i) => s + (y[i] ?? 0), 0) / n];
    const sxx = use.reduce((s, i) => s + ((x[i] ?? 0) - mx) ** 2, 0);
    if (!(sxx > 0)) throw new NoFit('the setting is the same in all of them');
    const slope = use.reduce((s, i) => s + ((x[i] ?? 0) - mx) * ((y[i] ?? 0) - my), 0) / sxx;
    const at0 = my - slope * mx;
    const rest = use.reduce((s, i) => s + ((y[i] ?? 0) - at0 - slope * (x[i] ?? 0)) ** 2, 0);
    return { slope, at0, scatter: n > 2 ? Math.sqrt(rest / (n - 2)) : 0, sxx, mx, n };
  };
  const all = x.map((_, i) => i);
  if (all.length < 2) throw new NoFit('a line needs at least two points');
  let use = all;
  for (let round = 0; round < 3 && use.length > 4; round++) {
    const off = (i: number, others: readonly number[]) => {
      const { slope, at0, scatter } = line(others);
      return Math.abs((y[i] ?? 0) - at0 - slope * (x[i] ?? 0)) / (scatter || 1e-12 * Math.abs(y[i] ?? 1) || 1e-300);
    };
    const worst = use.reduce<{ i: number; by: number }>(
      (w, i) => {
        const by = off(
          i,
          use.filter((k) => k !== i),
        );
        return by > w.by ? { i, by } : w;
      },
      { i: -1, by: 0 },
    );
    // Beyond the t of the few that are left, and eight times their scatter at least: a single one is not thrown out lightly.
    if (worst.by < Math.max(8, 3 * studentFactor(use.length - 3))) break;
    use = use.filter((i) => i !== worst.i);
  }
  const { slope, at0, scatter, sxx, mx, n } = line(use);
  const factor = n > 2 ? studentFactor(n - 2) : Infinity;
  return {
    slope: { value: slope, margin: factor * (scatter / Math.sqrt(sxx)) },
    at0: { value: at0, margin: factor * scatter * Math.sqrt(1 / n + mx ** 2 / sxx) },
    scatter,
    outliers: all.filter((i) => !use.includes(i)),
    at: (v) => at0 + slope * v,
  };
}
