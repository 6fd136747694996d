import { faultMoments, staysConnected, type FaultMoment, type PlacedPart, type Scene, type Slot } from '../../block/index.ts';
import { simulateCircuit, type CircuitRun, type Probe, type Trace as CircuitTrace } from '../../circuit/index.ts';
import { Corners, ifKnown, type RigReading } from '../../figure/index.ts';
import type { Rig } from '../../rig/index.ts';
import { bleedSpan, chargeSpan, inWordsOf, rigCircuit, ringOut } from '../../simulate/index.ts';
import type { PlacedMode } from './modes.ts';

/** Ω that a short inside a capacitor or across a joint may have: nobody knows it. Common practice, no source. */
export const shortSpan = [1e-3, 1e-2, 0.1] as const;

/** What goes through one element, each of those it stands for. */
export interface Through {
  readonly name: string;
  readonly slot: Slot;
  readonly says: string;
  readonly kind: PlacedPart['element']['kind'];
  /** A, at its greatest, and A²s. */
  readonly peak: number;
  readonly action: number;
}

/** One run of a fault. */
export interface FaultRun {
  readonly R: number;
  readonly parts: readonly PlacedPart[];
  readonly run: CircuitRun;
  readonly until: number;
  /** It would go on: only its first cycles of the mains were run. */
  readonly isCut: boolean;
  /** By the name of the element. */
  readonly currents: ReadonlyMap<string, CircuitTrace>;
  readonly voltages: ReadonlyMap<string, CircuitTrace>;
  readonly strays: readonly { readonly title: string; readonly trace: CircuitTrace }[];
  readonly through: readonly Through[];
}

/** Steps after which a fault is told as far as it came. */
const mostSteps = 120_000;

const sceneOf = (moment: FaultMoment, reading: RigReading): Scene => {
  switch (moment) {
    case 'charge':
      return { of: 'charge', charger: true, cycles: false };
    case 'held':
      return { of: 'discharge', charger: true, cycles: true };
    case 'charged':
    case 'early':
    case 'after':
      return { of: 'discharge', charger: true, cycles: false };
    case 'shot':
      return { of: 'discharge', charger: staysConnected(reading), cycles: false };
    case 'bleed':
    case 'dump':
      return { of: moment, charger: false, cycles: false };
    default:
      return moment satisfies never;
  }
};

/** Cycles of an AC supply that are enough to see what it does to a store it holds. */
const heldCycles = 20;

function heldFor(reading: RigReading): number {
  const frequency = reading.offers('supply').frequency?.value ?? 0;
  return frequency > 0 ? heldCycles / frequency : chargeSpan(reading).span;
}

const untilOf = (moment: FaultMoment, rig: Rig, reading: RigReading): number =>
  moment === 'charge'
    ? chargeSpan(reading).span
    : moment === 'held'
      ? heldFor(reading)
      : moment === 'bleed'
        ? bleedSpan(new Corners(rig))
        : moment === 'dump'
          ? 1.5 * reading.figure('dump-time').value
          : ringOut(reading);

/** What is behind the switch: of no account while that is open. */
const behindSwitch: readonly Slot[] = ['switch', 'crowbar', 'leads', 'load', 'monitor'];

interface Sound {
  readonly parts: readonly PlacedPart[];
  /** s that are run at the most, where the whole has more cycles of the mains than are worth it; else null. */
  readonly most: number | null;
}

/** What stands in the circuit at a moment before anything fails. @throws Unavailable, FormulaError */
function soundParts(rig: Rig, name: string, moment: FaultMoment, reading: RigReading): Sound {
  const scene = sceneOf(moment, reading);
  const frequency = reading.offers('supply').frequency?.value ?? 0;
  // A supply that has no circuit without its cycles is run for the first of them.
  const drawn =
    frequency > 0 && scene.of === 'charge' ? ifKnown(() => rigCircuit(rig, name, scene)) : rigCircuit(rig, name, scene);
  const { parts } = drawn ?? rigCircuit(rig, name, { ...scene, cycles: true });
  const most = drawn ? null : heldCycles / frequency;
  // Charged and held: the switch is open.
  return {
    parts: moment === 'charged' || moment === 'held' ? parts.filter(({ slot }) => !behindSwitch.includes(slot)) : parts,
    most,
  };
}

const actionOf = ({ t, y }: CircuitTrace): number => {
  let sum = 0;
  for (let i = 1; i < t.length; i++) sum += (((t[i] ?? 0) - (t[i - 1] ?? 0)) * ((y[i] ?? 0) ** 2 + (y[i - 1] ?? 0) ** 2)) / 2;
  return sum;
};
export const greatestOf = ({ y }: CircuitTrace): number => y.reduce((most, value) => Math.max(most, Math.abs(value)), 0);

/** One fault through the solver. @throws CircuitError in the words of the parts, Unavailable, FormulaError where the rig lacks something */
export function runFault(rig: Rig, name: string, { mode }: PlacedMode, R: number, reading: RigReading): FaultRun {
  const sound = soundParts(rig, name, mode.moment, reading);
  const parts = mode.circuit(sound.parts, R);
  const whole = mode.until?.(R) ?? untilOf(mode.moment, rig, reading);
  const until = Math.min(whole, sound.most ?? whole);
  const poles = parts.filter(({ element }) => element.kind !== 'coupling');
  const stores = poles.filter(({ element }) => element.kind === 'capacitor');
  const strays = mode.strays ?? [];
  const probes: Probe[] = [
    ...poles.map(({ element }) => ({ of: 'current', element: element.name }) as const),
    ...stores.map(({ element }) => ({ of: 'voltage', element: element.name }) as const),
    ...strays.map(({ node }) => ({ of: 'nodes', nodes: [node, '0'] }) as const),
  ];
  const run = inWordsOf(parts, () =>
    simulateCircuit(
      { title: `${name}: ${mode.title}, ${faultMoments[mode.moment]}`, elements: parts.map(({ element }) => element) },
      { until, tolerance: 1e-4, maxStep: until / 200, maxSteps: mostSteps, probes },
    ),
  );
  const at = (i: number): CircuitTrace => run.traces[i] ?? { t: new Float64Array(), y: new Float64Array() };
  const currents = new Map(poles.map(({ element }, i) => [element.name, at(i)]));
  const through = poles.map(({ element, slot, says, count = 1 }, i): Through => {
    const trace = at(i);
    return {
      name: element.name,
      slot,
      says,
      kind: element.kind,
      peak: greatestOf(trace) / count,
      action: actionOf(trace) / count ** 2,
    };
  });
  return {
    R,
    parts,
    run,
    until,
    isCut: until < whole,
    currents,
    voltages: new Map(stores.map(({ element }, i) => [element.name, at(poles.length + i)])),
    strays: strays.map(({ title }, i) => ({ title, trace: at(poles.length + stores.length + i) })),
    through,
  };
}

/** J that went into some elements; what a short takes in less than a step of the run counts with it. */
export const energyInto = ({ run }: FaultRun, names: readonly string[]): number =>
  names.reduce((sum, name) => sum + (run.energy.byElement.get(name) ?? 0), run.energy.shared);
