import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { balanceOf, judge, type Piece } from '../index.ts';

const piece = (id: string, capacitance: number): Piece => ({ id, capacitance, uncertainty: 0.01, rating: 450 });

describe('balancing resistors', () => {
  test('hold every group below its rating in the steady state, whichever leaks (network of leaks and resistors solved)', () =>
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 50, max: 95 }),
        (megohms, percent) => {
          const groups = megohms.map((_, i) => [piece(`p${i}`, 100e-6)]);
          const bank = judge(groups);
          const V = (450 * groups.length * percent) / 100;
          const insulation = new Map(megohms.map((m, i) => [`p${i}`, m * 1e6]));
          const balance = balanceOf(bank, (id) => insulation.get(id) ?? null, V);
          if (!balance.ok) {
            expect(new Set(megohms).size).toBe(1);
            return;
          }
          // Leaks as the currents they are at an even share, in series with the same current everywhere:
          // (I − leak)·R is each group's voltage, and they add up to V.
          const leaks = megohms.map((m) => V / groups.length / (m * 1e6));
          const R = balance.resistor.value;
          const current = (V / R + leaks.reduce((a, b) => a + b, 0)) / groups.length;
          const highest = Math.max(...leaks.map((leak) => (current - leak) * R));
          expect(highest).toBeLessThanOrEqual(450 * (1 + 1e-9));
        },
      ),
    ));

  test('name the pieces whose insulation was not measured, unless the difference is given', () => {
    const bank = judge([[piece('a', 1e-4)], [piece('b', 1e-4)]]);
    expect(balanceOf(bank, () => null, 800)).toMatchObject({ ok: false, missing: ['a', 'b'] });
    const given = balanceOf(bank, () => null, 800, 1e-3);
    // (2·450 − 800)/1 mA, worked by hand.
    expect(given).toMatchObject({
      ok: true,
      resistor: { value: expect.closeTo(1e5, 6) },
      power: { value: expect.closeTo(1.6, 9) },
    });
    expect(balanceOf(judge([[piece('a', 1e-4)]]), () => 1e6, 100)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/nothing is in series/),
    });
    expect(balanceOf(bank, () => 1e6, 1000)).toMatchObject({ ok: false });
  });
});
