import { box, over, type Glyph } from '../../block/index.ts';

/** Two bars, one above the other, on the return. */
export const busBarsGlyph: Glyph = ({ x, bottom }) => [
  over(box(x - 30, bottom - 8, 60, 6)),
  over(box(x - 30, bottom + 1, 60, 6)),
];

/** A cable in its screen, on the return. */
export const cableGlyph: Glyph = ({ x, bottom }) => [
  over(box(x - 30, bottom - 8, 60, 16)),
  { d: `M${x - 38} ${bottom}h76`, width: 1.6 },
];
