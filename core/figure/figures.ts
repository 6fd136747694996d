import { ifKnown, type FigureId, type FigureSpec, type Slot } from '../block/index.ts';
import type { Worked } from '../formula/index.ts';
import type { Corners } from './band.ts';
import { reasonOf, type Band } from './band.ts';
import { figureSpecs } from './context.ts';

/** A headline number of a rig: worked out, with its range over the tolerances, or the reason why it cannot be. */
export type Figure =
  | {
      readonly id: FigureId;
      readonly title: string;
      readonly slot: Slot;
      readonly ok: true;
      readonly worked: Worked;
      readonly band: Band;
    }
  | { readonly id: FigureId; readonly title: string; readonly slot: Slot; readonly ok: false; readonly reason: string };

/** Where stages erect one after another, or something moves in the load, the closed form is not what is predicted: its title says so. */
function titleOf(corners: Corners, { title, ofShot }: FigureSpec): string {
  const erects = ofShot === true && ifKnown(() => corners.nominal().offers('store').ladder ?? null) !== null;
  if (erects) return `${title}, closed form`;
  return ofShot === true && ifKnown(() => corners.nominal().offers('load').launches ?? null) ? `${title}, nothing moving` : title;
}

function figureOf(corners: Corners, spec: FigureSpec): Figure {
  const { id, slot } = spec;
  const title = titleOf(corners, spec);
  try {
    const worked = corners.nominal().figure(id);
    return { id, title, slot, ok: true, worked, band: corners.bandOf((reading) => reading.figure(id)) };
  } catch (error) {
    const known = reasonOf(error);
    if (!known) throw error;
    return { id, title, slot, ok: false, reason: known.reason };
  }
}

/** Figures that cannot be had at all, without the bands of those that can. */
export const missingFigures = (corners: Corners): Figure[] =>
  [...figureSpecs(corners.rig).values()].flatMap((spec) => {
    try {
      corners.nominal().figure(spec.id);
      return [];
    } catch (error) {
      const known = reasonOf(error);
      if (!known) throw error;
      return [{ id: spec.id, title: titleOf(corners, spec), slot: spec.slot, ok: false as const, reason: known.reason }];
    }
  });

/** Every figure of the rig that `corners` reads, in the order of the registry. */
export const figuresOf = (corners: Corners): Figure[] =>
  [...figureSpecs(corners.rig).values()].map((spec) => figureOf(corners, spec));
