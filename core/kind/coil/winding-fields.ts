import { onlyWith, quantity, above, choice, choiceOf, fields, whole, within } from '../../field/index.ts';
import { wireMetals } from '../../material/index.ts';

/** Fields of a winding: shared by every load that has one. */
export const windingFields = fields(
  {
    Df: quantity('Diameter of the former', 'm', above(0, 10), '25 mm'),
    l: quantity('Winding length', 'm', above(0, 10), '40 mm'),
    section: choice('Wire', { round: 'round', strip: 'strip' }),
    d: onlyWith(
      'section',
      ['round'],
      quantity('Diameter of the conductor', 'm', above(0, 0.1), '14 AWG', {
        wire: true,
        help: 'Round wire, without insulation; a gauge such as 14 AWG is understood.',
      }),
    ),
    w: onlyWith('section', ['strip'], quantity('Width of the strip, along the coil', 'm', above(0, 1), null)),
    t: onlyWith('section', ['strip'], quantity('Thickness of the strip', 'm', above(0, 0.1), null)),
    build: quantity('Insulation on each side', 'm', within(0, 0.02), '40 µm', {
      symbol: 'ti',
      optional: true,
      help: 'Enamel on 1 to 2 mm wire: 30 to 60 µm a side (common practice, no source). Bare wire wound with space: half the space.',
    }),
    metal: choiceOf('Metal', wireMetals, 'copper'),
    by: choice('Wound by', { turns: 'turns', layers: 'whole layers', wire: 'wire available' }),
    N: onlyWith('by', ['turns'], quantity('Turns', '1', whole(1, 20_000), '44')),
    m: onlyWith('by', ['layers'], quantity('Whole layers', '1', whole(1, 500), '2')),
    lw: onlyWith(
      'by',
      ['wire'],
      quantity('Wire available', 'm', above(0, 1e5), '5 m', { help: 'As many whole turns as it gives.' }),
    ),
    lay: onlyWith(
      'section',
      ['round'],
      choice(
        'Layer packing',
        { square: 'wire on wire', grooves: 'nested in the grooves' },
        { help: 'Wound by hand or with paper between: wire on wire. Nested: round wire only.' },
      ),
    ),
    T: quantity('Temperature', 'K', within(200, 600), '20 °C'),
  },
  { essentials: ['N', 'm', 'lw'], geometry: ['build', 'metal', 'lay', 'T'] },
);

/** What a winding takes from a reel on the shelf. */
export const wireFromShelf = {
  part: 'wire',
  fields: { d: 'd', lw: 'length' },
  choices: () => ({ section: 'round' }),
} as const;

/** What a winding is, by the ids of its fields. */
export const windingFieldIds = Object.keys(windingFields);

/** Fields of what leads to a winding. */
export const leadFields = fields(
  {
    Rl: quantity('Resistance of its leads', 'Ω', within(0, 1e6), '2 mΩ ±30 %', { tolerance: true }),
    Ll: quantity('Inductance of its leads', 'H', within(0, 1), '500 nH ±30 %', { tolerance: true }),
  },
  { geometry: ['Rl', 'Ll'] },
);

/** What was read off a coil that is there: it comes before what its wire gives. */
export const measuredFields = fields(
  {
    Rm: quantity('Resistance, measured', 'Ω', above(0, 1e6), null, {
      tolerance: true,
      optional: true,
      help: 'For DC, four wires, of the coil alone. Empty: from its wire.',
    }),
    Lm: quantity('Inductance, measured', 'H', above(0, 1e3), null, {
      tolerance: true,
      optional: true,
      help: 'Of the coil alone, nothing in its bore, at about the frequency of the pulse. Empty: from its turns.',
    }),
  },
  { geometry: ['Rm', 'Lm'] },
);
export const measuredFieldIds = Object.keys(measuredFields);

/** Fields of everything that is wound and has leads. */
export type WoundFields = typeof windingFields & typeof measuredFields & typeof leadFields;
