import { arcLawText, toepler, type FigureId } from '../block/index.ts';
import { CircuitError } from '../circuit/index.ts';
import { Corners, ifKnown, RigReading, type Band } from '../figure/index.ts';
import { printQuantity, type UnitId } from '../quantity/index.ts';
import type { Rig } from '../rig/index.ts';
import { launchStudy } from './coil/launch/index.ts';
import { dischargeFigures, solveRigScene, type RigCircuit } from '../simulate/index.ts';

/** A number that a shot is expected to have, SI, with what it lies between nine times out of ten. */
export interface Predicted {
  readonly value: number;
  readonly low: number;
  readonly high: number;
  /** The closed form beside it; null where it has none. */
  readonly closed: number | null;
  /** Why the two differ, where they do by more than 2 %. */
  readonly because: readonly string[];
}

export interface PredictedShot {
  readonly by: 'solver' | 'closed form';
  /** How the arcs fall; null where nothing waits for them. */
  readonly law: string | null;
  /** Peak current of the load, A, and when, s; of a Marx the greatest voltage of its output, V. */
  readonly current: Predicted | null;
  readonly time: Predicted | null;
  readonly output: Predicted | null;
  /** What another beginning of the arcs makes of it. */
  readonly starts: readonly { readonly from: number; readonly current: number | null; readonly time: number | null }[];
}

type Figures = Readonly<Record<string, number | null>>;

/**
 * What a closed form leaves out of every discharge, as a share of it: leads that lie otherwise than entered, contacts, a resistance that
 * rises with the heat. Common practice, no source.
 */
const modelError = { current: 0.05, time: 0.07 } as const;
/** Strays by geometry are good to a factor: common practice, no source. */
const strayFactor = 1.6;
/** A band over all corners holds more than nine times out of ten: of several inputs not all stand at their ends. */
const cornerShare = 0.7;

/** What is changed in every arc of a circuit. */
const withArcs =
  (change: { readonly k?: number; readonly start?: number }) =>
  (circuit: RigCircuit): RigCircuit =>
    changed(circuit, (part) =>
      part.element.kind === 'gap' && part.element.arc.law === 'toepler'
        ? { ...part, element: { ...part.element, arc: { ...part.element.arc, ...change } } }
        : part,
    );

const withStrays =
  (factor: number) =>
  (circuit: RigCircuit): RigCircuit =>
    changed(circuit, (part) =>
      part.element.kind === 'capacitor' && part.leftOut?.what === 'the stray capacitance'
        ? { ...part, element: { ...part.element, C: part.element.C * factor } }
        : part,
    );

function changed(circuit: RigCircuit, change: (part: RigCircuit['parts'][number]) => RigCircuit['parts'][number]): RigCircuit {
  const parts = circuit.parts.map(change);
  return { ...circuit, parts, netlist: { ...circuit.netlist, elements: parts.map((part) => part.element) } };
}

/** By how much a number goes below and above itself, as shares of it. */
interface Spread {
  readonly down: number;
  readonly up: number;
}
const ofBand = ({ low, high }: Band, value: number): Spread => ({
  down: cornerShare * Math.max(0, 1 - low / value),
  up: cornerShare * Math.max(0, high / value - 1),
});
const ofVariants = (value: number, variants: readonly (number | null | undefined)[]): Spread => {
  const known = variants.filter((v): v is number => typeof v === 'number' && v > 0);
  return { down: Math.max(0, 1 - Math.min(value, ...known) / value), up: Math.max(0, Math.max(value, ...known) / value - 1) };
};

/** Independent causes together: the root of their squares. */
function together(value: number, spreads: readonly Spread[]): { low: number; high: number } {
  const root = (side: keyof Spread) => Math.sqrt(spreads.reduce((sum, spread) => sum + spread[side] ** 2, 0));
  return { low: value * Math.max(0, 1 - root('down')), high: value * (1 + root('up')) };
}

/** The band of a figure over the tolerances; null where the figure is missing. */
function bandOf(rig: Rig, id: FigureId): { value: number; band: Band } | null {
  return ifKnown(() => {
    const corners = new Corners(rig);
    return { value: corners.nominal().figure(id).value, band: corners.bandOf((reading) => reading.figure(id)) };
  });
}

function closedForm(rig: Rig, id: FigureId, error: number): Predicted | null {
  const found = bandOf(rig, id);
  if (!found || !(found.value > 0)) return null;
  const { value, band } = found;
  return { value, ...together(value, [ofBand(band, value), { down: error, up: error }]), closed: value, because: [] };
}

/** The numbers of {@link predictedShot} without their bands: what is written beside a shot. */
export function predictedNumbers(rig: Rig): {
  readonly current: number | null;
  readonly time: number | null;
  readonly by: PredictedShot['by'] | 'launch';
  /** What the shot is for, where a study says it: muzzle speed of a launcher, peak output of a Marx. */
  readonly does: { readonly title: string; readonly value: number; readonly unit: UnitId } | null;
} {
  const reading = new RigReading(rig);
  // A coil that cannot be wound, or a store without numbers, offers nothing: the list shows the rig all the same.
  const launched = ifKnown(() => reading.offers('load').launches) ? ifKnown(() => launchStudy(rig, printQuantity)) : null;
  // What moves in a coil is in the current of a launch, and in no closed form.
  if (launched)
    return {
      current: launched.peakCurrent,
      time: launched.timeToPeak,
      by: 'launch',
      does: { title: 'Muzzle speed', value: launched.exit, unit: 'm/s' },
    };
  const solved = ifKnown(() => reading.offers('store').ladder) ? ifSolved(() => dischargeFigures(rig)) : null;
  const of = (id: FigureId) => {
    const value = solved?.[id] ?? null;
    return value !== null && value > 0 ? value : ifKnown(() => reading.figure(id).value);
  };
  const output = ifKnown(() => reading.offers('store').output);
  const peak = output ? of(output) : null;
  return {
    current: of('peak-current'),
    time: of('time-to-peak'),
    by: solved ? 'solver' : 'closed form',
    does: peak === null ? null : { title: 'Peak output', value: peak, unit: 'V' },
  };
}

/** What a run comes to; null where the rig lacks something for it, or its circuit cannot be solved. */
const ifSolved = (get: () => Figures): Figures | null => {
  try {
    return ifKnown(get);
  } catch (error) {
    if (error instanceof CircuitError) return null;
    throw error;
  }
};

/** What is predicted of a shot, once, for every page: of a Marx by the solver, else in closed form. */
export function predictedShot(rig: Rig): PredictedShot {
  const { output } = new RigReading(rig).offers('store');
  const byForm = (): PredictedShot => ({
    by: 'closed form',
    law: null,
    current: closedForm(rig, 'peak-current', modelError.current),
    time: closedForm(rig, 'time-to-peak', modelError.time),
    output: null,
    starts: [],
  });
  if (!output) return byForm();
  const answer = solveRigScene(rig, 'shot', 'discharge', { explain: true });
  if (!answer.ok) return byForm();
  const run = (change: (circuit: RigCircuit) => RigCircuit): Figures => ifSolved(() => dischargeFigures(rig, change)) ?? {};
  const variants = [
    [run(withArcs({ k: toepler.least })), run(withArcs({ k: toepler.most }))],
    [run(withStrays(1 / strayFactor)), run(withStrays(strayFactor))],
  ] as const;
  const solved = new Map(answer.value.compared.map((one) => [one.id, one]));
  const of = (id: FigureId, error: number): Predicted | null => {
    const one = solved.get(id);
    const value = one?.solver ?? null;
    if (!one || value === null || !(value > 0)) return null;
    const closed = bandOf(rig, id);
    const spreads = [
      ...variants.map((pair) =>
        ofVariants(
          value,
          pair.map((figures) => figures[id]),
        ),
      ),
      // The tolerances move the solver's number as they move the closed form.
      ...(closed && closed.value > 0 ? [ofBand(closed.band, closed.value)] : []),
      { down: error, up: error },
    ];
    return { value, ...together(value, spreads), closed: one.closed, because: one.because };
  };
  const starts = [1e4, 1e6].map((from) => {
    const figures = run(withArcs({ start: from }));
    return { from, current: figures['peak-current'] ?? null, time: figures['time-to-peak'] ?? null };
  });
  return {
    by: 'solver',
    law: arcLawText,
    current: of('peak-current', modelError.current),
    time: of('time-to-peak', modelError.time),
    output: of(output, modelError.current),
    starts,
  };
}
