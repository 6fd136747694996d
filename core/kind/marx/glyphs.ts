import { breakMark, circle, columnsOf, middleOf, over, plates, type Glyph } from '../../block/index.ts';

const pitch = 44;

/** Stages between two rails, with a gap from the top of each to the foot of the next; a break where there are more than three. */
export const erectingGlyph =
  (stages: number): Glyph =>
  (place) => {
    const { x, top, bottom } = place;
    const mid = middleOf(place);
    const { at, breakAt } = columnsOf(stages, stages > 3 ? 4 : 3, pitch);
    const xs = at.map((dx) => x + dx);
    // Between the last that is drawn in a row and the break no gap is drawn.
    const gaps = xs.slice(0, -1).filter((_, i) => breakAt === null || i < at.length - 2);
    return [
      ...(breakAt === null ? [] : breakMark(place, x + breakAt, stages - at.length)),
      ...xs.flatMap((cx) => [{ d: `M${cx} ${top}V${mid - 3}M${cx} ${mid + 3}V${bottom}` }, plates(cx, mid)]),
      ...gaps.flatMap((cx) => [
        {
          d: `M${cx} ${top + 14}l${pitch / 2 - 5} ${mid - top - 19}M${cx + pitch} ${bottom - 14}l${5 - pitch / 2} ${mid - bottom + 19}`,
        },
        over(circle(cx + pitch / 2 - 3, mid - 4, 3)),
        over(circle(cx + pitch / 2 + 3, mid + 4, 3)),
      ]),
    ];
  };
