import { arcResistance } from './arc.ts';
import type { TwoPole } from './element.ts';
import { abscissa, errorWeights, gamma, output, stages, weights, type Within } from './method.ts';
import { Stage } from './stage.ts';

const estimate = Float64Array.from(errorWeights);
const whole = Float64Array.from(output);

/** One step: its stages, its error, and where its energy goes. */
export abstract class Stepping extends Stage {
  /** Voltages of the nodes, and the currents that are watched, at the start of the step and at each of its stages. */
  protected readonly seen = new Float64Array((stages + 1) * this.v.length);
  protected seenCurrents = new Float64Array(0);
  /** Branches whose current a device acts by or somebody asked for. */
  protected watched = new Int32Array(0);
  protected watch(branches: Iterable<number>): void {
    this.watched = Int32Array.from(new Set(branches));
    this.seenCurrents = new Float64Array((stages + 1) * this.watched.length);
  }

  /** Notes that a step begins with the voltages and currents as they are. */
  protected begin(): void {
    const { seen, v, watched, seenCurrents, current } = this;
    for (let i = 0; i < v.length; i++) seen[i] = v[i] as number;
    for (let w = 0; w < watched.length; w++) seenCurrents[w] = current[watched[w] as number] as number;
  }

  private noteStage(s: number): void {
    const { seen, v, watched, seenCurrents } = this;
    const slot = this.last as NonNullable<typeof this.last>;
    let at = (s + 1) * v.length;
    for (let i = 0; i < v.length; i++) seen[at++] = v[i] as number;
    at = (s + 1) * watched.length;
    for (let w = 0; w < watched.length; w++) seenCurrents[at++] = this.currentOf(slot, watched[w] as number);
  }

  /** Heat at a stage, and what the sources give in it, W. */
  private notePower(s: number): void {
    const { v, j, a, b, Y, power, powerIn, steady, lossy, arcs, series, waves, nonlinear, knownBranches, n } = this;
    const { g } = this.last as NonNullable<typeof this.last>;
    const row = s * this.poles.length;
    let supplied = 0;
    for (let m = 0; m < steady.length; m++) {
      const k = steady[m] as number;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      power[row + k] = dv * ((g[k] as number) * dv + (j[k] as number));
    }
    for (let m = 0; m < lossy.length; m++) {
      const k = lossy[m] as number;
      const i = Y[k] as number;
      power[row + k] = (series[k] as number) * i * i;
    }
    for (let m = 0; m < arcs.length; m++) {
      const k = arcs[m] as number;
      const i = Y[k] as number;
      power[row + k] = (series[k] as number) * i * i;
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
      else if (e.kind === 'gap') power[row + k] = arcResistance(e.arc, Y[this.moreAt[k] as number] as number) * i * i;
      else power[row + k] = dv * i;
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
    const { y, Y, K, ns, nc, v, seen, current, watched, seenCurrents, energy, power, powerIn } = this;
    if (!share) for (let m = 0; m < ns; m++) y[m] = Y[m] as number;
    else {
      this.blend(y, 0, K, 0, ns, h, share.slopes);
      const { states } = share;
      let rest = 1;
      for (let s = 0; s < stages; s++) rest -= states[s] as number;
      for (let i = 0; i < v.length; i++) v[i] = rest * (seen[i] as number);
      this.blend(v, 0, seen, v.length, v.length, 1, states);
      for (let w = 0; w < watched.length; w++) {
        let sum = rest * (seenCurrents[w] as number);
        for (let s = 0; s < stages; s++) sum += (states[s] as number) * (seenCurrents[(s + 1) * watched.length + w] as number);
        current[watched[w] as number] = sum;
      }
    }
    const used = share ? share.slopes : whole;
    this.blend(energy, nc, power, nc, energy.length, h, used);
    for (let s = 0; s < stages; s++) this.supplied += h * (used[s] as number) * (powerIn[s] as number);
  }

  /** Adds to each place from `from` on the five rows of a table, whose first row begins at `first`, by their weights. */
  private blend(to: Float64Array, from: number, rows: Float64Array, first: number, n: number, h: number, by: Float64Array): void {
    const w0 = h * (by[0] as number);
    const w1 = h * (by[1] as number);
    const w2 = h * (by[2] as number);
    const w3 = h * (by[3] as number);
    const w4 = h * (by[4] as number);
    let p = first;
    let q = first + n;
    let r = first + 2 * n;
    let s = first + 3 * n;
    let u = first + 4 * n;
    for (let m = from; m < n; m++)
      to[m] =
        (to[m] as number) +
        w0 * (rows[p++] as number) +
        w1 * (rows[q++] as number) +
        w2 * (rows[r++] as number) +
        w3 * (rows[s++] as number) +
        w4 * (rows[u++] as number);
  }

  /** What the stages before give a stage, into `hat`. */
  private gather(s: number, h: number): void {
    const { ns, hat, K, y } = this;
    const at = s * stages;
    const w0 = h * (weights[at] as number);
    const w1 = h * (weights[at + 1] as number);
    const w2 = h * (weights[at + 2] as number);
    const w3 = h * (weights[at + 3] as number);
    let p = 0;
    let q = ns;
    let r = 2 * ns;
    let u = 3 * ns;
    if (s === 0) for (let m = 0; m < ns; m++) hat[m] = y[m] as number;
    else if (s === 1) for (let m = 0; m < ns; m++) hat[m] = (y[m] as number) + w0 * (K[m] as number);
    else if (s === 2) for (let m = 0; m < ns; m++) hat[m] = (y[m] as number) + w0 * (K[p++] as number) + w1 * (K[q++] as number);
    else if (s === 3)
      for (let m = 0; m < ns; m++)
        hat[m] = (y[m] as number) + w0 * (K[p++] as number) + w1 * (K[q++] as number) + w2 * (K[r++] as number);
    else
      for (let m = 0; m < ns; m++)
        hat[m] =
          (y[m] as number) +
          w0 * (K[p++] as number) +
          w1 * (K[q++] as number) +
          w2 * (K[r++] as number) +
          w3 * (K[u++] as number);
  }

  /** Tries a step. @returns its error as a multiple of what is allowed; Infinity where a stage found no solution */
  protected attempt(h: number): number {
    const { ns, hat, K, y, Y } = this;
    const hg = h * gamma;
    const slower = 1 / hg;
    for (let m = 0; m < ns; m++) Y[m] = y[m] as number;
    for (let s = 0; s < stages; s++) {
      this.gather(s, h);
      if (!this.stage(h, hg, this.t + h * (abscissa[s] as number))) return Infinity;
      let at = s * ns;
      for (let m = 0; m < ns; m++) K[at++] = ((Y[m] as number) - (hat[m] as number)) * slower;
      this.notePower(s);
      this.noteStage(s);
    }
    this.currents(this.last as NonNullable<typeof this.last>);
    return this.errorOf(h, estimate);
  }

  private peakV = 0;
  private peakI = 0;
  private readonly peaks = new Float64Array(this.ns - this.nd);

  /** What the stages come to by some weights, as a multiple of the error that is allowed. */
  protected errorOf(h: number, by: Float64Array): number {
    const { ns, nc, nd, K, y, Y, peaks, tolerance } = this;
    for (let m = 0; m < nc; m++) {
      const size = Math.abs(y[m] as number);
      if (size > this.peakV) this.peakV = size;
    }
    for (let m = nc; m < nd; m++) {
      const size = Math.abs(y[m] as number);
      if (size > this.peakI) this.peakI = size;
    }
    // Below a microvolt and a nanoampere nothing is of interest.
    let topV = Math.max(this.peakV, 1e-6);
    let topI = Math.max(this.peakI, 1e-9);
    for (let m = 0; m < nc; m++) {
      const size = Math.abs(Y[m] as number);
      if (size > topV) topV = size;
    }
    for (let m = nc; m < nd; m++) {
      const size = Math.abs(Y[m] as number);
      if (size > topI) topI = size;
    }
    // Less than what leaks through everything that is open, and than a billionth of the highest voltage, says nothing.
    const leastV = 1e-9 * this.topV;
    const leastI = this.Goff * this.topV;
    const [e0, e1, e2, e3, e4] = by as unknown as [number, number, number, number, number];
    let worst = 0;
    for (let m = 0; m < ns; m++) {
      const e = Math.abs(
        e0 * (K[m] as number) +
          e1 * (K[ns + m] as number) +
          e2 * (K[2 * ns + m] as number) +
          e3 * (K[3 * ns + m] as number) +
          e4 * (K[4 * ns + m] as number),
      );
      const was = Math.abs(y[m] as number);
      const is = Math.abs(Y[m] as number);
      let scale = was > is ? was : is;
      let least = 0;
      if (m < nc) {
        if (0.1 * topV > scale) scale = 0.1 * topV;
        least = leastV;
      } else if (m < nd) {
        if (0.1 * topI > scale) scale = 0.1 * topI;
        least = leastI;
      } else {
        const own = m - nd;
        if (was > (peaks[own] as number)) peaks[own] = was;
        scale = Math.max(scale, 0.1 * Math.max(peaks[own] as number, 1e-30));
      }
      const share = (h * e) / (tolerance * scale + least);
      // What is no number is no small error.
      if (!(share <= worst)) worst = share;
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
    return sum;
  }
}
