import { CircuitError } from './check.ts';
import { cornerLimit, cornersOf, type Netlist } from './element.ts';
import type { CircuitEvent, CircuitRun, Probe, RunOptions } from './run.ts';
import { atPoint, Stepping } from './stepping.ts';
import { Recorder } from './trace.ts';

/** Events after which a run is taken for one that does nothing else. */
const eventLimit = 200_000;

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
class Transient extends Stepping {
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

  /** What happens at an instant by itself: switches by the clock, triggers. */
  private atClock(events: CircuitEvent[]): void {
    this.poles.forEach((e, k) => {
      if (e.kind === 'switch' && e.control.by === 'time') {
        const { closeAt, openAt = Infinity } = e.control;
        const wanted = this.t >= closeAt && this.t < openAt;
        if (wanted !== (this.on[k] === 1)) this.flip(k, events);
      }
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

  private probeOf(probe: Probe): () => number {
    const missing = (name: string) =>
      new CircuitError({ code: 'unknown_element', parts: [name], reason: 'is probed and is not there' });
    if (probe.of === 'nodes') {
      const [p, q] = probe.nodes.map((node) => {
        const at = this.nodeOf.get(node);
        if (at === undefined) throw missing(node);
        return at;
      });
      return () => (this.v[p ?? 0] as number) - (this.v[q ?? 0] as number);
    }
    const k = this.branchOf.get(probe.element);
    if (k === undefined) throw missing(probe.element);
    return probe.of === 'current' ? () => this.current[k] as number : () => this.voltageOf(k);
  }

  private readonly tried = { at: new Float64Array(3), urge: new Float64Array(3) };

  /**
   * Steps back from a device that has gone past its point until it stands just behind it. The stages of the step say about
   * when that was; from there on time is taken as a polynomial of the urge through what was tried last, within the bracket.
   */
  private locate(h: number, urgeBefore: number, urgeAfter: number): number {
    // What is aimed at lies a hair past the point, so that the last try is behind it.
    const near = Math.min(1e-4, Math.max(atPoint, this.tolerance * 1e-3));
    const { at: times, urge: urges } = this.tried;
    this.findPassing(h, urgeBefore);
    let [low, high, fLow, fHigh] = [0, h, Math.min(urgeBefore, -1e-12), urgeAfter];
    let at = Math.min(this.passing * h, h * (1 - 1e-3));
    for (let round = 0; round < 60 && fHigh > near && high - low > 1e-9 * h; round++) {
      this.attempt(at);
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
      let guess = round % 6 === 5 ? (low + high) / 2 : inverseAt(times, urges, known, near / 2);
      if (round === 0) guess = at + ((near / 2 - f) / this.passingSlope) * h;
      const margin = 1e-6 * (high - low);
      at = Math.min(Math.max(guess > low && guess < high ? guess : falsePosition, low + margin), high - margin);
    }
    this.attempt(high);
    return high;
  }

  run(): CircuitRun {
    const { until, maxSteps = 2_000_000, cancelled, probes = [] } = this.options;
    if (!(until > 0) || !Number.isFinite(until))
      throw new CircuitError({ code: 'bad_value', parts: [], reason: `until is ${until} s; it must be above 0 s and finite` });
    const events: CircuitEvent[] = [];
    const corners = this.corners();
    const recorder = new Recorder(probes.map((probe) => this.probeOf(probe)));
    const longest = Math.min(this.options.maxStep ?? until / 200, this.shortestWave());
    const before = this.stored();
    this.atClock(events);
    let [shared, supplied, steps, rejected, corner] = [this.settle(events, until * 1e-6), 0, 0, 0, 0];
    let outcome: CircuitRun['outcome'] = 'done';
    let urge = this.mostUrgent(0);
    let h = Math.min(longest, until * 1e-6);
    recorder.add(0);
    while (this.t < until) {
      if (steps + rejected >= maxSteps || events.length > eventLimit) {
        outcome = 'too_many_steps';
        break;
      }
      if ((steps & 63) === 0 && cancelled?.()) {
        outcome = 'cancelled';
        break;
      }
      const next = corners[corner] ?? until;
      const left = next - this.t;
      const step = left <= h * 1.001 ? left : left < 2 * h ? left / 2 : h;
      const error = this.attempt(step);
      // Where time itself has no finer step, the step is taken as it is: the audit of the energy says how good it was.
      if (error > 1 && (step > 4e-16 * this.t || !Number.isFinite(error))) {
        rejected += 1;
        h = step * Math.max(0.15, Number.isFinite(error) ? 0.85 * error ** -0.25 : 0.15);
        if (!Number.isFinite(error) && h < until * 1e-15) {
          const parts = Array.from(this.nonlinear, (k) => this.poles[k]?.name ?? '');
          throw new CircuitError({ code: 'no_convergence', parts, reason: `at ${this.t} s no step is short enough` });
        }
        continue;
      }
      const after = this.devices.length > 0 ? this.mostUrgent(this.t + step) : -1;
      const done = after > 0 ? this.locate(step, urge, after) : step;
      this.t = done === left ? next : this.t + done;
      this.y.set(this.Y);
      supplied += this.suppliedStep;
      for (let k = 0; k < this.energy.length; k++) this.energy[k] = (this.energy[k] as number) + (this.energyStep[k] as number);
      steps += 1;
      this.noteScales();
      recorder.add(this.t);
      const atCorner = this.t === next;
      if (after > 0 || atCorner) {
        const scale = this.scales();
        if (after > 0) for (const k of this.devices) if (this.urge(k, this.t, scale) > 0) this.flip(k, events);
        if (atCorner) {
          corner += 1;
          this.atClock(events);
        }
        if (this.t < until) {
          shared += this.settle(events, done);
          recorder.add(this.t);
        }
      }
      urge = this.devices.length > 0 ? this.mostUrgent(this.t) : -1;
      const grown = step * Math.min(4, 0.85 * Math.max(error, 1e-6) ** -0.25);
      // The same step again costs no factorisation: it changes only where that is worth one.
      if (grown < step || grown > 1.4 * h) h = Math.min(longest, Math.max(grown, step === h ? 0 : Math.min(h, grown)));
    }
    const leftOver = this.stored();
    let dissipated = 0;
    for (const value of this.energy) dissipated += value;
    const whole = Math.max(before + Math.max(0, supplied), Math.abs(dissipated), 1e-15);
    return {
      outcome,
      t: this.t,
      steps,
      rejected,
      factorisations: this.factorisations,
      closure: Math.abs(before + supplied - dissipated - shared - leftOver) / whole,
      energy: {
        before,
        left: leftOver,
        supplied,
        dissipated,
        shared,
        byElement: new Map(this.poles.map((e, k) => [e.name, this.energy[k] as number])),
      },
      events,
      traces: recorder.traces(),
      coils: new Map(
        this.poles.flatMap((e, k) => {
          const s = this.stateOf[k] as number;
          return e.kind === 'coil' ? [[e.name, [...this.y.slice(s + 1, s + 1 + e.states.length)]] as const] : [];
        }),
      ),
    };
  }
}

/**
 * Runs a circuit from t = 0.
 *
 * @throws CircuitError naming the parts that stand against it
 */
export const simulateCircuit = (netlist: Netlist, options: RunOptions): CircuitRun => new Transient(netlist, options).run();
