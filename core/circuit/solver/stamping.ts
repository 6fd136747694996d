import { arcRate, arcResistance, arcSlope, type FallingArc } from '../arc.ts';
import { CircuitError } from '../check.ts';
import type { Coil, Gap, TwoPole } from '../element.ts';
import { inverse, type CoupledGroup } from './coupled.ts';
import { Network, type Slot } from './network.ts';
import { factorise } from './sparse.ts';

/** A step in which what is not linear has no solution. */
export class StepTooLong extends Error {}
/** Share of a run below which a step is not too long: then the circuit itself is at fault. */
const shortestSingular = 1e-10;

/** The matrix of a stage: companion models of every branch in the nodes, factorised. */
export abstract class Stamping extends Network {
  /**
   * Resistance and inductance of a falling arc or of a coil at a guess of its state, and by how much its voltage grows with its current
   * there, Ω.
   */
  private reading = { R: 0, L: 0, slope: 0 };
  /** Whether the next guess is made by the slope: Newton's, which where it does not come to rest is left for the plain one. */
  protected bySlope = true;
  private readNonlinear(k: number, hg: number, t: number): void {
    const e = this.poles[k] as Gap | Coil;
    const s = this.moreAt[k] as number;
    const i = this.Y[k] as number;
    if (e.kind === 'gap') {
      const arc = e.arc as FallingArc;
      const q = (this.hat[s] as number) + hg * arcRate(arc, i);
      this.Y[s] = q;
      this.reading.R = arcResistance(arc, q);
      this.reading.L = e.L;
      this.reading.slope = arcSlope(arc, this.hat[s] as number, q);
      return;
    }
    const coil = this.readingOf.get(k) as { L: number; dLdt: number };
    const { x, dx } = this.scratch.get(k) as { x: Float64Array; dx: Float64Array };
    for (let m = 0; m < x.length; m++) x[m] = this.Y[s + m] as number;
    e.slopes(t, i, x, dx);
    for (let m = 0; m < x.length; m++) {
      x[m] = (this.hat[s + m] as number) + hg * (dx[m] as number);
      this.Y[s + m] = x[m] as number;
    }
    e.read(t, i, x, coil);
    this.reading.R = e.R + coil.dLdt;
    this.reading.L = coil.L;
    this.reading.slope = this.reading.R;
  }

  /** What has passed through the arcs, at the currents that were found. */
  protected setArcStates(hg: number): void {
    for (let m = 0; m < this.nonlinear.length; m++) {
      const k = this.nonlinear[m] as number;
      const e = this.poles[k] as TwoPole;
      const s = this.moreAt[k] as number;
      if (e.kind === 'gap') this.Y[s] = (this.hat[s] as number) + hg * arcRate(e.arc as FallingArc, this.Y[k] as number);
    }
  }

  /** Conductance of a nonlinear branch at the guess, and what it carries at no voltage. */
  private stampNonlinear(slot: Slot, k: number, hg: number, t: number): void {
    const e = this.poles[k] as TwoPole;
    if (e.kind === 'power-source') {
      const v = (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
      const limited = v > e.P / e.Imax;
      this.add(slot, k, limited ? e.P / (v * v) : 0);
      this.j[k] = limited ? (-2 * e.P) / v : -e.Imax;
      return;
    }
    this.readNonlinear(k, hg, t);
    const { R, L } = this.reading;
    const slope = this.bySlope ? this.reading.slope : R;
    const g = hg / (L + hg * slope);
    this.add(slot, k, g);
    // What is left of the current is L/(L + hg·R) of it; and what the slope at the guess counts too little or too much.
    this.j[k] = (this.hat[k] as number) * ((g * L) / hg) + g * (slope - R) * (this.Y[k] as number);
  }

  private add(slot: Slot, k: number, g: number): void {
    const { diagonal, off } = slot;
    const p = this.a[k] as number;
    const q = this.b[k] as number;
    const at = this.offAt[k] as number;
    slot.g[k] = g;
    diagonal[p] = (diagonal[p] as number) + g;
    diagonal[q] = (diagonal[q] as number) + g;
    off[at] = (off[at] as number) - g;
  }

  /** The matrix of all that is linear, for one step and the switches as they are: between the rounds of a stage it stays. */
  private linearPart: Slot | null = null;

  private stamp(slot: Slot, hg: number, t: number): void {
    const { diagonal, off } = slot;
    if (this.nonlinear.length === 0) this.stampLinear(slot, hg);
    else {
      const part = (this.linearPart ??= this.newSlot());
      if (part.h !== hg || part.key !== this.key) {
        part.h = NaN;
        this.stampLinear(part, hg);
        part.h = hg;
        part.key = this.key;
      }
      slot.g.set(part.g);
      diagonal.set(part.diagonal);
      off.set(part.off);
      part.Y.forEach((Y, i) => slot.Y[i]?.set(Y));
      part.W.forEach((W, i) => slot.W[i]?.set(W));
      for (let m = 0; m < this.nonlinear.length; m++) this.stampNonlinear(slot, this.nonlinear[m] as number, hg, t);
    }
    this.factorisations += 1;
    const singular = factorise(this.pattern, diagonal, off);
    if (singular >= 0) {
      // A coil out of which something is pulled may have no solution in a long step where it has one in a short one.
      if (this.nonlinear.length > 0 && hg > this.options.until * shortestSingular) throw new StepTooLong();
      const node = [...this.nodeOf].find(([, at]) => at === singular)?.[0] ?? '?';
      const parts = this.poles.filter((e) => e.nodes.includes(node)).map((e) => e.name);
      throw new CircuitError({ code: 'singular', parts, reason: `the voltage of node ${node} is not determined` });
    }
  }

  private stampLinear(slot: Slot, hg: number): void {
    const { g, diagonal, off } = slot;
    const { value, series, steady, waves, on, a, b, offAt, nc, ni, arcs } = this;
    // What is open carries nothing.
    g.fill(0);
    diagonal.fill(0);
    off.fill(0);
    const perCapacitance = 1 / hg;
    for (let k = 0; k < nc; k++) g[k] = (value[k] as number) * perCapacitance;
    for (let k = nc; k < ni; k++) g[k] = hg / ((value[k] as number) + hg * (series[k] as number));
    for (let k = 0; k < ni; k++) {
      const p = a[k] as number;
      const q = b[k] as number;
      const at = offAt[k] as number;
      const own = g[k] as number;
      diagonal[p] = (diagonal[p] as number) + own;
      diagonal[q] = (diagonal[q] as number) + own;
      off[at] = (off[at] as number) - own;
    }
    for (let m = 0; m < arcs.length; m++) {
      const k = arcs[m] as number;
      this.add(slot, k, hg / ((value[k] as number) + hg * (series[k] as number)));
    }
    for (let m = 0; m < steady.length; m++) {
      const k = steady[m] as number;
      this.add(slot, k, on[k] ? (value[k] as number) : this.Goff);
    }
    for (let m = 0; m < waves.length; m++) {
      const k = waves[m] as number;
      this.add(slot, k, value[k] as number);
    }
    for (let m = 0; m < this.lines.count; m++) {
      const k = this.lines.branch(m);
      this.add(slot, k, value[k] as number);
    }
    for (let i = 0; i < this.groups.length; i++) this.stampGroup(slot, this.groups[i] as CoupledGroup, i, hg);
  }

  protected stampGroup(slot: Slot, group: CoupledGroup, index: number, hg: number): void {
    const m = group.branches.length;
    const sum = new Float64Array(m * m);
    for (let i = 0; i < m * m; i++) sum[i] = (group.L[i] as number) / hg;
    for (let i = 0; i < m; i++) sum[i * m + i] = (sum[i * m + i] as number) + (group.R[i] as number);
    const Y = inverse(m, sum);
    if (!Y)
      throw new CircuitError({
        code: 'singular',
        parts: group.branches.map((k) => this.poles[k]?.name ?? ''),
        reason: 'these inductors are coupled too tightly',
      });
    slot.Y[index]?.set(Y);
    const W = slot.W[index] as Float64Array;
    for (let i = 0; i < m; i++)
      for (let c = 0; c < m; c++) {
        let value = 0;
        for (let r = 0; r < m; r++) value += ((Y[i * m + r] as number) * (group.L[r * m + c] as number)) / hg;
        W[i * m + c] = value;
      }
    let at = 0;
    const places = this.groupOff[index] as Int32Array;
    for (let p = 0; p < m; p++)
      for (let q = 0; q < m; q++) {
        const value = Y[p * m + q] as number;
        for (let s = 0; s < 2; s++)
          for (let r = 0; r < 2; r++) {
            const place = places[at++] as number;
            const row = (s === 0 ? this.a : this.b)[group.branches[p] as number] as number;
            const column = (r === 0 ? this.a : this.b)[group.branches[q] as number] as number;
            const signed = s === r ? value : -value;
            if (row === column && row < this.n) slot.diagonal[row] = (slot.diagonal[row] as number) + signed;
            // Each pair of rows comes twice, once from either side.
            else if (place >= 0) slot.off[place] = (slot.off[place] as number) + signed / 2;
          }
      }
  }

  private newSlot(): Slot {
    const squares = () => this.groups.map((group) => new Float64Array(group.branches.length ** 2));
    return {
      h: 0,
      key: 0,
      used: 0,
      g: new Float64Array(this.poles.length),
      diagonal: new Float64Array(this.v.length),
      off: new Float64Array(this.pattern.size + 1),
      Y: squares(),
      W: squares(),
    };
  }

  /** The factorised matrix of a step with the switches as they are. */
  protected slotFor(h: number, hg: number, t: number): Slot {
    this.clock += 1;
    for (const slot of this.slots)
      if (slot.h === h && slot.key === this.key) {
        slot.used = this.clock;
        return slot;
      }
    let slot = this.slots.length < 4 ? undefined : this.slots.reduce((old, s) => (s.used < old.used ? s : old));
    if (!slot) this.slots.push((slot = this.newSlot()));
    slot.h = NaN;
    this.stamp(slot, hg, t);
    slot.h = h;
    slot.key = this.key;
    slot.used = this.clock;
    return slot;
  }
}
