import { box, circle, gapInRail, over, type Glyph } from '../../block/index.ts';

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

/** A bar between two leads, and the gate that acts on it. */
export const transistorGlyph: Glyph = ({ x, top }) => [
  gapInRail(box(x - 18, top - 4, 36, 12)),
  {
    d: `M${x - 18} ${top}h8M${x + 18} ${top}h-8M${x - 10} ${top - 10}v20M${x + 10} ${top - 10}v20M${x - 10} ${top - 6}h20M${x - 10} ${top + 6}h20`,
  },
  { d: `M${x - 14} ${top + 16}h28M${x} ${top + 16}v8`, width: 1.4 },
];

/** Two electrodes in one envelope. */
export const tubeGlyph: Glyph = ({ x, top }) => [
  over(circle(x, top, 20)),
  { d: `M${x - 20} ${top}h12M${x - 8} ${top - 8}v16M${x + 20} ${top}h-10M${x + 10} ${top - 8}q-8 8 0 16` },
];

/** An arm on its hinge above the contact that it falls on. */
export const droppedArmGlyph: Glyph = ({ x, top }) => [
  gapInRail(box(x - 22, top - 5, 44, 10)),
  { d: `M${x - 22} ${top}h2l34 -20M${x + 14} ${top}h8` },
  over(circle(x - 19, top, 3)),
  { d: `M${x + 14} ${top - 16}v9m-4 -4l4 4l4 -4`, width: 1.4 },
];

/** A gate lead with its resistor, from a small supply to the switch. */
export const gateGlyph: Glyph = ({ x, top }) => [
  over(box(x - 62, top - 34, 20, 10)),
  { d: `M${x - 30} ${top - 29}h-12M${x - 62} ${top - 29}h-14l-18 18`, width: 1.6 },
];
