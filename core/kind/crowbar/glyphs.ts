import { circle, middleOf, over, upright, type Glyph } from '../../block/index.ts';

/** A diode that points at the rail: it carries what would take the load below the return. */
export const crowbarDiodeGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 12, [
    { d: `M${x - 11} ${mid + 10}h22l-11 -18zM${x - 11} ${mid - 9}h22M${x} ${mid - 12}v4M${x} ${mid + 10}v2` },
  ]);
};

/** Two balls across the load, and the trigger that fires them. */
export const crowbarGapGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 16, [
    over(circle(x, mid - 10, 6)),
    over(circle(x, mid + 10, 6)),
    { d: `M${x - 18} ${mid}h10m-4 -3l4 3l-4 3`, width: 1.4 },
  ]);
};
