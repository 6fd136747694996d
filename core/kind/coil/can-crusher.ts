import { quantity, above, choiceOf, fields } from '../../field/index.ts';
import {
  chargeFormulas,
  coilFormulas,
  canFormulas,
  coilLossFormulas,
  inductanceFormulas,
  ruled,
  work,
  type Worked,
} from '../../formula/index.ts';
import { shellResponse } from '../../model/index.ts';
import { wireMetals } from '../../material/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem, type RigContext } from '../../block/context.ts';
import { defineBlock } from '../../block/define.ts';
import { coilFigures, coilL, coilLimits, coilParts, coilR, coilWarmed, pulseFrequency, pulseResistance } from './coil.ts';
import { leadFields, measuredFields, windingFields } from './winding-fields.ts';
import { turnShort } from './coil-faults.ts';
import { metalIn, windingOf, worked, type Winding } from './winding.ts';
import type { FieldId } from '../../block/names.ts';
import { resistorInductorGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/can-crusher': typeof canCrusherFields;
  }
  interface FigureIds {
    'crush-pressure': true;
    'crush-share': true;
    'crush-wall-time': true;
    'crush-yield': true;
    'crush-field': true;
    'crush-skin': true;
    'crush-recoil': true;
    'coil-stress': true;
    'coil-inductance': true;
    'coil-bare': true;
  }
}

/** The work coil, and what the can does to it. @throws Unavailable where the can does not go in, or is no can */
function workCoil(own: Own<typeof canCrusherFields>): {
  winding: Winding;
  response: ReturnType<typeof shellResponse>;
  middle: number;
} {
  const winding = windingOf(own);
  const [D, wall] = [own.quantity('Dc').value, own.quantity('tc').value];
  if (D >= winding.inner)
    throw new Unavailable(
      'load',
      `the can does not fit the former: ${printQuantity(D, 'm')} in ${printQuantity(winding.inner, 'm')}`,
      'Dc',
    );
  if (2 * wall >= D)
    throw new Unavailable(
      'load',
      `the wall fills the can: ${printQuantity(wall, 'm')} of at most ${printQuantity(D / 2, 'm')}`,
      'tc',
    );
  // To the outside, where the current flows that keeps the field out.
  return { winding, response: shellResponse(winding.layers, D, own.quantity('lc').value), middle: D - wall };
}

/** Inductance of the coil as the can leaves it. */
function loadedL(own: Own<typeof canCrusherFields>): Worked {
  const { response } = workCoil(own);
  const bare = coilL(own);
  return ruled(
    'inductance of the coil with the can in it',
    Math.max(1e-12, bare.value - response.taken),
    'H',
    `${printQuantity(bare.value, 'H')} without it, less what rings of its wall take whose currents keep the field out`,
  );
}

const wallField = (rig: RigContext): Worked => {
  const { response } = workCoil(rig.own('load'));
  const k = ruled('current in the wall for 1 A, on a metre', response.sheet, 'm⁻¹', 'rings of the wall whose flux stays zero');
  return work(canFormulas.sheetField, { I: rig.figure('peak-current'), k }, 'field at the can at the peak');
};

/** What the field could press with if none of it came through the wall. */
const fullPressure = (rig: RigContext): Worked =>
  work(coilFormulas.magneticPressure, { B: wallField(rig) }, 'pressure of the field outside at the peak');

const canResistivity = (own: Own<typeof canCrusherFields>): Worked => {
  const metal = metalIn(own, 'ofc');
  return ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source);
};

const wallTime = (rig: RigContext): Worked => {
  const own = rig.own('load');
  return work(canFormulas.shellTimeConstant, { D: canMiddle(own), w: own.quantity('tc'), rho: canResistivity(own) });
};

/** ω·τ of the wall in the discharge. */
const shielding = (rig: RigContext): Worked =>
  work(canFormulas.shellShielding, { f: pulseFrequency(rig), tau: wallTime(rig) }, 'angular frequency times time of the wall');

/** Damping of the discharge over its angular frequency: ζ/√(1 − ζ²), of a strongly damped one that of ζ = 0.95. */
const damping = (rig: RigContext): Worked => {
  const zeta = Math.min(rig.figure('damping-ratio').value, 0.9486);
  return ruled('damping over angular frequency', zeta / Math.sqrt(1 - zeta * zeta), '1', 'from the damping ratio of the loop');
};

const pressureShare = (rig: RigContext): Worked =>
  work(canFormulas.shellPressure, { x: shielding(rig), a: damping(rig) }, 'share of that pressure that the wall feels');

const wallPressure = (rig: RigContext): Worked =>
  work(canFormulas.pressureThroughWall, { p: fullPressure(rig), k: pressureShare(rig) }, 'greatest inward pressure on the can');

const yieldOf = (own: Own<typeof canCrusherFields>): Worked =>
  work(
    canFormulas.wallYield,
    {
      s: own.quantity('Yc'),
      t: own.quantity('tc'),
      D: canMiddle(own),
    },
    'pressure at which the can yields',
  );

const canSkin = (rig: RigContext): Worked =>
  work(coilLossFormulas.skinDepth, { f: pulseFrequency(rig), rho: canResistivity(rig.own('load')) }, 'skin depth in the can');

/** The can's wall, to its middle. */
const canMiddle = (own: Own<typeof canCrusherFields>): Worked =>
  ruled('diameter to the middle of the wall', workCoil(own).middle, 'm', 'outside less the wall');

/** Outward pressure on the coil: what pushes the can in pushes it out. */
const recoil = (rig: RigContext): Worked => {
  const own = rig.own('load');
  return work(
    canFormulas.recoilPressure,
    { p: fullPressure(rig), d: canMiddle(own), D: worked(workCoil(own).winding).D1 },
    'pressure on the coil',
  );
};

const stress = (rig: RigContext): Worked => {
  const { winding } = workCoil(rig.own('load'));
  const t = ruled(
    'metal of the winding, across',
    ((winding.outer - winding.inner) / 2) * winding.packing,
    'm',
    'its depth times how far it is filled',
  );
  return work(coilFormulas.hoopStress, { p: recoil(rig), D: worked(winding).D, t }, 'stress in the conductor');
};

function problems(own: Own<typeof canCrusherFields>, rig: RigContext): Problem[] {
  const found: Problem[] = [];
  const say = (field: FieldId<'load'>, text: string) => found.push({ severity: 'warning', slot: 'load', field, text });
  const [p, y] = [wallPressure(rig).value, yieldOf(own).value];
  if (p < y) {
    const V = rig.figure('discharge-voltage').value;
    say(
      'Yc',
      `Does not crush: ${printQuantity(p, 'Pa')} at the peak, and the wall yields at ${printQuantity(y, 'Pa')}. ${printQuantity(V * Math.sqrt(y / p), 'V')} on the store would just reach that; several times as much is common practice (no source).`,
    );
  }
  const share = pressureShare(rig).value;
  if (share < 0.9)
    say(
      'tc',
      `The field diffuses through the wall of ${printQuantity(own.quantity('tc').value, 'm')}: time constant ${printQuantity(wallTime(rig).value, 's')}, a quarter of the ring is ${printQuantity(1 / (4 * pulseFrequency(rig).value), 's')}. The greatest inward pressure is ${printPercent(share, 2)} of the full magnetic pressure. A faster loop (less inductance or capacitance) or a thicker wall keeps more of the field out.`,
    );
  return found;
}

/** Figures of every winding that hold for this one as well: those of its field hold for an empty coil alone. */
const ofCoil = coilFigures.filter(
  ({ id }) => !['coil-field', 'coil-pressure', 'coil-stress', 'coil-steady', 'coil-inductance'].includes(id),
);

const canCrusherFields = fields(
  {
    ...windingFields,
    Df: { ...windingFields.Df, initial: '68 mm' },
    l: { ...windingFields.l, initial: '14 mm' },
    d: { ...windingFields.d, initial: '4 mm' },
    N: { ...windingFields.N, initial: '3' },
    ...measuredFields,
    ...leadFields,
    Dc: quantity('Outer diameter of the can', 'm', above(0, 5), '65 mm'),
    tc: quantity('Wall of the can', 'm', above(0, 0.1), '0.11 mm'),
    lc: quantity('Length of the can', 'm', above(0, 10), '110 mm'),
    ofc: choiceOf('Can material', wireMetals, 'aluminium'),
    Yc: quantity('Yield stress of its wall', 'Pa', above(0, 5e9), '250 MPa', {
      symbol: 'σc',
      help: 'Hard-rolled aluminium of drink cans about 250 to 300 MPa, soft aluminium 30, copper 70 (from memory).',
    }),
  },
  { moving: ['Dc', 'tc', 'lc', 'ofc', 'Yc'] },
);

export const canCrusher = defineBlock({
  slot: 'load',
  kind: 'can-crusher',
  title: 'Work coil around a can',
  makes: 'Can crusher',
  glyph: () => resistorInductorGlyph,
  fields: canCrusherFields,
  key: (own) => ({ text: printQuantity(loadedL(own).value, 'H'), detail: `${windingOf(own).turns} turns, can` }),
  offers: (own) => ({
    loopResistance: work(chargeFormulas.seriesSum, { R1: coilR(own), R2: own.quantity('Rl') }, 'coil and leads'),
    loopInductance: work(
      inductanceFormulas.inductanceSum,
      { L1: loadedL(own), L2: own.quantity('Ll') },
      'inductance of coil and leads',
    ),
    pulseResistance,
  }),
  faults: (own, _rig, at) => turnShort(windingOf(own).turns, coilR(own).value, at),
  circuit: (_own, rig, at) => coilParts(rig, at, 'work coil with its leads, the can in it and at rest'),
  leavesOut: () =>
    'that the can moves, warms and lets the field through: in the inductance its wall counts as perfect metal at rest',
  figures: [
    { id: 'crush-pressure', title: 'Greatest inward pressure on the can', slot: 'load', leads: true, compute: wallPressure },
    { id: 'crush-share', title: 'Share of the magnetic pressure on the can', slot: 'load', compute: pressureShare },
    { id: 'crush-wall-time', title: 'Time constant of the wall', slot: 'load', compute: wallTime },
    { id: 'crush-yield', title: 'Yield pressure of the can', slot: 'load', compute: (rig) => yieldOf(rig.own('load')) },
    { id: 'crush-field', title: 'Field between coil and can, at the peak', slot: 'load', compute: wallField },
    { id: 'crush-skin', title: 'Skin depth in its wall', slot: 'load', compute: canSkin },
    { id: 'crush-recoil', title: 'Bursting pressure on the coil', slot: 'load', compute: recoil },
    { id: 'coil-stress', asks: 'wears', title: 'Stress in the conductor', slot: 'load', compute: stress },
    {
      id: 'coil-inductance',
      title: 'Inductance of the coil with the can in it',
      slot: 'load',
      compute: (rig) => loadedL(rig.own('load')),
    },
    {
      id: 'coil-bare',
      title: 'Inductance of the empty coil',
      slot: 'load',
      compute: (rig) => coilL(rig.own('load')),
    },
    ...ofCoil,
  ],
  limits: coilLimits.filter(({ id }) => id !== 'coil-layer-voltage'),
  problems,
  uses: (own) => [
    {
      id: 'can',
      title: `Cans of ${printQuantity(own.quantity('Dc').value, 'm')}`,
      each: ruled('cans', 1, '1', 'one for each shot'),
      then: 'Bring more cans',
    },
  ],
  warmed: coilWarmed,
  steps: (_own, rig) => [
    {
      id: 'can-box',
      phase: 'prepare',
      text: 'Coil bound on the outside with glass or aramid over its whole length, clamped to a block by its body and not by its leads, and all of it in a closed box that stops splinters; the can in its middle, so that it is not shot out at one end.',
      expect: [{ label: 'Bursting pressure on the coil', worked: rig.figure('crush-recoil'), print: 'quantity', use: 'high' }],
      hold: 'The box is shut and bolted; leads pulled on by hand while the strap is on.',
      caution: 'A work coil wears out: after some shots it comes apart during one. Check it for cracks before each.',
    },
  ],
});
