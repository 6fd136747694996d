import { describe, expect, test } from 'vitest';
import { printBand, printFigure } from './index.ts';

describe('a number as it is best read', () => {
  test.each([
    ['stored-energy', 884, 'J', '884 J'],
    ['bleed-time', 165, 's', '2 min 45 s'],
    ['time-to-peak', 165e-6, 's', '165 µs'],
    ['voltage-reversal', 0.42, '1', '42.0 %'],
    ['break-rate', 100, 'Hz', '100 Hz'],
    ['break-rate', 1, 'Hz', '1.00 Hz'],
    ['bleed-time', Infinity, 's', 'never'],
    ['stored-energy', Infinity, 'J', 'no value in the worst case'],
  ] as const)('%s of %s %s', (id, value, unit, said) => {
    expect(printFigure(id, value, unit)).toBe(said);
  });

  test.each([
    // The unit once where both have the same; each its own where they differ, or where one has more than one.
    ['stored-energy', 810, 992, 'J', '810 to 992 J'],
    ['stored-energy', 810, 1200, 'J', '810 J to 1.20 kJ'],
    ['bleed-time', 165, 196, 's', '2 min 45 s to 3 min 16 s'],
    ['bleed-time', 165, Infinity, 's', '2 min 45 s to never'],
    // What comes less than once a second is told by what passes in between, the shortest first.
    ['break-rate', 0.2, 0.5, 'Hz', 'every 2.0 s to 5.0 s'],
    ['break-rate', 0.5, 4, 'Hz', 'every 250 ms to 2.0 s'],
    ['break-rate', 1, 4, 'Hz', '1.00 to 4.00 Hz'],
    ['break-rate', 0, 4, 'Hz', '0 to 4.00 Hz'],
  ] as const)('%s from %s to %s %s', (id, low, high, unit, said) => {
    expect(printBand(id, low, high, unit)).toBe(said);
  });
});
