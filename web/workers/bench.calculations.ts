import { readPartFile, readTable, type Matching, type ReadPartFile, type ReadTable } from '@vast-surge/core/format';
import {
  arrangements,
  compose,
  composeFor,
  ComposeError,
  type Arrangement,
  type Composed,
  type Piece,
  type Target,
} from '@vast-surge/core/part';

export type Answer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

/** A refusal travels as a value: an error would lose its class on the way. */
function answered<T>(run: () => T): Answer<T> {
  try {
    return { ok: true, value: run() };
  } catch (error) {
    if (error instanceof ComposeError) return { ok: false, reason: error.message };
    throw error;
  }
}

/** What an arrangement was asked for: chosen by hand, or the best that meets the target. */
export interface Asked {
  readonly pieces: readonly Piece[];
  readonly target: Target;
  readonly ns: number | null;
  readonly np: number | null;
}

export interface ComposedAnswer {
  readonly offers: readonly Arrangement[];
  readonly arrangement: { readonly ns: number; readonly np: number };
  readonly composed: Composed;
}

/** Long computations of the parts bench, away from the page. */
export const calculations = {
  compose: ({ pieces, target, ns, np }: Asked): Answer<ComposedAnswer> =>
    answered(() => {
      const offers = arrangements(pieces, target);
      if (ns !== null && np !== null) return { offers, arrangement: { ns, np }, composed: compose(pieces, ns, np) };
      const { arrangement, composed } = composeFor(pieces, target);
      return { offers, arrangement: { ns: arrangement.ns, np: arrangement.np }, composed };
    }),
  readTable: (rows: readonly (readonly string[])[], matching: Matching, at: string, fallback: string): ReadTable =>
    readTable(rows, matching, at, fallback),
  readPartFile: (text: string): ReadPartFile => readPartFile(text),
};
export type BenchCalculations = typeof calculations;
