import type { Formula } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { book, type Book, type Held } from './book.ts';

/** What a formula stands on, the firmest first. */
export type Standing = 'outside' | 'recalled' | 'rule' | 'law';

export const standings: { readonly [S in Standing]: { readonly title: string; readonly means: string } } = {
  outside: { title: 'Checked', means: 'checked against values that other code or a published definition gives' },
  recalled: {
    title: 'Checked, from memory',
    means: 'checked against published values that were recalled, not read off the page',
  },
  rule: { title: 'Rule of thumb', means: 'common practice, no source: good for a first guess' },
  law: {
    title: 'Its law alone',
    means:
      'a definition or a law written down; tests hold it to its range and to itself asked backwards, nothing outside was computed',
  },
};

/** What a formula stands on. A rule of thumb stays one, whatever it was compared with. */
export function standingOf(formula: Pick<Formula, 'id' | 'source'>, from: Book = book): Standing {
  if (formula.source.includes('common practice, no source')) return 'rule';
  const held = from.formula[formula.id] ?? [];
  if (held.some(({ memory }) => !memory)) return 'outside';
  return held.length > 0 || formula.source.includes('from memory') ? 'recalled' : 'law';
}

/** What a formula was checked against. */
export const heldOf = (formulaId: string): readonly Held[] => book.formula[formulaId] ?? [];

/** "0.25 %", "3e-9": an error as a fraction in words. */
export function wordError(error: number): string {
  if (error === 0) return 'below 1e-12';
  return error >= 1e-4 ? `${Number((error * 100).toPrecision(2))} %` : error.toExponential(1).replace('.0e', 'e');
}

/** "R 1 Ω to 10 MΩ, n 2 to 9": where it was held, in the units of its formula. */
export function wordRangeOf(held: Held, formula: Formula | null): string {
  const print = (symbol: string, value: number) => {
    const unit = formula?.inputs[symbol]?.unit;
    return unit === undefined ? String(Number(value.toPrecision(3))) : printQuantity(value, unit, { digits: 3, trim: true });
  };
  return Object.entries(held.range)
    .map(([symbol, [low, high]]) => {
      const [a, b] = [print(symbol, low), print(symbol, high)];
      return a === b ? `${symbol} ${a}` : `${symbol} ${a} to ${b}`;
    })
    .join(', ');
}
