import { box, circle, ellipse, middleOf, over, upright, type Glyph } from '../../block/index.ts';

export const voltmeterGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 16, [over(circle(x, mid, 16)), { d: `M${x - 5} ${mid - 6}l5 12l5 -12`, width: 1.8 }]);
};

/** A pointer instrument below its series resistor. */
export const movementGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 32, [
    over(box(x - 7, mid - 32, 14, 26)),
    { d: `M${x} ${mid - 6}v6` },
    over(circle(x, mid + 16, 16)),
    { d: `M${x} ${mid + 24}l8 -16m-6 3l6 -3l0 7` },
  ]);
};

export const dividerGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 32, [
    over(box(x - 7, mid - 32, 14, 34)),
    { d: `M${x} ${mid + 2}v10M${x} ${mid + 7}h18` },
    over(circle(x + 21, mid + 7, 3)),
    over(box(x - 7, mid + 12, 14, 20)),
  ]);
};

export const shuntGlyph: Glyph = ({ x, bottom }) => [
  over(box(x - 26, bottom - 6, 52, 12)),
  { d: `M${x - 16} ${bottom - 6}v-7M${x + 16} ${bottom - 6}v-7`, width: 1.4 },
];

export const loopGlyph: Glyph = ({ x, bottom }) => [{ d: ellipse(x, bottom, 7, 14) }];
