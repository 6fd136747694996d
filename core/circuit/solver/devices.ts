import { printQuantity } from '../../quantity/index.ts';
import { arcBegins } from '../arc.ts';
import { CircuitError } from '../check.ts';
import type { TwoPole } from '../element.ts';
import { abscissa, setWithin, stages, statesWithin, within } from './method.ts';
import type { CircuitEvent } from '../run.ts';
import { Stepping } from './stepping.ts';

/** An urge below this is that of a device that stands at its point. */
export const atPoint = 1e-6;
/**
 * How far past its threshold a diode goes before it conducts, as a share of its scale, which is a thousandth of the highest
 * voltage: one whose voltage grazes the threshold would open and close without end.
 */
const hysteresis = 1e-3;
/** Rounds in which a cut current dies. */
const jumpRounds = 12;
/** The devices that open and close between steps: when each gets to its point, and what holds right after. */
export abstract class Devices extends Stepping {
  protected voltageOf(k: number): number {
    return (this.v[this.a[k] as number] as number) - (this.v[this.b[k] as number] as number);
  }

  protected nodeVoltage(node: string): number {
    return this.v[this.nodeOf.get(node) ?? this.n] as number;
  }

  protected readonly scale = { V: 0, I: 0 };

  private static greatest(values: Float64Array, least: number): number {
    let top = least;
    for (let i = 0; i < values.length; i++) {
      const size = Math.abs(values[i] as number);
      if (size > top) top = size;
    }
    return top;
  }

  /** What has been large so far: what a device waits for is measured by it. */
  protected noteScales(): void {
    this.topV = Devices.greatest(this.v, this.topV);
    if (this.awake.length > 0) this.topI = Devices.greatest(this.current, this.topI);
  }

  /** Of each branch that is a gap: the greatest voltage that it saw so far while it waited, over what it holds off. */
  protected readonly greatestHeld = new Float64Array(this.poles.length);

  protected noteHeld(): void {
    const { waiting, greatestHeld, holdOff } = this;
    for (let d = 0; d < waiting.length; d++) {
      const k = waiting[d] as number;
      const share = Math.abs(this.voltageOf(k)) / (holdOff[k] as number);
      if (share > (greatestHeld[k] as number)) greatestHeld[k] = share;
    }
  }

  protected setScales(): { V: number; I: number } {
    const I = this.topI === 0 ? Devices.greatest(this.current, 0) : this.topI;
    this.scale.V = Devices.greatest(this.v, Math.max(this.topV, 1e-9)) * 1e-3;
    this.scale.I = Math.max(I * 1e-3, 1e-12);
    return this.scale;
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
        const gated = this.gated[k] === 1 || (this.on[k] === 1 && this.isCaught(k, e.turnOff, t));
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

  /** The greatest urge of all devices; below nought where none can act. */
  protected mostUrgent(t: number): number {
    const { waiting, awake, v, a, b, holdOff } = this;
    let most = -1;
    for (let d = 0; d < waiting.length; d++) {
      const k = waiting[d] as number;
      const across = Math.abs((v[a[k] as number] as number) - (v[b[k] as number] as number));
      const holds = holdOff[k] as number;
      const urge = (across - holds) / holds;
      if (urge > most) most = urge;
    }
    if (awake.length === 0) return most;
    const scale = this.setScales();
    for (let d = 0; d < awake.length; d++) most = Math.max(most, this.urge(awake[d] as number, t, scale));
    return most;
  }

  /** Devices that the last attempt carried past their point. */
  protected passed: number[] = [];
  private urges = new Float64Array(0);
  protected readonly passing = within();

  private urgeWithin(d: number, share: number): number {
    const { urges } = this;
    const at = d * (stages + 1);
    const u0 = urges[at] as number;
    let sum = u0;
    for (let i = 0; i < stages; i++) {
      const p = statesWithin[i * 4] as number;
      const q = statesWithin[i * 4 + 1] as number;
      const r = statesWithin[i * 4 + 2] as number;
      const s = statesWithin[i * 4 + 3] as number;
      sum += share * (p + share * (q + share * (r + share * s))) * ((urges[at + 1 + i] as number) - u0);
    }
    return sum;
  }

  /** The share of the step at which the polynomial through the urges of a device comes to `aim`, above nought. */
  private passes(d: number, aim: number): number {
    let low = 0;
    let high = 1;
    for (let i = 1; i < 8; i++)
      if (this.urgeWithin(d, i / 8) > aim) {
        high = i / 8;
        break;
      } else low = i / 8;
    let fLow = this.urgeWithin(d, low) - aim;
    let fHigh = this.urgeWithin(d, high) - aim;
    if (fLow >= 0) return Math.max(low, 1e-9);
    if (fHigh <= 0) return 1;
    for (let round = 0; round < 60 && high - low > 1e-12; round++) {
      const at = round % 3 === 2 ? (low + high) / 2 : low + (-fLow / (fHigh - fLow)) * (high - low);
      const f = this.urgeWithin(d, at) - aim;
      if (f > 0) [high, fHigh] = [at, f];
      else [low, fLow] = [at, f];
      if (Math.abs(f) < 1e-3 * aim) return at;
    }
    return high;
  }

  /**
   * Finds in the stages of the last attempt, which has carried some device past its point, when the first of them got
   * there: `passed` are those that did, `passing` is the share of the step.
   *
   * @param aim how far past the point, as an urge: a hair, so that what is found is behind it
   * @returns how far two formulas for the state there lie apart, as a multiple of the error that a step may have
   */
  protected findPassing(h: number, aim: number): number {
    const { seenCurrents, watched, current } = this;
    const scale = this.setScales();
    const crossing: number[] = [];
    for (let d = 0; d < this.waiting.length; d++) {
      const k = this.waiting[d] as number;
      if (Math.abs(this.voltageOf(k)) > (this.holdOff[k] as number)) crossing.push(k);
    }
    for (let d = 0; d < this.awake.length; d++) {
      const k = this.awake[d] as number;
      if (this.urge(k, this.t + h, scale) > 0) crossing.push(k);
    }
    if (this.urges.length < crossing.length * (stages + 1)) this.urges = new Float64Array(crossing.length * (stages + 1));
    const { urges } = this;
    for (let row = 0; row <= stages; row++) {
      this.v = this.rows[row] as Float64Array;
      for (let w = 0; w < watched.length; w++) current[watched[w] as number] = seenCurrents[row * watched.length + w] as number;
      const t = this.t + (row === 0 ? 0 : h * (abscissa[row - 1] as number));
      for (let d = 0; d < crossing.length; d++) urges[d * (stages + 1) + row] = this.urge(crossing[d] as number, t, scale);
    }
    let share = 1;
    for (let d = 0; d < crossing.length; d++) share = Math.min(share, this.passes(d, aim));
    this.passed = crossing.filter((_, d) => share === 1 || this.urgeWithin(d, share) > 0);
    setWithin(this.passing, share);
    return share < 1 ? this.errorOf(h, this.passing.doubt) : Infinity;
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
      this.y[k] = 0;
      if (e.arc.law !== 'fixed') this.y[this.moreAt[k] as number] = arcBegins(e.arc);
    }
    this.j[k] = 0;
    this.current[k] = 0;
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
    this.lines.right = true;
    try {
      return this.settled(events, h);
    } finally {
      this.lines.right = false;
    }
  }

  private settled(events: CircuitEvent[], h: number): number {
    const { until } = this.options;
    const look = Math.max(until * 1e-11, h * 1e-4);
    for (let round = 0; round <= 2 * this.devices.length + 4; round++) {
      this.hat.set(this.y);
      this.Y.set(this.y);
      this.stage(look, look, this.t);
      this.currents(this.last as NonNullable<typeof this.last>);
      const scale = this.setScales();
      const urgent = [...this.waiting, ...this.awake].filter((k) => this.urge(k, this.t, scale) > atPoint);
      if (urgent.length === 0) return this.hasMoved(scale) ? this.jump(until * 1e-11) : 0;
      for (const k of urgent) this.flip(k, events);
    }
    const parts = [...new Set(events.slice(-8).map((e) => e.element))];
    throw new CircuitError({
      code: 'no_convergence',
      parts,
      reason: `at ${printQuantity(this.t, 's')} these switch each other on and off without end`,
    });
  }

  /** Whether a state came out of a very short step as another: then it cannot stay as it is. */
  private hasMoved(scale: { V: number; I: number }): boolean {
    for (let m = 0; m < this.ns; m++) {
      const large = m < this.nc ? scale.V : m < this.nd ? scale.I : Infinity;
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
      const scale = this.setScales();
      for (let m = 0; m < this.ns; m++) {
        const large = m < this.nc ? scale.V : m < this.nd ? scale.I : Infinity;
        far = Math.max(far, Math.abs((this.Y[m] as number) - (this.y[m] as number)) / large);
      }
      if (round === 0 && far < 1e-3) break;
      this.y.set(this.Y);
    }
    return before - this.stored();
  }
}
