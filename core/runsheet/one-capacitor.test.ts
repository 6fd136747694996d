import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { oneCapacitorSheet, oneCapacitorText, type OneCapacitor } from './index.ts';

const one = (C: number, V0: number, more: Partial<OneCapacitor> = {}): OneCapacitor => ({
  C: { value: C },
  V0: { value: V0 },
  R: null,
  meter: { value: 600 },
  dielectric: 'polypropylene',
  ...more,
});

/** Rows of a table of bleeds, computed by a closed form and by integration: case, C, R, V0, ..., goal, time to it. */
const rows = readFileSync(new URL('../test/fixtures/discharge-goal.csv', import.meta.url), 'utf8')
  .split('\n')
  .filter((line) => line.startsWith('bleed,'))
  .map((line) => line.split(',').map(Number));

describe('one capacitor on the bench', () => {
  test.each(rows)(
    'bleeds as the table has it: %s %d F',
    (_case, C = NaN, R = NaN, V0 = NaN, _E, _V1, _t1, goal = NaN, t = NaN) => {
      const made = oneCapacitorSheet(one(C, V0, { R: { value: R } }));
      // Charged to no more than the goal, a tenth of it is aimed at here; the goal is written with two digits, down.
      if (V0 <= goal) expect(made.goal.value).toBeLessThan(V0 / 5);
      else {
        expect(made.goal.value).toBeLessThanOrEqual(goal);
        expect(made.goal.value).toBeGreaterThan(0.9 * goal);
        expect(made.hold.value).toBeCloseTo(Math.max(10, t + R * C * Math.log(goal / made.goal.value)), 3);
      }
    },
  );

  test('has five lines for half a joule, the whole sheet with cards for a kilojoule, and no hands beyond it', () => {
    const little = oneCapacitorSheet(one(10e-6, 315));
    expect([little.lines.length, little.cards.length, little.isByHand]).toEqual([5, 0, true]);
    const some = oneCapacitorSheet(one(100e-6, 400));
    expect([some.lines.length, some.cards.length]).toEqual([6, 0]);
    const much = oneCapacitorSheet(one(3.3e-3, 750));
    expect([much.lines.length, much.cards.length, much.isByHand]).toEqual([8, 2, true]);
    const beyond = oneCapacitorSheet(one(2e-3, 2500));
    expect(beyond.isByHand).toBe(false);
    expect(beyond.lines[0]?.text).toMatch(/fixed resistor that is switched across it from outside a guard comes first/);
  });

  test('of any: what is held for at least bleeds it below the goal, and what is proposed bears twice the pulse', () => {
    const value = (low: number, high: number) => fc.double({ min: low, max: high, noNaN: true }).map((x) => 10 ** x);
    fc.assert(
      fc.property(value(-8, 0), value(1, 4.3), fc.constantFrom('electrolytic', 'pet', 'unknown'), (C, V0, dielectric) => {
        const made = oneCapacitorSheet(one(C, V0, { dielectric, C: { value: C, tolerance: { minus: 0.2, plus: 0.2 } } }));
        const R = made.resistor.R.value;
        expect(V0 * Math.exp(-made.longest / (R * 1.2 * C))).toBeLessThanOrEqual(made.goal.value * 1.0001);
        expect(0.5 * 1.2 * C * made.goal.value ** 2).toBeLessThanOrEqual(1.2001);
        expect(made.longest).toBeGreaterThanOrEqual(10);
        expect(made.resistor.pulse).toBeGreaterThanOrEqual(2 * 0.5 * 1.2 * C * V0 * V0 * 0.9999);
        const text = oneCapacitorText(one(C, V0, { dielectric }));
        expect(text).not.toMatch(/\bsafe(ly)?\b/i);
        expect(text).toContain('for at least');
      }),
      { numRuns: 150, seed: 315 },
    );
  });

  test('names a resistor that is none for it, and a meter that may not see it', () => {
    expect(oneCapacitorSheet(one(470e-6, 400, { R: { value: 10e6 } })).resistor.against).toMatch(
      /Nobody stays that long.*Use a lower value/,
    );
    expect(oneCapacitorSheet(one(470e-6, 400, { R: { value: 0.5 } })).resistor.against).toMatch(
      /Almost a short.*Use a higher value/,
    );
    expect(oneCapacitorSheet(one(470e-6, 400, { R: { value: 2200 } })).resistor.against).toBeNull();
    expect(oneCapacitorSheet(one(10e-6, 400)).lines[1]?.text).toContain('on the 600 V range');
    // Just under what it may see it is on, and above a kilovolt nothing held in a hand is, whatever it may see.
    expect(oneCapacitorSheet(one(1e-6, 590)).lines[1]?.text).toContain('on the 600 V range');
    const high = oneCapacitorSheet(one(1e-7, 1500, { meter: { value: 5000 } })).lines[1];
    expect(high).toMatchObject({
      text: expect.stringContaining('nothing held in a hand'),
      hold: 'No lead of the meter is on it.',
    });
    expect(
      oneCapacitorSheet(one(470e-9, 4000))
        .lines.map(({ text }) => text)
        .join(),
    ).toContain('Meter off it: 4.00 kV can stand there');
  });
});
