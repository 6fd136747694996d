import { box, circle, gapInRail, over, type Glyph } from '../../block/index.ts';

export const sparkGapGlyph: Glyph = ({ x, top }) => [
  gapInRail(box(x - 8, top - 5, 16, 10)),
  over(circle(x - 14, top, 7)),
  over(circle(x + 14, top, 7)),
];

/** A pulse, and the broken line that leads from it to the switch. */
export const pulseGlyph: Glyph = ({ x, top }) => [
  { d: `M${x - 40} ${top - 24}h-30l-24 16`, dashed: true },
  { d: `M${x - 36} ${top - 18}h8v-12h10v12h8`, width: 1.6 },
];

/** A rod that is held to the gap, its hand guard across it. */
export const rodGlyph: Glyph = ({ x, top }) => [
  { d: `M${x - 32} ${top - 30}l-62 18`, width: 3 },
  { d: `M${x - 50} ${top - 32}l4 14`, width: 2 },
];
