import { circle, middleOf, over, plates, type Glyph } from '../../block/index.ts';

const pitch = 44;

/** Stages between two rails, with a gap from the top of each to the foot of the next. */
export const erectingGlyph: Glyph = (place) => {
  const { x, top, bottom } = place;
  const mid = middleOf(place);
  const [left, right] = [x - pitch, x];
  return [
    ...[left, right, x + pitch].flatMap((cx) => [{ d: `M${cx} ${top}V${mid - 3}M${cx} ${mid + 3}V${bottom}` }, plates(cx, mid)]),
    ...[left, right].flatMap((cx) => [
      {
        d: `M${cx} ${top + 14}l${pitch / 2 - 5} ${mid - top - 19}M${cx + pitch} ${bottom - 14}l${5 - pitch / 2} ${mid - bottom + 19}`,
      },
      over(circle(cx + pitch / 2 - 3, mid - 4, 3)),
      over(circle(cx + pitch / 2 + 3, mid + 4, 3)),
    ]),
  ];
};
