/** Where a glyph is drawn: across the line at x, between the upper rail and the lower one, px. */
export interface Place {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
}

/** One stroke of a glyph, as path data of SVG. */
export interface Stroke {
  readonly d: string;
  /** Of the line, px; 2 where it is left out, 0 for none. */
  readonly width?: number;
  /** What fills it: the ground, so that it hides the rail it stands on, or the colour of the line. Nothing where left out. */
  readonly fill?: 'ground' | 'line';
  readonly dashed?: true;
  /** Words at a place, instead of a line. */
  readonly words?: { readonly x: number; readonly y: number; readonly text: string };
}

/** A graphical symbol after IEC 60617. One that lies on the upper rail goes around (x, top); one that stands, between the rails. */
export type Glyph = (place: Place) => readonly Stroke[];

export const middleOf = ({ top, bottom }: Place): number => (top + bottom) / 2;

export const circle = (x: number, y: number, r: number): string => ellipse(x, y, r, r);

export const ellipse = (x: number, y: number, rx: number, ry: number): string =>
  `M${x - rx} ${y}a${rx} ${ry} 0 1 0 ${2 * rx} 0a${rx} ${ry} 0 1 0 ${-2 * rx} 0z`;

export const box = (x: number, y: number, width: number, height: number): string => `M${x} ${y}h${width}v${height}h${-width}z`;

/** Over the rail it takes the place of. */
export const over = (d: string): Stroke => ({ d, fill: 'ground' });

/** Takes a piece out of the rail. */
export const gapInRail = (d: string): Stroke => ({ d, fill: 'ground', width: 0 });

/** What stands between the rails, led to by a line above and one below. */
export const upright = (place: Place, half: number, strokes: readonly Stroke[]): readonly Stroke[] => {
  const { x, top, bottom } = place;
  const mid = middleOf(place);
  return [{ d: `M${x} ${top}V${mid - half}M${x} ${mid + half}V${bottom}` }, ...strokes];
};

/** A winding along the rail. */
export const arcs = (x: number, y: number, turns: number): readonly Stroke[] => [
  gapInRail(box(x, y - 4, turns * 14, 8)),
  { d: `M${x} ${y}${'a7 7 0 0 1 14 0'.repeat(turns)}` },
];

/** The two plates of a capacitor that stands at a place. */
export const plates = (x: number, y: number): Stroke => ({ d: `M${x - 11} ${y - 3}h22M${x - 11} ${y + 3}h22`, width: 2.5 });

/**
 * Columns of equals in a row, px from its middle: all of them where there is room, else the first ones and the last with a break
 * between, at which it is said how many are left out.
 */
export function columnsOf(
  count: number,
  most: number,
  pitch: number,
): { readonly at: readonly number[]; readonly breakAt: number | null } {
  const drawn = Math.min(count, most);
  const spread = (slots: number, i: number) => (i - (slots - 1) / 2) * pitch;
  if (count <= most) return { at: Array.from({ length: drawn }, (_, i) => spread(drawn, i)), breakAt: null };
  // The place before the last is the break.
  const at = Array.from({ length: most }, (_, i) => i).filter((i) => i !== most - 2);
  return { at: at.map((i) => spread(most, i)), breakAt: spread(most, most - 2) };
}

/** Both rails broken at a place, with how many are left out there. */
export const breakMark = ({ top, bottom }: Place, at: number, left: number): readonly Stroke[] => [
  gapInRail(box(at - 15, top - 2, 30, 4)),
  gapInRail(box(at - 15, bottom - 2, 30, 4)),
  { d: `M${at - 15} ${top}h30M${at - 15} ${bottom}h30`, dashed: true },
  { d: '', width: 0, words: { x: at, y: (top + bottom) / 2 + 4, text: `${left} more` } },
];

/** Nothing stands there: a line that is crossed out. */
export const absent: Glyph = (place) => upright(place, 24, [{ d: `M${place.x - 6} ${middleOf(place) - 6}l12 12m0 -12l-12 12` }]);

export const nothing: Glyph = () => [];
