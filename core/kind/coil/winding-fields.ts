import { onlyWith, quantity } from '../../field/index.ts';
import { wireMetals } from '../../material/index.ts';

/** Fields of a winding: shared by every load that has one. */
export const windingFields = {
  Df: quantity({ symbol: 'Df', title: 'Diameter of the former', unit: 'm', min: 0, max: 10, open: true, initial: '25 mm' }),
  l: quantity({ symbol: 'l', title: 'Winding length', unit: 'm', min: 0, max: 10, open: true, initial: '40 mm' }),
  section: {
    type: 'choice',
    title: 'Wire',
    initial: 'round',
    options: [
      { value: 'round', title: 'round' },
      { value: 'strip', title: 'strip' },
    ],
  },
  d: onlyWith(
    'section',
    ['round'],
    quantity({
      symbol: 'd',
      title: 'Diameter of the conductor',
      unit: 'm',
      min: 0,
      max: 0.1,
      open: true,
      initial: '14 AWG',
      help: 'Of round wire, without insulation; a gauge such as 14 AWG is understood.',
    }),
  ),
  w: onlyWith(
    'section',
    ['strip'],
    quantity({
      symbol: 'w',
      title: 'Width of the strip, along the coil',
      unit: 'm',
      min: 0,
      max: 1,
      open: true,
      initial: null,
      optional: true,
    }),
  ),
  t: onlyWith(
    'section',
    ['strip'],
    quantity({
      symbol: 't',
      title: 'Thickness of the strip',
      unit: 'm',
      min: 0,
      max: 0.1,
      open: true,
      initial: null,
      optional: true,
    }),
  ),
  build: quantity({
    symbol: 'ti',
    title: 'Insulation on each side',
    unit: 'm',
    min: 0,
    max: 0.02,
    initial: '40 µm',
    optional: true,
    help: 'Enamel of 1 to 2 mm wire has 30 to 60 µm a side (common practice, no source). Bare wire wound with space: half the space.',
  }),
  metal: {
    type: 'choice',
    title: 'Metal',
    initial: 'copper',
    options: wireMetals.map(({ id, title }) => ({ value: id, title })),
  },
  by: {
    type: 'choice',
    title: 'Wound by',
    initial: 'turns',
    options: [
      { value: 'turns', title: 'turns' },
      { value: 'layers', title: 'whole layers' },
      { value: 'wire', title: 'wire on hand' },
    ],
  },
  N: onlyWith(
    'by',
    ['turns'],
    quantity({ symbol: 'N', title: 'Turns', unit: '1', min: 1, max: 20_000, integer: true, initial: '44' }),
  ),
  m: onlyWith(
    'by',
    ['layers'],
    quantity({ symbol: 'm', title: 'Whole layers', unit: '1', min: 1, max: 500, integer: true, initial: '2' }),
  ),
  lw: onlyWith(
    'by',
    ['wire'],
    quantity({
      symbol: 'lw',
      title: 'Wire on hand',
      unit: 'm',
      min: 0,
      max: 1e5,
      open: true,
      initial: '5 m',
      help: 'As many whole turns as it makes.',
    }),
  ),
  lay: onlyWith('section', ['round'], {
    type: 'choice',
    title: 'Layers lie',
    initial: 'square',
    options: [
      { value: 'square', title: 'wire upon wire' },
      { value: 'grooves', title: 'in the grooves' },
    ],
    help: 'By hand and with paper between: wire upon wire. Round wire alone.',
  }),
  T: quantity({ symbol: 'T', title: 'Temperature', unit: 'K', min: 200, max: 600, initial: '20 °C' }),
} as const;

/** Fields of what leads to a winding. */
export const leadFields = {
  Rl: quantity({
    symbol: 'Rl',
    title: 'Resistance of its leads',
    unit: 'Ω',
    min: 0,
    max: 1e6,
    initial: '2 mΩ ±30 %',
    tolerance: true,
  }),
  Ll: quantity({
    symbol: 'Ll',
    title: 'Inductance of its leads',
    unit: 'H',
    min: 0,
    max: 1,
    initial: '500 nH ±30 %',
    tolerance: true,
  }),
} as const;
