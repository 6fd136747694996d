import { box, circle, middleOf, over, upright, type Glyph } from '../../block/index.ts';

export const resistorDownGlyph: Glyph = (place) => upright(place, 24, [over(box(place.x - 9, middleOf(place) - 24, 18, 48))]);

/** A contact that is held open, above its resistor. */
export const relayDownGlyph: Glyph = ({ x, top, bottom }) => [
  { d: `M${x} ${top}v8M${x} ${top + 22}v6M${x} ${top + 66}V${bottom}` },
  { d: `M${x} ${top + 22}L${x - 9} ${top + 9}`, width: 1.6 },
  { d: circle(x, top + 9, 1.8), fill: 'line' },
  { d: circle(x, top + 22, 1.8), fill: 'line' },
  over(box(x - 9, top + 28, 18, 38)),
];

/** A tool that is put to both terminals by hand. */
export const probeGlyph: Glyph = (place) => {
  const { x, top, bottom } = place;
  const mid = middleOf(place);
  return [
    { d: `M${x} ${top}v8m0 8V${mid - 16}M${x} ${mid + 22}V${bottom - 16}m0 8v8`, dashed: true },
    { d: `M${x - 4} ${top + 12}l4 5l4 -5M${x - 4} ${bottom - 12}l4 -5l4 5` },
    over(box(x - 8, mid - 16, 16, 38)),
  ];
};
