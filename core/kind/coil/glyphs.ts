import { box, middleOf, over, type Glyph } from '../../block/index.ts';

/** A resistance on the rail, and the winding that it belongs to. */
export const resistorInductorGlyph: Glyph = (place) => {
  const { x, top, bottom } = place;
  return [
    over(box(x - 78, top - 9, 52, 18)),
    { d: `M${x} ${top}V${middleOf(place) - 24}${'a8 8 0 0 1 0 16'.repeat(3)}V${bottom}` },
  ];
};
