import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { conditions, lotSchema, lotSources, newLot, newPart, totalsOf, type Part } from '../index.ts';

const piece = (condition: Part['condition'], quantity: number, price: number | null): Part => ({
  ...newPart('diode', 'x'),
  condition,
  quantity,
  price,
});

describe('totals of a lot', () => {
  test('worked by hand: 3 + 2 good, 1 suspect, 1 failed, 3 broken on the way: 5 of 10 are good', () => {
    const lot = { ...newLot('Ovens'), paid: 12, hours: 4, units: 5, broken: 3 };
    const parts = [
      piece('good', 3, 10),
      piece('good', 2, null),
      piece('suspect', 1, 4),
      piece('failed', 1, 99),
      piece('unknown', 7, 1),
    ];
    expect(totalsOf([lot], parts)).toEqual({
      lots: 1,
      units: 5,
      pieces: 14,
      good: 5,
      suspect: 1,
      unknown: 7,
      lost: 4,
      yield: 0.5,
      paid: 12,
      worth: 41,
      unpriced: 2,
      hours: 4,
      perHour: 7.25,
    });
    expect(totalsOf([newLot('Empty')], [])).toMatchObject({ yield: null, perHour: null, worth: 0 });
  });

  test('of two lots together are the sums of each', () => {
    const parts = fc.array(
      fc.tuple(fc.constantFrom(...conditions), fc.nat(20), fc.option(fc.nat(100))).map(([c, n, p]) => piece(c, n, p)),
      {
        maxLength: 8,
      },
    );
    const lot = fc
      .record({ paid: fc.option(fc.nat(500)), hours: fc.option(fc.nat(40)), broken: fc.nat(9) })
      .map((l) => ({ ...newLot('x'), ...l }));
    fc.assert(
      fc.property(lot, parts, lot, parts, (a, of, b, other) => {
        const [first, second, both] = [totalsOf([a], of), totalsOf([b], other), totalsOf([a, b], [...of, ...other])];
        for (const key of ['lots', 'units', 'pieces', 'good', 'lost', 'paid', 'worth', 'hours', 'unpriced'] as const)
          expect(both[key]).toBe(first[key] + second[key]);
      }),
    );
  });

  test('a lot that is none is refused by field and range; every source says what to watch for', () => {
    const reason = (over: object) => lotSchema.safeParse({ name: 'x', ...over }).error?.issues[0]?.message;
    expect(reason({ paid: -1 })).toMatch(/from 0 to/);
    expect(reason({ source: 'ufo' })).toMatch(/one of bought-new/);
    expect(reason({ date: 'yesterday' })).toMatch(/such as 2026-03-31/);
    for (const source of lotSources) expect(source.hazards.length).toBeGreaterThan(0);
  });
});
