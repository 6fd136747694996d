import { plates, type Glyph } from '../../block/index.ts';

interface Drawn {
  /** Elements in series and in parallel. */
  readonly ns: number;
  readonly np: number;
  readonly polar: boolean;
}

const pitch = 36;

/** A bank: at most four columns and three rows are drawn; its label says how many there are. */
export const bankGlyph =
  ({ ns, np, polar }: Drawn): Glyph =>
  ({ x, top, bottom }) => {
    const [columns, rows] = [Math.min(np, 4), Math.min(ns, 3)];
    const xs = Array.from({ length: columns }, (_, i) => x + (i - (columns - 1) / 2) * pitch);
    const ys = Array.from({ length: rows }, (_, i) => top + ((bottom - top) * (i + 1)) / (rows + 1));
    return xs.flatMap((cx) => [
      {
        d: [top, ...ys.map((y) => y + 3)]
          .map((from, i) => `M${cx} ${from}V${i < ys.length ? (ys[i] ?? 0) - 3 : bottom}`)
          .join(''),
      },
      ...ys.map((y) => plates(cx, y)),
      ...(polar ? ys.map((y) => ({ d: `M${cx - 17} ${y - 8}h6M${cx - 14} ${y - 11}v6`, width: 1.2 })) : []),
    ]);
  };

export const oneCapacitorGlyph: Glyph = bankGlyph({ ns: 1, np: 1, polar: false });
