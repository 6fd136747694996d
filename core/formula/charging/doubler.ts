/** A doubler: two capacitors Cd, each charged by one half wave of R and X, in series into the store through Rc. */
export interface Doubler {
  /** Peak of each half, V. */
  readonly Vp: number;
  /** Ω, of the winding */
  readonly R: number;
  /** Ω, of its leakage at the mains frequency */
  readonly X: number;
  /** Hz */
  readonly f: number;
  /** F, each */
  readonly Cd: number;
  /** Ω, behind the doubler */
  readonly Rc: number;
}

const steps = 120;
const mostCycles = 150;

/** Voltages of both capacitors and current of the winding, at the beginning of a cycle. */
interface State {
  u1: number;
  u2: number;
  i: number;
}

/**
 * Mean current into a store that stands at v, and what is lost on the way, W: from a state, which is carried on, the cycle is
 * stepped through until it repeats. The trapezoidal rule, diodes ideal.
 */
function cycleAt({ Vp, R, X, f, Cd, Rc }: Doubler, v: number, state: State): { current: number; heat: number } {
  const h = 1 / (f * steps);
  const L = X / (2 * Math.PI * f);
  const loop = { L, R, h, C: Cd };
  const feed = { G: 1 / Math.max(Rc, 1e-3 * (R + X), 1e-6), h, C: Cd };
  let { u1, u2, i } = state;
  let [current, heat] = [0, 0];
  for (let cycle = 0; cycle < mostCycles; cycle++) {
    let [charge, work] = [0, 0];
    const before = u1 + u2;
    for (let k = 0; k < steps; k++) {
      const e = Vp * (sines[k] as number);
      // The store draws (u1 + u2 − v)/Rc; what comes from the winding goes into one capacitor.
      const next = windingCurrent(i, e, u1, u2, loop);
      const mean = L > 0 ? (i + next) / 2 : next;
      const out = storeCurrent(u1 + u2, Math.abs(mean), v, feed);
      u1 += (h / Cd) * (Math.max(0, mean) - out);
      u2 += (h / Cd) * (Math.max(0, -mean) - out);
      // Both diodes together let the output not fall below nought.
      if (u1 + u2 < 0) u1 -= u1 + u2;
      i = next;
      charge += out * h;
      work += e * mean * h;
    }
    current = charge * f;
    heat = work * f - v * current;
    // What the capacitors keep of a cycle must be little against what passes through them.
    if (cycle > 0 && Math.abs(u1 + u2 - before) * Cd < 1e-3 * Math.abs(charge) + 1e-9 * Cd * Vp) break;
  }
  [state.u1, state.u2, state.i] = [u1, u2, i];
  return { current: Math.max(0, current), heat: Math.max(0, heat) };
}

const sines = Float64Array.from({ length: steps }, (_, k) => Math.sin(2 * Math.PI * ((k + 1) / steps)));

interface Step {
  readonly h: number;
  readonly C: number;
}

/** Current of the winding a step later: above nought through one diode, below through the other, between them none. */
function windingCurrent(i: number, e: number, u1: number, u2: number, { L, R, h, C }: Step & { L: number; R: number }): number {
  // Implicit in the capacitor it charges; trapezoidal in L where there is any.
  const forward = L > 0 ? ((L / h - R / 2 - h / (4 * C)) * i + e - u1) / (L / h + R / 2 + h / (4 * C)) : (e - u1) / (R + h / C);
  if (i >= 0 && forward > 0) return forward;
  const back = L > 0 ? ((L / h - R / 2 - h / (4 * C)) * i + e + u2) / (L / h + R / 2 + h / (4 * C)) : (e + u2) / (R + h / C);
  return i <= 0 && back < 0 ? back : 0;
}

/** Current into the store over a step, implicit in both capacitors. */
const storeCurrent = (u: number, into: number, v: number, { G, h, C }: Step & { G: number }): number =>
  (G * (u + (h / C) * (into / 2) - v)) / (1 + (h / C) * G);

/** What a doubler does at every voltage of the store, in a table. */
interface Characteristic {
  readonly v: Float64Array;
  readonly current: Float64Array;
  readonly heat: Float64Array;
}

const columns = 24;
const tables = new Map<string, Characteristic>();

/** The table of a doubler. It depends on the supply alone, so that one serves for every question about a charge. */
function characteristic(d: Doubler): Characteristic {
  const key = [d.Vp, d.R, d.X, d.f, d.Cd, d.Rc].join();
  const known = tables.get(key);
  if (known) return known;
  const v = Float64Array.from({ length: columns + 1 }, (_, k) => 2 * d.Vp * (1 - (1 - k / columns) ** 2));
  const made = { v, current: new Float64Array(columns + 1), heat: new Float64Array(columns + 1) };
  // Each voltage of the store begins where the one below it came to rest.
  const state: State = { u1: 0.4 * d.Vp, u2: 0.4 * d.Vp, i: 0 };
  for (let k = 0; k < columns; k++) {
    const { current, heat } = cycleAt(d, v[k] ?? 0, state);
    made.current[k] = current;
    made.heat[k] = heat;
  }
  if (tables.size > 200) tables.clear();
  tables.set(key, made);
  return made;
}

/** Mean current of a doubler into a store at v, A. */
export function doublerMean(d: Doubler, at: number): number {
  if (at >= 2 * d.Vp) return 0;
  const { v, current } = characteristic(d);
  let k = 1;
  while (k < columns && (v[k] ?? 0) < at) k += 1;
  const [v0, v1] = [v[k - 1] ?? 0, v[k] ?? 0];
  return (current[k - 1] ?? 0) + (((current[k] ?? 0) - (current[k - 1] ?? 0)) * (at - v0)) / (v1 - v0);
}

/** Time and heat of a charge through a doubler up to V: the characteristic in straight pieces, each integrated exactly. */
export function doublerCharge(d: Doubler, C: number, Rb: number, V: number): { time: number; heat: number } {
  const { v, heat: watts } = characteristic(d);
  const ends = [...v.filter((x) => x < V), V];
  let [time, heat] = [0, 0];
  let before = doublerMean(d, 0);
  for (let k = 1; k < ends.length; k++) {
    const [v0, v1] = [ends[k - 1] ?? 0, ends[k] ?? 0];
    const net = doublerMean(d, v1) - v1 / Rb;
    if (!(net > 0)) return { time: Infinity, heat: Infinity };
    const ratio = before / net;
    const dt = C * (v1 - v0) * (Math.abs(ratio - 1) < 1e-6 ? 1 / net : Math.log(ratio) / (before - net));
    time += dt;
    heat += dt * (watts[k - 1] ?? 0);
    before = net;
  }
  return { time, heat };
}
