import { freewheelOf, Unavailable } from '../../../block/index.ts';
import {
  coilsOf,
  inductanceOf,
  metalOf,
  projectileOf,
  pulseRatio,
  resistanceOf,
  windingOf,
  wireOf,
  type CoilPlace,
  type FiredBy,
  type Projectile,
  type Winding,
  type WoundWire,
} from '../../../kind/index.ts';
import { ifKnown, RigReading, wheelResistance } from '../../../figure/index.ts';
import { coilFormulas, type Worked } from '../../../formula/index.ts';
import {
  conducting,
  ferromagnetic,
  type Armature,
  type Firing,
  type LaunchCoil,
  type LaunchSpec,
  type StageCircuit,
} from '../../../model/launch/index.ts';
import type { WireMetal } from '../../../material/index.ts';
import { blockIn, hasDesk, inChannel, type Rig } from '../../../rig/index.ts';

/** A coil of a launcher with what feeds it, SI. */
export interface CoilSetup {
  /** m: its middle behind that of the first. */
  readonly at: number;
  readonly winding: Winding;
  /** Of its loop with store and switch. */
  readonly L: number;
  readonly R: number;
  readonly C: number;
  readonly V0: number;
  readonly fired: FiredBy;
  readonly metal: WireMetal;
  /** K: of the winding. */
  readonly T: Worked;
  /** Resistance of a coil of strip at the pulse over that for DC, the same for every winding of it; null of round wire. */
  readonly ac: number | null;
  /** H and Ω of its loop without its coil. */
  readonly rest: { readonly L: number; readonly R: number };
  readonly Vt: number;
  readonly freewheel: StageCircuit['freewheel'];
  /** A that its switch bears; null where it is not known. */
  readonly switchPeak: number | null;
  /** A below which its thyristor opens; nought where that is not known, or a diode carries the current on. */
  readonly holding: number;
}

/** What a launcher is made of; a finder holds it fast and varies its coils. */
export interface LaunchSetup {
  readonly coils: readonly CoilSetup[];
  readonly projectile: Projectile;
  /** Of the first coil. */
  readonly wire: WoundWire;
  /** m/s² against the way out. */
  readonly weight: number;
  /** m from the middle of the first coil to the muzzle; null where it is not given. */
  readonly barrel: number | null;
  /** s to charge all stores one after the other; null where it cannot be told. */
  readonly recharge: number | null;
}

/** Loop of a winding with a store of C: its coil has its resistance at the pulse. */
export function loopOf(
  { rest, metal, T, ac }: Pick<CoilSetup, 'rest' | 'metal' | 'T' | 'ac'>,
  winding: Winding,
  C: number,
): { L: number; R: number } {
  const L = rest.L + inductanceOf(winding).value;
  const ratio = ac ?? pulseRatio(winding, metal, 1 / (2 * Math.PI * Math.sqrt(L * C)));
  return { L, R: rest.R + ratio * resistanceOf(winding, metal, T).value };
}

/** Time to charge every store from the one supply, one after the other. What the supply lacks is said on the page of the rig. */
const rechargeOf = (channels: readonly RigReading[]): number | null =>
  ifKnown(() => channels.reduce((sum, channel) => sum + channel.figure('charge-time').value, 0));

/** A stage of a launcher, read from its channel. */
function coilOf(reading: RigReading, { at, fired }: CoilPlace): CoilSetup {
  const own = reading.own('load');
  const [L, R, C, V0] = (['loop-inductance', 'loop-resistance', 'discharge-capacitance', 'discharge-voltage'] as const).map(
    (id) => reading.figure(id).value,
  ) as [number, number, number, number];
  if (!(V0 > 0)) throw new Unavailable('store', 'the store is not charged', 'V0');
  if (reading.offers('store').ladder)
    throw new Unavailable('store', 'a Marx generator does not drive a coilgun coil: use a capacitor bank');
  const [metal, T, winding] = [metalOf(own), own.quantity('T'), windingOf(own)];
  const skin = reading.figure('coil-skin').value;
  const ac = own.is('section', 'strip') ? skin : null;
  const rest = { L: L - inductanceOf(winding).value, R: R - skin * resistanceOf(winding, metal, T).value };
  const wheel = freewheelOf(reading);
  const rated = 'I' in blockIn(reading.rig, 'switch').fields ? reading.own('switch').optional('I') : null;
  return {
    at,
    winding,
    ...loopOf({ rest, metal, T, ac }, winding, C),
    C,
    V0,
    fired,
    metal,
    T,
    ac,
    rest,
    Vt: reading.offers('switch').threshold?.value ?? 0,
    // Through the diode the current flows past the store and its resistance.
    freewheel: wheel ? { Vf: wheel.Vf.value, R: wheelResistance(reading, wheel.R).value - R } : null,
    switchPeak: rated?.value ?? null,
    holding: wheel ? 0 : (reading.offers('switch').holding?.value ?? 0),
  };
}

/**
 * Reads a launcher out of a rig, whichever of its stages it is seen from.
 *
 * @returns null where the load is no coilgun stage
 * @throws Unavailable, FormulaError where it cannot be worked out: a slug wider than its bore, wire that cannot be wound
 */
export function launchSetup(rig: Rig): LaunchSetup | null {
  if (!hasDesk(rig, 'launch')) return null;
  const reading = new RigReading(inChannel(rig, 0));
  const own = reading.own('load');
  const channels = reading.channels();
  const places = coilsOf(reading);
  // The projectile goes through the bore of every stage.
  const [projectile] = channels.map((channel) => projectileOf(channel.own('load'))) as [Projectile];
  return {
    coils: channels.map((channel, k) => coilOf(channel, places[k] as CoilPlace)),
    projectile,
    wire: wireOf(own),
    weight: own.is('points', 'up') ? 9.80665 : 0,
    barrel: own.optional('lb')?.value ?? null,
    recharge: rechargeOf(channels),
  };
}

/** How a projectile lies in the fields of its coils. */
export function newArmature({ coils, projectile }: Pick<LaunchSetup, 'coils' | 'projectile'>): Armature {
  const { body, diameter, length } = projectile;
  const wound = coils.map(({ at, winding, L }): LaunchCoil => ({ layers: winding.layers, at, L }));
  if (body.kind === 'slug')
    return ferromagnetic({ diameter, length, saturation: body.saturation, susceptibility: body.susceptibility }, wound);
  const { wall, metal, T } = body;
  // To the middle of its wall.
  const turn = { diameter: diameter - wall, length, wall };
  return conducting({ ...turn, resistivity: metal.resistivity * (1 + metal.temperatureCoefficient * (T - 293.15)) }, wound);
}

const armatures = new Map<string, Armature>();

/** The same, kept while other things are changed: its tables take some milliseconds. */
export function armatureOf(setup: Pick<LaunchSetup, 'coils' | 'projectile'>): Armature {
  const { body, diameter, length } = setup.projectile;
  const key = JSON.stringify([setup.coils.map(({ at, winding, L }) => [at, winding.layers, L]), body, diameter, length]);
  const made = armatures.get(key) ?? newArmature(setup);
  if (armatures.size >= 20) armatures.clear();
  armatures.set(key, made);
  return made;
}

/** s that a launch is followed at most: longer than the pulse of any coil lasts, and long enough for what it launches to come through. */
export const longestOf = ({ coils }: Pick<LaunchSetup, 'coils'>): number =>
  0.25 + coils.reduce((sum, { L, R, C }) => sum + 4 * Math.PI * Math.sqrt(L * C) + 6 * R * C, 0);

/** Where no coil acts on the projectile any more, and the barrel is behind it, m behind the middle of the first coil. */
export const outOf = ({ coils, projectile, barrel }: Pick<LaunchSetup, 'coils' | 'projectile' | 'barrel'>): number => {
  const last = coils.at(-1) as CoilSetup;
  return Math.max(last.at + last.winding.length / 2 + projectile.length / 2 + 3 * last.winding.outer, barrel ?? 0);
};

/** The launch of a setup whose coils are fired as said. */
export function specOf(setup: LaunchSetup, fire: readonly Firing[], armature: Armature = armatureOf(setup)): LaunchSpec {
  const { coils, projectile, weight } = setup;
  return {
    stages: coils.map(({ C, V0, R, Vt, freewheel }, k) => ({ C, V0, R, Vt, freewheel, fire: fire[k] ?? { by: 'time', t: 0 } })),
    armature,
    mass: projectile.mass,
    x0: projectile.start,
    v0: 0,
    friction: projectile.friction,
    weight,
  };
}

/** How much the wire of a coil warms, K, by an action, A²s: adiabatic; past all sense where it bursts. */
export const warmedBy = (metal: WireMetal, winding: Winding, action: number): number =>
  coilFormulas.pulseHeating.compute({
    A: action,
    d: winding.round,
    rho: metal.resistivity,
    alpha: metal.temperatureCoefficient,
    gamma: metal.density * metal.heatCapacity,
  });
