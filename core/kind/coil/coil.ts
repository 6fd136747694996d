import { quantity, rating, above, fields } from '../../field/index.ts';
import {
  chargeFormulas,
  coilFormulas,
  coilLossFormulas,
  dischargeFormulas,
  inductanceFormulas,
  ruled,
  secondaryFormulas,
  work,
  type Worked,
} from '../../formula/index.ts';
import { printPercent, printQuantity } from '../../quantity/index.ts';
import {
  Unavailable,
  type FigureSpec,
  type LimitSpec,
  type Offers,
  type Own,
  type Problem,
  type RigContext,
} from '../../block/context.ts';
import { defineBlock, type CircuitPart, type Terminals } from '../../block/define.ts';
import { leadFields, measuredFields, windingFields, type WoundFields, wireFromShelf } from './winding-fields.ts';
import type { FaultMode } from '../../block/fault.ts';
import type { Warmed } from '../../block/shot-needs.ts';
import { turnShort } from './coil-faults.ts';
import { inductanceOf, metalOf, resistanceOf, windingOf, worked } from './winding.ts';
import type { FieldId } from '../../block/names.ts';
import { coilDesk } from './desks.ts';
import { resistorInductorGlyph } from './glyphs.ts';

declare module '../../block/names.ts' {
  interface KindFields {
    'load/coil': typeof coilFields;
  }
  interface FigureIds {
    'coil-field': true;
    'coil-turns': true;
    'coil-inductance': true;
    'coil-resistance': true;
    'coil-pulse-resistance': true;
    'coil-wire': true;
    'coil-mass': true;
    'coil-skin': true;
    'coil-self-capacitance': true;
    'coil-self-resonance': true;
    'coil-turn-voltage': true;
    'coil-layer-voltage': true;
    'coil-pressure': true;
    'coil-stress': true;
    'coil-melt': true;
    'coil-heating': true;
    'load-energy': true;
    'coil-steady': true;
  }
}

const heatLost = ruled('heat lost', 10, 'W/(m²·K)', 'common practice, no source: still air');

/** Outside and both ends of a winding, m². */
function surfaceOf(own: Own<WoundFields>): Worked {
  const w = windingOf(own);
  const surface = Math.PI * w.outer * w.length + (Math.PI / 2) * (w.outer ** 2 - w.inner ** 2);
  return ruled('surface', surface, 'm²', 'outside and both ends');
}

const woundR = (own: Own<WoundFields>): Worked => resistanceOf(windingOf(own), metalOf(own), own.quantity('T'));
/** Resistance of a coil for direct current, and its inductance: as measured, else as wound. */
export const coilR = (own: Own<WoundFields>): Worked => own.optional('Rm') ?? woundR(own);
export const coilL = (own: Own<WoundFields>): Worked => own.optional('Lm') ?? inductanceOf(windingOf(own));

/** What a winding and its leads are in the loop of the discharge. */
export const coilOffers = (block: Own<WoundFields>): Offers => ({
  loopResistance: work(chargeFormulas.seriesSum, { R1: coilR(block), R2: block.quantity('Rl') }, 'coil and leads'),
  pulseResistance,
  loopInductance: work(
    inductanceFormulas.inductanceSum,
    { L1: coilL(block), L2: block.quantity('Ll') },
    'inductance of coil and leads',
  ),
});

/** A winding with its leads as one element of the circuit. */
export function coilParts(rig: RigContext, { plus, minus, tag }: Terminals, says: string): CircuitPart[] {
  const { loopInductance } = rig.offers('load');
  const [L, R] = [loopInductance?.value ?? 1e-9, pulseResistance(rig).value];
  return [{ element: { kind: 'inductor', name: `L${tag}`, nodes: [plus, minus], L, R }, says }];
}

/** How a wound coil fails. */
export const coilFaults = (own: Own<WoundFields>, _rig: RigContext, at: Terminals): readonly FaultMode[] =>
  turnShort(windingOf(own).turns, coilR(own).value, at);

/** Frequency that stands for the pulse: that of the loop without loss. */
export const pulseFrequency = (rig: RigContext): Worked =>
  work(
    coilFormulas.selfResonance,
    { L: rig.figure('loop-inductance'), C: rig.figure('loop-capacitance') },
    'frequency of the discharge without loss',
  );

/** Resistance of the winding at the pulse over that for DC: skin and proximity, by the law that its layers and its wire ask for. */
const skinOf = (rig: RigContext): Worked => {
  const own = rig.own('load');
  const w = windingOf(own);
  const metal = metalOf(own);
  const { d, m, pitch, l, D } = worked(w);
  const delta = work(coilLossFormulas.skinDepth, {
    f: pulseFrequency(rig),
    rho: ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source),
  });
  const title = 'AC/DC resistance ratio at the pulse';
  if (own.is('section', 'strip')) {
    // A foil that stands for the strip: its thickness counts across the field, its width fills the pitch.
    const [wide, thick] = [own.quantity('w').value, own.quantity('t').value];
    const round = ruled(
      'wire that is as thick as the strip',
      (2 * thick) / Math.sqrt(Math.PI),
      'm',
      'of a square of its thickness',
    );
    const p = ruled('pitch that it fills as far', (thick * w.pitch) / wide, 'm', 'thickness times pitch over width');
    return work(coilLossFormulas.layerRatio, { d: round, delta, m, p: p.value >= round.value ? p : round }, title);
  }
  const p = w.pitch >= w.round ? pitch : d;
  return w.layers.length === 1
    ? work(coilLossFormulas.singleLayerRatio, { d, delta, p, l, D }, title)
    : work(coilLossFormulas.layerRatio, { d, delta, m, p }, title);
};

/** Resistance of the winding at the pulse: what heats it and damps the discharge. */
const pulseR = (rig: RigContext): Worked =>
  work(secondaryFormulas.timesFactor, { R: coilR(rig.own('load')), k: skinOf(rig) }, 'resistance of the coil at the pulse');

/** Winding and leads at the pulse. */
export const pulseResistance = (rig: RigContext): Worked =>
  work(chargeFormulas.seriesSum, { R1: pulseR(rig), R2: rig.own('load').quantity('Rl') }, 'coil at the pulse and leads');

/** Flux density in the middle at the peak of the current. */
const fieldOf = (rig: RigContext): Worked => {
  const { N, D1, D2, l } = worked(windingOf(rig.own('load')));
  const z = ruled('distance from the middle', 0, 'm', 'in the middle');
  return work(coilFormulas.solenoidField, { N, I: rig.figure('peak-current'), D1, D2, l, z }, 'field in the middle at the peak');
};

const own = (rig: RigContext) => rig.own('load');

/** What is told of every winding. */
export const coilFigures: readonly FigureSpec[] = [
  { id: 'coil-field', title: 'Peak field at the centre', slot: 'load', leads: true, compute: fieldOf },
  { id: 'coil-turns', title: 'Turns', slot: 'load', compute: (rig) => worked(windingOf(own(rig))).N },
  { id: 'coil-inductance', title: 'Inductance of the coil', slot: 'load', compute: (rig) => coilL(own(rig)) },
  { id: 'coil-resistance', title: 'DC resistance of the coil', slot: 'load', compute: (rig) => coilR(own(rig)) },
  { id: 'coil-pulse-resistance', title: 'Resistance of the coil at the pulse', slot: 'load', compute: pulseR },
  { id: 'coil-wire', title: 'Wire length', slot: 'load', compute: (rig) => worked(windingOf(own(rig))).wire },
  {
    id: 'coil-mass',
    title: 'Mass of its wire',
    slot: 'load',
    compute: (rig) => {
      const metal = metalOf(own(rig));
      const { wire, d } = worked(windingOf(own(rig)));
      return work(coilFormulas.wireMass, {
        l: wire,
        d,
        gamma: ruled(`density of ${metal.title}`, metal.density, 'kg/m³', metal.source),
      });
    },
  },
  {
    id: 'coil-skin',
    title: 'AC/DC resistance ratio at the pulse (skin, proximity)',
    slot: 'load',
    compute: skinOf,
  },
  {
    id: 'coil-self-capacitance',
    title: 'Self-capacitance of the coil (estimate)',
    slot: 'load',
    mayBeMissing: true,
    compute: (rig) => {
      const { D, l } = worked(windingOf(own(rig)));
      return work(coilFormulas.coilSelfCapacitance, { D, l });
    },
  },
  {
    id: 'coil-self-resonance',
    title: 'Self-resonance of the coil (estimate)',
    slot: 'load',
    mayBeMissing: true,
    compute: (rig) =>
      work(
        coilFormulas.selfResonance,
        { L: coilL(own(rig)), C: rig.figure('coil-self-capacitance') },
        'self-resonance of the coil',
      ),
  },
  {
    id: 'coil-turn-voltage',
    title: 'Turn-to-turn voltage (upper estimate)',
    slot: 'load',
    compute: (rig) => work(coilFormulas.turnVoltage, { V: rig.figure('discharge-voltage'), N: worked(windingOf(own(rig))).N }),
  },
  {
    id: 'coil-layer-voltage',
    title: 'Layer-to-layer voltage (upper estimate)',
    slot: 'load',
    mayBeMissing: true,
    compute: (rig) => {
      const w = windingOf(own(rig));
      if (w.layers.length < 2) throw new Unavailable('load', 'the coil has one layer', 'N');
      return work(coilFormulas.layerVoltage, { V: rig.figure('discharge-voltage'), m: worked(w).m });
    },
  },
  {
    id: 'coil-pressure',
    title: 'Pressure of the field',
    slot: 'load',
    compute: (rig) => work(coilFormulas.magneticPressure, { B: fieldOf(rig) }),
  },
  {
    id: 'coil-stress',
    asks: 'wears',
    title: 'Stress in the conductor',
    slot: 'load',
    compute: (rig) => {
      const w = windingOf(own(rig));
      const { D } = worked(w);
      const depth = ((w.outer - w.inner) / 2) * w.packing;
      return work(coilFormulas.hoopStress, {
        p: rig.figure('coil-pressure'),
        D,
        t: ruled('metal of the winding, across', depth, 'm', 'its depth times how far it is filled'),
      });
    },
  },
  {
    id: 'coil-melt',
    asks: 'wears',
    title: 'Action integral to melt the wire',
    slot: 'load',
    compute: (rig) => {
      const metal = metalOf(own(rig));
      return work(
        coilFormulas.wireFusingAction,
        {
          d: worked(windingOf(own(rig))).d,
          g: ruled(`specific action of ${metal.title}`, metal.meltAction, 'A²s/m⁴', metal.source),
        },
        'action that melts the wire',
      );
    },
  },
  {
    id: 'coil-heating',
    asks: 'wears',
    title: 'Temperature rise per shot',
    slot: 'load',
    compute: (rig) => {
      const metal = metalOf(own(rig));
      return work(coilFormulas.pulseHeating, {
        A: rig.figure('action-integral'),
        d: worked(windingOf(own(rig))).d,
        rho: ruled(`resistivity of ${metal.title}`, metal.resistivity, 'Ω·m', metal.source),
        alpha: ruled('temperature coefficient', metal.temperatureCoefficient, 'K⁻¹', metal.source),
        gamma: ruled('density times specific heat', metal.density * metal.heatCapacity, 'J/(m³·K)', metal.source),
      });
    },
  },
  {
    id: 'load-energy',
    title: 'Heat in the coil, one shot',
    slot: 'load',
    compute: (rig) =>
      work(dischargeFormulas.heatFromAction, { A: rig.figure('action-integral'), R: pulseR(rig) }, 'heat in the coil'),
  },
  {
    id: 'coil-steady',
    asks: 'wears',
    title: 'Steady temperature rise',
    slot: 'load',
    mayBeMissing: true,
    compute: (rig) => {
      const f = own(rig).optional('f');
      if (!f) throw new Unavailable('load', 'the shot rate is not given', 'f');
      return work(coilFormulas.steadyHeating, { E: rig.figure('load-energy'), f, S: surfaceOf(own(rig)), h: heatLost });
    },
  },
];

/** Rise that enamel and potting bear for hours: class B, 130 °C, in a warm room. Common practice, no source. */
const steadyRise = 90;

/** What a coil may lose for as long as one likes, against the heat of one shot. */
export function coilWarmed(_own: unknown, rig: RigContext): Warmed[] {
  const S = surfaceOf(own(rig));
  const P = ruled(
    'heat that its surface gives off',
    heatLost.value * S.value * steadyRise,
    'W',
    `at a rise of ${steadyRise} K in still air; common practice, no source`,
  );
  return [{ title: 'Coil', E: rig.figure('load-energy'), P }];
}

export const coilLimits: readonly LimitSpec[] = [
  {
    id: 'coil-stress',
    title: 'Conductor of the coil, stress',
    slot: 'load',
    stress: (rig) => rig.figure('coil-stress'),
    rating: (rig) => ruled(`yield of ${metalOf(own(rig)).title}`, metalOf(own(rig)).yieldStress, 'Pa', metalOf(own(rig)).source),
    levers: ['store.V0', 'load.d'],
    note: 'The whole winding carries the load, with no help from outside: a bandage or potting takes some of it.',
  },
  {
    id: 'coil-melt',
    title: 'Wire of the coil, melting',
    slot: 'load',
    stress: (rig) => rig.figure('action-integral'),
    rating: (rig) => rig.figure('coil-melt'),
    levers: ['store.V0', 'load.d'],
  },
  {
    id: 'coil-layer-voltage',
    title: 'Coil, layer to layer',
    slot: 'load',
    stress: (rig) => rig.figure('coil-layer-voltage'),
    rating: (rig) => own(rig).optional('Vi'),
    onlyIfKnown: true,
    levers: ['load.Vi', 'store.V0'],
    note: 'Where the ends of two layers meet; a sheet between them helps.',
  },
];

/** Damping above which the resistance decides, and hardly the inductance. */
const resistive = 1.5;

const say = (field: FieldId<'load'>, text: string): Problem => ({ severity: 'warning', slot: 'load', field, text });

/** Peak current with so much more resistance in the loop, A. */
function skinPeak(rig: RigContext, more: number): number {
  const R = work(
    chargeFormulas.seriesSum,
    {
      R1: rig.figure('loop-resistance'),
      R2: ruled('resistance by the skin effect', more, 'Ω', 'at the frequency of the discharge'),
    },
    'loop resistance',
  );
  const [L, C, V] = [rig.figure('loop-inductance'), rig.figure('loop-capacitance'), rig.figure('discharge-voltage')];
  return work(dischargeFormulas.rlcPeakCurrent, { R, L, C, V }).value;
}

/** A winding that does not suit its store. */
/** So far a reading may be from what wire and turns give before something else is the matter. Common practice, no source. */
const usualMiss = 0.15;

/** What a reading that is far from the wound coil may mean. */
function measuredProblems(block: Own<WoundFields>): Problem[] {
  const found: Problem[] = [];
  const [Rm, Lm] = [block.optional('Rm'), block.optional('Lm')];
  const [R, L] = [woundR(block).value, inductanceOf(windingOf(block)).value];
  const off = (measured: number, wound: number) =>
    `${printPercent(Math.abs(measured / wound - 1), 2)} ${measured < wound ? 'below' : 'above'}`;
  if (Rm && Math.abs(Rm.value / R - 1) > usualMiss)
    found.push(
      say(
        'Rm',
        `Measured ${printQuantity(Rm.value, 'Ω')}, ${off(Rm.value, R)} what its wire gives: ${Rm.value < R ? 'turns are shorted, or the wire is thicker' : 'a joint is bad, the wire is thinner, or leads are in the reading'}.`,
      ),
    );
  if (Lm && Math.abs(Lm.value / L - 1) > usualMiss)
    found.push(
      say(
        'Lm',
        `Measured ${printQuantity(Lm.value, 'H')}, ${off(Lm.value, L)} what its turns give: ${Lm.value < L ? 'turns are shorted or fewer than counted' : 'iron was in the bore, or there are more turns'}.`,
      ),
    );
  return found;
}

export function coilProblems(block: Own<WoundFields>, rig: RigContext): Problem[] {
  const found: Problem[] = [];
  const w = windingOf(block);
  const R = coilR(block).value;
  const [V, I, zeta] = [
    rig.figure('discharge-voltage').value,
    rig.figure('peak-current').value,
    rig.figure('damping-ratio').value,
  ];
  const wireField = block.is('section', 'strip') ? 't' : 'd';
  if (zeta > resistive && R > 0.5 * rig.figure('loop-resistance').value)
    found.push(
      say(
        wireField,
        `The coil has far too much resistance for this store: ${printQuantity(R, 'Ω')} pass ${printQuantity(I, 'A')} at ${printQuantity(V, 'V')}, and the loop is damped ${zeta.toFixed(1)} times beyond critical. Fewer turns of thicker wire in the same window: about ${Math.max(1, Math.round(w.turns / zeta))} of them, ${printQuantity(R / zeta ** 2, 'Ω')}, would match.`,
      ),
    );
  const esr = rig.offers('store').loopResistance?.value ?? 0;
  const total = rig.figure('loop-resistance').value;
  if (esr > 0.5 * total)
    found.push(
      say(
        'N',
        `Most of the energy heats the capacitors themselves: their ESR is ${printQuantity(esr, 'Ω')} of the ${printQuantity(total, 'Ω')} in the loop. Use capacitors of lower ESR, or more turns.`,
      ),
    );
  found.push(...measuredProblems(block));
  const skin = skinOf(rig).value;
  if (skin > 1.5)
    found.push(
      say(
        wireField,
        `At the frequency of the discharge the coil has about ${skin.toFixed(1)} times its assumed resistance: the current crowds to ${w.layers.length === 1 ? 'the outside of its wire' : `the edges of its ${w.layers.length} layers`}. Expect a peak of about ${printQuantity(skinPeak(rig, R * (skin - 1)), 'A')} instead of ${printQuantity(I, 'A')}.`,
      ),
    );
  return found;
}

/** A field that is less than is wanted. */
function fieldProblems(block: Own<typeof coilFields>, rig: RigContext): Problem[] {
  const Bs = block.optional('Bs');
  const B = fieldOf(rig).value;
  if (!Bs || B >= Bs.value) return [];
  const V = rig.figure('discharge-voltage').value;
  const text = `The field reaches ${printQuantity(B, 'T')}; needs ${printQuantity(Bs.value, 'T')}: ${(Bs.value / B).toFixed(2)} times the current, or ${printQuantity((V * Bs.value) / B, 'V')} on the store.`;
  return [say('Bs', text)];
}

const coilFields = fields(
  {
    ...windingFields,
    ...measuredFields,
    ...leadFields,
    Vi: rating('Layer-to-layer insulation rating', 'V', 1e6, {
      help: 'Enamel on enamel: some hundred volts; a sheet between layers adds its own.',
    }),
    Bs: quantity('Field wanted at the centre', 'T', above(0, 100), null, {
      help: 'To magnetise: about three times the coercivity of the magnet, 2.5 to 3 T for rare-earth ones, 0.8 T for ferrite (common practice, no source).',
    }),
    f: quantity('Shots a second', 'Hz', above(0, 1e4), null),
  },
  { life: ['f'] },
);

export const coil = defineBlock({
  slot: 'load',
  kind: 'coil',
  title: 'Coil of wire, or magnetiser',
  desks: [coilDesk],
  glyph: () => resistorInductorGlyph,
  fields: coilFields,
  takes: wireFromShelf,
  key: (block) => ({
    text: printQuantity(coilL(block).value, 'H'),
    detail: `${windingOf(block).turns} turns`,
  }),
  offers: coilOffers,
  circuit: (_own, rig, at) => coilParts(rig, at, 'coil with its leads'),
  faults: coilFaults,
  figures: coilFigures,
  limits: coilLimits,
  warmed: coilWarmed,
  problems: (block, rig) => [...coilProblems(block, rig), ...fieldProblems(block, rig)],
  steps: (_block, rig) => [
    {
      id: 'coil-held',
      phase: 'prepare',
      text: 'The coil bandaged or potted, fixed by its body and not by its leads; nothing magnetic and nothing loose within its reach, nobody in line with its bore.',
      expect: [{ label: 'Field at the centre', worked: rig.figure('coil-field'), print: 'quantity', use: 'high' }],
      hold: 'Coil and leads pulled on by hand while the strap is on.',
      caution: 'A coil that is not held down becomes a projectile.',
    },
  ],
});
