import { z } from 'zod';
import { acts, bleedGoal, goalBeside, highestVoltage, phases, type FigureId } from '../block/index.ts';
import { figureIn, type Evaluation } from '../evaluation/index.ts';
import { definitionIn, ifKnown } from '../figure/index.ts';
import type { SheetEdits } from '../rig/index.ts';
import { inSI } from '../quantity/index.ts';
import { heldHold, heldIn, runSheetOf, type RunSheet, type Step } from '../runsheet/index.ts';
import { bleedTraces, chargeTraces, type Trace } from '../simulate/index.ts';

const number = z.number();

const planStepSchema = z.object({
  id: z.string(),
  phase: z.enum(phases),
  text: z.string(),
  expect: z.array(z.object({ label: z.string(), printed: z.string() })),
  hold: z.string().optional(),
  caution: z.string().optional(),
  note: z.string().optional(),
  who: z.enum(['key', 'reader', 'both']),
  does: z.enum(acts).optional(),
  reading: z.object({ expected: number.nullable(), below: number.nullable() }).optional(),
  /** s */
  wait: number.optional(),
  second: z.boolean(),
  /** Of what keeps a charge of its own: its id. */
  of: z.string().optional(),
  /** s that it takes a person, besides what has to be waited for. Plans made before it was kept have none. */
  seconds: number.default(10),
});
export type PlanStep = Readonly<z.infer<typeof planStepSchema>>;

/** A voltage over time: t in s, v in V. */
const curveSchema = z.object({ t: z.array(number), v: z.array(number) });
export type PlanCurve = Readonly<z.infer<typeof curveSchema>>;

/**
 * A run sheet as it stood when a run was begun, with the numbers that a run needs of its rig. It is kept with the run and never changed,
 * so that what was done is always read beside what was planned.
 */
export const planSchema = z.object({
  rigName: z.string(),
  people: z.enum(['one', 'two']),
  summary: z.array(z.string()),
  stops: z.array(z.string()),
  main: z.array(planStepSchema),
  misfire: z.array(planStepSchema),
  abort: z.array(planStepSchema),
  numbers: z.object({
    /** V the store is charged to, V that can stand on it at the most, V it has to be below. */
    charged: number,
    highest: number,
    below: number,
    goalText: z.string(),
    /** J stored at the charge voltage. */
    energy: number,
    /** s from the charge to below the goal: by the bleeder (null without one), by leakage alone, by the tool; nominal and in the worst case. */
    bleeder: z.object({ nominal: number, worst: number.nullable() }).nullable(),
    open: z.object({ nominal: number, worst: number.nullable() }),
    tool: z.object({ nominal: number, worst: number.nullable() }),
    /** V the meter may see, and its input resistance, Ω; null where the rig does not say. */
    meter: z.object({ name: z.string(), most: number.nullable(), R: number.nullable() }),
    /** F between the terminals, for what loads them. */
    capacitance: number,
    /** Stages of a Marx; 1 of a bank. */
    stages: number,
    /** Self-break of the gap, V; null without a gap. */
    selfBreak: number.nullable(),
    /** Pa absolute in the gap; null without a gap that has a pressure. Plans made before it was kept have none. */
    pressure: number.nullable().default(null),
    /** V between which the shot lies, s within which it is fired after the supply is off (null: not isolated before). Plans made before have none. */
    shot: z
      .object({
        low: number,
        high: number,
        within: number.nullable(),
        tau: number.nullable(),
        byItself: z.boolean(),
        /** Whether firing takes the charger off first. Plans made before it was kept do not. */
        dropsCharger: z.boolean().default(false),
        /** s from the first of several stores charged to the last. */
        turns: number.nullable().default(null),
      })
      .nullable()
      .default(null),
    /** Why nobody can carry it out as it stands. */
    cannot: z.array(z.string()).default([]),
    /** What keeps a charge of its own: how many, V and J of one, V to fall below, s of the tool on one, and its time constant (null: none known). */
    held: z
      .array(
        z.object({
          id: z.string(),
          one: z.string(),
          count: number,
          volts: number,
          joules: number,
          below: number,
          tool: number,
          /** s in which the tool takes it down to 1/e. Plans made before it was kept have none. */
          toolTau: number.default(0),
          tau: number.nullable(),
        }),
      )
      .default([]),
    /** s through a dump closed from outside; null without one. Whether the bleeder is held off for charge and shot. */
    dump: z.object({ nominal: number, worst: number.nullable() }).nullable().default(null),
    isSwitched: z.boolean().default(false),
    /** Whether every group in series has a bleeder of its own, so that one that opens leaves one group. */
    isBledByGroup: z.boolean().default(false),
    /** The interlock chain of the guard; null of a rig without one. Plans made before it was kept have none. */
    interlock: z
      .object({
        doorContacts: number,
        hasStop: z.boolean(),
        hasKey: z.boolean(),
        dumpsBy: z.enum(['falling', 'driven']),
        dumps: number,
        charger: z.boolean(),
        trigger: z.boolean(),
      })
      .nullable()
      .default(null),
    /** Stores that are charged before the one drawn, one after the other. */
    further: number.default(0),
    /** Ω, H and F of the loop that a shot discharges through; null where the rig does not say. */
    loop: z.object({ R: number, L: number, C: number }).nullable().default(null),
  }),
  /** What to do when somebody was shocked, or it burns. Plans made before it was kept have none. */
  emergency: z.array(z.object({ title: z.string(), lines: z.array(z.string()) })).default([]),
  curves: z.object({ charge: curveSchema.nullable(), bleeder: curveSchema.nullable(), tool: curveSchema.nullable() }),
});
export type RunPlan = Readonly<z.infer<typeof planSchema>>;

const planStep = ({
  id,
  phase,
  text,
  expect,
  hold,
  caution,
  note,
  who,
  does,
  reading,
  wait,
  second,
  of,
  seconds,
}: Step): PlanStep => ({
  id,
  phase,
  text,
  expect: expect.map(({ label, printed }) => ({ label, printed })),
  ...(hold === undefined ? {} : { hold }),
  ...(caution === undefined ? {} : { caution }),
  ...(note === undefined ? {} : { note }),
  who,
  ...(does === undefined ? {} : { does }),
  ...(reading === undefined ? {} : { reading: { ...reading } }),
  ...(wait === undefined ? {} : { wait }),
  second,
  ...(of === undefined ? {} : { of }),
  seconds,
});

/** V after the end of a curve: a fall goes on as it ended, and a rise stays. */
function voltsAfter({ t, v }: PlanCurve, seconds: number): number {
  const [before = 0, last = 0] = v.slice(-2);
  const [from = 0, to = 0] = t.slice(-2);
  if (!(last > 0 && before > last && to > from)) return last;
  return last * (last / before) ** ((seconds - to) / (to - from));
}

/** V on a curve at a time, s: straight between its points; after them as {@link voltsAfter} says. */
export function voltsOn(curve: PlanCurve, seconds: number): number {
  const { t, v } = curve;
  const i = t.findIndex((time) => time >= seconds);
  if (i < 0) return voltsAfter(curve, seconds);
  if (i === 0) return v[0] ?? 0;
  const [t0 = 0, t1 = 1, v0 = 0, v1 = 0] = [t[i - 1], t[i], v[i - 1], v[i]];
  return v0 + ((seconds - t0) / (t1 - t0)) * (v1 - v0);
}

/**
 * V at the most after a time of bleeding, s, by a way with its worst time; the full charge where it never comes to an end. Of a
 * ladder of stages the last one lags behind its beginning, so that this is its late course.
 */
export function voltsAtWorst({ charged, below }: RunPlan['numbers'], worst: number | null, seconds: number): number {
  if (worst === null || !(worst > 0) || !(charged > below)) return charged;
  return charged * Math.exp((-Math.log(charged / below) * Math.max(0, seconds)) / worst);
}

/** Points a curve is kept with: more than a screen that is read from two metres shows. */
const points = 120;

const thinned = (trace: Trace | undefined): PlanCurve | null => {
  if (!trace) return null;
  const last = trace.t.length - 1;
  const at = Array.from({ length: points + 1 }, (_, i) => Math.round((i * last) / points));
  return { t: at.map((i) => trace.t[i] ?? 0), v: at.map((i) => trace.y[i] ?? 0) };
};

/** An exponential from the charge down through the goal, as long as it takes to a hundredth of the charge. */
function decay(charged: number, below: number, seconds: number): PlanCurve | null {
  if (!(seconds > 0 && charged > below)) return null;
  const tau = seconds / Math.log(charged / below);
  const span = Math.max(1.4 * seconds, tau * Math.log(20));
  const t = Array.from({ length: points + 1 }, (_, i) => (span * i) / points);
  return { t, v: t.map((s) => charged * Math.exp(-s / tau)) };
}

/** s that stand for never. */
const longest = 1e15;

/** s, that of one that does not lose its charge by anything known: nobody waits so long. */
const known = (tau: number): number | null => (Number.isFinite(tau) && tau < longest ? tau : null);

/** What keeps a charge of its own, in numbers. */
const heldNumbers = (evaluation: Evaluation): RunPlan['numbers']['held'] => {
  const reading = evaluation.corners.nominal();
  return heldIn(evaluation, reading)
    .filter(({ V }) => V.value > 0)
    .map((held) => ({
      id: held.id,
      one: held.one,
      count: held.count,
      volts: held.V.value,
      joules: held.E1.value,
      below: goalBeside(held.V, held.E1).value,
      tool: heldHold(reading, held).value,
      toolTau: (reading.offer('toolResistance').value * 2 * held.E1.value) / held.V.value ** 2,
      tau: held.R && held.C ? known(held.R.value * held.C.value) : null,
    }));
};

function numbersOf(evaluation: Evaluation, { shot, cannot }: RunSheet): RunPlan['numbers'] {
  const reading = evaluation.corners.nominal();
  const goal = bleedGoal(reading);
  const span = (id: FigureId) => {
    const figure = figureIn(evaluation, id);
    return figure
      ? { nominal: Math.min(figure.worked.value, longest), worst: Number.isFinite(figure.band.high) ? figure.band.high : null }
      : { nominal: 0, worst: null };
  };
  const { firedBy, freeRunning } = reading.offers('switch');
  const hasBleeder = reading.offers('bleeder').bleedResistance !== undefined;
  const meter = definitionIn(evaluation.rig, 'meter')
    .instruments?.(reading.ownOf('meter'))
    .find((i) => i.at === 'bank');
  return {
    charged: reading.offer('chargedTo').value,
    highest: highestVoltage(reading),
    below: goal.voltage.value,
    goalText: goal.text,
    energy: reading.figure('stored-energy').value,
    bleeder: hasBleeder ? span('bleed-time') : null,
    open: span('bleed-time-open'),
    tool: span('tool-time'),
    meter: { name: meter?.name ?? 'meter', most: meter?.most ?? null, R: meter?.R ?? null },
    capacitance: reading.figure('bank-capacitance').value,
    stages: reading.offers('store').ladder?.n.value ?? 1,
    selfBreak: ifKnown(() => reading.figure('self-break').value),
    pressure: ifKnown(() => reading.offer('gasPressure').value),
    shot: {
      low: shot.low,
      high: shot.high,
      within: shot.within,
      tau: known(shot.tau),
      byItself: firedBy === 'itself' || freeRunning === true,
      dropsCharger: reading.offers('trigger').dropsCharger !== undefined,
      turns: shot.turns,
    },
    cannot: [...cannot],
    held: heldNumbers(evaluation),
    dump: reading.offers('dump').dumpResistance ? span('dump-time') : null,
    isSwitched: reading.offers('bleeder').isSwitched === true,
    isBledByGroup: definitionIn(evaluation.rig, 'bleeder').oneOpen !== undefined,
    interlock: reading.offers('guard').interlock ?? null,
    further: reading.channels().length - 1,
    loop: ifKnown(() => ({
      R: reading.figure('loop-resistance').value,
      L: reading.figure('loop-inductance').value,
      C: reading.figure('loop-capacitance').value,
    })),
  };
}

/**
 * The plan of a run of a rig.
 *
 * @returns the plan, or the reason why there is none
 */
export const planOf = (rigName: string, evaluation: Evaluation, edits: SheetEdits): Planned =>
  // It is kept, and read by others.
  inSI(() => planned(rigName, evaluation, edits));

type Planned = { readonly ok: true; readonly plan: RunPlan } | { readonly ok: false; readonly reason: string };

function planned(rigName: string, evaluation: Evaluation, edits: SheetEdits): Planned {
  const made = runSheetOf(rigName, evaluation, edits);
  if (!made.ok) return made;
  const { sheet } = made;
  const branch = (id: 'misfire' | 'abort') => sheet.branches.find((b) => b.id === id)?.steps.map(planStep) ?? [];
  const numbers = numbersOf(evaluation, sheet);
  const charge = ifKnown(() => chargeTraces(evaluation.rig).traces.find((t) => t.id === 'store-voltage'));
  const bleed = ifKnown(() => bleedTraces(evaluation.rig).traces) ?? [];
  return {
    ok: true,
    plan: {
      rigName,
      people: sheet.people,
      summary: [...sheet.summary],
      // What nobody can carry out, or nobody answers for, is rehearsed and not run.
      stops: [...sheet.stops, ...sheet.cannot, ...sheet.withheld],
      main: sheet.main.map(planStep),
      misfire: branch('misfire'),
      abort: branch('abort'),
      numbers,
      emergency: sheet.emergency.map(({ title, lines }) => ({ title, lines: [...lines] })),
      curves: {
        charge: thinned(charge ?? undefined),
        bleeder: thinned(bleed.find((t) => t.id === 'bleeder')),
        tool: decay(numbers.charged, numbers.below, numbers.tool.nominal),
      },
    },
  };
}
