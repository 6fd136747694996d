import { Unavailable } from '../../../block/index.ts';
import { readQuantityText, type FieldValue } from '../../../field/index.ts';
import { blockDefinition, mostTurns, windingFieldIds, measuredFieldIds, wound, type WoundWire } from '../../../kind/index.ts';
import { launch } from '../../../model/launch/index.ts';
import { optimise, type Found, type Variable } from '../../../numeric/index.ts';
import { awgDiameter, printExact, type UnitId } from '../../../quantity/index.ts';
import { RigReading } from '../../../figure/index.ts';
import { blockIn, inChannel, spotIn, withBlock, type Rig } from '../../../rig/index.ts';
import {
  launchSetup,
  longestOf,
  loopOf,
  newArmature,
  outOf,
  specOf,
  warmedBy,
  type CoilSetup,
  type LaunchSetup,
} from './setup.ts';
import { muzzleOf } from './muzzle.ts';
import { firingOf } from './study.ts';

/** What is looked for. */
export type LaunchGoal =
  | { readonly of: 'speed' }
  | { readonly of: 'efficiency' }
  /** The lowest peak current that reaches a speed, m/s. */
  | { readonly of: 'current'; readonly speed: number };

/** What a design may not go beyond; null where nothing is said. */
export interface LaunchLimits {
  /** A through any switch. */
  readonly peakCurrent: number | null;
  /** K that a coil warms in one shot. */
  readonly warmer: number | null;
  /** V between neighbouring turns of two layers. */
  readonly layerVoltage: number | null;
  /** m of wire in all coils together. */
  readonly wire: number | null;
  /** m: outer diameter of a coil. */
  readonly outer: number | null;
  /** m between the ends of two coils: what flanges and sensors take. */
  readonly gap: number;
  /** J in all stores together. */
  readonly energy: number | null;
}

/** From one value to another, the lower first. */
export type Span = readonly [number, number];

/** What is varied beside turns and places, alike in every stage; null: as the rig has it. */
export interface LaunchFreedom {
  /** m: between these the wire has a diameter of the American wire gauge. */
  readonly wire: Span | null;
  /** F of a store, and V that it is charged to. */
  readonly capacitance: Span | null;
  readonly voltage: Span | null;
}

export const asTheRig: LaunchFreedom = { wire: null, capacitance: null, voltage: null };

export interface FinderSpec {
  readonly rig: Rig;
  readonly goal: LaunchGoal;
  readonly limits: LaunchLimits;
  readonly freedom: LaunchFreedom;
  readonly seed: number;
  /** Launches that may be worked out. */
  readonly evaluations: number;
}

/** Coils that were found, wound alike. */
export interface LaunchDesign {
  readonly layers: number;
  readonly perLayer: number;
  /** m */
  readonly length: number;
  /** m from the middle of the first coil, below nought before it. */
  readonly start: number;
  /** Coils behind the first: where they are and where the projectile is when they fire, m. */
  readonly further: readonly { readonly at: number; readonly sensor: number }[];
  /** Where they were varied: the size of the wire, F and V of each store. */
  readonly gauge: number | null;
  readonly capacitance: number | null;
  readonly voltage: number | null;
}

/** How a design does. */
export interface LaunchOutcome {
  readonly exit: number;
  /** What went into motion, of what was taken from all stores. */
  readonly efficiency: number;
  readonly peakCurrent: number;
  readonly warmer: number;
  readonly wire: number;
  /** J in all stores. */
  readonly energy: number;
  /** How far it is beyond its limits; 0 within them. */
  readonly beyond: number;
  /** Greater is better; below 0 beyond the limits. */
  readonly score: number;
}

const none: LaunchOutcome = { exit: 0, efficiency: 0, peakCurrent: 0, warmer: 0, wire: 0, energy: 0, beyond: 1e3, score: -1e3 };

/** To what can be set on a bench: a hundredth of a millimetre. */
const grain = 1e-5;
const near = (x: number): number => Math.round(x / grain) * grain;
const up = (x: number): number => Math.ceil(x / grain - 1e-6) * grain;

/** A finder that stands ready: what it varies, and how a point of it does. */
export interface LaunchFinder {
  readonly setup: LaunchSetup;
  readonly variables: readonly Variable[];
  /** The rig as it stands, as a point. */
  readonly from: readonly number[];
  design(point: readonly number[]): LaunchDesign;
  evaluate(point: readonly number[]): LaunchOutcome;
}

/** To two digits, as parts are sold, and to three, as a supply is set. */
const digits = (x: number, n: number): number => Number(x.toPrecision(n));

/** Sizes of the American wire gauge between two diameters, the thickest first. */
export const gaugesBetween = ([thin, thick]: Span): number[] =>
  Array.from({ length: 44 }, (_, i) => i - 3).filter((n) => {
    const d = awgDiameter(n);
    return d >= thin * (1 - 1e-6) && d <= thick * (1 + 1e-6);
  });

/** Another round wire on the same former, its insulation and its lay as before. */
function wireOfDiameter(wire: WoundWire, d: number): WoundWire {
  const build = wire.across - 2 * wire.selfRadius;
  const across = d + build;
  return {
    ...wire,
    along: across,
    across,
    section: (Math.PI / 4) * d * d,
    selfRadius: d / 2,
    rise: (wire.rise / wire.across) * across,
  };
}

const excess = (value: number, most: number | null): number => (most !== null && value > most ? value / most - 1 : 0);

function scoreOf(goal: LaunchGoal, exit: number, efficiency: number, peak: number): number {
  switch (goal.of) {
    case 'speed':
      return Math.max(0, exit);
    case 'efficiency':
      return exit > 0 ? efficiency : 0;
    default:
      return peak > 0 ? 1e6 / peak : 0;
  }
}

/**
 * Makes a finder for a rig: turns to a layer, layers, start, and of each coil behind the first the gap before it and the place at
 * which it fires. Former, switches, barrel and projectile stay as the rig has them; wire and stores too, where nothing else is said.
 *
 * @returns null where the load is no coilgun stage
 * @throws Unavailable, FormulaError where the rig cannot be launched as it is
 */
export function launchFinder({
  rig,
  goal,
  limits,
  freedom,
}: Pick<FinderSpec, 'rig' | 'goal' | 'limits' | 'freedom'>): LaunchFinder | null {
  const setup = launchSetup(rig);
  if (!setup) return null;
  const { projectile, coils, barrel } = setup;
  const gauges = freedom.wire ? gaugesBetween(freedom.wire) : [];
  if (freedom.wire && gauges.length === 0)
    throw new Unavailable('load', 'there is no size of the American wire gauge between these diameters', 'd');
  if (freedom.wire && blockIn(inChannel(rig, 0), 'load').fields['section'] === 'strip')
    throw new Unavailable('load', 'a coil of strip has no wire gauge: enter its strip, and leave the wire as it is', 'section');
  const wires = gauges.map((n) => wireOfDiameter(setup.wire, awgDiameter(n)));
  const thinnest = wires.at(-1) ?? setup.wire;
  const first = coils[0] as CoilSetup;
  // A sleeve is pushed from behind the middle, a slug drawn from before it.
  const way = projectile.body.kind === 'slug' ? -1 : 1;
  const longestCoil = Math.max(3 * projectile.length, 1.2 * first.winding.length);
  const room = barrel === null ? Infinity : 2 * barrel;
  const mostPerLayer = Math.floor(Math.min(longestCoil, room) / thinnest.along + 1e-9);
  if (mostPerLayer < 1) throw new Unavailable('load', 'not one turn of this wire goes into the barrel', 'lb');
  const reach = longestCoil / 2 + projectile.length;
  const mostLayers = Math.max(12, first.winding.layers.length);
  const variables: Variable[] = [
    { low: 1, high: mostLayers, whole: true },
    { low: Math.min(2, mostPerLayer), high: Math.max(2, mostPerLayer), whole: true },
    { low: 0, high: reach },
    ...coils.slice(1).flatMap(() => [
      { low: limits.gap, high: limits.gap + 2 * longestCoil },
      { low: 0, high: reach },
    ]),
    ...(gauges.length > 0 ? [{ low: 0, high: gauges.length - 1, whole: true } as const] : []),
    // By its decades: from one to ten is as far as from ten to a hundred.
    ...(freedom.capacitance ? [{ low: Math.log(freedom.capacitance[0]), high: Math.log(freedom.capacitance[1]) }] : []),
    ...(freedom.voltage ? [{ low: freedom.voltage[0], high: freedom.voltage[1] }] : []),
  ];
  const places = 3 + 2 * (coils.length - 1);
  const within = (x: number, span: Span | null) => (span ? [Math.min(Math.max(x, span[0]), span[1])] : []);
  const fire = firingOf(setup);
  const from = [
    Math.max(1, Math.round(first.winding.turns / first.winding.perLayer)),
    first.winding.perLayer,
    Math.max(0, way * projectile.start),
    ...coils.slice(1).flatMap((coil, k) => {
      const before = coils[k] as CoilSetup;
      const fired = fire[k + 1];
      return [
        coil.at - before.at - coil.winding.length,
        fired?.by === 'position' ? Math.max(0, way * (fired.x - coil.at)) : Math.max(0, way * projectile.start),
      ];
    }),
    ...(gauges.length > 0 ? [nearestGauge(gauges, 2 * setup.wire.selfRadius)] : []),
    ...within(first.C, freedom.capacitance).map(Math.log),
    ...within(first.V0, freedom.voltage),
  ];
  const design = (point: readonly number[]): LaunchDesign => {
    const [layers = 1, perLayer = 1, start = 0, ...rest] = point;
    const more = point.slice(places);
    const size = gauges.length > 0 ? (more.shift() ?? 0) : null;
    const lnC = freedom.capacitance ? more.shift() : undefined;
    const V = freedom.voltage ? more.shift() : undefined;
    const length = up(perLayer * (size === null ? setup.wire : (wires[size] ?? setup.wire)).along);
    let at = 0;
    return {
      layers,
      perLayer,
      length,
      start: near(way * start),
      further: coils.slice(1).map((_, k) => {
        at = up(at + length + (rest[2 * k] ?? 0));
        return { at, sensor: near(at + way * (rest[2 * k + 1] ?? 0)) };
      }),
      gauge: size === null ? null : (gauges[size] ?? null),
      capacitance: lnC === undefined ? null : digits(Math.exp(lnC), 2),
      voltage: V === undefined ? null : digits(V, 3),
    };
  };
  const evaluate = (point: readonly number[]): LaunchOutcome => {
    const { layers, perLayer, length, start, further, gauge, capacitance, voltage } = design(point);
    const wire = gauge === null ? setup.wire : wireOfDiameter(setup.wire, awgDiameter(gauge));
    if (layers * perLayer > mostTurns) return none;
    const winding = wound(wire, layers * perLayer, length);
    const made: LaunchSetup = {
      ...setup,
      projectile: { ...projectile, start },
      coils: coils.map((coil, k) => ({
        ...coil,
        metal: first.metal,
        T: first.T,
        ac: first.ac,
        C: capacitance ?? coil.C,
        V0: voltage ?? coil.V0,
        ...loopOf({ ...first, rest: coil.rest }, winding, capacitance ?? coil.C),
        winding,
        at: k === 0 ? 0 : (further[k - 1]?.at ?? 0),
      })),
    };
    const fires = [{ by: 'time', t: 0 } as const, ...further.map(({ sensor }) => ({ by: 'position', x: sensor }) as const)];
    const run = launch(specOf(made, fires, newArmature(made)), {
      until: longestOf(made),
      beyond: outOf(made),
      tolerance: 1e-4,
    });
    const muzzle = muzzleOf(run, setup.barrel);
    const exit = muzzle.x === null ? Math.min(0, run.v.at(-1) ?? 0) : muzzle.speed;
    if (!Number.isFinite(exit)) return none;
    const { lifted, stored, left } = run.energy;
    const kinetic = 0.5 * projectile.mass * exit ** 2;
    const efficiency = stored > left ? Math.max(0, kinetic + lifted) / (stored - left) : 0;
    const peakCurrent = Math.max(...run.peak);
    const warmer = Math.max(...run.action.map((action) => warmedBy(first.metal, winding, action)));
    const onCoils = winding.wire * coils.length;
    const V = voltage ?? Math.max(...coils.map(({ V0 }) => V0));
    const energy = made.coils.reduce((sum, { C, V0 }) => sum + 0.5 * C * V0 * V0, 0);
    const end = (further.at(-1)?.at ?? 0) + length / 2;
    const beyond =
      excess(peakCurrent, limits.peakCurrent) +
      excess(warmer, limits.warmer) +
      (layers > 1 ? excess((2 * V) / layers, limits.layerVoltage) : 0) +
      excess(onCoils, limits.wire) +
      excess(winding.outer, limits.outer) +
      excess(energy, limits.energy) +
      excess(length, wires.length > 0 ? longestCoil : null) +
      excess(end, barrel) +
      // A sensor where it starts, or before it, is none; nor is one behind the muzzle.
      further.reduce((sum, { sensor }) => sum + (sensor <= start ? 1 : 0) + excess(sensor, barrel), 0) +
      (goal.of === 'current' && exit < goal.speed ? 1 - Math.max(0, exit) / goal.speed : 0);
    const score = beyond > 0 ? -beyond : scoreOf(goal, exit, efficiency, peakCurrent);
    return { exit, efficiency, peakCurrent, warmer, wire: onCoils, energy, beyond, score };
  };
  return { setup, variables, from, design, evaluate };
}

/** Which of some sizes is nearest to a diameter. */
const nearestGauge = (gauges: readonly number[], d: number): number =>
  gauges.reduce((best, n, i) => (Math.abs(awgDiameter(n) - d) < Math.abs(awgDiameter(gauges[best] ?? 0) - d) ? i : best), 0);

/** A store of another capacitance, or charged to another voltage, in a stage. */
function withStore(rig: Rig, k: number, { capacitance, voltage }: LaunchDesign): Rig {
  if (capacitance === null && voltage === null) return rig;
  const spot = spotIn('store', k);
  const block = blockIn(rig, spot);
  const own = new RigReading(inChannel(rig, k)).own('store');
  const { fields: specs } = blockDefinition('store', block.kind);
  const set = (id: 'C' | 'V0', value: number, unit: UnitId): Record<string, FieldValue> => {
    const spec = specs[id];
    const made = spec?.type === 'quantity' ? readQuantityText(spec, printExact(value, unit)) : null;
    return made?.ok ? { [id]: made.value } : {};
  };
  const each =
    capacitance === null ? {} : set('C', digits((capacitance * own.quantity('ns').value) / own.quantity('np').value, 3), 'F');
  return withBlock(rig, spot, {
    ...block,
    fields: { ...block.fields, ...each, ...(voltage === null ? {} : set('V0', voltage, 'V')) },
  });
}

/** A rig whose stages are wound, placed and fired as a design says: all of them of the wire of the first. */
export function withDesign(rig: Rig, design: LaunchDesign): Rig {
  const length = (x: number) => printExact(near(x), 'm');
  const whole = inChannel(rig, 0);
  const { fields: specs } = blockDefinition('load', blockIn(whole, 'load').kind);
  const read = (id: string, text: string): FieldValue => {
    const spec = specs[id];
    const made = spec?.type === 'quantity' ? readQuantityText(spec, text) : null;
    return made?.ok ? made.value : text;
  };
  const first = blockIn(whole, 'load').fields;
  const wire = Object.fromEntries(windingFieldIds.map((id) => [id, first[id] ?? null]));
  return whole.channels.reduce((made, _, k) => {
    const block = blockIn(made, spotIn('load', k));
    const place = design.further[k - 1];
    const typed: Readonly<Record<string, string>> = {
      by: 'turns',
      N: String(design.layers * design.perLayer),
      l: length(design.length),
      ...(design.gauge === null ? {} : { d: `${design.gauge} AWG` }),
      ...(k === 0 ? { xs: length(-design.start) } : {}),
      ...(place ? { fired: 'sensor', at: length(place.at), xf: length(place.sensor) } : {}),
    };
    const values = Object.fromEntries(Object.entries(typed).map(([id, text]) => [id, read(id, text)]));
    // Readings were of the coils that were there.
    const unread = Object.fromEntries(measuredFieldIds.map((id) => [id, null]));
    const coiled = withBlock(made, spotIn('load', k), { ...block, fields: { ...block.fields, ...unread, ...wire, ...values } });
    return withStore(coiled, k, design);
  }, whole);
}

/**
 * Looks for the best coils.
 *
 * @param outcomes how points do, in their order: here, or in workers that share them
 */
export const findLaunch = (
  { variables, from }: Pick<LaunchFinder, 'variables' | 'from'>,
  { seed, evaluations }: Pick<FinderSpec, 'seed' | 'evaluations'>,
  outcomes: (points: readonly (readonly number[])[]) => Promise<readonly LaunchOutcome[]>,
  onProgress?: (share: number, best: Found) => void,
): Promise<Found> =>
  optimise(
    { variables, seed, evaluations, from },
    async (points) => (await outcomes(points)).map(({ score }) => score),
    onProgress,
  );
