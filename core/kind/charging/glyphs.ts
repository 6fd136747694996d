import { arcs, box, circle, over, type Glyph, type Stroke } from '../../block/index.ts';

const diodeAt = (x: number, y: number): Stroke => over(`M${x - 11} ${y - 10}v20l22-10zM${x + 11} ${y - 10}v20`);

export const wireGlyph: Glyph = ({ x, top }) => [over(circle(x - 30, top, 3.5)), over(circle(x + 30, top, 3.5))];
export const resistorGlyph: Glyph = ({ x, top }) => [over(box(x - 30, top - 9, 60, 18))];
export const diodeGlyph: Glyph = ({ x, top }) => [diodeAt(x - 32, top), over(box(x - 8, top - 9, 52, 18))];
export const chokeGlyph: Glyph = ({ x, top }) => arcs(x - 28, top, 4);
export const chainGlyph: Glyph = ({ x, top }) => [diodeAt(x - 32, top), ...arcs(x - 10, top, 4)];
