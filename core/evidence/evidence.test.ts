import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { formulas } from '../formula/index.ts';
import { book, evidenceMarkdown, gathered, standingOf, wordError, type Witnessed } from './index.ts';

describe('the book of evidence', () => {
  test('has a row for every formula of every standing, and no row of one that is gone', () => {
    const ids = new Set(formulas.map(({ id }) => id));
    for (const id of Object.keys(book.formula)) expect(ids).toContain(id);
    for (const { formulas: made } of Object.values(book.made)) for (const id of made) expect(ids).toContain(id);
    const text = evidenceMarkdown(book);
    for (const id of ids) expect(text).toContain(`(\`${id}\`)`);
    expect(new Set(formulas.map((formula) => standingOf(formula)))).toEqual(new Set(['outside', 'recalled', 'rule', 'law']));
  });

  test('carries every claim of accuracy: a formula that says “within 5 %” was held to it', () => {
    const claims = formulas.flatMap((formula) =>
      [...formula.assumptions.join('; ').matchAll(/within ([\d.]+) %/g)].map((found) => ({
        formula,
        claim: Number(found[1]) / 100,
      })),
    );
    expect(claims.length).toBeGreaterThan(8);
    for (const { formula, claim } of claims) {
      if (standingOf(formula) === 'rule') continue;
      const held = book.formula[formula.id] ?? [];
      expect(held.length, formula.id).toBeGreaterThan(0);
      // Where several are claimed, the widest is that of the ends of the range.
      const widest = Math.max(...claims.filter((one) => one.formula === formula).map((one) => one.claim), claim);
      expect(Math.max(...held.map(({ worst }) => worst)), formula.id).toBeLessThanOrEqual(widest);
    }
  });

  test('never prints an error below one that was seen, counts every point, and forgets none of its range', () => {
    const seen = fc.array(
      fc.record({
        of: fc.constantFrom({ kind: 'formula', id: 'a' } as const, { kind: 'model', id: 'b' } as const),
        source: fc.constantFrom('x', 'y'),
        memory: fc.boolean(),
        error: fc.double({ min: 0, max: 1, noNaN: true }),
        within: fc.constant(1),
        at: fc.record({ R: fc.double({ min: 0, max: 1e6, noNaN: true }) }),
      }),
      { minLength: 1, maxLength: 30 },
    ) as fc.Arbitrary<Witnessed[]>;
    fc.assert(
      fc.property(seen, (list) => {
        const made = gathered(list);
        const held = [...Object.values(made.formula), ...Object.values(made.model)].flat();
        expect(held.reduce((sum, { points }) => sum + points, 0)).toBe(list.length);
        for (const one of list) {
          const row = made[one.of.kind][one.of.id]?.find(({ source }) => source === one.source);
          expect(row?.worst ?? NaN).toBeGreaterThanOrEqual(one.error < 1e-12 ? 0 : one.error * (1 - 1e-12));
          expect(row?.memory || !one.memory).toBe(true);
          const [low = NaN, high = NaN] = row?.range['R'] ?? [];
          expect(low <= (one.at['R'] ?? NaN) && (one.at['R'] ?? NaN) <= high).toBe(true);
        }
      }),
    );
    expect([wordError(0), wordError(0.0249), wordError(3.1e-7)]).toEqual(['below 1e-12', '2.5 %', '3.1e-7']);
  });
});
