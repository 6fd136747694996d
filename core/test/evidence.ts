import { expect } from 'vitest';
import type { Witnessed } from '../evidence/index.ts';
import { evaluateFormula, formulaById, withDefaults } from '../formula/index.ts';
import { offBy } from './fixtures.ts';
import { seen } from './seen.ts';

/** What something is held against. */
export interface Against {
  readonly source: string;
  readonly memory?: boolean;
  /** The greatest error it may have, as a fraction. */
  readonly within: number;
}

/** Expects `got` to be `expected` within a fraction, and puts that into the book of evidence. */
export function witness(of: Witnessed['of'], got: number, expected: number, against: Against, at: Witnessed['at'] = {}): void {
  const error = offBy(got, expected);
  seen.push({ of, source: against.source, memory: against.memory ?? false, error, within: against.within, at });
  expect(error, `${of.kind} ${of.id}: ${got} against ${expected} at ${JSON.stringify(at)}`).toBeLessThanOrEqual(against.within);
}

/** Expects a formula to give `expected`, and puts that into the book of evidence. */
export function holds(id: string, values: Readonly<Record<string, number>>, expected: number, against: Against): void {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  const all = withDefaults(formula, values);
  witness({ kind: 'formula', id }, evaluateFormula(formula, all), expected, against, values);
  // What a formula says of its own error has to hold wherever it is held against something.
  const certainty = formula.certainty?.(all);
  if (certainty)
    expect(offBy(evaluateFormula(formula, all), expected), `${id}: its own band`).toBeLessThanOrEqual(certainty.band);
}
