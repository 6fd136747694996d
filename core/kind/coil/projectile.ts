import { onlyWith, quantity, above, choice, choiceOf, fields, within } from '../../field/index.ts';
import { ruled, type Worked } from '../../formula/index.ts';
import { wireMetals, type WireMetal } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { Unavailable, type Own, type Problem } from '../../block/context.ts';
import { metalIn } from './winding.ts';
import type { windingFields } from './winding-fields.ts';
import type { FieldId } from '../../block/names.ts';

/** Fields that say the projectile and out of what. */
type LauncherFields = typeof projectileFields & typeof windingFields & { readonly tb: typeof barrelField };

/** What a slug is of: magnetisation at saturation, A/m, susceptibility at small fields, density, kg/m³, resistivity, Ω·m. From memory, each within 10 %, the susceptibility within half, the resistivity within a third. */
const slugMetals = {
  iron: { title: 'soft iron', saturation: 1.71e6, susceptibility: 1000, density: 7870, resistivity: 1.0e-7 },
  steel: { title: 'mild steel', saturation: 1.6e6, susceptibility: 400, density: 7850, resistivity: 1.5e-7 },
  tool: { title: 'hardened steel', saturation: 1.45e6, susceptibility: 80, density: 7800, resistivity: 3e-7 },
} as const;
export type SlugMetal = keyof typeof slugMetals;

export const barrelField = quantity('Barrel wall, inside the former', 'm', within(0, 1), '0 mm', {
  symbol: 'tb',
  optional: true,
  help: 'Not metal: a closed metal tube absorbs the energy. A slit one may do.',
});

/** Fields of what a launcher shoots. */
export const projectileFields = fields(
  {
    what: choice(
      'Projectile',
      { slug: 'iron slug', sleeve: 'conducting sleeve' },
      {
        help: 'Iron is pulled into the coil and must start before it; a closed sleeve of copper or aluminium is pushed out, and starts past its centre.',
      },
    ),
    ds: quantity('Projectile diameter', 'm', above(0, 1), '20 mm'),
    ls: quantity('Projectile length', 'm', above(0, 5), '40 mm'),
    of: onlyWith(
      'what',
      ['slug'],
      choiceOf(
        'Slug material',
        (Object.keys(slugMetals) as SlugMetal[]).map((id) => ({ id, title: slugMetals[id].title })),
        'steel',
      ),
    ),
    solid: onlyWith(
      'what',
      ['slug'],
      choice(
        'Slug construction',
        { solid: 'solid', slit: 'slit or laminated' },
        {
          help: 'In a solid slug eddy currents keep the field out for a while and cost some speed: the band of the prediction includes them.',
        },
      ),
    ),
    ws: onlyWith(
      'what',
      ['sleeve'],
      quantity('Sleeve wall', 'm', above(0, 0.2), '1 mm', { optional: true, help: 'For a sleeve.' }),
    ),
    ofs: onlyWith('what', ['sleeve'], choiceOf('Sleeve material', wireMetals, 'aluminium')),
    ms: quantity('Moving mass', 'kg', above(0, 1e4), null, {
      symbol: 'm',
      help: 'With anything it carries. Empty: the slug or sleeve alone.',
    }),
    xs: quantity('Start position, centre to centre, before the first coil', 'm', within(-10, 10), '35 mm', {
      help: 'Below zero: past the centre, where a sleeve starts.',
    }),
    F: quantity('Friction', 'N', within(0, 1e5), null, {
      symbol: 'Ff',
      help: 'Empty: 0.3 of the projectile’s weight (common practice, no source).',
    }),
  },
  { moving: ['what', 'ds', 'ls', 'of', 'solid', 'ws', 'ofs', 'ms', 'xs', 'F'] },
);

/** The projectile, in the bore of a coil. */
export interface Projectile {
  readonly diameter: number;
  readonly length: number;
  readonly mass: number;
  /** m from the middle of the first coil to its middle, below nought before it. */
  readonly start: number;
  readonly friction: number;
  readonly body:
    | {
        readonly kind: 'slug';
        readonly saturation: number;
        readonly susceptibility: number;
        /** Ω·m, and whether eddy currents find no way in it. */
        readonly resistivity: number;
        readonly laminated: boolean;
        readonly title: string;
      }
    | { readonly kind: 'sleeve'; readonly wall: number; readonly metal: WireMetal; readonly T: number };
}

/** Friction over weight where none was entered: common practice, no source. */
const usualFriction = 0.3;

const round = (d: number) => (Math.PI / 4) * d * d;

/** The projectile of a launcher. @throws Unavailable where it does not go through the bore, by the field that is in the way */
export function projectileOf(own: Own<LauncherFields>): Projectile {
  const [diameter, length] = [own.quantity('ds').value, own.quantity('ls').value];
  const bore = own.quantity('Df').value - 2 * (own.optional('tb')?.value ?? 0);
  if (bore <= 0) throw new Unavailable('load', 'the wall of the barrel fills the former: there is no bore', 'tb');
  const isSleeve = own.is('what', 'sleeve');
  if (diameter >= bore)
    throw new Unavailable(
      'load',
      `the ${isSleeve ? 'sleeve' : 'slug'} is wider than the bore: ${printQuantity(diameter, 'm')} of ${printQuantity(bore, 'm')}`,
      'ds',
    );
  const rest = { diameter, length, start: -own.quantity('xs').value };
  const moved = (mass: number) => ({ mass, friction: own.optional('F')?.value ?? usualFriction * mass * 9.80665 });
  if (!isSleeve) {
    const { density, ...metal } = slugMetals[own.choice('of') as SlugMetal];
    return {
      ...rest,
      ...moved(own.optional('ms')?.value ?? round(diameter) * length * density),
      body: { kind: 'slug', ...metal, laminated: own.is('solid', 'slit') },
    };
  }
  const wall = own.quantity('ws').value;
  if (2 * wall > diameter)
    throw new Unavailable(
      'load',
      `the wall of the sleeve fills it: ${printQuantity(wall, 'm')} of at most ${printQuantity(diameter / 2, 'm')}`,
      'ws',
    );
  const metal = metalIn(own, 'ofs');
  return {
    ...rest,
    ...moved(own.optional('ms')?.value ?? (round(diameter) - round(diameter - 2 * wall)) * length * metal.density),
    body: { kind: 'sleeve', wall, metal, T: own.quantity('T').value },
  };
}

/** Mass that is moved, for the page of the rig. */
export const massOf = (own: Own<LauncherFields>): Worked =>
  ruled(
    'moving mass',
    projectileOf(own).mass,
    'kg',
    own.is('what', 'sleeve') ? 'as entered, or a sleeve of its metal' : 'as entered, or a solid slug of its metal',
  );

/** What does not suit the coil it is in. */
export function projectileProblems(own: Own<LauncherFields>): Problem[] {
  const { length, start, body } = projectileOf(own);
  const coil = own.quantity('l').value;
  const found: Problem[] = [];
  const say = (field: FieldId<'load'>, text: string) => found.push({ severity: 'warning', slot: 'load', field, text });
  if (body.kind === 'slug' && length > 1.6 * coil)
    say(
      'ls',
      `The slug is longer than the coil: ${printQuantity(length, 'm')} against ${printQuantity(coil, 'm')}. One end is pulled in while the other is pulled back; about the length of the coil suits.`,
    );
  if (body.kind === 'slug' && start >= 0)
    say('xs', 'The slug starts at or past the centre of the coil: nothing pulls it on. Start it before the centre.');
  if (body.kind === 'sleeve' && start <= 0)
    say(
      'xs',
      'The sleeve starts before the centre of the coil: it is pushed back, out of the breech. Start it past the centre: a start position below zero.',
    );
  return found;
}
