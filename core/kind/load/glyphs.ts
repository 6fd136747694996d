import { box, circle, middleOf, over, upright, type Glyph } from '../../block/index.ts';

export const sparkDownGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 16, [over(circle(x, mid - 11, 5)), over(circle(x, mid + 11, 5))]);
};

/** A resistor that is a column of water: waves in its body. */
export const waterResistorGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 26, [
    over(box(x - 10, mid - 26, 20, 52)),
    { d: [-12, 0, 12].map((y) => `M${x - 7} ${mid + y}q3.5 -5 7 0t7 0`).join(''), width: 1.4 },
  ]);
};
