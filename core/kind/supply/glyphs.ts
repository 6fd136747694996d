import { box, circle, middleOf, over, upright, type Glyph, type Place, type Stroke } from '../../block/index.ts';

const earth = ({ x, bottom }: Place): Stroke => ({ d: `M${x} ${bottom}v12m-13 0h26m-21 5h16m-11 5h6` });

/** A supply standing between the rails, earthed at its foot. */
const source = (place: Place, half: number, strokes: readonly Stroke[]) => [...upright(place, half, strokes), earth(place)];

export const dcSourceGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return source(place, 19, [{ d: circle(x, mid, 19) }, { d: `M${x - 9} ${mid - 3}h18M${x - 9} ${mid + 3}h4m3 0h4m3 0h4` }]);
};

/** One that is turned up by hand. */
export const benchSourceGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return [...dcSourceGlyph(place), { d: `M${x - 24} ${mid + 22}L${x + 22} ${mid - 22}m-9 1l9 -1l-2 9` }];
};

export const batteryGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  const cell = (y: number) => `M${x - 16} ${y}h32M${x - 8} ${y + 8}h16`;
  return source(place, 15, [{ d: `${cell(mid - 15)}${cell(mid + 7)}M${x} ${mid - 7}v14` }]);
};

export const transformerGlyph: Glyph = (place) => {
  const [x, mid] = [place.x, middleOf(place)];
  return source(place, 24, [{ d: circle(x, mid - 9, 15) }, { d: circle(x, mid + 9, 15) }]);
};

/** A box that changes what comes in, above its diagonal, to direct current. */
const changes =
  (above: (x: number, mid: number) => string): Glyph =>
  (place) => {
    const [x, mid] = [place.x, middleOf(place)];
    return source(place, 18, [
      over(box(x - 18, mid - 18, 36, 36)),
      { d: `M${x - 18} ${mid + 18}l36 -36` },
      { d: `M${x + 2} ${mid + 7}h11m-11 5h3m2 0h2m2 0h2${above(x, mid)}`, width: 1.6 },
    ]);
  };

export const converterGlyph = changes((x, mid) => `M${x - 13} ${mid - 12}h11m-11 5h3m2 0h2m2 0h2`);
export const multiplierGlyph = changes((x, mid) => `M${x - 13} ${mid - 8}q3 -6 6 0t6 0`);
