import { Unavailable } from '../../block/index.ts';
import { isSummed, metalOf, windingOf, type Winding } from '../../kind/index.ts';
import { RigReading } from '../../figure/index.ts';
import { coilFormulas, evaluateFormula, FormulaError, withDefaults, type Formula } from '../../formula/index.ts';
import { layersInductance, loopField, sectionAxisField } from '../../model/index.ts';
import { newReading } from '../../model/launch/index.ts';
import { blockIn, channelOf, type Rig } from '../../rig/index.ts';
import { armatureOf, launchSetup } from './launch/setup.ts';

/** A wire in the section of a coil, where it is cut: m from the axis and from the middle. */
export interface WireInSection {
  readonly r: number;
  readonly z: number;
}

/** The same inductance by different means, H. */
export interface Inductances {
  readonly by: string;
  readonly L: number;
}

export interface CoilStudy {
  readonly winding: Winding;
  readonly metal: string;
  /** Every turn once, on one side of the axis. */
  readonly wires: readonly WireInSection[];
  /** A that the field is drawn for: the peak of the discharge, or 1 A where there is none. */
  readonly current: number;
  readonly isPeak: boolean;
  /** On the axis: m from the middle, T. */
  readonly axis: { readonly z: Float64Array; readonly B: Float64Array };
  /** Size of the flux density in the half-plane, T: rows along r from the axis outwards, columns along z. */
  readonly map: {
    readonly rMax: number;
    readonly zMax: number;
    readonly rows: number;
    readonly columns: number;
    readonly B: Float64Array;
  };
  readonly inductances: readonly Inductances[];
  /** Force on a slug, N, over where its middle is, m from that of the coil, at some currents up to `current`; null without a slug. */
  readonly force: {
    readonly x: Float64Array;
    readonly curves: readonly { readonly I: number; readonly F: Float64Array }[];
  } | null;
  /** What is written on the card that goes to the winder, line by line. */
  readonly card: readonly string[];
}

/** Loops that stand for a winding where its field is summed: as many as tell apart what is drawn. */
function loopsOf(w: Winding): { r: number; z: number; turns: number }[] {
  const [across, along] = [Math.min(w.layers.length, 8), Math.min(w.perLayer, 24)];
  const depth = (w.outer - w.inner) / 2;
  return Array.from({ length: across * along }, (_, i) => ({
    r: w.inner / 2 + (depth * (Math.floor(i / along) + 0.5)) / across,
    z: -w.length / 2 + (w.length * ((i % along) + 0.5)) / along,
    turns: w.turns / (across * along),
  }));
}

function mapOf(w: Winding, I: number): CoilStudy['map'] {
  const [rows, columns] = [26, 60];
  const [rMax, zMax] = [w.outer / 2 + Math.max(w.outer, w.length) * 0.18, w.length / 2 + Math.max(w.outer, w.length) * 0.35];
  const loops = loopsOf(w);
  const B = new Float64Array(rows * columns);
  const out = { Br: 0, Bz: 0 };
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const r = (rMax * (row + 0.5)) / rows;
      const z = -zMax + (2 * zMax * (column + 0.5)) / columns;
      let [Br, Bz] = [0, 0];
      for (const loop of loops) {
        // Within a wire the field is that of its surface: a point that falls upon a loop is moved off it.
        const near = Math.hypot(r - loop.r, z - loop.z) < w.round / 2;
        loopField(loop.r, near ? loop.r - w.round / 2 : r, z - loop.z, out);
        Br += out.Br * loop.turns;
        Bz += out.Bz * loop.turns;
      }
      B[row * columns + column] = Math.hypot(Br, Bz) * I;
    }
  return { rMax, zMax, rows, columns, B };
}

function cardOf(w: Winding, metal: string, print: (value: number, unit: 'm') => string): string[] {
  const last = w.turns - (w.layers.length - 1) * w.perLayer;
  return [
    `${w.turns} turns of ${metal}, ${print(w.round, 'm')} bare (as round wire), on a former of ${print(w.inner, 'm')}`,
    w.layers.length === 1
      ? `one layer, a turn every ${print(w.pitch, 'm')} over ${print(w.length, 'm')}`
      : `${w.layers.length} layers of ${w.perLayer}, the last of ${last}, over ${print(w.length, 'm')}`,
    `wire ${print(w.wire, 'm')} on the coil; two leads come on top`,
    `outside ${print(w.outer, 'm')}; all layers the same way round, to and fro`,
  ];
}

/** Force on the slug of a coilgun stage by place and current; null where there is none. */
function forceOf(rig: Rig, most: number): CoilStudy['force'] {
  const setup = launchSetup(rig);
  if (!setup || setup.projectile.body.kind !== 'slug') return null;
  // Of the stage that is looked at, as if it stood alone.
  const coils = setup.coils.slice(channelOf(rig), channelOf(rig) + 1).map((coil) => ({ ...coil, at: 0 }));
  const armature = armatureOf({ coils, projectile: setup.projectile });
  const [coil] = coils;
  const far = (coil?.winding.length ?? 0) / 2 + setup.projectile.length;
  const x = Float64Array.from({ length: 161 }, (_, k) => -far + (2 * far * k) / 160);
  const out = newReading(1);
  const at = (place: number, I: number) => {
    armature.read(place, Float64Array.of(I), 0, out);
    return out.F;
  };
  return { x, curves: [1, 0.75, 0.5, 0.25].map((share) => ({ I: share * most, F: x.map((place) => at(place, share * most)) })) };
}

/**
 * A coil that is the load of a rig: how it lies, what field it makes at the peak of the discharge, its inductance by several means.
 *
 * @param print how a length is written
 * @returns null where the load is no coil
 * @throws Unavailable, FormulaError where it cannot be wound
 */
export function coilStudy(rig: Rig, print: (value: number, unit: 'm') => string): CoilStudy | null {
  if (!('Df' in blockIn(rig, 'load').fields)) return null;
  const reading = new RigReading(rig);
  const own = reading.own('load');
  const winding = windingOf(own);
  const { turns: N, inner: D1, outer: D2, length: l, layers } = winding;
  const peak = peakOf(reading);
  const current = peak ?? 1;
  const section = { N, D1, D2, l };
  const of = (formula: Formula, values: Readonly<Record<string, number>>) =>
    evaluateFormula(formula, withDefaults(formula, values));
  const single = { N, D: (D1 + D2) / 2, l };
  const map = mapOf(winding, current);
  const z = Float64Array.from({ length: 241 }, (_, i) => -map.zMax + (2 * map.zMax * i) / 240);
  const metal = metalOf(own);
  return {
    winding,
    metal: metal.title,
    wires: layers.flatMap(({ radius, turns, first, pitch }) =>
      Array.from({ length: turns }, (_, k) => ({ r: radius, z: first + k * pitch })),
    ),
    current,
    isPeak: peak !== null,
    axis: { z, B: z.map((x) => current * sectionAxisField(section, x)) },
    map,
    inductances: [
      ...(isSummed(winding)
        ? [{ by: 'turn by turn: coaxial loops, exactly', L: layersInductance(layers, winding.selfRadius) }]
        : []),
      ...(layers.length === 1
        ? [
            { by: 'as a sheet: Nagaoka, exactly', L: of(coilFormulas.solenoidInductance, single) },
            { by: 'Wheeler’s formula of a single layer', L: of(coilFormulas.wheelerSingle, single) },
          ]
        : [
            { by: 'as a section filled evenly: coaxial filaments', L: of(coilFormulas.multilayerInductance, section) },
            { by: 'Wheeler’s formula of many layers', L: of(coilFormulas.wheelerMulti, section) },
          ]),
    ],
    force: peak === null ? null : forceOf(rig, peak),
    card: cardOf(winding, metal.title, print),
  };
}

function peakOf(reading: RigReading): number | null {
  try {
    return reading.figure('peak-current').value;
  } catch (error) {
    if (!(error instanceof Unavailable) && !(error instanceof FormulaError)) throw error;
    // What the rest of the rig lacks is said on its own page; the coil has a field for every current.
    return null;
  }
}
