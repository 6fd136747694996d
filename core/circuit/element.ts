/**
 * What a circuit is made of. SI units throughout. The voltage of an element is that of its first node against its second,
 * its current flows from the first through it to the second. Node "0" is earth.
 */
export type Nodes = readonly [string, string];

/** How a source changes with time. */
export type Wave =
  | { readonly kind: 'dc'; readonly value: number }
  | {
      readonly kind: 'sine';
      readonly offset: number;
      readonly amplitude: number;
      /** Hz */
      readonly frequency: number;
      /** rad at t = 0 */
      readonly phase?: number;
      /** s: until then it stays at its value there. */
      readonly delay?: number;
      /** 1/s */
      readonly damping?: number;
    }
  /** Goes towards `high` from one time on, and from another back towards `low`, each with a time constant. All in s. */
  | {
      readonly kind: 'exponential';
      readonly low: number;
      readonly high: number;
      readonly rise: number;
      readonly riseTime: number;
      readonly fall: number;
      readonly fallTime: number;
    }
  | {
      readonly kind: 'pulse';
      readonly low: number;
      readonly high: number;
      /** All in s. */
      readonly delay: number;
      readonly rise: number;
      readonly width: number;
      readonly fall: number;
      readonly period?: number;
    }
  /** Straight lines between points in order of time; before the first and after the last it stays. */
  | { readonly kind: 'piecewise'; readonly points: readonly (readonly [number, number])[] };

export interface Resistor {
  readonly kind: 'resistor';
  readonly name: string;
  readonly nodes: Nodes;
  /** Ω, above 0 */
  readonly R: number;
}
export interface Capacitor {
  readonly kind: 'capacitor';
  readonly name: string;
  readonly nodes: Nodes;
  /** F, above 0 */
  readonly C: number;
  /** V at t = 0 */
  readonly V0?: number;
}
export interface Inductor {
  readonly kind: 'inductor';
  readonly name: string;
  readonly nodes: Nodes;
  /** H, above 0 */
  readonly L: number;
  /** Ω of its winding, in series */
  readonly R?: number;
  /** A at t = 0 */
  readonly I0?: number;
}
/** Two inductors that share flux: M = k·√(L1·L2), |k| below 1. */
export interface Coupling {
  readonly kind: 'coupling';
  readonly name: string;
  readonly inductors: readonly [string, string];
  readonly k: number;
}
export interface VoltageSource {
  readonly kind: 'voltage-source';
  readonly name: string;
  readonly nodes: Nodes;
  readonly wave: Wave;
  /** Ω in series; an ideal source has 0, which needs a node on earth. */
  readonly R?: number;
}
export interface CurrentSource {
  readonly kind: 'current-source';
  readonly name: string;
  readonly nodes: Nodes;
  /** A that it drives from its first node through itself to its second. */
  readonly wave: Wave;
}
/** A supply that gives a constant power into its first node, up to a current and until a voltage is reached. */
export interface PowerSource {
  readonly kind: 'power-source';
  readonly name: string;
  readonly nodes: Nodes;
  /** W */
  readonly P: number;
  /** A: what it gives at low voltage. */
  readonly Imax: number;
  /** V at which it stops; never if left out. */
  readonly Voff?: number;
  /** V below which it starts again; `Voff` if left out. */
  readonly Von?: number;
}
export type Control =
  /** Closed between pairs of times, s. */
  | { readonly by: 'time'; readonly closeAt: number; readonly openAt?: number }
  /** Closes above one voltage between two nodes and opens below another. */
  | { readonly by: 'voltage'; readonly nodes: Nodes; readonly above: number; readonly below: number }
  /** Closes and opens by the current of another element. */
  | { readonly by: 'current'; readonly of: string; readonly above: number; readonly below: number };
export interface Switch {
  readonly kind: 'switch';
  readonly name: string;
  readonly nodes: Nodes;
  /** Ω closed, above 0; open it carries nothing but `Goff`. */
  readonly Ron: number;
  readonly control: Control;
}
export interface Diode {
  readonly kind: 'diode';
  readonly name: string;
  /** Anode, cathode. */
  readonly nodes: Nodes;
  /** V */
  readonly Vf: number;
  /** Ω, above 0 */
  readonly Ron: number;
}
export interface Thyristor {
  readonly kind: 'thyristor';
  readonly name: string;
  /** Anode, cathode. */
  readonly nodes: Nodes;
  readonly Vf: number;
  readonly Ron: number;
  /** The gate is driven from one time to the other, s. */
  readonly gate: { readonly from: number; readonly until: number };
  /** A it must reach before the gate ends, and below which it lets go. */
  readonly latching: number;
  readonly holding: number;
  /** s after it let go during which it conducts again when voltage comes back. */
  readonly turnOff: number;
  /** A second one the other way round: it conducts both ways while fired. */
  readonly bothWays?: boolean;
}
/** How the resistance of an arc falls. Toepler: R = k·d/∫|i|dt. Rompe and Weizel: R = d/√(2·a/p·∫i²dt). `series`: Ω that lie with it in the element; `start`: Ω it begins at, 100 kΩ if left out. */
export type Arc =
  | { readonly law: 'fixed'; readonly R: number }
  /** k in V·s/m, about 0.8 to 1.5e-2 in air at 1 bar (from memory); d in m. */
  | {
      readonly law: 'toepler';
      readonly k: number;
      readonly d: number;
      readonly Rmin: number;
      readonly series?: number;
      readonly start?: number;
    }
  /** a/p in m²/(V²·s), about 0.8 to 1.2e-4 /1 bar in air (from memory); d in m. */
  | {
      readonly law: 'rompe-weizel';
      readonly a: number;
      readonly d: number;
      readonly Rmin: number;
      readonly series?: number;
      readonly start?: number;
    };
export interface Gap {
  readonly kind: 'gap';
  readonly name: string;
  readonly nodes: Nodes;
  /** V, either way round, at which it breaks down. */
  readonly breakdown: number;
  /** Standard deviation of it as a fraction; drawn from the seed of the run. */
  readonly scatter?: number;
  readonly arc: Arc;
  /** H of the arc. */
  readonly L: number;
  /** s at which a trigger fires it. */
  readonly fireAt?: number;
  /** It lets go at a zero of its current, and holds again with this time constant, s. Left out it does not reopen. */
  readonly recovery?: number;
}
/** What a coil with something moving in it is at an instant. */
export interface CoilReading {
  /** H at the present position and current. */
  L: number;
  /** dL/dt, H/s: its voltage is i times this beside L·di/dt. */
  dLdt: number;
}
/** A coil whose inductance depends on states of its own, such as position and speed of a slug. */
export interface Coil {
  readonly kind: 'coil';
  readonly name: string;
  readonly nodes: Nodes;
  readonly R: number;
  readonly I0?: number;
  /** States at t = 0. */
  readonly states: readonly number[];
  /** Where its inductance was recorded: pairs of time, s, and H, straight lines between them; what a deck can say of it. */
  readonly record?: readonly (readonly [number, number])[];
  /** Writes what the coil is at a time, a current and its states. */
  readonly read: (t: number, i: number, states: Float64Array, out: CoilReading) => void;
  /** Writes the derivatives of the states. */
  readonly slopes: (t: number, i: number, states: Float64Array, out: Float64Array) => void;
}

/**
 * One end of a line without loss, such as a cable: what leaves it comes out at the other end a delay later. Its other end is an element
 * of its own, of the same impedance and delay.
 */
export interface LineEnd {
  readonly kind: 'line-end';
  readonly name: string;
  /** Conductor and return at this end. */
  readonly nodes: Nodes;
  /** Name of the other end. */
  readonly far: string;
  /** Ω, above 0 */
  readonly Z0: number;
  /** s, above 0 */
  readonly delay: number;
  /** V that it is charged to at t = 0; the same at both ends. */
  readonly V0?: number;
}

export type Element =
  | Resistor
  | Capacitor
  | Inductor
  | Coupling
  | VoltageSource
  | CurrentSource
  | PowerSource
  | Switch
  | Diode
  | Thyristor
  | Gap
  | Coil
  | LineEnd;
export type TwoPole = Exclude<Element, Coupling>;

export interface Netlist {
  readonly title: string;
  readonly elements: readonly Element[];
}

/** Value of a wave at a time, s. */
export function waveAt(wave: Wave, t: number): number {
  switch (wave.kind) {
    case 'dc':
      return wave.value;
    case 'sine': {
      const since = Math.max(0, t - (wave.delay ?? 0));
      const swing = wave.damping ? wave.amplitude * Math.exp(-since * wave.damping) : wave.amplitude;
      return wave.offset + swing * Math.sin(2 * Math.PI * wave.frequency * since + (wave.phase ?? 0));
    }
    case 'exponential': {
      const { low, high, rise, riseTime, fall, fallTime } = wave;
      const gone = (from: number, constant: number) => (t > from ? (high - low) * -Math.expm1(-(t - from) / constant) : 0);
      return low + gone(rise, riseTime) - gone(fall, fallTime);
    }
    case 'pulse': {
      const { low, high, delay, rise, width, fall, period } = wave;
      if (t < delay) return low;
      const s = period === undefined ? t - delay : (t - delay) % period;
      if (s < rise) return low + ((high - low) * s) / rise;
      if (s < rise + width) return high;
      if (s < rise + width + fall) return high + ((low - high) * (s - rise - width)) / fall;
      return low;
    }
    case 'piecewise': {
      const { points } = wave;
      const [first] = points;
      if (!first || t <= first[0]) return first?.[1] ?? 0;
      for (let i = 1; i < points.length; i++) {
        const [[t0, v0], [t1, v1]] = [points[i - 1] ?? first, points[i] ?? first];
        if (t <= t1) return t1 === t0 ? v1 : v0 + ((v1 - v0) * (t - t0)) / (t1 - t0);
      }
      return points.at(-1)?.[1] ?? 0;
    }
    default:
      return wave satisfies never;
  }
}

/** Far more corners than any plot shows; a wave with more in one run is refused. */
export const cornerLimit = 200_000;

/** Times up to `until` at which a wave has a corner: a step lands on each of them. */
export function cornersOf(wave: Wave, until: number): number[] {
  if (wave.kind === 'piecewise') return wave.points.map(([t]) => t).filter((t) => t > 0 && t < until);
  if (wave.kind === 'sine' && wave.delay) return [wave.delay].filter((t) => t > 0 && t < until);
  if (wave.kind === 'exponential') return [wave.rise, wave.fall].filter((t) => t > 0 && t < until);
  if (wave.kind !== 'pulse') return [];
  const { delay, rise, width, fall, period } = wave;
  const shape = [0, rise, rise + width, rise + width + fall];
  const times: number[] = [];
  for (let start = delay; start < until && times.length < cornerLimit; start += period ?? Infinity) {
    for (const s of shape) if (start + s > 0 && start + s < until) times.push(start + s);
    if (period === undefined) break;
  }
  return times;
}
