import { printQuantity } from '../../quantity/index.ts';
import { CircuitError } from '../check.ts';
import { atPoint, Devices } from './devices.ts';
import { cornerLimit, cornersOf, type Netlist } from '../element.ts';
import type { CircuitEvent, CircuitRun, Probe, RunOptions } from '../run.ts';
import { pointsOfStep } from './line-history.ts';
import { setWithin, stages, within, type Within } from './method.ts';

import { Recorder } from '../trace.ts';

/** Events after which a run is taken for one that does nothing else. */
const eventLimit = 200_000;

/** Points of a trace in a step, its end included: a plot draws straight lines, the step is a curve. */
const pointsInStep = 4;
/** Share of the error of a step by which the state within it may be in doubt to be taken. */
const littleDoubt = 0.05;
/** Points of a trace after which only the ends of steps are kept. */
const denseUpTo = 100_000;
const evenly = Array.from({ length: pointsInStep }, (_, i) => setWithin(within(), (i + 1) / pointsInStep));

/** Where a function that was tried at `known` places comes to `wanted`, by Lagrange's polynomial in its values; NaN where two are alike. */
function inverseAt(times: Float64Array, values: Float64Array, known: number, wanted: number): number {
  let sum = 0;
  for (let i = 0; i < known; i++) {
    let term = times[i] as number;
    for (let k = 0; k < known; k++)
      if (k !== i) term *= (wanted - (values[k] as number)) / ((values[i] as number) - (values[k] as number));
    sum += term;
  }
  return sum;
}

/** A whole run: the steps, the events between them, what is recorded and how the energy closes. */
class Transient extends Devices {
  private corners(): Float64Array {
    const { until } = this.options;
    const times = this.netlist.elements.flatMap((e): number[] => {
      if (e.kind === 'voltage-source' || e.kind === 'current-source') return cornersOf(e.wave, until);
      if (e.kind === 'switch' && e.control.by === 'time') return [e.control.closeAt, e.control.openAt ?? Infinity];
      if (e.kind === 'thyristor') return [e.gate.from, e.gate.until];
      if (e.kind === 'gap' && e.fireAt !== undefined) return [e.fireAt];
      return [];
    });
    const inside = [...new Set(times.filter((t) => t > 0 && t < until))].sort((p, q) => p - q);
    if (inside.length > cornerLimit)
      throw new CircuitError({
        code: 'too_large',
        parts: [],
        reason: `the sources have more than ${cornerLimit} corners in this time`,
      });
    return Float64Array.from([...inside, until]);
  }

  /** What happens at an instant by itself: switches by the clock, gates, triggers. */
  private atClock(events: CircuitEvent[]): void {
    this.poles.forEach((e, k) => {
      if (e.kind === 'switch' && e.control.by === 'time') {
        const { closeAt, openAt = Infinity } = e.control;
        const wanted = this.t >= closeAt && this.t < openAt;
        if (wanted !== (this.on[k] === 1)) this.flip(k, events);
      }
      if (e.kind === 'thyristor') this.gated[k] = this.t >= e.gate.from && this.t < e.gate.until ? 1 : 0;
      if (e.kind === 'gap' && e.fireAt === this.t && !this.on[k]) this.flip(k, events);
    });
  }

  private shortestWave(): number {
    return Math.min(
      Infinity,
      ...this.netlist.elements.flatMap((e) =>
        (e.kind === 'voltage-source' || e.kind === 'current-source') && e.wave.kind === 'sine'
          ? [1 / (e.wave.frequency * 24)]
          : [],
      ),
    );
  }

  /** Where to read each probe: two nodes, or -1 and a place among the watched currents. */
  private readonly probed: (readonly [number, number])[] = [];

  private watchProbes(probes: readonly Probe[]): void {
    const missing = (name: string) =>
      new CircuitError({ code: 'unknown_element', parts: [name], reason: 'is probed and is not there' });
    const branch = (name: string): number => {
      const k = this.branchOf.get(name);
      if (k === undefined) throw missing(name);
      return k;
    };
    const watched = this.poles.flatMap((e, k) => {
      if (e.kind === 'switch') return e.control.by === 'current' ? [branch(e.control.of)] : [];
      return e.kind === 'diode' || e.kind === 'thyristor' || (e.kind === 'gap' && e.recovery !== undefined) ? [k] : [];
    });
    this.watch([...watched, ...probes.flatMap((probe) => (probe.of === 'current' ? [branch(probe.element)] : []))]);
    for (const probe of probes) {
      if (probe.of === 'current') this.probed.push([-1, this.watched.indexOf(branch(probe.element))]);
      else if (probe.of === 'voltage') {
        const k = branch(probe.element);
        this.probed.push([this.a[k] as number, this.b[k] as number]);
      } else {
        const [p, q] = probe.nodes.map((node) => {
          const at = this.nodeOf.get(node);
          if (at === undefined) throw missing(node);
          return at;
        });
        this.probed.push([p ?? 0, q ?? 0]);
      }
    }
  }

  private readonly recorder = new Recorder();

  private probedAt(i: number, row: number): number {
    const [p, q] = this.probed[i] as readonly [number, number];
    if (p < 0) return this.seenCurrents[row * this.watched.length + q] as number;
    const v = this.rows[row] as Float64Array;
    return (v[p] as number) - (v[q] as number);
  }

  /** Records what is probed at the start of the step (row 0) or at one of its stages. */
  private recordRow(t: number, row: number): void {
    const { recorder, probed } = this;
    recorder.add(t);
    for (let i = 0; i < probed.length; i++) recorder.set(i, this.probedAt(i, row));
  }

  /** Records what is probed at a share of the last step. */
  private recordWithin(t: number, { states }: Within): void {
    const { recorder, probed } = this;
    let rest = 1;
    for (let s = 0; s < stages; s++) rest -= states[s] as number;
    recorder.add(t);
    for (let i = 0; i < probed.length; i++) {
      let sum = rest * this.probedAt(i, 0);
      for (let s = 0; s < stages; s++) sum += (states[s] as number) * this.probedAt(i, s + 1);
      recorder.set(i, sum);
    }
  }

  private readonly some = within();

  /** Records the last step from `from` up to a share of it. */
  private recordStep(from: number, h: number, share: number): void {
    if (this.probed.length === 0) return;
    const dense = this.recorder.length < denseUpTo;
    for (let i = dense ? 1 : pointsInStep; i <= pointsInStep; i++) {
      const at = (share * i) / pointsInStep;
      if (at === 1) this.recordRow(this.t, stages);
      else
        this.recordWithin(
          i === pointsInStep ? this.t : from + h * at,
          share === 1 ? (evenly[i - 1] as Within) : setWithin(this.some, at),
        );
    }
  }

  private readonly quarter = within();
  private readonly quarterRows: Float64Array[] = [];

  /** What left the ends of the lines in the last step, of `h` s, up to a share of it. To be asked before the step is taken. */
  private noteLines(from: number, h: number, share: number): void {
    const rows = this.quarterRows;
    const kept = Float64Array.from(this.Y);
    for (let i = 1; i < pointsOfStep; i++) {
      const at = (share * i) / (pointsOfStep - 1);
      rows[i] ??= new Float64Array(this.v.length);
      if (at === 1) (rows[i] as Float64Array).set(this.rows[stages] as Float64Array);
      else this.solveWithin(from, h, setWithin(this.quarter, at), rows[i] as Float64Array);
    }
    this.Y.set(kept);
    rows[0] = this.rows[0] as Float64Array;
    this.lines.note(from, share * h, rows);
  }

  private readonly tried = { at: new Float64Array(3), urge: new Float64Array(3) };

  /**
   * Steps back from a device that has gone past its point until it stands just behind it: where what lies between the stages
   * of the step is not as good as a step. From a first guess on time is taken as a polynomial of the urge through what was
   * tried last, within the bracket.
   */
  private locate(h: number, guessed: number, near: number, urgeAfter: number): number {
    const { at: times, urge: urges } = this.tried;
    let low = 0;
    let high = h;
    let fLow = -1e-3;
    let fHigh = urgeAfter;
    let at = Math.min(Math.max(guessed, 1e-6), 1 - 1e-3) * h;
    let tried = h;
    for (let round = 0; round < 60 && fHigh > near && high - low > 1e-9 * h; round++) {
      this.attempt(at);
      tried = at;
      const f = this.mostUrgent(this.t + at);
      if (f > 0) [high, fHigh] = [at, f];
      else [low, fLow] = [at, f];
      if (round >= 3) {
        times.copyWithin(0, 1);
        urges.copyWithin(0, 1);
      }
      const known = Math.min(round, 2) + 1;
      times[known - 1] = at;
      urges[known - 1] = f;
      const falsePosition = low + ((near / 2 - fLow) / (fHigh - fLow)) * (high - low);
      const guess = round % 6 === 5 ? (low + high) / 2 : inverseAt(times, urges, known, near / 2);
      const margin = 1e-6 * (high - low);
      at = Math.min(Math.max(guess > low && guess < high ? guess : falsePosition, low + margin), high - margin);
    }
    if (tried !== high) this.attempt(high);
    return high;
  }

  run(): CircuitRun {
    const { until, maxSteps = 2_000_000, cancelled, probes = [] } = this.options;
    if (!(until > 0) || !Number.isFinite(until))
      throw new CircuitError({ code: 'bad_value', parts: [], reason: `until is ${until} s; it must be above 0 s and finite` });
    const events: CircuitEvent[] = [];
    const corners = this.corners();
    this.watchProbes(probes);
    const { maxStep = until / 200, fineUntil = until } = this.options;
    const shortestWave = this.shortestWave();
    const toClose = new Set(this.options.untilClosed);
    const asksToClose = toClose.size > 0;
    let told = 0;
    const isOver = () => {
      for (; told < events.length; told++) toClose.delete(events[told]?.element ?? '');
      return asksToClose && toClose.size === 0;
    };
    let longest = Math.min(maxStep, shortestWave, this.lines.shortest);
    const before = this.stored();
    this.atClock(events);
    const shared = { J: this.settle(events, until * 1e-6) };
    let steps = 0;
    let rejected = 0;
    let corner = 0;
    let outcome: CircuitRun['outcome'] = 'done';
    let h = Math.min(longest, until * 1e-6);
    // What is found lies a hair past the point, so that the device is behind it.
    const near = Math.min(1e-4, Math.max(atPoint, this.tolerance * 1e-3));
    let shortened = false;
    this.begin();
    this.recordRow(0, 0);
    if (this.lines.count > 0) this.lines.follow(0, this.v, this.tolerance * Math.max(this.topV, 1e-9), 0);
    while (this.t < until && !isOver()) {
      if (steps + rejected >= maxSteps || events.length > eventLimit) {
        outcome = 'too_many_steps';
        break;
      }
      if ((steps & 63) === 0 && cancelled?.()) {
        outcome = 'cancelled';
        break;
      }
      if (this.t > fineUntil) longest = Math.min(Math.max(maxStep, until / 400), shortestWave, this.lines.shortest);
      const next = Math.min(corners[corner] ?? until, this.lines.next);
      const left = next - this.t;
      const step = left <= h * 1.001 ? left : left < 2 * h ? left / 2 : h;
      const own = this.attempt(step);
      // An edge shorter than that may be smeared: it is over within a billionth of the run.
      const isSeen = this.lines.count > 0 && own <= 1 && step > until * 1e-9;
      const error = isSeen
        ? Math.max(own, this.lines.roughness(this.t, step) / (this.tolerance * Math.max(this.topV, 1e-9)))
        : own;
      // Where time itself has no finer step, the step is taken as it is: the audit of the energy says how good it was.
      if (error > 1 && (step > 4e-16 * this.t || !Number.isFinite(error))) {
        rejected += 1;
        h = step * Math.max(0.15, Number.isFinite(error) ? 0.85 * error ** -0.25 : 0.15);
        if (!Number.isFinite(error) && h < until * 1e-15) {
          const parts = Array.from(this.nonlinear, (k) => this.poles[k]?.name ?? '');
          throw new CircuitError({
            code: 'no_convergence',
            parts,
            reason: `at ${printQuantity(this.t, 's')} no step is short enough`,
          });
        }
        continue;
      }
      const from = this.t;
      const after = this.mostUrgent(from + step);
      const smooth = after > 0 && this.findPassing(step, near / 2) <= littleDoubt;
      if (after > 0 && !smooth && !shortened && this.passing.share < 0.9) {
        // A step that ends soon behind the point is better within than a long one.
        shortened = true;
        rejected += 1;
        h = step * this.passing.share * 1.05;
        continue;
      }
      shortened = false;
      const located = after > 0 && !smooth ? this.locate(step, this.passing.share, near, after) : step;
      this.t = smooth ? from + step * this.passing.share : located === left ? next : from + located;
      this.recordStep(from, located, smooth ? this.passing.share : 1);
      if (this.lines.count > 0) this.noteLines(from, located, smooth ? this.passing.share : 1);
      this.take(located, smooth ? this.passing : null);
      steps += 1;
      this.noteScales();
      this.noteHeld();
      const atCorner = this.t === next;
      if (after > 0 || atCorner) {
        // A gap that closes begins without a current: nothing moves at that instant.
        let still = !atCorner;
        if (after > 0) {
          const scale = this.setScales();
          const acting = smooth ? this.passed : [...this.waiting, ...this.awake].filter((k) => this.urge(k, this.t, scale) > 0);
          for (const k of acting) {
            still &&= this.poles[k]?.kind === 'gap' && this.on[k] === 0;
            this.flip(k, events);
          }
        }
        let generation = 0;
        if (atCorner) {
          generation = this.lines.taken(this.t);
          if (corners[corner] === this.t) {
            corner += 1;
            generation = 0;
          }
          this.atClock(events);
        }
        if (this.t < until && !still) {
          shared.J += this.settle(events, located);
          this.begin();
          this.recordRow(this.t, 0);
          if (this.lines.count > 0) this.lines.follow(this.t, this.v, this.tolerance * this.topV, after > 0 ? 0 : generation);
        }
      }
      this.begin();
      const grown = step * Math.min(4, 0.85 * Math.max(error, 1e-6) ** -0.25);
      // What happened once in a step may soon happen again: a step that ends near it is better within.
      if (after > 0) h = Math.max(0.5 * h, 1.1 * (this.t - from));
      // The same step again costs no factorisation: it changes only where that is worth one.
      else if (grown < step || grown > 1.4 * h) h = Math.min(longest, Math.max(grown, step === h ? 0 : Math.min(h, grown)));
    }
    const leftOver = this.stored();
    let dissipated = 0;
    for (const value of this.energy) dissipated += value;
    const whole = Math.max(before + Math.max(0, this.supplied), Math.abs(dissipated), 1e-15);
    return {
      outcome,
      t: this.t,
      steps,
      rejected,
      factorisations: this.factorisations,
      closure: Math.abs(before + this.supplied - dissipated - shared.J - leftOver) / whole,
      energy: {
        before,
        left: leftOver,
        supplied: this.supplied,
        dissipated,
        shared: shared.J,
        byElement: new Map(this.poles.map((e, k) => [e.name, this.energy[k] as number])),
      },
      events,
      held: new Map(
        Array.from(this.waiting)
          .filter((k) => this.offAtTime[k] === -Infinity)
          .map((k) => [this.poles[k]?.name ?? '', this.greatestHeld[k] as number]),
      ),
      traces: this.recorder.traces(),
      coils: new Map(
        this.poles.flatMap((e, k) => {
          const s = this.moreAt[k] as number;
          return e.kind === 'coil' ? [[e.name, [...this.y.slice(s, s + e.states.length)]] as const] : [];
        }),
      ),
    };
  }
}

/**
 * A circuit made ready, to be run once.
 *
 * @throws CircuitError naming the parts that stand against it
 */
export const prepareCircuit = (netlist: Netlist, options: RunOptions): { run(): CircuitRun } => new Transient(netlist, options);

/**
 * Runs a circuit from t = 0.
 *
 * @throws CircuitError naming the parts that stand against it
 */
export const simulateCircuit = (netlist: Netlist, options: RunOptions): CircuitRun => prepareCircuit(netlist, options).run();
