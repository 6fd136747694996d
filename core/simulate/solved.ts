import {
  freewheelOf,
  bleedGoal,
  slots,
  staysConnected,
  Unavailable,
  type BlockDefinition,
  type FigureId,
  type Scene,
} from '../block/index.ts';
import {
  CircuitError,
  decimated,
  simulateCircuit,
  stretchOf,
  type CircuitRun,
  type Probe,
  type Trace as CircuitTrace,
} from '../circuit/index.ts';
import { Corners, definitionIn, figureSpecs, ifKnown, RigReading } from '../figure/index.ts';
import { FormulaError } from '../formula/index.ts';
import type { UnitId } from '../quantity/index.ts';
import type { Rig } from '../rig/index.ts';
import { bleedSpan } from './bleed-down.ts';
import { chargeSpan, dischargeSpan, type Trace } from './closed-form.ts';
import { idealised, inScene, inWordsOf, returnNode, rigCircuit, rigNetlistText, type RigCircuit } from './rig-circuit.ts';

/** A figure as the closed form and as the solver have it. */
export interface Compared {
  readonly id: FigureId;
  readonly title: string;
  readonly unit: UnitId;
  /** Null where the closed form has none, with the reason elsewhere on the page. */
  readonly closed: number | null;
  /** Null where it was not reached in the time that was run. */
  readonly solver: number | null;
  /** |solver − closed| as a fraction of the closed form. */
  readonly off: number | null;
  /** Where they are more than 2 % apart: what the closed form leaves out, the weightiest first. */
  readonly because: readonly string[];
}

export interface SolvedEvent {
  /** s */
  readonly t: number;
  /** "charging diode off" */
  readonly text: string;
}

/** Figures as the solver has them; null where the run did not come to one. */
type SolvedFigures = Readonly<Partial<Record<FigureId, number | null>>>;

/** A scene of a rig as the solver has it, as plain data that a worker can send. */
export interface Solved {
  readonly of: Scene['of'];
  readonly traces: readonly Trace[];
  readonly compared: readonly Compared[];
  readonly events: readonly SolvedEvent[];
  readonly run: {
    readonly outcome: CircuitRun['outcome'];
    readonly t: number;
    readonly until: number;
    readonly steps: number;
    readonly rejected: number;
    readonly factorisations: number;
    readonly closure: number;
    readonly elements: number;
  };
  /** What the picture does not show, in words. */
  readonly note: string | null;
}

export type SolveAnswer = { readonly ok: true; readonly value: Solved } | { readonly ok: false; readonly reason: string };

export interface SolveOptions {
  /** The value is still moving: what takes long is left for when it rests. */
  readonly quick?: boolean;
  /** Runs again without what the closed forms leave out, to say why the two differ. */
  readonly explain?: boolean;
  readonly cancelled?: () => boolean;
  /** Leaves out one of the things that the closed forms leave out. */
  readonly without?: string;
  /** Is given every trace with all its points, for who wants to look closer. */
  readonly keep?: (traces: readonly Trace[]) => void;
}

/** A closer look at traces: what lies in a stretch of time, with as many points as a whole picture has. */
export const closerLook = (traces: readonly Trace[], from: number, to: number): Trace[] =>
  traces.map((trace) => ({ ...trace, ...decimated(stretchOf(trace, from, to), points.rest) }));

/** From this share on a difference is explained. */
export const worthSaying = 0.02;

/**
 * More turns of diodes than this in one charge are not simulated: the supply then stands in as its mean, where it has one.
 * While a value is being dragged fewer are.
 */
const mostTurns = 10_000;
const quickTurns = 600;
const mostSteps = 400_000;
/** Points of a trace that is sent: while a value moves, and when it rests and somebody may look closely. */
const points = { quick: 500, rest: 6000 };
const tolerance = 1e-4;

interface Shot {
  readonly circuit: RigCircuit;
  readonly until: number;
  /** s of it that are drawn; all of it if left out. */
  readonly drawn?: number;
  readonly probes: readonly { readonly id: string; readonly title: string; readonly unit: UnitId; readonly probe: Probe }[];
  /** Figures out of the raw traces, by id; null where the run did not come to them. */
  read(traces: readonly CircuitTrace[], run: CircuitRun): SolvedFigures;
}

/** First time at which a trace passes a level in a direction, by straight lines between its points. */
export function crossing({ t, y }: CircuitTrace, level: number, direction: 1 | -1): number | null {
  for (let i = 1; i < t.length; i++) {
    const [a, b] = [(y[i - 1] ?? 0) - level, (y[i] ?? 0) - level];
    if (a * direction < 0 && b * direction >= 0) return (t[i - 1] ?? 0) + ((t[i] ?? 0) - (t[i - 1] ?? 0)) * (a / (a - b));
  }
  return null;
}

/** The greatest value of a trace, either way, and when: the top of a parabola through the points around it. */
const greatest = ({ t, y }: CircuitTrace): { at: number; value: number } => {
  let best = 0;
  for (let i = 1; i < y.length; i++) if (Math.abs(y[i] ?? 0) > Math.abs(y[best] ?? 0)) best = i;
  const top = { at: t[best] ?? 0, value: Math.abs(y[best] ?? 0) };
  const [t0, t1, t2] = [t[best - 1], t[best], t[best + 1]];
  if (t0 === undefined || t1 === undefined || t2 === undefined || !(t0 < t1 && t1 < t2)) return top;
  const [a, b, c] = [Math.abs(y[best - 1] ?? 0), top.value, Math.abs(y[best + 1] ?? 0)];
  const [rise, fall] = [(b - a) / (t1 - t0), (c - b) / (t2 - t1)];
  const bend = (fall - rise) / (t2 - t0);
  // Where a switch cut it off the top is a corner and no parabola.
  if (!(bend < 0) || a < 0.5 * b || c < 0.5 * b) return top;
  const at = (t0 + t1) / 2 - rise / (2 * bend);
  return at > t0 && at < t2 ? { at, value: b + bend * (at - t0) * (at - t1) + rise * (at - t1) } : top;
};

const elementOf = (circuit: RigCircuit, tag: string, from: 'first' | 'last'): string => {
  const names = circuit.netlist.elements.map((e) => e.name).filter((name) => name.slice(1).startsWith(tag));
  const name = from === 'first' ? names[0] : names.at(-1);
  if (name === undefined) throw new Error(`the circuit has no element of ${tag}`);
  return name;
};

/** The charge with every cycle of its supply, where those are not too many. */
function chargeCircuit(rig: Rig, name: string, span: number, frequency: number, quick: boolean): RigCircuit {
  const scene = { of: 'charge' as const, charger: true };
  if (frequency === 0) return rigCircuit(rig, name, { ...scene, cycles: true });
  const drawn = (most: number): RigCircuit | null => {
    // The cycles alone may be too many to ask for the circuit at all.
    if (span * frequency > most) return null;
    const circuit = rigCircuit(rig, name, { ...scene, cycles: true });
    const diodes = circuit.netlist.elements.filter((e) => e.kind === 'diode').length;
    return span * frequency * Math.max(1, diodes) > most ? null : circuit;
  };
  return drawn(quick ? quickTurns : mostTurns) ?? rigCircuit(rig, name, { ...scene, cycles: false });
}

function chargeShot(rig: Rig, name: string, reading: RigReading, quick: boolean): Shot {
  const { span } = chargeSpan(reading);
  const frequency = reading.offers('supply').frequency?.value ?? 0;
  const circuit = chargeCircuit(rig, name, span, frequency, quick);
  const target = reading.offer('chargedTo').value;
  const fraction = reading.own('charging').quantity('fraction').value;
  return {
    circuit,
    until: span,
    probes: [
      { id: 'store-voltage', title: 'store voltage, solver', unit: 'V', probe: { of: 'voltage', element: 'Cst' } },
      {
        id: 'supply-current',
        title: 'supply current, solver',
        unit: 'A',
        probe: { of: 'current', element: elementOf(circuit, 'ch', 'last') },
      },
    ],
    read: ([voltage, current]) => {
      if (!voltage || !current) return {};
      const time = crossing(voltage, target, 1);
      return {
        'charge-time': time,
        'charge-time-fraction': crossing(voltage, target * fraction, 1),
        'charging-current': greatest(current).value,
        'mean-charging-current': time === null ? null : (reading.figure('bank-capacitance').value * target) / time,
      };
    },
  };
}

/** How long a discharge is run, s: until a ring has died, so that its whole heat is in it, but no more than sixty periods. */
export function ringOut(reading: RigReading): number {
  const span = dischargeSpan(reading);
  const [R, L, C] = (['loop-resistance', 'loop-inductance', 'loop-capacitance'] as const).map(
    (id) => reading.figure(id).value,
  ) as [number, number, number];
  const overdamped = R * R * C > 4 * L;
  if (freewheelOf(reading) && !overdamped) return span + (6 * L) / Math.max(R, 1e-12);
  if (reading.offers('switch').conduction === 'one-way' && !overdamped) return span;
  const decay = overdamped ? 5 * (R * C + L / R) : (12 * L) / Math.max(R, 1e-12);
  return Math.max(span, Math.min(decay, 120 * Math.PI * Math.sqrt(L * C)));
}

/** A trace up to a time. */
const until = ({ t, y }: CircuitTrace, end: number): CircuitTrace => {
  let n = t.length;
  while (n > 1 && (t[n - 1] ?? 0) > end) n -= 1;
  return { t: t.slice(0, n), y: y.slice(0, n) };
};

function dischargeShot(rig: Rig, name: string, reading: RigReading): Shot {
  const connected = staysConnected(reading);
  const circuit = rigCircuit(rig, name, { of: 'discharge', charger: connected, cycles: false });
  const V0 = reading.offer('chargedTo').value;
  const oneWay = reading.offers('switch').conduction === 'one-way';
  const load = elementOf(circuit, 'ld', 'first');
  const charges = reading.offers('load').loadCapacitance !== undefined;
  const { output } = reading.offers('store');
  const atTop = { of: 'nodes', nodes: ['out', returnNode(reading)] } as const;
  return {
    circuit,
    until: ringOut(reading),
    drawn: dischargeSpan(reading),
    probes: [
      { id: 'current', title: 'current, solver', unit: 'A', probe: { of: 'current', element: load } },
      { id: 'store-voltage', title: 'store voltage, solver', unit: 'V', probe: { of: 'voltage', element: 'Cst' } },
      ...(charges
        ? [
            {
              id: 'load-voltage',
              title: 'voltage of the load, solver',
              unit: 'V',
              probe: { of: 'voltage', element: 'Cld' },
            } as const,
          ]
        : []),
      ...(output ? [{ id: 'output-voltage', title: 'voltage of the output, solver', unit: 'V', probe: atTop } as const] : []),
    ],
    read: ([current, voltage, ...others], run) => {
      const second = charges ? others[0] : undefined;
      const top = output ? others.at(-1) : undefined;
      if (!current || !voltage) return {};
      const peak = greatest(current);
      const zero = current.t.findIndex((t, i) => t > peak.at && (current.y[i] ?? 0) <= peak.value * 1e-6);
      const least = voltage.y.reduce((low, v) => Math.min(low, v), Infinity);
      const action = current.t.reduce(
        (sum, t, i) =>
          i === 0 ? 0 : sum + ((t - (current.t[i - 1] ?? 0)) * ((current.y[i] ?? 0) ** 2 + (current.y[i - 1] ?? 0) ** 2)) / 2,
        0,
      );
      // A ring that is still going on when the picture ends has not yet given all of its heat.
      const late = (current.t.at(-1) ?? 0) * 0.8;
      const ended = current.t.every((t, i) => t < late || Math.abs(current.y[i] ?? 0) < 0.03 * peak.value);
      const loadR = rigLoadResistance(reading);
      return {
        'peak-current': peak.value,
        ...(second ? { 'load-peak-voltage': greatest(second).value } : {}),
        ...(top && output ? { [output]: greatest(top).value } : {}),
        // On a flat top the highest point stands anywhere: its first top is what the closed form has.
        'time-to-peak': reading.offers('store').pulse ? null : peak.at,
        'voltage-reversal': zero < 0 && least > 0 ? 0 : Math.max(0, -least / V0),
        ...(oneWay && zero >= 0 ? { 'reversed-voltage': Math.max(0, -(voltage.y.at(-1) ?? 0)) } : {}),
        'action-integral': ended ? action : null,
        'load-energy': ended && loadR !== null && run.outcome === 'done' ? action * loadR : null,
      };
    },
  };
}

/** Resistance in which the load turns its share of the action into heat, as the closed form has it. */
function rigLoadResistance(reading: RigReading): number | null {
  const [E, A] = [closedOf(reading, 'load-energy'), closedOf(reading, 'action-integral')];
  return E === null || A === null || A === 0 ? null : E / A;
}

function bleedShot(rig: Rig, name: string, reading: RigReading): Shot {
  const circuit = rigCircuit(rig, name, { of: 'bleed', charger: false, cycles: false });
  const goal = bleedGoal(reading);
  return {
    circuit,
    until: bleedSpan(new Corners(rig)),
    probes: [{ id: 'bleeder', title: 'solver, with meter and insulation', unit: 'V', probe: { of: 'voltage', element: 'Cst' } }],
    read: ([voltage]) => {
      if (!voltage) return {};
      const id = reading.offers('bleeder').bleedResistance ? 'bleed-time' : 'bleed-time-open';
      return { [id]: crossing(voltage, goal.voltage.value, -1) };
    },
  };
}

function dumpShot(rig: Rig, name: string, reading: RigReading): Shot {
  const circuit = rigCircuit(rig, name, { of: 'dump', charger: false, cycles: false });
  const goal = bleedGoal(reading);
  return {
    circuit,
    until: 1.5 * reading.figure('dump-time').value,
    probes: [{ id: 'dump', title: 'solver, with meter and insulation', unit: 'V', probe: { of: 'voltage', element: 'Cst' } }],
    read: ([voltage]) => (voltage ? { 'dump-time': crossing(voltage, goal.voltage.value, -1) } : {}),
  };
}

const shotOf = (of: Scene['of'], rig: Rig, name: string, reading: RigReading, quick: boolean): Shot =>
  of === 'charge'
    ? chargeShot(rig, name, reading, quick)
    : of === 'discharge'
      ? dischargeShot(rig, name, reading)
      : of === 'dump'
        ? dumpShot(rig, name, reading)
        : bleedShot(rig, name, reading);

const runOf = (shot: Shot, circuit: RigCircuit, options: SolveOptions): CircuitRun =>
  inWordsOf(circuit.parts, () =>
    simulateCircuit(circuit.netlist, {
      until: shot.until,
      tolerance,
      maxStep: (shot.drawn ?? shot.until) / 200,
      ...(shot.drawn === undefined ? {} : { fineUntil: shot.drawn }),
      maxSteps: mostSteps,
      probes: shot.probes.map((p) => p.probe),
      ...(options.cancelled ? { cancelled: options.cancelled } : {}),
    }),
  );

const closedOf = (reading: RigReading, id: FigureId): number | null => ifKnown(() => reading.figure(id).value);

const difference = (solver: number | null, closed: number | null): number | null => {
  if (solver === null || closed === null) return null;
  if (closed === 0) return solver === 0 ? 0 : Math.abs(solver) < 1e-3 ? 0 : Infinity;
  return Math.abs(solver / closed - 1);
};

/** Figures of a shot whose circuit lacks something; null where it cannot be solved without that. */
function figuresWithout(shot: Shot, circuit: RigCircuit, options: SolveOptions): SolvedFigures | null {
  try {
    const made = runOf(shot, circuit, options);
    return shot.read(made.traces, made);
  } catch (error) {
    if (error instanceof CircuitError) return null;
    throw error;
  }
}

/** What each thing that the closed forms leave out does to each figure: the same run without it. */
function reasons(shot: Shot, run: CircuitRun, reading: RigReading, rig: Rig, options: SolveOptions): (id: FigureId) => string[] {
  const whats = [...new Set(shot.circuit.parts.flatMap((part) => part.leftOut?.what ?? []))];
  const with_ = shot.read(run.traces, run);
  const without = whats.flatMap((what) => {
    const figures = figuresWithout(shot, idealised(shot.circuit, what), options);
    return figures ? [{ what, figures }] : [];
  });
  let withoutAll: SolvedFigures | null = null;
  const bare = () => (withoutAll ??= figuresWithout(shot, idealised(shot.circuit), options) ?? {});
  const definitions: BlockDefinition[] = slots
    .filter((slot) => inScene(shot.circuit.scene, slot))
    .map((slot) => definitionIn(rig, slot));
  const said = definitions.flatMap((d) => d.leavesOut?.(reading.ownOf(d.slot), shot.circuit.scene) ?? []);
  const concerned = (text: string, id: FigureId) =>
    !['bleed', 'dump'].includes(shot.circuit.scene.of) && text !== '' && figureSpecs(rig).has(id);
  return (id) => {
    const off = difference(with_[id] ?? null, closedOf(reading, id)) ?? 0;
    const weights = without
      .map(({ what, figures }) => ({ what, left: difference(figures[id] ?? null, closedOf(reading, id)) }))
      .filter(({ left }) => left !== null && left < off * 0.8)
      .sort((a, b) => (a.left ?? 0) - (b.left ?? 0));
    const left = without.length > 1 && weights.length === 0 ? difference(bare()[id] ?? null, closedOf(reading, id)) : null;
    const together = left !== null && left < off * 0.8 ? [`${whats.join('; ')}: all of it together`] : [];
    return [
      ...together,
      ...weights.map(({ what, left }) => `${what}: without it they are ${((left ?? 0) * 100).toFixed(1)} % apart`),
      ...said.filter((text) => concerned(text, id)),
    ];
  };
}

function compare(figures: SolvedFigures, reading: RigReading, rig: Rig, because: (id: FigureId) => string[]): Compared[] {
  return (Object.entries(figures) as [FigureId, number | null][]).flatMap(([id, solver]): Compared[] => {
    const spec = figureSpecs(rig).get(id);
    if (!spec) return [];
    const closed = closedOf(reading, id);
    const off = difference(solver, closed);
    const unit = closed === null ? '1' : reading.figure(id).unit;
    return [{ id, title: spec.title, unit, closed, solver, off, because: off !== null && off > worthSaying ? because(id) : [] }];
  });
}

/** Runs the trials of the blocks, each for figures of its own. */
function trialFigures(rig: Rig, reading: RigReading, options: SolveOptions): Record<string, number | null> {
  const found: Record<string, number | null> = {};
  for (const slot of slots)
    for (const trial of definitionIn(rig, slot).trials ?? []) {
      // A load that cannot be had is said of its own figure; the charge itself is run all the same.
      if (trial.figures.some((id) => closedOf(reading, id) === null)) continue;
      const { parts, until, node } = trial.circuit(reading.ownOf(slot), reading);
      const run = simulateCircuit(
        { title: 'trial', elements: parts.map((part) => part.element) },
        {
          until,
          tolerance,
          maxSteps: mostSteps,
          probes: [{ of: 'nodes', nodes: [node, '0'] }],
          ...(options.cancelled ? { cancelled: options.cancelled } : {}),
        },
      );
      const [voltage] = run.traces;
      if (voltage && run.outcome === 'done') Object.assign(found, trial.read(reading.ownOf(slot), reading, voltage));
    }
  return found;
}

/**
 * A scene of a rig through the circuit solver, beside the closed forms.
 *
 * @returns the traces and figures, or the reason why there are none: a value that is missing, a circuit that cannot be solved
 */
export function solveRigScene(rig: Rig, name: string, of: Scene['of'], options: SolveOptions = {}): SolveAnswer {
  try {
    const reading = new RigReading(rig);
    const whole = shotOf(of, rig, name, reading, options.quick === true);
    const shot = options.without === undefined ? whole : { ...whole, circuit: idealised(whole.circuit, options.without) };
    const run = runOf(shot, shot.circuit, options);
    const figures = shot.read(run.traces, run);
    const apart = (Object.entries(figures) as [FigureId, number | null][]).some(
      ([id, solver]) => (difference(solver, closedOf(reading, id)) ?? 0) > worthSaying,
    );
    const because = options.explain && apart ? reasons(shot, run, reading, rig, options) : () => [];
    const trials = options.explain && of === 'charge' ? trialFigures(rig, reading, options) : {};
    const traces = shot.probes.flatMap(({ id, title, unit }, i): Trace[] => {
      const trace = run.traces[i];
      return trace ? [{ id, title, unit, ...until(trace, shot.drawn ?? shot.until) }] : [];
    });
    options.keep?.(traces);
    const says = new Map(shot.circuit.parts.map((part) => [part.element.name, part.says]));
    return {
      ok: true,
      value: {
        of,
        traces: traces.map((trace) => ({ ...trace, ...decimated(trace, options.quick ? points.quick : points.rest) })),
        compared: compare({ ...figures, ...trials }, reading, rig, because),
        events: eventsOf(run, says),
        run: {
          outcome: run.outcome,
          t: run.t,
          until: shot.drawn ?? shot.until,
          steps: run.steps,
          rejected: run.rejected,
          factorisations: run.factorisations,
          closure: run.closure,
          elements: shot.circuit.netlist.elements.length,
        },
        note: noteOf(shot, reading, run),
      },
    };
  } catch (error) {
    if (error instanceof Unavailable || error instanceof FormulaError || error instanceof CircuitError)
      return { ok: false, reason: error.message };
    throw error;
  }
}

/** The first events, with those of one instant that undo each other taken as one: a pair of thyristors that turns round. */
function eventsOf(run: CircuitRun, says: ReadonlyMap<string, string>): SolvedEvent[] {
  const found: SolvedEvent[] = [];
  const shown = run.events.slice(0, 800);
  for (let i = 0; i < shown.length && found.length < 400; i++) {
    const [event, next] = [shown[i], shown[i + 1]];
    if (!event) break;
    const name = (says.get(event.element) ?? event.element).replace(/,.*$/, '');
    const turns = next?.t === event.t && next.element === event.element && next.what !== event.what;
    if (turns) i += 1;
    found.push({ t: event.t, text: `${name} ${turns ? 'turns round' : event.what}` });
  }
  return found;
}

function noteOf(shot: Shot, reading: RigReading, run: CircuitRun): string | null {
  if (run.outcome === 'too_many_steps') return 'Stopped after as many steps as a page waits for; what there is, is drawn.';
  if (run.outcome === 'cancelled') return 'Stopped before its end; what there is, is drawn.';
  const { scene } = shot.circuit;
  if (scene.of === 'charge' && !scene.cycles && reading.offers('supply').frequency)
    return 'The charge has too many cycles of the supply to draw: it stands in as its mean.';
  return null;
}

/** What a discharge comes to by the solver, by figure, with its circuit as it is or changed. @throws what the rig lacks */
export function dischargeFigures(rig: Rig, change: (circuit: RigCircuit) => RigCircuit = (circuit) => circuit): SolvedFigures {
  const shot = dischargeShot(rig, 'shot', new RigReading(rig));
  const run = runOf(shot, change(shot.circuit), {});
  return shot.read(run.traces, run);
}

/** The circuit of a scene as text; null where the rig lacks a value for it. */
export const sceneNetlist = (rig: Rig, name: string, of: Scene['of']): string | null =>
  ifKnown(() => {
    const { circuit, until } = shotOf(of, rig, name, new RigReading(rig), false);
    return rigNetlistText(circuit, until);
  });
