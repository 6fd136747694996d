import { box, middleOf, over, plates, type Glyph } from '../../block/index.ts';

/** Capacitors below a rail of coils: three stand for all of its sections. */
export const networkGlyph: Glyph = (place) => {
  const { x, top, bottom } = place;
  const mid = middleOf(place);
  const xs = [-34, 0, 34].map((dx) => x + dx);
  return [
    {
      d: xs.map((cx) => `M${cx} ${top + 14}V${mid - 3}M${cx} ${mid + 3}V${bottom}`).join(''),
    },
    { d: `M${x} ${top}v14M${x - 34} ${top + 14}${'a4.25 4.25 0 0 1 8.5 0'.repeat(8)}`, width: 1.6 },
    ...xs.map((cx) => plates(cx, mid)),
  ];
};

/** A cable that goes off to the left, its inner conductor at the rail. */
export const lineGlyph: Glyph = (place) => {
  const { x, top, bottom } = place;
  const mid = middleOf(place);
  return [
    { d: `M${x} ${top}V${mid}M${x} ${mid + 10}V${bottom}M${x} ${mid}h-34`, width: 1.6 },
    over(box(x - 34, mid - 10, 34, 20)),
    { d: `M${x - 34} ${mid}h34`, width: 1.2 },
  ];
};
