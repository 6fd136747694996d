import type { Nodes } from './element.ts';
import type { Trace } from './trace.ts';

/** What is traced: a voltage between two nodes, or the current or voltage of an element. */
export type Probe =
  | { readonly of: 'nodes'; readonly nodes: Nodes }
  | { readonly of: 'current'; readonly element: string }
  | { readonly of: 'voltage'; readonly element: string };

export interface RunOptions {
  /** s, above 0 */
  readonly until: number;
  /** Error of one step as a fraction of what swings; 1e-4 if left out. */
  readonly tolerance?: number;
  /** For the scatter of gaps. */
  readonly seed?: number;
  /** Longest step, s. */
  readonly maxStep?: number;
  /** s up to which that holds; to the end if left out, else a four-hundredth of the run from there on. */
  readonly fineUntil?: number;
  /** Steps after which a run stops and says so. */
  readonly maxSteps?: number;
  readonly probes?: readonly Probe[];
  /** Asked now and then; a run that is to end ends with what it has. */
  readonly cancelled?: () => boolean;
  /** Names of devices: once each of them has closed the run is over. */
  readonly untilClosed?: readonly string[];
  /** S across everything that is open but a gap; 1e-12 if left out. */
  readonly Goff?: number;
}

export interface CircuitEvent {
  /** s */
  readonly t: number;
  readonly element: string;
  readonly what: 'on' | 'off';
}

export interface CircuitRun {
  readonly outcome: 'done' | 'cancelled' | 'too_many_steps';
  /** How far it came, s. */
  readonly t: number;
  readonly steps: number;
  readonly rejected: number;
  readonly factorisations: number;
  /** |energy before + supplied − dissipated − left| as a fraction of all that was there. */
  readonly closure: number;
  readonly energy: {
    /** J at t = 0, at the end, given by sources, turned into heat or handed on by coils, lost where capacitors meet. */
    readonly before: number;
    readonly left: number;
    readonly supplied: number;
    readonly dissipated: number;
    readonly shared: number;
    /** J that went into each element that keeps none. */
    readonly byElement: ReadonlyMap<string, number>;
  };
  readonly events: readonly CircuitEvent[];
  /** Of each gap that never fired, by name: the greatest voltage that it saw at the end of a step over what it holds off. */
  readonly held: ReadonlyMap<string, number>;
  /** In the order of the probes. */
  readonly traces: readonly Trace[];
  /** States of coils at the end, by name. */
  readonly coils: ReadonlyMap<string, readonly number[]>;
}
