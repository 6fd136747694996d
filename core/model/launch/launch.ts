import { newReading, type Armature } from './armature.ts';
import { at, Stepping, type Numbers } from './stepping.ts';

/** When a stage fires. */
export type Firing =
  | { readonly by: 'time'; readonly t: number }
  /** When the middle of the slug passes a place on its way out. */
  | { readonly by: 'position'; readonly x: number }
  /** So long after the stage before it has fired. */
  | { readonly by: 'delay'; readonly t: number };

/** One coil with what feeds it. SI units. */
export interface StageCircuit {
  readonly C: number;
  readonly V0: number;
  /** Ω: everything in the loop of store, switch and coil. */
  readonly R: number;
  /** V that the switch drops beside its resistance. */
  readonly Vt: number;
  /** A diode across the store that takes the current over; `R` on top of the loop, below 0 where it is less than the store has. */
  readonly freewheel: { readonly Vf: number; readonly R: number } | null;
  readonly fire: Firing;
}

export interface LaunchSpec {
  readonly stages: readonly StageCircuit[];
  readonly armature: Armature;
  /** kg */
  readonly mass: number;
  /** m and m/s at t = 0 */
  readonly x0: number;
  readonly v0: number;
  /** N against the motion */
  readonly friction: number;
  /** m/s² against the way out: that of the earth where the barrel points upwards. It starts on a stop. */
  readonly weight?: number;
}

export interface LaunchEvent {
  readonly t: number;
  readonly stage: number;
  readonly what: 'fires' | 'freewheels' | 'ends';
}

export interface LaunchRun {
  readonly t: Float64Array;
  readonly x: Float64Array;
  readonly v: Float64Array;
  readonly F: Float64Array;
  /** A in each coil, and V on each store. */
  readonly i: readonly Float64Array[];
  readonly V: readonly Float64Array[];
  readonly events: readonly LaunchEvent[];
  /** A: the greatest of each stage. */
  readonly peak: readonly number[];
  /** A²s of each stage. */
  readonly action: readonly number[];
  /** J, at the end but for `stored`, which is at t = 0. */
  readonly energy: {
    readonly stored: number;
    readonly left: number;
    readonly field: number;
    readonly kinetic: number;
    /** By how much it has been lifted. */
    readonly lifted: number;
    readonly heat: number;
    /** In the armature itself. */
    readonly armature: number;
    readonly friction: number;
  };
  /** Share of all energy that cannot be told where it went. */
  readonly closure: number;
  readonly steps: number;
}

export interface LaunchOptions {
  readonly until: number;
  /** m: the run ends there once no current flows, on the way out or back past the start. */
  readonly beyond?: number;
  /** Error that one step may make, relative. */
  readonly tolerance?: number;
  readonly maxSteps?: number;
  /** Whether the traces are kept; where not, only their end is. */
  readonly traces?: boolean;
}

/**
 * Places in the state: position, speed, flux linkage of the armature, then current and store voltage of each stage; behind them
 * what is only summed: heat in the circuits and in the armature, friction, then the action of each stage.
 */
const [X, U, PSI, first] = [0, 1, 2, 3] as const;

/** A current that has faded to this share of the greatest one there can be does nothing any more: its charge is below a millionth. */
const fades = 1e-6;
type Mode = 'waits' | 'drives' | 'freewheels' | 'ended';

class Launch extends Stepping {
  private readonly spec: LaunchSpec;
  private readonly n: number;
  private readonly Q: number;
  private readonly mode: Mode[];
  private readonly firedAt: number[];
  private readonly reading;
  private readonly currents: Float64Array;
  private readonly drive: Float64Array;
  /** Which coils conduct, and the matrix of what they share. */
  private readonly live: Int32Array;
  private readonly matrix: Float64Array;
  private t = 0;
  private readonly events: LaunchEvent[] = [];
  private readonly peaks: Float64Array;

  constructor(spec: LaunchSpec) {
    super(first + 2 * spec.stages.length, 3 + spec.stages.length);
    this.spec = spec;
    this.n = spec.stages.length;
    this.Q = this.acting;
    this.mode = spec.stages.map(() => 'waits' as const);
    this.firedAt = spec.stages.map(() => Infinity);
    this.reading = newReading(spec.armature.coils);
    this.currents = new Float64Array(this.n);
    this.drive = new Float64Array(this.n);
    this.peaks = new Float64Array(this.n);
    this.live = new Int32Array(this.n);
    this.matrix = new Float64Array(this.n * this.n);
    this.y[X] = spec.x0;
    this.y[U] = spec.v0;
    spec.stages.forEach(({ V0 }, s) => (this.y[first + 2 * s + 1] = V0));
    // What an error is measured by: the largest that a state can be.
    const energy = spec.stages.reduce((sum, { C, V0 }) => sum + 0.5 * C * V0 * V0, 0) + 0.5 * spec.mass * spec.v0 ** 2;
    this.scale.fill(energy || 1);
    this.scale[X] = Math.max(Math.abs(spec.x0), 1e-2);
    if (spec.armature.own > 0) this.scale[PSI] = Math.sqrt(2 * (energy || 1) * spec.armature.own);
    this.scale[U] = Math.max(Math.sqrt((2 * (energy || 1)) / spec.mass) * 0.1, 1e-3);
    this.read(this.y);
    spec.stages.forEach(({ C, V0 }, s) => {
      this.scale[first + 2 * s] = Math.max(Math.abs(V0) * Math.sqrt(C / ((this.reading.L[s] as number) || 1)), 1e-3);
      this.scale[first + 2 * s + 1] = Math.max(Math.abs(V0), 1e-3);
    });
  }

  private read(y: Float64Array): void {
    for (let s = 0; s < this.n; s++) this.currents[s] = y[first + 2 * s] as number;
    this.spec.armature.read(y[X] as number, this.currents, y[PSI] as number, this.reading);
  }

  protected slopes(y: Float64Array, out: Float64Array): void {
    const { stages, mass, friction, weight = 0, x0 } = this.spec;
    const { reading, mode, drive, live: which } = this;
    this.read(y);
    const u = y[U] as number;
    let heat = 0;
    let live = 0;
    for (let s = 0; s < this.n; s++) {
      const I0 = first + 2 * s;
      out[I0] = 0;
      out[I0 + 1] = 0;
      out[this.acting + 3 + s] = 0;
      const wheels = mode[s] === 'freewheels';
      if (!wheels && mode[s] !== 'drives') continue;
      const { C, R: own, Vt, freewheel } = stages[s] as StageCircuit;
      const I = y[I0] as number;
      const R = wheels && freewheel ? own + freewheel.R : own;
      const drop = wheels && freewheel ? Vt + freewheel.Vf : Vt;
      const V = wheels ? 0 : (y[I0 + 1] as number);
      if (!wheels) out[I0 + 1] = -I / C;
      out[this.acting + 3 + s] = I * I;
      // Current only ever flows forwards. What a step tries behind its end goes on in the same way, so that the end is found: with a drop
      // that turned round there it would be held at nought in steps of no length.
      heat += R * I * I + drop * I;
      drive[live] = V - R * I - drop - (reading.e[s] as number) * u - (reading.g[s] as number);
      which[live] = s;
      live += 1;
    }
    if (live === 1) {
      const s = which[0] as number;
      const h = reading.h[s] as number;
      out[first + 2 * s] = (drive[0] as number) / ((reading.L[s] as number) + reading.c * h * h);
    } else if (live > 1) this.solve(live, out);
    // At rest it stays where the force is less than the friction.
    const pull = reading.F - mass * weight;
    const held = u === 0 && (Math.abs(pull) <= friction || (weight > 0 && pull < 0 && (y[X] as number) <= x0));
    const against = friction * Math.sign(u === 0 ? pull : u);
    out[X] = u;
    out[U] = held ? 0 : (pull - against) / mass;
    out[PSI] = reading.rate;
    out[this.Q] = heat;
    out[this.Q + 1] = reading.heat;
    out[this.Q + 2] = friction * Math.abs(u);
  }

  /** Changes of the currents of coils that conduct together: Gauss, of a symmetrical matrix that is positive. */
  private solve(live: number, out: Float64Array): void {
    const { matrix, drive } = this;
    const { L, h, c } = this.reading;
    const { mutual } = this.spec.armature;
    for (let a = 0; a < live; a++)
      for (let b = 0; b < live; b++) {
        const [i, j] = [this.live[a] as number, this.live[b] as number];
        const shared = c * (h[i] as number) * (h[j] as number) + (mutual ? (mutual[i * this.n + j] as number) : 0);
        matrix[a * live + b] = shared + (a === b ? (L[i] as number) : 0);
      }
    for (let a = 0; a < live; a++)
      for (let row = a + 1; row < live; row++) {
        const factor = (matrix[row * live + a] as number) / (matrix[a * live + a] as number);
        for (let b = a; b < live; b++)
          matrix[row * live + b] = (matrix[row * live + b] as number) - factor * (matrix[a * live + b] as number);
        drive[row] = (drive[row] as number) - factor * (drive[a] as number);
      }
    for (let a = live - 1; a >= 0; a--) {
      let sum = drive[a] as number;
      for (let b = a + 1; b < live; b++) sum -= (matrix[a * live + b] as number) * (drive[b] as number);
      drive[a] = sum / (matrix[a * live + a] as number);
      out[first + 2 * (this.live[a] as number)] = drive[a] as number;
    }
  }

  /** Above nought where a stage must change what it does. */
  private urge(s: number, t: number, y: Float64Array): number {
    const stage = this.spec.stages[s] as StageCircuit;
    const at = first + 2 * s;
    switch (this.mode[s]) {
      case 'waits': {
        const { fire } = stage;
        if (fire.by === 'position') return (y[X] as number) - fire.x;
        return t - (fire.by === 'time' ? fire.t : (this.firedAt[s - 1] ?? Infinity) + fire.t);
      }
      case 'drives': {
        const I = y[at] as number;
        // A switch that lets no current back has it from nought upwards; where it only fades, its tail comes to an end.
        const tail = (this.peaks[s] as number) > 1e-2 * (this.scale[at] as number) ? fades : 0;
        const off = this.firedAt[s] === t ? -1 : tail - I / (this.scale[at] as number);
        const wheel = stage.freewheel ? (-(y[at + 1] as number) - stage.freewheel.Vf) / (this.scale[at + 1] as number) : -1;
        return Math.max(off, wheel);
      }
      case 'freewheels':
        return -(y[at] as number) / (this.scale[at] as number) + 1e-9;
      default:
        return -1;
    }
  }

  private change(s: number): void {
    const stage = this.spec.stages[s] as StageCircuit;
    const at = first + 2 * s;
    const note = (what: LaunchEvent['what']) => this.events.push({ t: this.t, stage: s, what });
    switch (this.mode[s]) {
      case 'waits':
        this.mode[s] = 'drives';
        this.firedAt[s] = this.t;
        note('fires');
        return;
      case 'drives':
        if (stage.freewheel && (this.y[at] as number) > 1e-6 * (this.scale[at] as number)) {
          this.mode[s] = 'freewheels';
          note('freewheels');
          return;
        }
        break;
      default:
    }
    this.mode[s] = 'ended';
    this.y[at] = 0;
    note('ends');
  }

  private settle(): void {
    for (let round = 0; round < 4 * this.n + 1; round++) {
      const due = this.mode.findIndex((_, s) => this.urge(s, this.t, this.y) >= 0);
      if (due < 0) return;
      this.change(due);
    }
  }

  run({ until, beyond = Infinity, tolerance = 1e-6, maxSteps = 200_000, traces = true }: LaunchOptions): LaunchRun {
    const rows: number[][] = [];
    const keep = (t = this.t, y = this.y) => {
      this.read(y);
      rows.push([t, this.reading.F, ...y]);
    };
    const note = () => {
      for (let s = 0; s < this.n; s++) this.peaks[s] = Math.max(this.peaks[s] as number, at(this.y, first + 2 * s));
      if (traces) keep();
    };
    const stored =
      this.spec.stages.reduce((sum, { C, V0 }) => sum + 0.5 * C * V0 * V0, 0) + 0.5 * this.spec.mass * this.spec.v0 ** 2;
    this.settle();
    this.slopes(this.y, this.k[0] as Float64Array);
    keep();
    let h = until / 2000;
    let steps = 0;
    while (this.t < until * (1 - 1e-12) && steps < maxSteps) {
      steps += 1;
      h = Math.min(h, until - this.t, this.timeTo(beyond));
      const error = this.attempt(h, tolerance);
      if (error > 1 && h > 1e-15 * until) {
        h *= Math.max(0.2, 0.9 * error ** -0.2);
        continue;
      }
      const urge = this.due(h);
      const due = urge >= 0;
      const taken = due ? this.upTo(h, tolerance, urge) : h;
      for (const share of this.crests(taken)) if (traces) keep(this.t + share * taken, this.within(taken, share));
      [this.y, this.next] = [this.next, this.y];
      this.t += taken;
      if (due) {
        this.settle();
        this.rest();
      }
      // The slope at the end of a step is that at the start of the next, unless something has changed there.
      if (due) this.slopes(this.y, this.k[0] as Float64Array);
      else [this.k[0], this.k[6]] = [this.k[6] as Numbers, this.k[0] as Numbers];
      note();
      if (this.isOver(beyond)) break;
      if (!due) h *= Math.min(4, Math.max(0.2, 0.9 * Math.max(error, 1e-10) ** -0.2));
    }
    if (!traces) keep();
    return this.made(rows, stored, steps);
  }

  /** Where within the last step of h a current is greatest, as shares of the step in their order; they are noted. */
  private crests(h: number): number[] {
    const shares: number[] = [];
    for (let s = 0; s < this.n; s++) {
      const I = first + 2 * s;
      const share = this.crestOf(I, h);
      if (share === null) continue;
      this.peaks[s] = Math.max(this.peaks[s] as number, at(this.within(h, share), I));
      shares.push(share);
    }
    return shares.sort((p, q) => p - q);
  }

  /** s until it comes to a place at its speed, and a hair more: so that a run ends there and not somewhere behind. */
  private timeTo(beyond: number): number {
    const [x, u] = [this.y[X] as number, this.y[U] as number];
    return u > 0 && x < beyond ? ((beyond - x) / u) * (1 + 1e-6) + 1e-9 : Infinity;
  }

  /** Nothing flows any more, nor will: the projectile has left, or lies still. */
  private isOver(beyond: number): boolean {
    if (beyond === Infinity) return false;
    const [x, u] = [this.y[X] as number, this.y[U] as number];
    if (this.mode.some((mode) => mode === 'drives' || mode === 'freewheels')) return false;
    if (x > beyond || (u < 0 && x < 2 * this.spec.x0 - beyond)) return true;
    return u === 0 && this.mode.every((mode) => mode === 'ended');
  }

  /** Above nought where something must change at the end of a step of h that is in next: a stage, or the way against friction. */
  private due(h: number): number {
    const u = this.y[U] as number;
    let most = this.spec.friction > 0 && u !== 0 ? (-(this.next[U] as number) * Math.sign(u)) / (this.scale[U] as number) : -1;
    for (let s = 0; s < this.n; s++) most = Math.max(most, this.urge(s, this.t + h, this.next));
    return most;
  }

  /** Friction brings to rest, and does not drive back. */
  private rest(): void {
    const { mass, friction, weight = 0 } = this.spec;
    if (friction === 0 || Math.abs(this.y[U] as number) > 1e-6 * (this.scale[U] as number)) return;
    this.read(this.y);
    if (Math.abs(this.reading.F - mass * weight) <= friction) this.y[U] = 0;
  }

  /**
   * Closes in on the first instant within a step at which something must change, by false positions with halved weights
   * (Illinois); the step that ends there is in next.
   */
  private upTo(h: number, tolerance: number, atEnd: number): number {
    let [low, high, below, above] = [0, h, this.dueNow(), atEnd];
    let side = 0;
    for (let i = 0; i < 60 && above > 1e-12 && high - low > Math.max(1e-5 * tolerance * h, 1e-15 * this.t); i++) {
      const share = i % 3 === 2 ? 0.5 : Math.min(0.999, Math.max(0.001, below / (below - above)));
      const middle = low + (high - low) * share;
      this.attempt(middle, tolerance);
      const value = this.due(middle);
      if (value >= 0) {
        [high, above] = [middle, value];
        if (side > 0) below /= 2;
        side = 1;
      } else {
        [low, below] = [middle, value];
        if (side < 0) above /= 2;
        side = -1;
      }
    }
    this.attempt(high, tolerance);
    return high;
  }

  /** The same at the start of a step, where it is below nought. */
  private dueNow(): number {
    const u = this.y[U] as number;
    let most = this.spec.friction > 0 && u !== 0 ? -Math.abs(u) / (this.scale[U] as number) : -1;
    for (let s = 0; s < this.n; s++) most = Math.max(most, this.urge(s, this.t, this.y));
    return Math.min(most, -1e-12);
  }

  private made(rows: readonly number[][], stored: number, steps: number): LaunchRun {
    const column = (k: number) => Float64Array.from(rows, (row) => row[k] ?? NaN);
    this.read(this.y);
    const left = this.spec.stages.reduce((sum, { C }, s) => sum + 0.5 * C * (this.y[first + 2 * s + 1] as number) ** 2, 0);
    const kinetic = 0.5 * this.spec.mass * (this.y[U] as number) ** 2;
    const energy = {
      stored,
      left,
      field: this.reading.W,
      kinetic,
      lifted: this.spec.mass * (this.spec.weight ?? 0) * ((this.y[X] as number) - this.spec.x0),
      heat: this.y[this.Q] as number,
      armature: this.y[this.Q + 1] as number,
      friction: this.y[this.Q + 2] as number,
    };
    const sum = left + energy.field + kinetic + energy.lifted + energy.heat + energy.armature + energy.friction;
    return {
      t: column(0),
      F: column(1),
      x: column(2 + X),
      v: column(2 + U),
      i: this.spec.stages.map((_, s) => column(2 + first + 2 * s)),
      V: this.spec.stages.map((_, s) => column(2 + first + 2 * s + 1)),
      events: this.events,
      peak: [...this.peaks],
      action: this.spec.stages.map((_, s) => this.y[this.acting + 3 + s] as number),
      energy,
      closure: Math.abs(sum / stored - 1),
      steps,
    };
  }
}

/**
 * Launches a slug through coils that are fired one after the other.
 *
 * @throws Error where a stage has no capacitance, resistance below nought, or there are more stages than coils
 */
export function launch(spec: LaunchSpec, options: LaunchOptions): LaunchRun {
  if (spec.stages.length !== spec.armature.coils)
    throw new Error(`${spec.stages.length} stages for ${spec.armature.coils} coils: there must be one for each`);
  if (!(spec.mass > 0)) throw new Error('the mass of the slug must be above 0 kg');
  for (const [s, { C, R }] of spec.stages.entries())
    if (!(C > 0) || !(R >= 0)) throw new Error(`stage ${s + 1}: capacitance must be above 0 F and resistance not below 0 Ω`);
  return new Launch(spec).run(options);
}
