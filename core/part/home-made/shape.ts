import type { FieldSpec } from '../../field/index.ts';
import { capacitorFormulas, type Formula } from '../../formula/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { countOf } from '../../field/index.ts';
import { commonFields, foilFields, insideField, size } from './fields.ts';

/** Plain SI values of a design's quantity fields. */
export type Sizes = Readonly<Record<string, number>>;

/** One thing to cut or make ready. */
export interface CutPiece {
  readonly piece: string;
  readonly count: number;
  readonly size: string;
}

/** A way to make a capacitor at home. A new one is an entry of the registry below. */
export interface Shape {
  /** kebab-case. */
  readonly id: string;
  readonly title: string;
  /** What it is made of and how, in a line. */
  readonly says: string;
  readonly fields: Readonly<Record<string, FieldSpec>>;
  readonly formula: Formula;
  /** Inputs of the formula but `er`, from the sizes. */
  inputs(sizes: Sizes): Record<string, number>;
  /** Inputs that are thicknesses of the dielectric: fitted together when it turns out thicker than its gauge says. */
  readonly thicknesses: readonly string[];
  /** What half of the prediction comes from, most likely. */
  readonly half: string;
  /** Length and width of one foil as its current sees it; null where there is none. */
  foil(sizes: Sizes): { readonly length: number; readonly width: number } | null;
  cuts(sizes: Sizes): readonly CutPiece[];
}

const mm = (metres: number): string => printQuantity(metres, 'm', { digits: 4, trim: true });
const by = (a: number, b: number): string => `${mm(a)} × ${mm(b)}`;
const at = (sizes: Sizes, id: string): number => sizes[id] ?? NaN;
const thickness = size('t', 'Thickness of the dielectric', '0.2 mm', 0.1, 'All layers between two foils together.');
const asFormula = (formula: unknown): Formula => formula as Formula;

const sheet: Shape = {
  id: 'sheet',
  title: 'Flat sheet between two foils',
  says: 'Two foils on the two faces of one sheet.',
  fields: {
    a: size('a', 'Foil length', '30 cm'),
    b: size('b', 'Foil width', '20 cm'),
    t: thickness,
    ...commonFields,
    ...foilFields,
  },
  formula: asFormula(capacitorFormulas.plateCapacitance),
  inputs: (s) => ({ A: at(s, 'a') * at(s, 'b'), t: at(s, 't') }),
  thicknesses: ['t'],
  half: 'Half: two layers lie where the thickness counts one.',
  foil: (s) => ({ length: at(s, 'a'), width: at(s, 'b') }),
  cuts: (s) => [
    { piece: 'foil, with a tab', count: 2, size: by(at(s, 'a'), at(s, 'b')) },
    { piece: 'dielectric sheet', count: 1, size: by(at(s, 'a') + 2 * at(s, 'margin'), at(s, 'b') + 2 * at(s, 'margin')) },
  ],
};

const stack: Shape = {
  id: 'stack',
  title: 'Stacked plates',
  says: 'Plates and sheets in turn, every other plate joined; both faces of the inner plates count.',
  fields: {
    a: size('a', 'Plate length', '20 cm'),
    b: size('b', 'Plate width', '15 cm'),
    n: { ...countOf('Number of plates'), min: 2, max: 1000, initial: '11' },
    t: thickness,
    ...commonFields,
    ...foilFields,
  },
  formula: asFormula(capacitorFormulas.stackCapacitance),
  inputs: (s) => ({ A: at(s, 'a') * at(s, 'b'), t: at(s, 't'), n: at(s, 'n') }),
  thicknesses: ['t'],
  half: 'Half: every other plate is not joined to its tab.',
  // Every plate carries a share of the current: as one foil as wide as half of them together.
  foil: (s) => ({ length: at(s, 'a'), width: (at(s, 'b') * at(s, 'n')) / 2 }),
  cuts: (s) => [
    { piece: 'plate, with a tab', count: at(s, 'n'), size: by(at(s, 'a'), at(s, 'b')) },
    {
      piece: 'dielectric sheet, and one below and above',
      count: at(s, 'n') + 1,
      size: by(at(s, 'a') + 2 * at(s, 'margin'), at(s, 'b') + 2 * at(s, 'margin')),
    },
  ],
};

const rolled: Shape = {
  id: 'rolled',
  title: 'Rolled sandwich',
  says: 'Foil, sheet, foil, sheet, rolled up: each foil then faces the other on both sides, and the capacitance doubles.',
  fields: {
    w: size('w', 'Foil width', '20 cm'),
    l: size('l', 'Foil length', '2 m'),
    t: thickness,
    ...commonFields,
    ...foilFields,
  },
  formula: asFormula(capacitorFormulas.rolledCapacitance),
  inputs: (s) => ({ w: at(s, 'w'), l: at(s, 'l'), t: at(s, 't') }),
  thicknesses: ['t'],
  half: 'Half: the second sheet is missing or too short, so that only one face of each foil counts.',
  foil: (s) => ({ length: at(s, 'l'), width: at(s, 'w') }),
  cuts: (s) => [
    { piece: 'foil, with a tab', count: 2, size: by(at(s, 'l'), at(s, 'w')) },
    {
      piece: 'dielectric strip',
      count: 2,
      // One turn more at the outside covers the last foil.
      size: by(at(s, 'l') + 2 * at(s, 'margin') + 0.1, at(s, 'w') + 2 * at(s, 'margin')),
    },
  ],
};

const bottle: Shape = {
  id: 'bottle',
  title: 'Foil on a bottle',
  says: 'Foil outside on wall and base; inside foil, or salt water to the same height.',
  fields: {
    d: size('d', 'Inner diameter', '80 mm', 10),
    h: size('h', 'Height of the foil', '15 cm', 10),
    t: size('t', 'Wall', '3 mm', 0.1),
    tb: size('t_b', 'Base', '4 mm', 0.1),
    ...commonFields,
    ...foilFields,
    ...insideField,
  },
  formula: asFormula(capacitorFormulas.bottleCapacitance),
  inputs: (s) => ({ h: at(s, 'h'), d: at(s, 'd'), t: at(s, 't'), tb: at(s, 'tb') }),
  thicknesses: ['t', 'tb'],
  half: 'Half: the foil ends lower than was typed inside or outside, or the base has no foil.',
  foil: (s) => ({ length: at(s, 'h'), width: Math.PI * at(s, 'd') }),
  cuts: (s) => {
    const outer = at(s, 'd') + 2 * at(s, 't');
    return [
      { piece: 'foil round the outside', count: 1, size: by(Math.PI * outer, at(s, 'h')) },
      { piece: 'foil under the base, round', count: 1, size: `⌀ ${mm(outer)}` },
      { piece: 'filling or foil inside, to a height of', count: 1, size: mm(at(s, 'h')) },
      { piece: 'bare wall above the foil', count: 1, size: mm(at(s, 'margin')) },
    ];
  },
};

/** In the order in which they are offered. */
export const shapes: readonly Shape[] = [bottle, sheet, rolled, stack];

const byId = new Map(shapes.map((s) => [s.id, s]));

/** @throws Error where no such shape is registered; the schema lets none through */
export function shapeOf(id: string): Shape {
  const found = byId.get(id);
  if (!found) throw new Error(`no shape ${id}`);
  return found;
}
