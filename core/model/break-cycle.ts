import { edge, root } from '../numeric/index.ts';

/**
 * How a supply charges a tank capacitor again and again through a path of resistance and inductance, break after break. All numbers SI.
 *
 * Between breaks supply, resistance, inductance and capacitor are one series loop. At a break the capacitor is emptied, and for as long
 * as the gap conducts the path feeds the gap alone; what current is left then begins the next charge.
 */
export interface BreakPath {
  /** V of the supply: direct, or the peak of an alternating one. */
  readonly Vs: number;
  /** Hz of an alternating supply; nought of a direct one. */
  readonly f: number;
  /** Ω and H between the supply and the capacitor. */
  readonly R: number;
  readonly L: number;
  /** F of the tank capacitor. */
  readonly C: number;
  /** s for which the gap conducts at a break. */
  readonly td: number;
}

/** A charge from one break to the next: current at its beginning and at the break, A, and how long it took, s. */
export interface Charge {
  readonly i0: number;
  readonly i1: number;
  readonly T: number;
}

/** State of the loop a time after a start from an empty capacitor with a current, of a direct supply. Written into `out`. */
export function chargeState({ Vs, R, L, C }: BreakPath, i0: number, t: number, out: { v: number; i: number }): void {
  if (L <= 0) {
    const x = Math.exp(-t / (R * C));
    out.v = Vs * (1 - x);
    out.i = (Vs / R) * x;
    return;
  }
  // u = v − Vs obeys u'' + 2a·u' + u/LC = 0 with u(0) = −Vs, u'(0) = i0/C.
  const a = R / (2 * L);
  const q = 1 / (L * C) - a * a;
  const w = Math.sqrt(Math.abs(q));
  const x = w * t;
  let c: number;
  let s: number;
  if (x < 1e-6) {
    [c, s] = [1, t];
  } else if (q > 0) {
    [c, s] = [Math.cos(x), Math.sin(x) / w];
  } else {
    // The decay goes into the hyperbolic functions, so that neither overflows.
    const [up, down] = [Math.exp(x - a * t), Math.exp(-x - a * t)];
    const [ch, sh] = [(up + down) / 2, (up - down) / 2 / w];
    const du = i0 / C - a * Vs;
    const u = -Vs * ch + du * sh;
    out.v = Vs + u;
    out.i = C * (-a * u + -Vs * w * w * sh + du * ch);
    return;
  }
  const e = Math.exp(-a * t);
  const du = i0 / C - a * Vs;
  const u = e * (-Vs * c + du * s);
  out.v = Vs + u;
  out.i = C * (-a * u + e * (-Vs * -q * s + du * c));
}

const state = { v: 0, i: 0 };

/** The greatest voltage of the first swing from rest, of a direct supply, V. */
export function swingPeak({ Vs, R, L, C }: BreakPath): number {
  const a = L > 0 ? R / (2 * L) : Infinity;
  const q = L > 0 ? 1 / (L * C) - a * a : -1;
  return q > 0 ? Vs * (1 + Math.exp((-a * Math.PI) / Math.sqrt(q))) : Vs;
}

/** s of the first top of the voltage after a start with a current, of a direct supply: there the current comes to nought. */
function topAt({ Vs, R, L, C }: BreakPath, i0: number): number {
  const a = R / (2 * L);
  const q = 1 / (L * C) - a * a;
  if (q <= 0) return Infinity;
  const w = Math.sqrt(q);
  return (Math.PI - Math.atan2((i0 / C) * w, w * w * Vs - a * (i0 / C - a * Vs))) / w;
}

/** From an empty capacitor with a current to the voltage of the break, of a direct supply; null where it never comes there. */
export function chargeTo(path: BreakPath, i0: number, Vb: number): Charge | null {
  const { Vs, R, L, C } = path;
  if (L <= 0) {
    if (Vb >= Vs) return null;
    return { i0: Vs / R, i1: (Vs - Vb) / R, T: R * C * Math.log(Vs / (Vs - Vb)) };
  }
  const lacks = (t: number): number => {
    chargeState(path, i0, t, state);
    return state.v - Vb;
  };
  // The voltage rises until the current comes to nought; without a swing it rises for ever.
  let end = topAt(path, i0);
  if (end === Infinity) {
    end = Math.min(R * C, L / R);
    for (let k = 0; k < 60 && lacks(end) < 0; k++) end *= 2;
  }
  if (!(lacks(end) >= 0)) return null;
  const T = root(lacks, 0, end, { within: 1e-14 });
  chargeState(path, i0, T, state);
  return { i0, i1: state.i, T };
}

/** What is left of a current of the path when the gap has conducted for its time, of a direct supply, A. */
export function leftAfter({ Vs, R, L, td }: BreakPath, i1: number): number {
  if (L <= 0) return Vs / R;
  if (R <= 0) return i1 + (Vs * td) / L;
  const x = Math.exp((-R * td) / L);
  return (Vs / R) * (1 - x) + i1 * x;
}

/** Breaks in a steady row. */
export interface SteadyBreaks {
  /** V at which each comes, Hz, and A at the break and when the gap has conducted for its time. */
  readonly Vb: number;
  readonly rate: number;
  readonly atBreak: number;
  readonly left: number;
  /** J that the supply gives for each, and J that the path turns into heat, the gap's time included. */
  readonly given: number;
  readonly heat: number;
  /** A rms and the greatest in the path. */
  readonly rms: number;
  readonly peak: number;
  /** The highest voltage of the tank, V: between the passes of a rotary gap on ac it is above that of its breaks. */
  readonly highest: number;
}

interface Integrals {
  /** C through the path. */
  readonly Q: number;
  /** A²s in it. */
  readonly S: number;
}

/** Over the time for which the gap conducts: the path alone, from a current towards what its resistance lets through. */
function overGap({ Vs, R, L, td }: BreakPath, i1: number): Integrals {
  if (L <= 0) return { Q: (Vs / R) * td, S: (Vs / R) ** 2 * td };
  const x = (R * td) / L;
  if (x < 1e-6) {
    const rise = (Vs - R * i1) / L;
    return { Q: i1 * td + (rise * td * td) / 2, S: i1 * i1 * td + i1 * rise * td * td + (rise * rise * td ** 3) / 3 };
  }
  const [end, above] = [Vs / R, i1 - Vs / R];
  const [once, twice] = [(-L / R) * Math.expm1(-x), (-L / R / 2) * Math.expm1(-2 * x)];
  return { Q: end * td + above * once, S: end * end * td + 2 * end * above * once + above * above * twice };
}

/**
 * Over a charge: all of its charge is in the capacitor, and what the supply gave and neither it nor the choke has is heat. A path so
 * thin that this is lost among the digits has a current as smooth as its swing: there it is summed.
 */
function overCharge(path: BreakPath, { i0, i1, T }: Charge, V: number): Integrals {
  const { Vs, R, L, C } = path;
  const Q = C * V;
  const given = Vs * Q;
  const heat = given - 0.5 * C * V * V - 0.5 * L * (i1 * i1 - i0 * i0);
  const size = Math.abs(given) + 0.5 * L * (i1 * i1 + i0 * i0);
  if (R > 0 && heat > 1e-5 * size) return { Q, S: heat / R };
  const n = 96;
  let S = 0;
  for (let k = 0; k <= n; k++) {
    chargeState(path, i0, (T * k) / n, state);
    S += (k === 0 || k === n ? 1 : k % 2 === 1 ? 4 : 2) * (T / n / 3) * state.i * state.i;
  }
  return { Q, S };
}

/** Charge and action of a cycle, the gap's time included, and its greatest current. */
function integrals(path: BreakPath, charge: Charge, V: number): Integrals & { readonly most: number } {
  const [one, gap] = [overCharge(path, charge, V), overGap(path, charge.i1)];
  const n = 64;
  let most = Math.max(Math.abs(charge.i0), Math.abs(charge.i1), Math.abs(leftAfter(path, charge.i1)));
  for (let k = 1; k < n; k++) {
    // Closer together at the beginning, where a choke lets go of a large resistance.
    chargeState(path, charge.i0, charge.T * (k / n) ** 3, state);
    most = Math.max(most, Math.abs(state.i));
  }
  return { Q: one.Q + gap.Q, S: one.S + gap.S, most };
}

/**
 * The steady row of breaks of a direct supply and a gap that breaks down at a voltage.
 *
 * @returns null where the first swing from rest never comes to that voltage: the gap never fires
 */
export function steadyBreaks(path: BreakPath, Vb: number): SteadyBreaks | null {
  const first = chargeTo(path, 0, Vb);
  if (!first) return null;
  const { Vs, R, L, td } = path;
  const next = (i: number): number => {
    const one = chargeTo(path, i, Vb);
    return one ? leftAfter(path, one.i1) : 0;
  };
  // What is left grows with what there was, and by less; it is never above what the supply drives through the resistance.
  const i0 = L > 0 ? root((i) => i - next(i), 0, R > 0 ? Vs / R : 1e9, { within: 1e-14 }) : 0;
  const one = chargeTo(path, i0, Vb) ?? first;
  const { Q, S, most } = integrals(path, one, Vb);
  const period = one.T + td;
  return {
    Vb,
    rate: 1 / period,
    atBreak: one.i1,
    left: leftAfter(path, one.i1),
    given: Vs * Q,
    heat: R * S,
    rms: Math.sqrt(S / period),
    peak: most,
    highest: Vb,
  };
}

/** The steady row of breaks of a direct supply and a gap that is opened to a break so many times a second, V as it comes. */
export function rotaryBreaks(path: BreakPath, rate: number): SteadyBreaks | null {
  const T = 1 / rate - path.td;
  if (!(T > 0)) return null;
  let i0 = 0;
  const after = (i: number): number => {
    if (path.L <= 0) return 0;
    chargeState(path, i, T, state);
    return leftAfter(path, state.i);
  };
  if (path.L > 0) {
    // The loop is linear: two starts tell where the third stays.
    const [zero, unit] = [after(0), after(1)];
    i0 = zero / (1 - (unit - zero));
  }
  chargeState(path, i0, T, state);
  const [Vb, i1] = [state.v, state.i];
  const { Q, S, most } = integrals(path, { i0, i1, T }, Vb);
  return {
    Vb,
    rate,
    atBreak: i1,
    left: leftAfter(path, i1),
    given: path.Vs * Q,
    heat: path.R * S,
    rms: Math.sqrt(S * rate),
    peak: most,
    highest: Vb,
  };
}

/** Cycles of an alternating supply that are followed at most, and the share of them that is left out of the means. */
const followed = 25;
const settling = 0.3;
/** Steps of a row that is followed: what is faster than they allow is followed for fewer cycles. */
const mostSteps = 10_000;

/** A break of a supply that alternates: when, and V and A at it. */
export interface AcBreak {
  readonly t: number;
  readonly v: number;
  readonly i: number;
}

/** Breaks from rest, and what stood in the path meanwhile. */
export interface AcRow {
  readonly breaks: readonly AcBreak[];
  /** s from which the means are taken, and s of its end. */
  readonly from: number;
  readonly end: number;
  readonly rms: number;
  /** A²s from rest to the first break. */
  readonly firstAction: number;
  /** A */
  readonly peak: number;
  /** The highest voltage that it came to, V. */
  readonly highest: number;
}

/** The charge of an alternating supply as it was followed, and its breaks. */
export interface FollowedRow {
  readonly breaks: readonly AcBreak[];
  readonly samples: { readonly t: Float64Array; readonly v: Float64Array; readonly i: Float64Array };
  readonly dt: number;
  /** A²s from rest to the first break. */
  readonly firstAction: number;
}

const stepOf = ({ f, R, L, C }: BreakPath): number => {
  const own = L > 0 ? Math.min(Math.sqrt(L * C), R > 0 ? (4 * L) / R : Infinity) : R * C;
  return Math.min(1 / (f * 400), own / 12);
};

/** A quantity over a step, by its values and slopes at both ends: the share x of the step, 0 to 1. */
type Within = (x: number) => number;

const cubic =
  (y0: number, slope0: number, y1: number, slope1: number, dt: number): Within =>
  (x) => {
    const z = 1 - x;
    return y0 * z * z * (1 + 2 * x) + y1 * x * x * (3 - 2 * x) + dt * x * z * (slope0 * z - slope1 * x);
  };

/** The share of a step after which the gap breaks, or null. */
type Meets = (t: number, dt: number, v: Within, Vb: number) => number | null;

/** A gap that stands breaks when the voltage comes up to it. */
const standing: Meets = (_t, _dt, v, Vb) => {
  if (Math.abs(v(1)) < Vb) return null;
  return edge((x) => Math.abs(v(x)) < Vb, 0, 1, { rounds: 40 }).above;
};

/** A rotary one breaks when its electrodes pass, so many times a second, and the voltage then stands above it. */
const atPasses =
  (passes: number): Meets =>
  (t, dt, v, Vb) => {
    const pass = Math.floor((t + dt) * passes) / passes;
    const x = (pass - t) / dt;
    return x > 0 && pass > 0 && Math.abs(v(x)) >= Vb ? x : null;
  };

/** ∫i² over the first share of a step, A²s, by Simpson. */
const actionWithin = (i: Within, x: number, dt: number): number => ((x * dt) / 6) * (i(0) ** 2 + 4 * i(x / 2) ** 2 + i(x) ** 2);

/** Steps between two passes of the electrodes of a rotary gap, at the least. */
const stepsOfPass = 8;
const stepBetween = (path: BreakPath, passes: number | null): number =>
  passes === null ? stepOf(path) : Math.min(stepOf(path), 1 / passes / stepsOfPass);

/**
 * Follows an alternating supply from rest, in steps of a fraction of the fastest time of the loop, of fourth order.
 *
 * @param passes times a second that the electrodes of a rotary gap pass each other, and only then it may break; null: at any time
 */
function follow(
  path: BreakPath,
  drawn: () => number,
  steps: number,
  mostBreaks: number,
  passes: number | null = null,
): FollowedRow {
  const { Vs, f, R, L, C, td } = path;
  const w = 2 * Math.PI * f;
  const dt = stepBetween(path, passes);
  const meets = passes === null ? standing : atPasses(passes);
  const breaks: AcBreak[] = [];
  const samples = { t: new Float64Array(steps + 1), v: new Float64Array(steps + 1), i: new Float64Array(steps + 1) };
  let [v, i, until, Vb, n, firstAction] = [0, 0, -1, drawn(), 0, 0];
  const through = (t: number, vv: number, ii: number) => (L > 0 ? ii : (Vs * Math.sin(w * t) - vv) / R);
  const dv = (t: number, vv: number, ii: number, gap: boolean) => (gap ? 0 : through(t, vv, ii) / C);
  const di = (t: number, vv: number, ii: number) => (L > 0 ? (Vs * Math.sin(w * t) - R * ii - vv) / L : 0);
  for (; n < steps && breaks.length < mostBreaks; n++) {
    const t = n * dt;
    const gap = t < until;
    if (gap) v = 0;
    const [v0, i0] = [v, i];
    const [a, p] = [dv(t, v, i, gap), di(t, v, i)];
    const [b, q] = [dv(t + dt / 2, v + (dt / 2) * a, i + (dt / 2) * p, gap), di(t + dt / 2, v + (dt / 2) * a, i + (dt / 2) * p)];
    const [c, r] = [dv(t + dt / 2, v + (dt / 2) * b, i + (dt / 2) * q, gap), di(t + dt / 2, v + (dt / 2) * b, i + (dt / 2) * q)];
    const [d, u] = [dv(t + dt, v + dt * c, i + dt * r, gap), di(t + dt, v + dt * c, i + dt * r)];
    v += (dt / 6) * (a + 2 * b + 2 * c + d);
    i = through(t + dt, v, i + (dt / 6) * (p + 2 * q + 2 * r + u));
    const volts = cubic(v0, a, v, dv(t + dt, v, i, gap), dt);
    const amperes = L > 0 ? cubic(i0, p, i, di(t + dt, v, i), dt) : (x: number) => through(t + x * dt, volts(x), 0);
    const x = gap ? null : meets(t, dt, volts, Vb);
    if (breaks.length === 0) firstAction += actionWithin(amperes, x ?? 1, dt);
    if (x !== null) {
      breaks.push({ t: t + x * dt, v: volts(x), i: amperes(x) });
      until = t + x * dt + td;
      v = 0;
      Vb = drawn();
    }
    samples.t[n + 1] = t + dt;
    samples.v[n + 1] = v;
    samples.i[n + 1] = i;
  }
  const cut = (y: Float64Array) => y.subarray(0, n + 1);
  return { breaks, samples: { t: cut(samples.t), v: cut(samples.v), i: cut(samples.i) }, dt, firstAction };
}

/** A row of breaks whose voltages are drawn one by one, followed for as long as the steps last. */
export const acRow = (path: BreakPath, drawn: () => number, mostBreaks: number, passes: number | null = null): FollowedRow =>
  follow(path, drawn, 8 * mostSteps, mostBreaks, passes);

/** Breaks of an alternating supply from rest: of a gap that breaks at one voltage, or of a rotary one that holds it where it passes. */
export function acBreaks(path: BreakPath, Vb: number, onlyFirst = false, passes: number | null = null): AcRow {
  const steps = Math.min(mostSteps, Math.ceil(followed / path.f / stepBetween(path, passes)));
  const { breaks, samples, dt, firstAction } = follow(path, () => Vb, steps, onlyFirst ? 1 : Infinity, passes);
  const end = dt * steps;
  const from = settling * end;
  let [S, peak] = [0, 0];
  // A break empties it within its step: no sample has what it had then.
  const broken = breaks.reduce((most, { v }) => Math.max(most, Math.abs(v)), 0);
  const highest = samples.v.reduce((most, v) => Math.max(most, Math.abs(v)), broken);
  samples.i.forEach((i, k) => {
    if ((samples.t[k] ?? 0) < from) return;
    S += i * i * dt;
    peak = Math.max(peak, Math.abs(i));
  });
  return { breaks, from, end, rms: Math.sqrt(S / (end - from)), firstAction, peak, highest };
}

/**
 * The row of breaks of an alternating supply, as means over its cycles; null where the voltage hardly ever stands above the gap.
 *
 * @param passes times a second that the electrodes of a rotary gap pass each other; null of a gap that stands
 */
export function steadyAcBreaks(path: BreakPath, Vb: number, passes: number | null = null): SteadyBreaks | null {
  const { breaks, from, end, rms, peak, highest } = acBreaks(path, Vb, false, passes);
  const late = breaks.filter(({ t }) => t >= from);
  if (late.length < 3) return null;
  const rate = late.length / (end - from);
  const heat = (path.R * rms * rms) / rate;
  // The voltage whose energy is the mean of that of all breaks: a rotary one breaks wherever it stands.
  const mean = Math.sqrt(late.reduce((sum, { v }) => sum + v * v, 0) / late.length);
  return {
    Vb: mean,
    rate,
    atBreak: late.reduce((most, { i }) => Math.max(most, Math.abs(i)), 0),
    // The transformer limits by itself: what it can feed an arc with is at most the peak of its current.
    left: peak,
    given: heat + 0.5 * path.C * mean * mean,
    heat,
    rms,
    peak,
    highest,
  };
}
