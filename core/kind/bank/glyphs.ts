import { breakMark, columnsOf, plates, type Glyph } from '../../block/index.ts';

interface Drawn {
  /** Elements in series and in parallel. */
  readonly ns: number;
  readonly np: number;
  readonly polar: boolean;
}

const pitch = 38;

/** A bank: at most four strings are drawn, with a break where there are more, and three rows; its label says how many there are. */
export const bankGlyph =
  ({ ns, np, polar }: Drawn): Glyph =>
  (place) => {
    const { x, top, bottom } = place;
    const rows = Math.min(ns, 3);
    const { at, breakAt } = columnsOf(np, 4, pitch);
    const xs = at.map((dx) => x + dx);
    const ys = Array.from({ length: rows }, (_, i) => top + ((bottom - top) * (i + 1)) / (rows + 1));
    const strings = xs.flatMap((cx) => [
      {
        d: [top, ...ys.map((y) => y + 3)]
          .map((from, i) => `M${cx} ${from}V${i < ys.length ? (ys[i] ?? 0) - 3 : bottom}`)
          .join(''),
      },
      ...ys.map((y) => plates(cx, y)),
      ...(polar ? ys.map((y) => ({ d: `M${cx - 17} ${y - 8}h6M${cx - 14} ${y - 11}v6`, width: 1.2 })) : []),
    ]);
    return breakAt === null ? strings : [...breakMark(place, x + breakAt, np - at.length), ...strings];
  };

export const oneCapacitorGlyph: Glyph = bankGlyph({ ns: 1, np: 1, polar: false });
