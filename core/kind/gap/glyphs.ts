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

/** A rod that is held to the gap. */
export const rodGlyph: Glyph = ({ x, top }) => [
  { d: `M${x - 54} ${top - 34}L${x - 8} ${top - 8}`, width: 3 },
  { d: `M${x - 48} ${top - 38}l-6 10`, width: 2 },
];
