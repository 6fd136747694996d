import type { Piece } from './compose/bank.ts';
import type { Part } from './part.ts';
import { meterUncertainty, valuesOf } from './values.ts';

/** A part on the bench, with the id it is kept under. */
export interface Kept {
  readonly id: string;
  readonly part: Part;
}

export type PiecesOf =
  | { readonly ok: true; readonly pieces: readonly Piece[]; readonly measured: boolean }
  | { readonly ok: false; readonly reason: string };

/** The pieces of one part that the composer can assign: as many as there are of it, each with an id of its own. */
export function piecesOf({ id, part }: Kept): PiecesOf {
  if (part.kind !== 'capacitor') return { ok: false, reason: 'is no capacitor' };
  if (part.condition === 'failed') return { ok: false, reason: 'has failed' };
  if (part.quantity < 1) return { ok: false, reason: 'there is none of it' };
  const { C, Vdc } = valuesOf(part);
  if (!C) return { ok: false, reason: 'its capacitance is not known, or its elements cannot be used as it says' };
  if (!Vdc) return { ok: false, reason: 'its DC limit is not known' };
  const uncertainty = C.tolerance
    ? Math.max(C.tolerance.minus, C.tolerance.plus)
    : C.from === 'measured'
      ? meterUncertainty
      : 0.2;
  const pieces = Array.from({ length: part.quantity }, (_, i): Piece => ({
    id: part.quantity === 1 ? id : `${id}#${i + 1}`,
    capacitance: C.value,
    uncertainty: Math.min(uncertainty, 0.9),
    rating: Vdc.value,
  }));
  return { ok: true, pieces, measured: C.from === 'measured' };
}

/** The part behind a piece. */
export const partIdOf = (piece: Piece): string => piece.id.split('#')[0] ?? piece.id;
