import { quantity } from '../../field/index.ts';
import { ruled } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem } from '../context.ts';
import { defineBlock } from '../define.ts';
import { coilFigures, coilLimits, coilOffers, coilParts, coilProblems, leadFields, windingFields } from './coil.ts';
import { inductanceOf, windingOf } from './winding.ts';

/** What a slug is of: magnetisation at saturation, A/m, susceptibility at small fields, density, kg/m³. From memory, each within 10 %, the susceptibility within half. */
export const slugMetals = {
  iron: { title: 'soft iron', saturation: 1.71e6, susceptibility: 1000, density: 7870 },
  steel: { title: 'mild steel', saturation: 1.6e6, susceptibility: 400, density: 7850 },
  tool: { title: 'hardened steel', saturation: 1.45e6, susceptibility: 80, density: 7800 },
} as const;
export type SlugMetal = keyof typeof slugMetals;

/** A slug in the bore of a coil. */
export interface SlugOf {
  readonly diameter: number;
  readonly length: number;
  readonly mass: number;
  readonly saturation: number;
  readonly susceptibility: number;
  /** m from the middle of the coil to the middle of the slug, below nought before it. */
  readonly start: number;
  readonly friction: number;
}

/** The slug of a stage. @throws Unavailable where it does not go through the bore, by the field that is in the way */
export function slugOf(own: Own): SlugOf {
  const [diameter, length] = [own.quantity('ds').value, own.quantity('ls').value];
  const bore = own.quantity('Df').value - 2 * (own.optional('tb')?.value ?? 0);
  if (bore <= 0) throw new Unavailable('load', 'the wall of the barrel fills the former: there is no bore', 'tb');
  if (diameter >= bore)
    throw new Unavailable(
      'load',
      `the slug is wider than the bore: ${printQuantity(diameter, 'm')} of ${printQuantity(bore, 'm')}`,
      'ds',
    );
  const metal = slugMetals[own.choice('of') as SlugMetal];
  const solid = (Math.PI / 4) * diameter ** 2 * length * metal.density;
  return {
    diameter,
    length,
    mass: own.optional('ms')?.value ?? solid,
    saturation: metal.saturation,
    susceptibility: metal.susceptibility,
    start: -own.quantity('xs').value,
    friction: own.quantity('F').value,
  };
}

function slugProblems(own: Own): Problem[] {
  const [slug, length] = [slugOf(own), own.quantity('l').value];
  if (slug.length <= 1.6 * length) return [];
  const text = `The slug is longer than the coil: ${printQuantity(slug.length, 'm')} against ${printQuantity(length, 'm')}. One end is drawn in while the other is drawn back; about the length of the coil suits.`;
  return [{ severity: 'warning', slot: 'load', field: 'ls', text }];
}

export const coilgunStage = defineBlock({
  slot: 'load',
  kind: 'coilgun-stage',
  title: 'Coilgun stage',
  glyph: () => 'resistor-inductor',
  fields: {
    ...windingFields,
    ...leadFields,
    tb: quantity({
      symbol: 'tb',
      title: 'Wall of the barrel, inside the former',
      unit: 'm',
      min: 0,
      max: 1,
      initial: '0 mm',
      optional: true,
      help: 'Not metal: a closed metal tube takes the energy. A slit one may do.',
    }),
    ds: quantity({ symbol: 'ds', title: 'Diameter of the slug', unit: 'm', min: 0, max: 1, open: true, initial: '20 mm' }),
    ls: quantity({ symbol: 'ls', title: 'Length of the slug', unit: 'm', min: 0, max: 5, open: true, initial: '40 mm' }),
    of: {
      type: 'choice',
      title: 'The slug is of',
      initial: 'steel',
      options: Object.entries(slugMetals).map(([value, { title }]) => ({ value, title })),
    },
    ms: quantity({
      symbol: 'm',
      title: 'Mass that is moved',
      unit: 'kg',
      min: 0,
      max: 1e4,
      open: true,
      initial: null,
      optional: true,
      help: 'With what the slug carries. Empty: that of a solid slug.',
    }),
    xs: quantity({
      symbol: 'xs',
      title: 'Start: middle of the slug before that of the coil',
      unit: 'm',
      min: 0,
      max: 10,
      initial: '35 mm',
    }),
    F: quantity({ symbol: 'Ff', title: 'Friction', unit: 'N', min: 0, max: 1e5, initial: '0.5 N' }),
    diode: {
      type: 'choice',
      title: 'Freewheel diode across the store',
      initial: 'none',
      options: [
        { value: 'none', title: 'none' },
        { value: 'diode', title: 'yes' },
      ],
      help: 'It keeps the store from reversal, and lets the current flow on when the slug should be left alone. Reckoned with 0.9 V and 5 mΩ, on the launch page alone.',
    },
  },
  key: (own) => ({
    text: printQuantity(inductanceOf(windingOf(own)).value, 'H'),
    detail: `slug ${printQuantity(slugOf(own).mass, 'kg')}`,
  }),
  offers: coilOffers,
  circuit: (_own, rig, at) => coilParts(rig, at, 'coil with its leads, without the slug'),
  leavesOut: () => 'the slug and the freewheel diode: the launch page has them',
  figures: [
    ...coilFigures.filter(({ id }) => id !== 'coil-steady'),
    {
      id: 'slug-mass',
      title: 'Mass that is moved',
      slot: 'load',
      compute: (rig) =>
        ruled('mass that is moved', slugOf(rig.own('load')).mass, 'kg', 'as entered, or a solid slug of its metal'),
    },
  ],
  limits: coilLimits.filter(({ id }) => id !== 'coil-layer-voltage'),
  problems: (own, rig) => [...coilProblems(own, rig), ...slugProblems(own)],
  steps: (own) => [
    {
      id: 'launch-line',
      phase: 'prepare',
      text: `Barrel, coil and stand fixed; a trap behind the muzzle that holds a slug of ${printQuantity(slugOf(own).mass, 'kg')}, and nobody in line with either end of the barrel: it can leave backwards as well.`,
      hold: 'The trap stands, both ends are clear.',
      caution: 'A slug that is drawn in while the strap is off is a hand in the bore: load it with the strap on.',
    },
  ],
});
