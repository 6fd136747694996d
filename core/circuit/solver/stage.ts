import type { CoupledGroup } from './coupled.ts';
import { waveAt, type CurrentSource, type Diode, type Thyristor, type VoltageSource } from '../element.ts';
import type { Slot } from './network.ts';
import { solve } from './sparse.ts';
import { Stamping } from './stamping.ts';

/** One stage of a step: the companion models of all branches in the nodes, solved, and the states that come out. */
export abstract class Stage extends Stamping {
  /** What the right-hand side of a stage has of all that is linear: the same in every round. */
  private readonly linear = new Float64Array(this.v.length);

  /** Currents that the states alone set going, and the sources, into the right-hand side. What is not linear is left out. */
  private load(slot: Slot, t: number): void {
    const { linear: x, given, j, a, b, hat, nc, ni, arcs, series, waves, biased } = this;
    const { g } = slot;
    for (let m = 0; m < this.knownWaves.length; m++) {
      const { at, element, sign } = this.knownWaves[m] as (typeof this.knownWaves)[number];
      if (element) given[at] = sign * waveAt(element.wave, t);
    }
    for (let i = 0; i < x.length; i++) x[i] = 0;
    for (let k = 0; k < nc; k++) {
      const own = (g[k] as number) * (hat[k] as number);
      const p = a[k] as number;
      const q = b[k] as number;
      x[p] = (x[p] as number) + own;
      x[q] = (x[q] as number) - own;
    }
    for (let k = nc; k < ni; k++) {
      const own = (hat[k] as number) * (1 - (g[k] as number) * (series[k] as number));
      j[k] = own;
      const p = a[k] as number;
      const q = b[k] as number;
      x[p] = (x[p] as number) - own;
      x[q] = (x[q] as number) + own;
    }
    for (let m = 0; m < arcs.length; m++) {
      const k = arcs[m] as number;
      const own = (hat[k] as number) * (1 - (g[k] as number) * (series[k] as number));
      j[k] = own;
      const p = a[k] as number;
      const q = b[k] as number;
      x[p] = (x[p] as number) - own;
      x[q] = (x[q] as number) + own;
    }
    for (let m = 0; m < biased.length; m++) {
      const k = biased[m] as number;
      const e = this.poles[k] as Diode | Thyristor;
      const own = -(g[k] as number) * e.Vf * (this.direction[k] as number);
      j[k] = own;
      this.push(k, own);
    }
    for (let m = 0; m < waves.length; m++) {
      const k = waves[m] as number;
      const e = this.poles[k] as VoltageSource | CurrentSource;
      const own = e.kind === 'voltage-source' ? -(g[k] as number) * waveAt(e.wave, t) : waveAt(e.wave, t);
      j[k] = own;
      this.push(k, own);
    }
    for (let m = 0; m < this.lines.count; m++) {
      const k = this.lines.branch(m);
      const own = -(g[k] as number) * this.lines.source(m, t);
      j[k] = own;
      this.push(k, own);
    }
    this.loadGroups(slot);
  }

  private push(k: number, i: number): void {
    const { linear } = this;
    const p = this.a[k] as number;
    const q = this.b[k] as number;
    linear[p] = (linear[p] as number) - i;
    linear[q] = (linear[q] as number) + i;
  }

  private loadGroups(slot: Slot): void {
    const { given, j, a, b } = this;
    for (let i = 0; i < this.groups.length; i++) {
      const { branches } = this.groups[i] as CoupledGroup;
      const m = branches.length;
      const Y = slot.Y[i] as Float64Array;
      const W = slot.W[i] as Float64Array;
      for (let p = 0; p < m; p++) {
        const k = branches[p] as number;
        let own = 0;
        let outer = 0;
        for (let q = 0; q < m; q++) {
          const other = branches[q] as number;
          own += (W[p * m + q] as number) * (this.hat[other] as number);
          const r = a[other] as number;
          const s = b[other] as number;
          outer += (Y[p * m + q] as number) * ((given[r] as number) - (given[s] as number));
        }
        j[k] = own;
        this.push(k, own + outer);
      }
    }
  }

  /** Solves the network at one stage, its right-hand side being loaded. */
  private network(slot: Slot): void {
    const { n, v, given, linear, j, a, b, nonlinear, knownBranches } = this;
    const { g } = slot;
    v.set(linear);
    for (let m = 0; m < nonlinear.length; m++) {
      const k = nonlinear[m] as number;
      const p = a[k] as number;
      const q = b[k] as number;
      const i = j[k] as number;
      v[p] = (v[p] as number) - i;
      v[q] = (v[q] as number) + i;
    }
    for (let m = 0; m < knownBranches.length; m++) {
      const k = knownBranches[m] as number;
      if ((this.grouped[k] as number) >= 0) continue;
      const p = a[k] as number;
      const q = b[k] as number;
      const i = (g[k] as number) * ((given[p] as number) - (given[q] as number));
      v[p] = (v[p] as number) - i;
      v[q] = (v[q] as number) + i;
    }
    solve(this.pattern, slot.diagonal, slot.off, v);
    for (let i = n; i < v.length; i++) v[i] = given[i] as number;
  }

  private groupCurrents(slot: Slot, i: number): void {
    const { v, a, b } = this;
    const { branches } = this.groups[i] as CoupledGroup;
    const m = branches.length;
    const Y = slot.Y[i] as Float64Array;
    for (let p = 0; p < m; p++) {
      let value = this.j[branches[p] as number] as number;
      for (let q = 0; q < m; q++) {
        const other = branches[q] as number;
        value += (Y[p * m + q] as number) * ((v[a[other] as number] as number) - (v[b[other] as number] as number));
      }
      this.current[branches[p] as number] = value;
    }
  }

  /** Current of a branch at the last solution. */
  protected currentOf(slot: Slot, k: number): number {
    if ((this.grouped[k] as number) >= 0) return this.current[k] as number;
    const across = (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
    return (slot.g[k] as number) * (k < this.nc ? across - (this.hat[k] as number) : across) + (this.j[k] as number);
  }

  /** Current of every branch at the last solution: asked for between steps alone. */
  protected currents(slot: Slot): void {
    const { v, j, a, b, nc, grouped, hat, current } = this;
    const { g } = slot;
    for (let k = 0; k < nc; k++)
      current[k] = (g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number) - (hat[k] as number));
    for (let k = nc; k < j.length; k++)
      if ((grouped[k] as number) < 0)
        current[k] = (g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number)) + (j[k] as number);
  }

  /** States at a stage out of the solved network, but of what is not linear. */
  private takeStates(slot: Slot): void {
    const { v, j, a, b, Y, nc, ni, arcs } = this;
    const { g } = slot;
    for (let i = 0; i < this.groups.length; i++) this.groupCurrents(slot, i);
    for (let k = 0; k < nc; k++) Y[k] = (v[a[k] as number] as number) - (v[b[k] as number] as number);
    for (let k = nc; k < ni; k++)
      Y[k] = (g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number)) + (j[k] as number);
    for (let m = 0; m < arcs.length; m++) {
      const k = arcs[m] as number;
      Y[k] = (g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number)) + (j[k] as number);
    }
    for (let m = 0; m < this.grouping.length; m++) {
      const k = this.grouping[m] as number;
      Y[k] = this.current[k] as number;
    }
  }

  /** The slot of the last stage. */
  protected last: Slot | null = null;

  /** One stage: with nonlinear branches the guess is bettered until it stands. @returns whether it did */
  protected stage(h: number, hg: number, t: number): boolean {
    if (this.nonlinear.length === 0) {
      const slot = this.slotFor(h, hg, t);
      this.load(slot, t);
      this.network(slot);
      this.takeStates(slot);
      this.last = slot;
      return true;
    }
    const { nonlinear, guesses, nd, v, j, a, b, Y } = this;
    const close = Math.min(1e-4, this.tolerance * 1e-3);
    for (let round = 0; round < 40; round++) {
      // By the slope two or three rounds are enough; one that jumps to and fro comes to rest without it.
      this.bySlope = round < 10;
      for (let m = 0; m < nonlinear.length; m++) guesses[m] = this.guessOf(nonlinear[m] as number);
      const slot = this.slotFor(NaN, hg, t);
      if (round === 0) this.load(slot, t);
      this.network(slot);
      for (let m = 0; m < nonlinear.length; m++) {
        const k = nonlinear[m] as number;
        if (k < nd)
          Y[k] = (slot.g[k] as number) * ((v[a[k] as number] as number) - (v[b[k] as number] as number)) + (j[k] as number);
      }
      this.last = slot;
      let change = 0;
      for (let m = 0; m < nonlinear.length; m++) {
        const was = guesses[m] as number;
        const is = this.guessOf(nonlinear[m] as number);
        change = Math.max(change, Math.abs(is - was) / Math.max(Math.abs(is), Math.abs(was), 1e-9));
      }
      if (change < close) {
        this.takeStates(slot);
        this.setArcStates(hg);
        return true;
      }
    }
    return false;
  }

  private guessOf(k: number): number {
    return k < this.nd
      ? (this.Y[k] as number)
      : (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
  }
}
