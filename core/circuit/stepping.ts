import { arcBegins, arcResistance } from './arc.ts';
import { CircuitError } from './check.ts';
import type { TwoPole } from './element.ts';
import { abscissa, errorWeights, gamma, output, stages, weights } from './method.ts';
import { Stage } from './stage.ts';
import type { CircuitEvent } from './run.ts';

/** An urge below this is that of a device that stands at its point. */
export const atPoint = 1e-6;
/**
 * How far past its threshold a diode goes before it conducts, as a share of its scale, which is a thousandth of the highest
 * voltage: one whose voltage grazes the threshold would open and close without end.
 */
const hysteresis = 1e-3;
/** Stages in order of time. */
const inOrder = [0, 3, 2, 1, 4] as const;
/** Rounds in which a cut current dies. */
const jumpRounds = 12;

/** One step and its error, and the devices that open and close between steps. */
export abstract class Stepping extends Stage {
  /** Heat of a stage, and what the sources give in it. */
  private addEnergy(weight: number): void {
    const { v, j, a, b, Y, stateOf, energyStep, steady, inductive, series, waves, nonlinear, knownBranches, n } = this;
    const { g } = this.last as NonNullable<typeof this.last>;
    for (let m = 0; m < steady.length; m++) {
      const k = steady[m] as number;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      energyStep[k] = (energyStep[k] as number) + weight * dv * ((g[k] as number) * dv + (j[k] as number));
    }
    for (let m = 0; m < inductive.length; m++) {
      const k = inductive[m] as number;
      const i = Y[stateOf[k] as number] as number;
      energyStep[k] = (energyStep[k] as number) + weight * (series[k] as number) * i * i;
    }
    for (let m = 0; m < this.grouping.length; m++) {
      const k = this.grouping[m] as number;
      const i = this.current[k] as number;
      energyStep[k] = (energyStep[k] as number) + weight * (series[k] as number) * i * i;
    }
    for (let m = 0; m < waves.length; m++) {
      const k = waves[m] as number;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      this.suppliedStep -= weight * dv * ((g[k] as number) * dv + (j[k] as number));
    }
    for (let m = 0; m < nonlinear.length; m++) {
      const k = nonlinear[m] as number;
      const e = this.poles[k] as TwoPole;
      const dv = (v[a[k] as number] as number) - (v[b[k] as number] as number);
      const i = (g[k] as number) * dv + (j[k] as number);
      if (e.kind === 'power-source') this.suppliedStep -= weight * dv * i;
      // The resistive part of an arc alone: what lies across its inductance comes back.
      else if (e.kind === 'gap')
        energyStep[k] =
          (energyStep[k] as number) + weight * arcResistance(e.arc, Y[(stateOf[k] as number) + 1] as number) * i * i;
      else energyStep[k] = (energyStep[k] as number) + weight * dv * i;
    }
    for (let m = 0; m < knownBranches.length; m++) {
      const k = knownBranches[m] as number;
      const [p, q] = [a[k] as number, b[k] as number];
      const i =
        (this.grouped[k] as number) >= 0
          ? (this.current[k] as number)
          : (g[k] as number) * ((v[p] as number) - (v[q] as number)) + (j[k] as number);
      if (p > n) this.suppliedStep += weight * (v[p] as number) * i;
      if (q > n) this.suppliedStep -= weight * (v[q] as number) * i;
    }
  }

  /** Voltages of the nodes at each stage of the last attempt: they say about when a device goes past its point. */
  private readonly seen = new Float64Array(stages * this.v.length);
  private readonly kept = new Float64Array(this.v.length);

  /** When a device went past its point in the last attempt, as a share of the step. */
  protected passing = 1;
  /** How fast its urge rose there, by the step. */
  protected passingSlope = 0;

  /**
   * Finds in the stages of the last attempt, which has carried some device past its point, about when the first of them
   * got there.
   */
  protected findPassing(h: number, before: number): void {
    const last = this.last as NonNullable<typeof this.last>;
    const scale = this.scales();
    this.kept.set(this.v);
    this.passing = 1;
    this.passingSlope = 0;
    for (let d = 0; d < this.devices.length; d++) {
      const k = this.devices[d] as number;
      this.v.set(this.kept);
      const end = this.urge(k, this.t + h, scale);
      if (!(end > 0)) continue;
      const i = this.current[k] as number;
      let [c0, f0] = [0, Math.min(before, -1e-12)];
      for (let m = 0; m < inOrder.length; m++) {
        const s = inOrder[m] as number;
        const c = abscissa[s] as number;
        this.v.set(this.seen.subarray(s * this.v.length, (s + 1) * this.v.length));
        this.current[k] = (last.g[k] as number) * this.voltageOf(k) + (this.j[k] as number);
        const f = s === stages - 1 ? end : this.urge(k, this.t + h * c, scale);
        if (f > 0) {
          const share = c0 + (c - c0) * (-f0 / (f - f0));
          if (share < this.passing) [this.passing, this.passingSlope] = [share, (f - f0) / (c - c0)];
          break;
        }
        [c0, f0] = [c, f];
      }
      this.current[k] = i;
    }
    this.v.set(this.kept);
  }

  /** Tries a step. @returns its error as a multiple of what is allowed; Infinity where a stage found no solution */
  protected attempt(h: number): number {
    const { ns, hat, K, y, Y } = this;
    const hg = h * gamma;
    this.energyStep.fill(0);
    this.suppliedStep = 0;
    Y.set(y);
    for (let s = 0; s < stages; s++) {
      hat.set(y);
      for (let r = 0; r < s; r++) {
        const w = h * (weights[s * stages + r] as number);
        const at = r * ns;
        for (let m = 0; m < ns; m++) hat[m] = (hat[m] as number) + w * (K[at + m] as number);
      }
      const t = this.t + h * (abscissa[s] as number);
      if (!this.stage(h, hg, t)) return Infinity;
      const at = s * ns;
      const slower = 1 / hg;
      for (let m = 0; m < ns; m++) K[at + m] = ((Y[m] as number) - (hat[m] as number)) * slower;
      this.addEnergy(h * (output[s] as number));
      if (this.devices.length > 0) this.seen.set(this.v, s * this.v.length);
    }
    this.currents(this.last as NonNullable<typeof this.last>);
    return this.errorOf(h);
  }

  protected errorOf(h: number): number {
    const { ns, K, y, Y, family, largest } = this;
    // Below a microvolt and a nanoampere nothing is of interest.
    let [topV, topI] = [1e-6, 1e-9];
    for (let m = 0; m < ns; m++) {
      const size = Math.max(Math.abs(y[m] as number), Math.abs(Y[m] as number), largest[m] as number);
      largest[m] = Math.max(largest[m] as number, Math.abs(y[m] as number));
      if (family[m] === 0) topV = Math.max(topV, size);
      else if (family[m] === 1) topI = Math.max(topI, size);
    }
    // Less than what leaks through everything that is open, and than a billionth of the highest voltage, says nothing.
    const [leastV, leastI] = [1e-9 * this.topV, this.Goff * this.topV];
    const [e0, e1, e2, e4] = [errorWeights[0], errorWeights[1], errorWeights[2], errorWeights[4]];
    let worst = 0;
    for (let m = 0; m < ns; m++) {
      const e =
        e0 * (K[m] as number) + e1 * (K[ns + m] as number) + e2 * (K[2 * ns + m] as number) + e4 * (K[4 * ns + m] as number);
      const top = family[m] === 0 ? topV : family[m] === 1 ? topI : Math.max(largest[m] as number, 1e-30);
      const scale = Math.max(Math.abs(y[m] as number), Math.abs(Y[m] as number), 0.1 * top);
      const least = family[m] === 0 ? leastV : family[m] === 1 ? leastI : 0;
      worst = Math.max(worst, Math.abs(h * e) / (this.tolerance * scale + least));
    }
    return worst;
  }

  // ---- devices -------------------------------------------------------------------------------------------------------

  protected voltageOf(k: number): number {
    return (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
  }

  protected nodeVoltage(node: string): number {
    return this.v[this.nodeOf.get(node) ?? this.n] as number;
  }

  protected topV = 0;
  protected topI = 0;

  /** What has been large so far: what a device waits for is measured by it. */
  protected noteScales(): void {
    for (let i = 0; i < this.v.length; i++) this.topV = Math.max(this.topV, Math.abs(this.v[i] as number));
    for (let k = 0; k < this.current.length; k++) this.topI = Math.max(this.topI, Math.abs(this.current[k] as number));
  }

  protected scales(): { V: number; I: number } {
    let V = Math.max(this.topV, 1e-9);
    for (let i = 0; i < this.v.length; i++) V = Math.max(V, Math.abs(this.v[i] as number));
    let I = this.topI;
    if (I === 0) for (let k = 0; k < this.current.length; k++) I = Math.max(I, Math.abs(this.current[k] as number));
    return { V: V * 1e-3, I: Math.max(I * 1e-3, 1e-12) };
  }

  /** Whether voltage that comes back too soon finds a thyristor that had latched, and was reversed since, still full of charge. */
  private isCaught(k: number, turnOff: number, t: number): boolean {
    return this.latched[k] === 1 && this.reversed[k] === 1 && t - (this.offAtTime[k] as number) < turnOff;
  }

  /** Above nought where a device must open or close, as a multiple of what is large for it. */
  protected urge(k: number, t: number, scale: { V: number; I: number }): number {
    const e = this.poles[k] as TwoPole;
    const v = this.voltageOf(k);
    const i = this.current[k] as number;
    switch (e.kind) {
      case 'switch': {
        const { control } = e;
        if (control.by === 'time') return -1;
        const value =
          control.by === 'voltage'
            ? this.nodeVoltage(control.nodes[0]) - this.nodeVoltage(control.nodes[1])
            : (this.current[this.branchOf.get(control.of) ?? 0] as number);
        const size = Math.max(Math.abs(control.above), Math.abs(control.below), 1e-12);
        return (this.on[k] ? control.below - value : value - control.above) / size;
      }
      case 'diode':
        return this.on[k] ? -i / scale.I : (v - e.Vf) / Math.max(scale.V, e.Vf * 0.01) - hysteresis;
      case 'thyristor': {
        const gated = (t >= e.gate.from && t < e.gate.until) || (this.on[k] === 1 && this.isCaught(k, e.turnOff, t));
        if (this.on[k]) {
          const forward = i * (this.direction[k] as number);
          if (forward >= e.latching) this.latched[k] = 1;
          const least = gated ? 0 : this.latched[k] ? e.holding : e.latching;
          return (least - forward) / Math.max(scale.I, least);
        }
        if (v < 0) this.reversed[k] = 1;
        const early = this.isCaught(k, e.turnOff, t);
        if (!gated && !early) return -1;
        const forward = e.bothWays ? Math.abs(v) : v;
        return (forward - e.Vf) / Math.max(scale.V, e.Vf * 0.01) - hysteresis;
      }
      case 'gap': {
        if (this.on[k]) return e.recovery === undefined ? -1 : (-i * (this.direction[k] as number)) / scale.I;
        const since = t - (this.offAtTime[k] as number);
        const holds =
          (this.holdOff[k] as number) * (e.recovery && Number.isFinite(since) ? 1 - Math.exp(-since / e.recovery) : 1);
        return (Math.abs(v) - holds) / Math.max(holds, 1e-9);
      }
      case 'power-source':
        if (e.Voff === undefined) return -1;
        return (this.on[k] ? v - e.Voff : (e.Von ?? e.Voff * (1 - 1e-3)) - v) / e.Voff;
      default:
        return -1;
    }
  }

  protected mostUrgent(t: number): number {
    const scale = this.scales();
    let most = -Infinity;
    for (let d = 0; d < this.devices.length; d++) most = Math.max(most, this.urge(this.devices[d] as number, t, scale));
    return most;
  }

  protected flip(k: number, events: CircuitEvent[]): void {
    const e = this.poles[k] as TwoPole;
    const v = this.voltageOf(k);
    this.toggle(k);
    const isOn = this.on[k] === 1;
    this.direction[k] = v < 0 && isOn ? -1 : 1;
    if (!isOn) {
      this.offAtTime[k] = this.t;
      this.reversed[k] = 0;
      // One that is caught had latched, and stays so.
    } else if (!(e.kind === 'thyristor' && this.isCaught(k, e.turnOff, this.t))) this.latched[k] = 0;
    if (e.kind === 'gap') {
      const s = this.stateOf[k] as number;
      this.y[s] = 0;
      if (e.arc.law !== 'fixed') this.y[s + 1] = arcBegins(e.arc);
    }
    this.j[k] = 0;
    this.sort();
    events.push({ t: this.t, element: e.name, what: isOn ? 'on' : 'off' });
  }

  /**
   * Lets the devices find the state that holds right after an instant at which something changed, and takes over what
   * capacitors in a loop and cut inductors come to at once.
   *
   * @param h the step before, s: what is looked at lies a small part of it later, so that no rounding speaks for a current
   * @returns the energy that was lost by that
   */
  protected settle(events: CircuitEvent[], h: number): number {
    const { until } = this.options;
    const look = Math.max(until * 1e-11, h * 1e-4);
    for (let round = 0; round <= 2 * this.devices.length + 4; round++) {
      this.hat.set(this.y);
      this.Y.set(this.y);
      this.stage(look, look, this.t);
      this.currents(this.last as NonNullable<typeof this.last>);
      const scale = this.scales();
      const urgent = [...this.devices].filter((k) => this.urge(k, this.t, scale) > atPoint);
      if (urgent.length === 0) return this.hasMoved(scale) ? this.jump(until * 1e-11) : 0;
      for (const k of urgent) this.flip(k, events);
    }
    const parts = [...new Set(events.slice(-8).map((e) => e.element))];
    throw new CircuitError({
      code: 'no_convergence',
      parts,
      reason: `at ${this.t} s these switch each other on and off without end`,
    });
  }

  /** Whether a state came out of a very short step as another: then it cannot stay as it is. */
  private hasMoved(scale: { V: number; I: number }): boolean {
    for (let m = 0; m < this.ns; m++) {
      const large = this.family[m] === 0 ? scale.V : this.family[m] === 1 ? scale.I : Infinity;
      if (Math.abs((this.Y[m] as number) - (this.y[m] as number)) > 0.1 * large) return true;
    }
    return false;
  }

  /**
   * Where a state cannot stay as it is, takes it over as it comes to be at once. Some rounds: a current that is cut
   * against a leakage of a picosiemens falls by a factor in each.
   */
  private jump(h: number): number {
    const before = this.stored();
    for (let round = 0; round < jumpRounds; round++) {
      this.hat.set(this.y);
      this.Y.set(this.y);
      this.stage(h, h, this.t);
      this.currents(this.last as NonNullable<typeof this.last>);
      let far = 0;
      const scale = this.scales();
      for (let m = 0; m < this.ns; m++) {
        const large = this.family[m] === 0 ? scale.V : this.family[m] === 1 ? scale.I : Infinity;
        far = Math.max(far, Math.abs((this.Y[m] as number) - (this.y[m] as number)) / large);
      }
      if (round === 0 && far < 1e-3) break;
      this.y.set(this.Y);
    }
    return before - this.stored();
  }

  protected stored(): number {
    let sum = 0;
    for (let k = 0; k < this.poles.length; k++) {
      const e = this.poles[k] as TwoPole;
      const s = this.stateOf[k] as number;
      if (s < 0 || (this.grouped[k] as number) >= 0 || e.kind === 'coil') continue;
      const value = this.y[s] as number;
      sum += 0.5 * (e.kind === 'capacitor' ? e.C : (e as { L: number }).L) * value * value;
    }
    for (const { branches, L } of this.groups) {
      const m = branches.length;
      for (let p = 0; p < m; p++)
        for (let q = 0; q < m; q++)
          sum +=
            0.5 *
            (L[p * m + q] as number) *
            (this.y[this.stateOf[branches[p] as number] as number] as number) *
            (this.y[this.stateOf[branches[q] as number] as number] as number);
    }
    return sum;
  }
}
