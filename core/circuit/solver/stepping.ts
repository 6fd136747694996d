import { arcResistance } from '../arc.ts';
import type { TwoPole } from '../element.ts';
import { abscissa, errorWeights, gamma, output, stages, weights, type Within } from './method.ts';
import { Stage } from './stage.ts';
import { StepTooLong } from './stamping.ts';

const estimate = Float64Array.from(errorWeights);
const whole = Float64Array.from(output);

/** Makes each place `kept` times itself, and adds five of the rows by their weights. */
function blend(
  to: Float64Array,
  kept: number,
  from: number,
  rows: readonly Float64Array[],
  first: number,
  h: number,
  by: Float64Array,
): void {
  const w0 = h * (by[0] as number);
  const w1 = h * (by[1] as number);
  const w2 = h * (by[2] as number);
  const w3 = h * (by[3] as number);
  const w4 = h * (by[4] as number);
  const r0 = rows[first] as Float64Array;
  const r1 = rows[first + 1] as Float64Array;
  const r2 = rows[first + 2] as Float64Array;
  const r3 = rows[first + 3] as Float64Array;
  const r4 = rows[first + 4] as Float64Array;
  for (let m = from; m < to.length; m++)
    to[m] =
      kept * (to[m] as number) +
      w0 * (r0[m] as number) +
      w1 * (r1[m] as number) +
      w2 * (r2[m] as number) +
      w3 * (r3[m] as number) +
      w4 * (r4[m] as number);
}

/** One step: its stages, its error, and where its energy goes. */
export abstract class Stepping extends Stage {
  /** Currents that are watched, at the start of the step and at each of its stages, as `rows` are of voltages. */
  protected seenCurrents = new Float64Array(0);
  /** Branches whose current a device acts by or somebody asked for. */
  protected watched = new Int32Array(0);
  protected watch(branches: Iterable<number>): void {
    this.watched = Int32Array.from(new Set(branches));
    this.seenCurrents = new Float64Array((stages + 1) * this.watched.length);
  }

  /** Notes that a step begins with the voltages and currents as they are. */
  protected begin(): void {
    const { rows, watched, seenCurrents, current } = this;
    const at = rows.indexOf(this.v);
    rows[at] = rows[0] as Float64Array;
    rows[0] = this.v;
    for (let w = 0; w < watched.length; w++) seenCurrents[w] = current[watched[w] as number] as number;
  }

  /** Heat at a stage, and what the sources give in it, W. */
  private notePower(s: number): void {
    const { v, j, a, b, Y, powerIn, steady, lossy, arcs, series, waves, nonlinear, knownBranches, n } = this;
    const power = this.power[s] as Float64Array;
    const { g } = this.last as NonNullable<typeof this.last>;
    let supplied = 0;
    for (let m = 0; m < steady.length; m++) {
      const k = steady[m] as number;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      power[k] = dv * ((g[k] as number) * dv + (j[k] as number));
    }
    for (let m = 0; m < lossy.length; m++) {
      const k = lossy[m] as number;
      const i = Y[k] as number;
      power[k] = (series[k] as number) * i * i;
    }
    for (let m = 0; m < arcs.length; m++) {
      const k = arcs[m] as number;
      const i = Y[k] as number;
      power[k] = (series[k] as number) * i * i;
    }
    for (let m = 0; m < waves.length; m++) {
      const k = waves[m] as number;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      supplied -= dv * ((g[k] as number) * dv + (j[k] as number));
    }
    for (let m = 0; m < nonlinear.length; m++) {
      const k = nonlinear[m] as number;
      const e = this.poles[k] as TwoPole;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      const i = (g[k] as number) * dv + (j[k] as number);
      if (e.kind === 'power-source') supplied -= dv * i;
      // The resistive part of an arc alone: what lies across its inductance comes back.
      else if (e.kind === 'gap') power[k] = arcResistance(e.arc, Y[this.moreAt[k] as number] as number) * i * i;
      else power[k] = dv * i;
    }
    for (let m = 0; m < knownBranches.length; m++) {
      const k = knownBranches[m] as number;
      const p = a[k] as number;
      const q = b[k] as number;
      const i = this.currentOf(this.last as NonNullable<typeof this.last>, k);
      if (p > n) supplied += (v[p] as number) * i;
      if (q > n) supplied -= (v[q] as number) * i;
    }
    powerIn[s] = supplied;
  }

  protected supplied = 0;

  /** Takes the last attempt, or a share of it: its states, and the energy that went where in it. */
  protected take(h: number, share: Within | null): void {
    const { y, Y, K, ns, rows, current, watched, seenCurrents, energy, power, powerIn } = this;
    const seen = watched.length;
    if (!share) {
      for (let m = 0; m < ns; m++) y[m] = Y[m] as number;
      for (let w = 0; w < seen; w++) current[watched[w] as number] = seenCurrents[stages * seen + w] as number;
    } else {
      const { slopes, states } = share;
      let rest = 1;
      for (let s = 0; s < stages; s++) rest -= states[s] as number;
      blend(y, 1, 0, K, 0, h, slopes);
      this.v = rows[0] as Float64Array;
      blend(this.v, rest, 0, rows, 1, 1, states);
      for (let w = 0; w < seen; w++) {
        let sum = rest * (seenCurrents[w] as number);
        for (let s = 0; s < stages; s++) sum += (states[s] as number) * (seenCurrents[(s + 1) * seen + w] as number);
        current[watched[w] as number] = sum;
      }
    }
    const used = share ? share.slopes : whole;
    blend(energy, 1, this.nc, power, 0, h, used);
    for (let s = 0; s < stages; s++) this.supplied += h * (used[s] as number) * (powerIn[s] as number);
  }

  /** The network at a share of the last attempt, its states there being known: what does not keep energy follows its sources at once. */
  protected solveWithin(from: number, h: number, { share, slopes }: Within, into: Float64Array): void {
    const { y, K, v, hat, last, options } = this;
    const states = Float64Array.from(y);
    blend(states, 1, 0, K, 0, h, slopes);
    this.hat = states;
    this.Y.set(states);
    this.v = into;
    if (this.nonlinear.length > 0) into.set(this.rows[stages] as Float64Array);
    // So short that nothing moves in it.
    const look = options.until * 1e-11;
    this.stage(look, look, from + share * h);
    this.v = v;
    this.hat = hat;
    this.last = last;
  }

  /** What the stages before give a stage: `hat`. The first begins where the step does. */
  private gather(s: number, h: number): void {
    const { ns, y } = this;
    this.hat = s === 0 ? y : this.gathered;
    if (s === 0) return;
    const hat = this.hat;
    const [K0, K1, K2, K3] = this.K as unknown as [Float64Array, Float64Array, Float64Array, Float64Array];
    const at = s * stages;
    const w0 = h * (weights[at] as number);
    const w1 = h * (weights[at + 1] as number);
    const w2 = h * (weights[at + 2] as number);
    const w3 = h * (weights[at + 3] as number);
    if (s === 1) for (let m = 0; m < ns; m++) hat[m] = (y[m] as number) + w0 * (K0[m] as number);
    else if (s === 2) for (let m = 0; m < ns; m++) hat[m] = (y[m] as number) + w0 * (K0[m] as number) + w1 * (K1[m] as number);
    else if (s === 3)
      for (let m = 0; m < ns; m++)
        hat[m] = (y[m] as number) + w0 * (K0[m] as number) + w1 * (K1[m] as number) + w2 * (K2[m] as number);
    else
      for (let m = 0; m < ns; m++)
        hat[m] =
          (y[m] as number) + w0 * (K0[m] as number) + w1 * (K1[m] as number) + w2 * (K2[m] as number) + w3 * (K3[m] as number);
  }

  /** Tries a step. @returns its error as a multiple of what is allowed; Infinity where a stage found no solution */
  protected attempt(h: number): number {
    const { ns, ni, y, Y, rows, watched, seenCurrents } = this;
    const hg = h * gamma;
    const slower = 1 / hg;
    for (let m = ni; m < ns; m++) Y[m] = y[m] as number;
    for (let s = 0; s < stages; s++) {
      this.gather(s, h);
      const was = rows[s] as Float64Array;
      this.v = rows[s + 1] as Float64Array;
      // What is not linear starts from where it was.
      if (this.nonlinear.length > 0) this.v.set(was);
      if (!this.hasStage(h, hg, this.t + h * (abscissa[s] as number))) return Infinity;
      const { hat } = this;
      const K = this.K[s] as Float64Array;
      for (let m = 0; m < ns; m++) K[m] = ((Y[m] as number) - (hat[m] as number)) * slower;
      this.notePower(s);
      const slot = this.last as NonNullable<typeof this.last>;
      const at = (s + 1) * watched.length;
      for (let w = 0; w < watched.length; w++) seenCurrents[at + w] = this.currentOf(slot, watched[w] as number);
    }
    if (this.awake.length > 0) this.currents(this.last as NonNullable<typeof this.last>);
    return this.errorOf(h, estimate);
  }

  /** Whether a stage has a solution. */
  private hasStage(h: number, hg: number, t: number): boolean {
    try {
      return this.stage(h, hg, t);
    } catch (error) {
      if (error instanceof StepTooLong) return false;
      throw error;
    }
  }

  private peakV = 0;
  private peakI = 0;
  private readonly peaks = new Float64Array(this.ns - this.nd);

  /** What the stages come to by some weights, as a multiple of the error that is allowed. */
  protected errorOf(h: number, by: Float64Array): number {
    const { ns, nc, nd, y, Y, peaks, tolerance } = this;
    let topV = this.peakV;
    for (let m = 0; m < nc; m++) {
      const size = Math.abs(y[m] as number);
      if (size > topV) topV = size;
    }
    this.peakV = topV;
    let topI = this.peakI;
    for (let m = nc; m < nd; m++) {
      const size = Math.abs(y[m] as number);
      if (size > topI) topI = size;
    }
    this.peakI = topI;
    for (let m = 0; m < nc; m++) {
      const size = Math.abs(Y[m] as number);
      if (size > topV) topV = size;
    }
    for (let m = nc; m < nd; m++) {
      const size = Math.abs(Y[m] as number);
      if (size > topI) topI = size;
    }
    // Below a microvolt and a nanoampere nothing is of interest; less than what leaks through everything that is open, and
    // than a billionth of the highest voltage, says nothing.
    const worstV = this.worstOf(0, nc, h, by, 0, 0.1 * Math.max(topV, 1e-6), 1e-9 * this.topV);
    let worst = this.worstOf(nc, nd, h, by, worstV, 0.1 * Math.max(topI, 1e-9), this.Goff * this.topV);
    for (let m = nd; m < ns; m++) {
      const own = m - nd;
      const size = Math.abs(y[m] as number);
      if (size > (peaks[own] as number)) peaks[own] = size;
      worst = this.worstOf(m, m + 1, h, by, worst, 0.1 * Math.max(peaks[own] as number, 1e-30), 0);
    }
    return worst / tolerance;
  }

  /** The greatest error among some states, against their size, or `floor` where they are smaller, and what says nothing. */
  private worstOf(from: number, to: number, h: number, by: Float64Array, worst: number, floor: number, nothing: number): number {
    const { y, Y } = this;
    const [K0, K1, K2, K3, K4] = this.K as unknown as [Float64Array, Float64Array, Float64Array, Float64Array, Float64Array];
    const e0 = h * (by[0] as number);
    const e1 = h * (by[1] as number);
    const e2 = h * (by[2] as number);
    const e3 = h * (by[3] as number);
    const e4 = h * (by[4] as number);
    const least = nothing / this.tolerance;
    for (let m = from; m < to; m++) {
      const e = Math.abs(
        e0 * (K0[m] as number) +
          e1 * (K1[m] as number) +
          e2 * (K2[m] as number) +
          e3 * (K3[m] as number) +
          e4 * (K4[m] as number),
      );
      let scale = Math.abs(y[m] as number);
      const is = Math.abs(Y[m] as number);
      if (is > scale) scale = is;
      if (floor > scale) scale = floor;
      scale += least;
      // Written so that what is no number counts as the worst.
      if (!(e <= worst * scale)) worst = e / scale;
    }
    return worst;
  }

  /** The highest voltage and current so far. */
  protected topV = 0;
  protected topI = 0;

  protected stored(): number {
    let sum = 0;
    for (let k = 0; k < this.nd; k++) {
      const value = this.y[k] as number;
      if ((this.grouped[k] as number) < 0 && this.poles[k]?.kind !== 'coil')
        sum += 0.5 * (this.value[k] as number) * value * value;
    }
    for (const { branches, L } of this.groups) {
      const m = branches.length;
      for (let p = 0; p < m; p++)
        for (let q = 0; q < m; q++)
          sum +=
            0.5 *
            (L[p * m + q] as number) *
            (this.y[branches[p] as number] as number) *
            (this.y[branches[q] as number] as number);
    }
    return sum + (this.lines.count > 0 ? this.lines.stored(this.t) : 0);
  }
}
