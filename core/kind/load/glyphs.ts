import { box, circle, middleOf, over, upright, type Glyph } from '../../block/index.ts';

export const sparkDownGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 16, [over(circle(x, mid - 11, 5)), over(circle(x, mid + 11, 5))]);
};

/** A capacitor and beside it two electrodes in a gas. */
export const gasChannelGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  const [gas, plates] = [x - 8, x + 18];
  return upright(place, 30, [
    { d: `M${gas} ${mid - 30}H${plates}v26M${gas} ${mid + 30}H${plates}v-26` },
    { d: `M${plates - 8} ${mid - 4}h16M${plates - 8} ${mid + 4}h16` },
    over(box(gas - 10, mid - 20, 20, 40)),
    { d: `M${gas} ${mid - 30}v21M${gas} ${mid + 30}v-21M${gas - 6} ${mid - 9}h12M${gas - 6} ${mid + 9}h12` },
  ]);
};

/** Two windings with a core between them. */
export const pulseTransformerGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  const winding = (side: number) => `M${x + side * 13} ${mid - 24}${`a8 8 0 0 ${side < 0 ? 1 : 0} 0 16`.repeat(3)}`;
  return upright(place, 24, [
    { d: `${winding(-1)}M${x - 13} ${mid - 24}h13M${x - 13} ${mid + 24}h13` },
    { d: winding(1) },
    { d: `M${x - 2} ${mid - 22}v44M${x + 2} ${mid - 22}v44`, width: 1.4 },
  ]);
};

/** A resistor that is a column of water: waves in its body. */
export const waterResistorGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return upright(place, 26, [
    over(box(x - 10, mid - 26, 20, 52)),
    { d: [-12, 0, 12].map((y) => `M${x - 7} ${mid + y}q3.5 -5 7 0t7 0`).join(''), width: 1.4 },
  ]);
};
