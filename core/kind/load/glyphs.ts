import { circle, middleOf, over, upright, type Glyph } from '../../block/index.ts';

export const sparkDownGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 16, [over(circle(x, mid - 11, 5)), over(circle(x, mid + 11, 5))]);
};
