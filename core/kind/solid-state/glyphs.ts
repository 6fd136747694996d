import { box, gapInRail, over, type Glyph } from '../../block/index.ts';

export const makeContactGlyph: Glyph = ({ x, top }) => [
  gapInRail(box(x - 22, top - 5, 44, 10)),
  { d: `M${x - 22} ${top}h4L${x + 17} ${top - 17}M${x + 18} ${top}h4` },
];

/** A thyristor of a size; a negative one looks the other way. */
const body = (x: number, y: number, s: number) =>
  `M${x - 13 * s} ${y - 12 * s}v${24 * s}l${24 * s} ${-12 * s}zM${x + 11 * s} ${y - 12 * s}v${24 * s}M${x + 11 * s} ${y + 4 * s}l${12 * s} ${14 * s}`;

export const thyristorGlyph: Glyph = ({ x, top }) => [{ d: body(x, top, 1) }];

export const thyristorPairGlyph: Glyph = ({ x, top }) => [
  over(box(x - 32, top - 13, 64, 26)),
  { d: body(x, top - 13, 0.72) + body(x, top + 13, -0.72), width: 1.4 },
];
