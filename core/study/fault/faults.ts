import { bleedGoal, faultMoments, slots, Unavailable, type Slot } from '../../block/index.ts';
import { CircuitError, decimated, type Trace as CircuitTrace } from '../../circuit/index.ts';
import { evaluateRig, figureIn, type Evaluation } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { FormulaError } from '../../formula/index.ts';
import { hazardOf, type HazardClass } from '../../hazard/index.ts';
import { printDuration, printPercent, printQuantity, type UnitId } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';
import { rigNetlistText, type Trace } from '../../simulate/index.ts';
import { remedies, takenIn } from './contain.ts';
import { faultModes, type PlacedMode } from './modes.ts';
import type { Remedy } from './remedy.ts';
import { greatestOf, runFault, shortSpan, type FaultRun } from './run.ts';

/** How bad it is, the worst first; each in words of its own, none by colour. */
export const faultLevels = {
  kills: 'can kill',
  injures: 'can injure',
  bursts: 'bursts or burns a part',
  over: 'over rating',
  within: 'within rating',
} as const;
export type FaultLevel = keyof typeof faultLevels;

/** The part of a block that has the most to carry, each of those it stands for. */
export interface Carried {
  readonly slot: Slot;
  readonly says: string;
  /** A and A²s; the greatest over the resistances a short may have. */
  readonly peak: number;
  readonly action: number;
  /** Share of the rating for a peak, and for an action; null where none is entered. */
  readonly ofPeak: number | null;
  readonly ofAction: number | null;
}

/** A voltage or a charge where somebody expects none. */
export interface LeftThere {
  readonly title: string;
  /** V */
  readonly V: number;
  /** J; null of a voltage without a charge of its own. */
  readonly E: number | null;
  /** s until it is below the goal of a bleed, worst case, by the bleeder or else by leakage alone; null where nothing known takes it down. */
  readonly gone: number | null;
  readonly hazard: HazardClass;
  /** What it does to somebody who touches it. */
  readonly headline: string;
}

/** What is left where a fault comes at a share of the charge voltage. */
export interface MomentLeft {
  readonly share: number;
  /** V, J */
  readonly V: number;
  readonly E: number;
  /** s until it is below the goal of a bleed by what falls in or stands there, worst case; null where nothing known takes it down. */
  readonly gone: number | null;
  readonly headline: string;
}

/** One fault of a rig as the solver has it, in plain data. */
export interface Fault {
  /** `slot.id` */
  readonly id: string;
  readonly slot: Slot;
  readonly title: string;
  readonly moment: string;
  readonly says: string;
  readonly level: FaultLevel;
  /** What makes it so, in one sentence. */
  readonly because: string;
  /** J into what failed, over the resistances that a short may have; null where nothing takes any. */
  readonly into: { readonly low: number; readonly high: number } | null;
  /** It is a person that takes it. */
  readonly isPerson: boolean;
  /** J that its case is stated to contain; null: not rated; undefined: it has no case. */
  readonly withstands: number | null | undefined;
  readonly carried: readonly Carried[];
  /** A capacitor that takes more than its share, V, and its rating; null: not rated. */
  readonly strained: { readonly title: string; readonly V: number; readonly rating: number | null } | null;
  /** Greatest voltage on the store, V, and what it is reversed to as a share of what it was charged to. */
  readonly top: number;
  readonly reversal: number;
  readonly left: readonly LeftThere[];
  /** Of what may come at any moment of the charge: what is left by the share of the voltage that was reached. */
  readonly moments: readonly MomentLeft[];
  readonly traces: readonly Trace[];
  /** The circuit with the fault in it, as text. */
  readonly deck: string;
  readonly remedies: readonly Remedy[];
  /** Steps that the solver took and how well the energy closes, worst of the runs. */
  readonly closure: number;
  readonly steps: number;
}

/** A fault that could not be run, and why. */
export interface BlindFault {
  readonly id: string;
  readonly slot: Slot;
  readonly title: string;
  readonly reason: string;
}

export interface FaultStudy {
  /** The worst first. */
  readonly faults: readonly Fault[];
  readonly blind: readonly BlindFault[];
  /** V of the goal of a bleed. */
  readonly goal: number;
}

/** Points of a trace that is drawn. */
const points = 600;

const rank = Object.keys(faultLevels) as readonly FaultLevel[];

/** Rating of a block for a peak current, or for an action. */
function ratingOf(evaluation: Evaluation, slot: Slot, unit: UnitId): number | null {
  const found = evaluation.ladder.limits.filter((limit) => limit.slot === slot && limit.stress.unit === unit && limit.rating);
  return found.length === 0 ? null : Math.min(...found.map(({ rating }) => rating?.value ?? Infinity));
}

function carriedOf(evaluation: Evaluation, runs: readonly FaultRun[], skip: ReadonlySet<string>): Carried[] {
  return slots.flatMap((slot): Carried[] => {
    const all = runs.flatMap(({ through }) =>
      through.filter((one) => one.slot === slot && !skip.has(one.name) && one.kind !== 'current-source'),
    );
    // What only sits across it, such as insulation, carries next to nothing.
    const most = all.reduce<(typeof all)[number] | null>(
      (best, one) => (best === null || one.peak > best.peak ? one : best),
      null,
    );
    const [forPeak, forAction] = [ratingOf(evaluation, slot, 'A'), ratingOf(evaluation, slot, 'A²s')];
    if (!most || most.peak < (forPeak === null ? 0.1 : 1e-3 * forPeak)) return [];
    const action = Math.max(...all.map((one) => one.action));
    return [
      {
        slot,
        says: most.says.replace(/[,.].*$/, ''),
        peak: most.peak,
        action,
        ofPeak: forPeak === null ? null : most.peak / forPeak,
        ofAction: forAction === null ? null : action / forAction,
      },
    ];
  });
}

const noTrace: CircuitTrace = { t: new Float64Array(), y: new Float64Array() };
const last = ({ y }: CircuitTrace): number => y.at(-1) ?? 0;

/** The voltage of the store in a run: of strings their levels added up, of stages the one that sees the most. */
function storeTrace(run: FaultRun): CircuitTrace | null {
  const all = run.parts.flatMap(({ slot, element }) => (slot === 'store' && element.kind === 'capacitor' ? [element] : []));
  const largest = Math.max(0, ...all.map(({ C }) => C));
  // Strays are none of it.
  const names = all.filter(({ C }) => C > 0.05 * largest).map(({ name }) => name);
  const traces = (of: readonly string[]) => of.flatMap((name) => run.voltages.get(name) ?? []);
  const added = ([first, ...rest]: readonly CircuitTrace[]): CircuitTrace | null =>
    first ? { t: first.t, y: first.y.map((value, i) => rest.reduce((sum, { y }) => sum + (y[i] ?? 0), value)) } : null;
  for (const string of [/^C\w+h\d+$/, /^C\w+f\d+$/]) {
    const levels = names.filter((name) => string.test(name));
    if (levels.length > 0) return added(traces(levels));
  }
  return traces(names).reduce<CircuitTrace | null>(
    (best, one) => (best && greatestOf(best) >= greatestOf(one) ? best : one),
    null,
  );
}

/** A charge or a voltage by itself, as the published lines class it. */
const leftOf = (title: string, V: number, E: number | null): LeftThere => {
  const { class: hazard, headline } = hazardOf(shockOf(E ?? 0, V));
  return { title, V, E, gone: null, hazard, headline };
};

const shockOf = (energy: number, V: number) => ({
  energy,
  voltage: Math.abs(V),
  charge: V === 0 ? 0 : (2 * energy) / Math.abs(V),
});

/** All of the store, classed and timed as the strip of the rig has it: in the worst case. */
function storeLeft(slot: Slot, title: string, V: number, evaluation: Evaluation): LeftThere {
  const { corners, hazard } = evaluation;
  const reading = corners.nominal();
  const E = reading.figure('stored-energy').value;
  const bleeds = slot !== 'bleeder' && reading.offers('bleeder').bleedResistance !== undefined;
  const gone = figureIn(evaluation, bleeds ? 'bleed-time' : 'bleed-time-open')?.band.high ?? null;
  return hazard ? { title, V, E, gone, hazard: hazard.class, headline: hazard.headline } : { ...leftOf(title, V, E), gone };
}

function leftThere({ slot, mode }: PlacedMode, run: FaultRun, evaluation: Evaluation, goal: number): LeftThere[] {
  const V0 = evaluation.corners.nominal().offer('chargedTo').value;
  const found = mode.leavesCharged ? [storeLeft(slot, 'At the terminals of the store', V0, evaluation)] : [];
  for (const name of mode.cutOff ?? []) {
    const part = run.parts.find(({ element }) => element.name === name);
    const voltage = run.voltages.get(name);
    if (part?.element.kind !== 'capacitor' || !voltage) continue;
    const V = last(voltage);
    if (Math.abs(V) > goal) found.push(leftOf(`Across ${part.says}`, V, (part.element.C * V * V) / 2));
  }
  for (const { title, trace } of run.strays) {
    const V = greatestOf(trace);
    if (V <= goal) continue;
    // Only where the store stands behind it is it more than what a supply gives.
    found.push(mode.leavesCharged ? storeLeft(slot, title, V, evaluation) : leftOf(title, V, null));
  }
  return found;
}

/** Shares of the charge voltage that a moment of the charge is told at. */
const momentShares = [0.25, 0.5, 0.75, 1] as const;

/** What is left where it comes early: as the square of the voltage, and sooner gone by the logarithm of it. */
function momentsOf({ mode }: PlacedMode, evaluation: Evaluation, goal: number): MomentLeft[] {
  if (!mode.anyMoment) return [];
  const { corners } = evaluation;
  const reading = corners.nominal();
  const [V0, E0] = [reading.offer('chargedTo').value, reading.figure('stored-energy').value];
  const by = mode.moment === 'dump' ? 'dump-time' : reading.offers('bleeder').bleedResistance ? 'bleed-time' : 'bleed-time-open';
  const whole = figureIn(evaluation, by)?.band.high ?? null;
  return momentShares.map((share) => {
    const [V, E] = [share * V0, share ** 2 * E0];
    const time = V <= goal ? 0 : whole === null ? null : (whole * Math.log(V / goal)) / Math.log(V0 / goal);
    return { share, V, E, gone: time, headline: hazardOf(shockOf(E, V)).headline };
  });
}

function tracesOf({ mode }: PlacedMode, run: FaultRun): Trace[] {
  const store = storeTrace(run);
  const failed = mode.lead ?? mode.into?.[0];
  const current = failed === undefined ? undefined : run.currents.get(failed);
  const says = run.parts.find(({ element }) => element.name === failed)?.says ?? '';
  const main = run.through.filter(({ slot, kind }) => slot === 'load' && kind !== 'capacitor').sort((a, b) => b.peak - a.peak)[0];
  const other = current ? undefined : main && run.currents.get(main.name);
  const drawn = (trace: CircuitTrace) => ({ ...trace, ...decimated(trace, points) });
  return [
    ...(store ? [{ id: 'store-voltage', title: 'store', unit: 'V' as const, ...drawn(store) }] : []),
    ...(current ? [{ id: 'fault-current', title: says, unit: 'A' as const, ...drawn(current) }] : []),
    ...(other && main
      ? [{ id: 'load-current', title: main.says.replace(/[,.].*$/, ''), unit: 'A' as const, ...drawn(other) }]
      : []),
  ];
}

const print = printQuantity;

/** What is left, in a sentence: "972 J at 1.94 kV left at the terminals of the store, for 10 min 21 s worst case." */
const leftWords = ({ title, V, E, gone, hazard, headline }: LeftThere): string => {
  const what = E === null ? print(V, 'V') : `${print(E, 'J')} at ${print(V, 'V')}`;
  const how =
    hazard === 'below'
      ? `: ${headline}`
      : gone === null
        ? ', with nothing known that takes it down'
        : `, for ${printDuration(gone)} worst case`;
  return `${what} left ${title.charAt(0).toLowerCase()}${title.slice(1)}${how}.`;
};

/** J above which a part that nobody rated for an internal fault is taken for one that bursts. Common practice, no source. */
const mayBurst = 10;

interface Judged {
  readonly level: FaultLevel;
  readonly because: string;
}

/** What a reversal of the store is to what its capacitors are rated for; null where it is within, or nobody says. */
function reversedTo(reversal: number, evaluation: Evaluation, reading: RigReading): string | null {
  const limit = evaluation.ladder.limits.find(({ id }) => id === 'reversal');
  if (!limit?.rating) return null;
  const inVolts = limit.stress.unit === 'V';
  const V = reversal * reading.offer('chargedTo').value;
  const one = inVolts ? V / (reading.offers('store').groups?.value ?? 1) : reversal;
  if (one <= limit.rating.value * 1.001) return null;
  return inVolts
    ? `Each capacitor is reversed to ${print(one, 'V')}; it withstands ${print(limit.rating.value, 'V')}.`
    : `The store is reversed by ${printPercent(one, 2)} of its charge; it is rated ${printPercent(limit.rating.value, 2)}.`;
}

function judge(
  { mode }: PlacedMode,
  fault: Pick<Fault, 'into' | 'withstands' | 'carried' | 'left' | 'top' | 'strained' | 'reversal'>,
  strays: readonly { readonly title: string; readonly V: number; readonly rating: number | null }[],
  evaluation: Evaluation,
  reading: RigReading,
): Judged {
  const { into, withstands, carried, left, top, strained } = fault;
  const hazard = evaluation.hazard?.class;
  const ofClass = (hazard: HazardClass) => left.find((one) => one.hazard === hazard);
  // The lines are for what is stored: what a supply adds as long as it is on is no shock of a store.
  const stored = reading.figure('stored-energy').value;
  const person = mode.isPerson && into ? hazardOf(shockOf(Math.min(into.high, stored), top)) : null;
  const through = into ? `${print(into.high, 'J')} at ${print(top, 'V')} through a person` : '';
  const [severe, hazardous] = [ofClass('severe'), ofClass('hazardous')];
  if (person?.class === 'severe') return { level: 'kills', because: `${through}.` };
  if (severe) return { level: 'kills', because: leftWords(severe) };
  if (mode.moment === 'early' && hazard === 'severe')
    return {
      level: 'kills',
      because: `The whole ${print(stored, 'J')} with people still on their way out.`,
    };
  if (person?.class === 'hazardous') return { level: 'injures', because: `${through}, which ${person.headline}.` };
  if (hazardous) return { level: 'injures', because: leftWords(hazardous) };
  if (into && withstands != null && into.high > withstands)
    return { level: 'bursts', because: `${print(into.high, 'J')} into a case that contains ${print(withstands, 'J')}.` };
  if (into && withstands === null && into.high > mayBurst)
    return { level: 'bursts', because: `${print(into.high, 'J')} into what is not rated for any.` };
  const rated = reading.offers('store').ratedVoltage?.value ?? null;
  if (rated !== null && top > rated * 1.001)
    return { level: 'over', because: `The store comes to ${print(top, 'V')}; it is rated ${print(rated, 'V')}.` };
  if (strained && strained.rating !== null && strained.V > strained.rating)
    return {
      level: 'over',
      because: `${strained.title} comes to ${print(strained.V, 'V')}; it is rated ${print(strained.rating, 'V')}.`,
    };
  const high = strays.find(({ V, rating }) => rating !== null && V > rating);
  if (high)
    return {
      level: 'over',
      because: `${high.title}: ${print(high.V, 'V')}; it is rated ${print(high.rating ?? 0, 'V', { trim: true })}.`,
    };
  const reversed = reversedTo(fault.reversal, evaluation, reading);
  if (reversed) return { level: 'over', because: reversed };
  const over = carried.find(({ ofPeak, ofAction }) => (ofPeak ?? 0) > 1 || (ofAction ?? 0) > 1);
  const saying = over ? `${over.says.charAt(0).toUpperCase()}${over.says.slice(1)}` : '';
  if (over)
    return {
      level: 'over',
      because:
        (over.ofPeak ?? 0) > 1
          ? `${saying}: ${print(over.peak, 'A')}, ${print(over.ofPeak ?? 0, '1', { digits: 2 })} times its rating.`
          : `${saying}: ${print(over.action, 'A²s')}, ${print(over.ofAction ?? 0, '1', { digits: 2 })} times its rating.`,
    };
  if (person) return { level: 'within', because: `${through}: ${person.headline}.` };
  const [some] = left;
  if (some) return { level: 'within', because: leftWords(some) };
  const taken = into ? `${print(into.high, 'J')} into what failed; nothing` : 'Nothing';
  return { level: 'within', because: `${taken} passes a rating that is entered.` };
}

function faultOf(rig: Rig, name: string, placed: PlacedMode, evaluation: Evaluation, reading: RigReading, goal: number): Fault {
  const { slot, mode } = placed;
  const runs = (mode.shorts ? shortSpan : [shortSpan[1]]).map((R) => runFault(rig, name, placed, R, reading));
  const shown = runs[Math.floor(runs.length / 2)] as FaultRun;
  const taken = mode.into && runs.map((run) => takenIn(run, mode));
  const into = taken ? { low: Math.min(...taken), high: Math.max(...taken) } : null;
  const store = storeTrace(shown);
  const V0 = reading.offer('chargedTo').value;
  const lowest = Math.min(0, ...(store ? [store.y.reduce((low, v) => Math.min(low, v), Infinity)] : []));
  const found = {
    into,
    withstands: mode.withstands === undefined ? undefined : (mode.withstands?.value ?? null),
    carried: carriedOf(evaluation, runs, new Set([...(mode.into ?? []), ...(mode.failed ?? [])])),
    left: leftThere(placed, shown, evaluation, goal),
    // Where only the first cycles were run: what it comes to in the end.
    top: Math.max(store ? greatestOf(store) : 0, shown.isCut ? reading.figure('charge-towards').value : 0),
    strained: mode.strained
      ? {
          title: mode.strained.title,
          V: Math.max(...runs.map((run) => greatestOf(run.voltages.get(mode.strained?.element ?? '') ?? noTrace))),
          rating: mode.strained.rating?.value ?? null,
        }
      : null,
    reversal: V0 > 0 ? -lowest / V0 : 0,
  };
  return {
    id: `${slot}.${mode.id}`,
    slot,
    title: mode.title,
    moment: faultMoments[mode.moment],
    says: shown.isCut
      ? `${mode.says} Drawn over its first cycles of the mains; what it comes to is that of the whole charge.`
      : mode.says,
    isPerson: mode.isPerson === true,
    ...judge(
      placed,
      found,
      shown.strays.map(({ title, trace }, i) => ({
        title,
        V: greatestOf(trace),
        rating: mode.strays?.[i]?.rating?.value ?? null,
      })),
      evaluation,
      reading,
    ),
    ...found,
    moments: momentsOf(placed, evaluation, goal),
    traces: tracesOf(placed, shown),
    deck: rigNetlistText(
      {
        netlist: { title: `${name}: ${mode.title}`, elements: shown.parts.map(({ element }) => element) },
        parts: shown.parts,
        scene: { of: 'discharge', charger: true, cycles: false },
      },
      shown.until,
    ),
    remedies: remedies(rig, name, placed, reading, runs, goal, reversedTo(found.reversal, evaluation, reading) !== null),
    closure: Math.max(...runs.map(({ run }) => run.closure)),
    steps: runs.reduce((sum, { run }) => sum + run.steps, 0),
  };
}

/**
 * Every failure of every part of a rig through the solver, at nominal values, the worst first: what goes into what failed, what everything
 * else carries, what is left where, and what would contain it.
 *
 * @throws Unavailable, FormulaError where the rig as such cannot be evaluated
 */
export function faultStudy(rig: Rig, name: string): FaultStudy {
  const reading = new RigReading(rig);
  const evaluation = evaluateRig(rig);
  const goal = bleedGoal(reading).voltage.value;
  const modes = faultModes(rig, reading);
  const [faults, blind]: [Fault[], BlindFault[]] = [[], []];
  for (const placed of modes) {
    const { slot, mode } = placed;
    try {
      faults.push(faultOf(rig, name, placed, evaluation, reading, goal));
    } catch (error) {
      if (!(error instanceof CircuitError || error instanceof Unavailable || error instanceof FormulaError)) throw error;
      blind.push({ id: `${slot}.${mode.id}`, slot, title: mode.title, reason: error.message });
    }
  }
  // A person in the path before all others, and what comes unasked before what is only left.
  const weight = ({ into, left, isPerson }: Fault): number =>
    Math.max(into?.high ?? 0, ...left.map(({ E }) => E ?? 0)) * (isPerson ? 1e3 : 1);
  faults.sort((a, b) => rank.indexOf(a.level) - rank.indexOf(b.level) || weight(b) - weight(a));
  return { faults, blind, goal };
}
