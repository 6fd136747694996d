import fc from 'fast-check';
import { afterEach, describe, expect, test } from 'vitest';
import {
  inManner,
  inSI,
  isUnitId,
  mannerNow,
  manners,
  parseQuantity,
  printAsTyped,
  printExact,
  printIn,
  printQuantity,
  printWire,
  siManner,
  stepTyped,
  units,
  type Manner,
  type UnitId,
} from './index.ts';

const imperial: Manner = { measures: 'imperial', pressure: 'psi', wire: 'AWG', decimal: 'point' };
afterEach(() => printIn(siManner));

const read = (text: string, unit: UnitId): number => {
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(`${text}: ${parsed.issue.code}`);
  return parsed.quantity.value;
};

describe('numbers in the units of a person', () => {
  // Factors: NIST SP 811, appendix B.8. Diameters of gauges: ASTM B258, table of nominal diameters.
  test.each<[value: number, unit: UnitId, printed: string]>([
    [9.5e-3, 'm', '0.374 in'],
    [0.2e-3, 'm', '7.87 mil'],
    [3, 'm', '9.84 ft'],
    [1e-4, 'm²', '0.155 in²'],
    [21.4e-3, 'kg', '330 grains'],
    [0.1, 'kg', '3.53 oz'],
    [2, 'kg', '4.41 lb'],
    [38.6, 'm/s', '127 ft/s'],
    [1180, 'N', '265 lbf'],
    [182e3, 'Pa', '26.4 psi'],
    // What has no other unit stays as it is.
    [1274, 'J', '1.27 kJ'],
    [325, 'K', '325 K'],
  ])('%f %s is %s', (value, unit, printed) => {
    expect(inManner(imperial, () => printQuantity(value, unit))).toBe(printed);
  });

  test('pressure has a choice of its own, and a comma is put in where it is asked for', () => {
    const manner: Manner = { ...siManner, pressure: 'bar', decimal: 'comma' };
    expect(inManner(manner, () => printQuantity(182e3, 'Pa'))).toBe('1,82 bar');
    expect(inManner(manner, () => printQuantity(1274, 'J'))).toBe('1,27 kJ');
    expect(inManner(manner, () => printAsTyped(68947.57, 'Pa', '10 psi'))).toBe('10,0 psi');
  });

  test.each([
    [1.628e-3, '14 AWG (1.63 mm)'],
    [0.2019e-3, '32 AWG (202 µm)'],
    [8.251e-3, '1/0 AWG (8.25 mm)'],
    [11.684e-3, '4/0 AWG (11.7 mm)'],
    // Between 13 and 14.
    [1.7e-3, '1.70 mm'],
    [0, '0 m'],
  ])('a wire of %f m is %s', (d, printed) => {
    expect(inManner({ ...siManner, wire: 'AWG' }, () => printWire(d))).toBe(printed);
    expect(printWire(d)).not.toContain('AWG');
  });

  test('what is printed in any manner is read back as what was printed, or refused as doubtful', () => {
    const manner = fc.record({
      measures: fc.constantFrom(...manners.measures),
      pressure: fc.constantFrom(...manners.pressure),
      wire: fc.constantFrom(...manners.wire),
      decimal: fc.constantFrom(...manners.decimal),
    });
    const anyUnit = fc.constantFrom(...Object.keys(units).filter(isUnitId));
    const number = fc
      .tuple(fc.double({ min: 1, max: 9.999999999, noNaN: true }), fc.integer({ min: -12, max: 9 }))
      .map(([m, e]) => m * 10 ** e);
    let refused = 0;
    fc.assert(
      fc.property(manner, anyUnit, number, fc.integer({ min: 1, max: 6 }), (how, unit, value, digits) => {
        const printed = inManner(how, () => printQuantity(value, unit, { digits }));
        const parsed = parseQuantity(printed, unit);
        if (!parsed.ok) {
          refused += 1;
          expect([how.decimal, parsed.issue.code]).toEqual(['comma', 'thousands_or_decimal']);
          return;
        }
        expect(Math.abs(parsed.quantity.value / value - 1)).toBeLessThanOrEqual(0.5 * 10 ** (1 - digits) * 1.0001);
      }),
      { numRuns: 3000 },
    );
    expect(refused).toBeLessThan(300);
  });

  test('what is kept and compared is printed in SI units by whoever makes it, and the manner is as before after it', () => {
    printIn({ ...imperial, decimal: 'comma' });
    expect(printExact(0.0127, 'm')).toBe('12.7 mm');
    expect(inSI(() => printQuantity(0.0127, 'm'))).toBe('12.7 mm');
    expect(() =>
      inSI(() => {
        throw new Error('made nothing');
      }),
    ).toThrow('made nothing');
    expect(mannerNow().measures).toBe('imperial');
  });

  test.each<[typed: string, unit: UnitId, direction: 1 | -1, next: string]>([
    ['10 psi', 'Pa', 1, '12 psi'],
    ['0.4 in', 'm', -1, '0.39 in'],
    ['5 min', 's', 1, '5.6 min'],
    ['16 AWG', 'm', 1, '15 AWG'],
    ['50 AWG', 'm', -1, '50 AWG'],
    ['4.7 kΩ', 'Ω', 1, '5.60 kΩ'],
  ])('a step on from %s stays in its unit', (typed, unit, direction, next) => {
    const stepped = inManner({ ...imperial, decimal: 'comma' }, () => stepTyped(read(typed, unit), unit, typed, direction));
    expect(read(stepped, unit)).toBeCloseTo(read(next, unit), 9);
    expect(stepped.split(' ')[1]).toBe(next.split(' ')[1]);
  });
});
