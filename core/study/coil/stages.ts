import { chargeLeak, bleedGoal, Unavailable, type RigContext } from '../../block/index.ts';
import { eachStage } from '../../kind/index.ts';
import { simulateCircuit, traceAt } from '../../circuit/index.ts';
import { Corners, hasOwnLaw, RigReading } from '../../figure/index.ts';
import { ladderLack, ladderTime } from '../../model/index.ts';
import type { Rig } from '../../rig/index.ts';
import { chargeSpan, chargeTraces, inWordsOf, rigCircuit } from '../../simulate/index.ts';

/** What one stage of a tower holds when the tower is fired after a time. */
export interface StageThen {
  /** From 1, next to the supply. */
  readonly stage: number;
  /** V it is charged to by then. */
  readonly V: number;
  /** V its top has to earth when all stages have erected, without strays. */
  readonly toEarth: number;
  /** J it holds by then. */
  readonly energy: number;
  /** s after which the bleeder has taken it from full below the goal at the worst corner of the tolerances; null without a bleeder. */
  readonly bled: number | null;
}

/** A Marx generator while it is charged, stage by stage. What is said of a tower holds of each of two. */
export interface StagesStudy {
  /** Charge of each stage over time, V. */
  readonly curves: readonly { readonly t: Float64Array; readonly y: Float64Array }[];
  /** V every stage is to be charged to. */
  readonly target: number;
  /** s after which the last stage is there; null where it never is. */
  readonly full: number | null;
  /** s after which it is fired. */
  readonly at: number;
  readonly then: readonly StageThen[];
  /** V: output of a tower when fired then, and when all are full, without strays. */
  readonly output: { readonly then: number; readonly full: number };
  /** What the second gap sees then, over its self-break; null with one stage. */
  readonly secondGap: number | null;
  /** s after which a stage that is cut off from its ladder has leaked below its goal: nominal, and at the worst corner. */
  readonly floating: { readonly nominal: number; readonly worst: number };
  /** Whether the curves are the closed form, the solver where there is none, or the law of the supply with the lag of the ladder. */
  readonly by: 'closed form' | 'solver' | 'lag';
}

const points = 300;

type Curves = { readonly by: StagesStudy['by']; readonly span: number; at(stage: number, t: number): number };

/** Equal stages behind resistors and a plain supply: exact ladder solution. */
function closedCurves(reading: RigReading, span: number): Curves | null {
  const own = reading.own('store');
  const ladder = reading.offers('store').ladder;
  if (!ladder || hasOwnLaw(reading) || own.optional('Lc') || own.lines('Cm').trim() !== '') return null;
  const [n, R, C] = [ladder.n.value, ladder.R.value, ladder.C.value];
  const reach = reading.figure('charge-towards').value;
  const rc = reading.figure('charging-resistance').value;
  const Rb = chargeLeak(reading)?.value ?? Infinity;
  const before = R + rc / (1 + rc / Rb);
  return { by: 'closed form', span, at: (stage, t) => reach * (1 - ladderLack(n, stage, R, before, C, t)) };
}

function solvedCurves(rig: Rig, n: number, span: number): Curves {
  const { netlist, parts } = rigCircuit(rig, 'Marx', { of: 'charge', charger: true, cycles: false });
  const run = inWordsOf(parts, () =>
    simulateCircuit(netlist, {
      until: span,
      tolerance: 1e-3,
      maxStep: span / 200,
      probes: Array.from({ length: n }, (_, i) => ({ of: 'voltage', element: i + 1 === n ? 'Cst' : `Cst${i + 1}` }) as const),
    }),
  );
  return {
    by: 'solver',
    span,
    at: (stage, t) => {
      const trace = run.traces[stage - 1];
      return trace ? traceAt(trace, t) : NaN;
    },
  };
}

/**
 * The law of a supply whose every cycle is too much to simulate: its last stage as it stands on the page of the rig, each other
 * before it by how much less its Elmore delay is.
 */
function laggingCurves(rig: Rig, reading: RigReading, span: number): Curves | null {
  const ladder = reading.offers('store').ladder;
  const [last] = chargeTraces(rig).traces;
  if (!ladder || !last) return null;
  const [n, RC] = [ladder.n.value, ladder.R.value * ladder.C.value];
  const delay = (m: number) => RC * (m * n - (m * (m - 1)) / 2);
  const reach = reading.figure('charge-towards').value;
  const end = last.t.at(-1) ?? 0;
  const top = last.y.at(-1) ?? 0;
  const slope = (top - traceAt(last, 0.98 * end)) / (0.02 * end);
  // The picture ends soon after the last stage is full; those before it are by then a little further.
  const mean = (t: number) => (t <= end ? traceAt(last, t) : Math.min(reach, top + slope * (t - end)));
  return { by: 'lag', span, at: (stage, t) => (t <= 0 ? 0 : mean(t + delay(n) - delay(stage))) };
}

/** What runs, or null where the supply cannot be simulated. */
function solvedOrNull(rig: Rig, n: number, span: number): Curves | null {
  try {
    return solvedCurves(rig, n, span);
  } catch (error) {
    if (error instanceof Unavailable) return null;
    throw error;
  }
}

/** Time in which a stage is bled below the goal by the bleeder at the supply's end, s. */
function bledAfter(reading: RigContext, stage: number): number | null {
  const Rb = reading.offers('bleeder').bleedResistance?.value;
  const ladder = reading.offers('store').ladder;
  if (Rb === undefined || !ladder) return null;
  const V0 = reading.offer('chargedTo');
  const [n, R, C] = [ladder.n.value, ladder.R.value, ladder.C.value];
  return ladderTime(n, R, Rb + R, C, bleedGoal(reading).voltage.value / V0.value, stage);
}

/**
 * A Marx while it is charged, and what it is when fired after a time.
 *
 * @param at s after which it is fired; null: when the last stage is full, or at the end of the picture
 * @throws Unavailable, FormulaError, CircuitError where the rig is no Marx that can be charged
 */
export function stagesStudy(rig: Rig, at: number | null = null): StagesStudy {
  const reading = new RigReading(rig);
  const ladder = reading.offers('store').ladder;
  if (!ladder) throw new Unavailable('store', 'the store has no stages');
  const n = ladder.n.value;
  const { span, chargeTime } = chargeSpan(reading);
  const drawn = Math.max(span, (at ?? 0) * 1.05);
  const curves = closedCurves(reading, drawn) ?? solvedOrNull(rig, n, drawn) ?? laggingCurves(rig, reading, drawn);
  if (!curves) throw new Unavailable('supply', 'how this supply charges the stages cannot be worked out');
  const moment = at ?? chargeTime ?? span;
  const target = reading.offer('chargedTo').value;
  const corners = new Corners(rig);
  // The slowest corner of the last stage is that of every stage before it.
  const slow = bledAfter(reading, n) === null ? reading : corners.at(corners.bandOf((at) => at.figure('bleed-time')).highAt);
  const each = eachStage(reading.own('store'));
  const float = corners.bandOf((at) => at.figure('stage-float-time'));
  const then: StageThen[] = [];
  for (let stage = 1, toEarth = 0; stage <= n; stage++) {
    const V = curves.at(stage, moment);
    toEarth += V;
    then.push({ stage, V, toEarth, energy: 0.5 * (each[stage - 1] ?? NaN) * V * V, bled: bledAfter(slow, stage) });
  }
  const t = Float64Array.from({ length: points + 1 }, (_, i) => (drawn * i) / points);
  const [first, second] = then;
  return {
    curves: then.map(({ stage }) => ({ t, y: t.map((x) => curves.at(stage, x)) })),
    target,
    full: chargeTime,
    at: moment,
    then,
    output: { then: then.at(-1)?.toEarth ?? NaN, full: n * target },
    secondGap: first && second ? (first.V + second.V) / reading.figure('stage-self-break').value : null,
    floating: { nominal: reading.figure('stage-float-time').value, worst: float.high },
    by: curves.by,
  };
}
