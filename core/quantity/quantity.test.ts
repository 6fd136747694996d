import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { table, offBy } from '../test/fixtures.ts';
import {
  awgDiameter,
  bounds,
  isUnitId,
  parseQuantity,
  printAsTyped,
  printDuration,
  printExact,
  printMargin,
  printPercent,
  printQuantity,
  printTolerance,
  stepPreferred,
  units,
  wordQuantityIssue,
  type UnitId,
} from './index.ts';

const read = (text: string, unit: UnitId) => {
  const parsed = parseQuantity(text, unit);
  if (!parsed.ok) throw new Error(`${text}: ${wordQuantityIssue(parsed.issue)}`);
  return parsed.quantity;
};
const refused = (text: string, unit: UnitId) => {
  const parsed = parseQuantity(text, unit);
  return parsed.ok ? `taken as ${parsed.quantity.value}` : parsed.issue.code;
};

describe('reading quantities', () => {
  test.each<[string, UnitId, number]>([
    ['4.7u', 'F', 4.7e-6],
    ['4u7', 'F', 4.7e-6],
    ['4,7 µF', 'F', 4.7e-6],
    ['4.7\u03bcF', 'F', 4.7e-6],
    ['.5n', 'F', 0.5e-9],
    ['n47', 'F', 0.47e-9],
    ['470p', 'F', 470e-12],
    ['4k7', 'Ω', 4700],
    ['2M2', 'Ω', 2.2e6],
    ['4R7', 'Ω', 4.7],
    ['R047', 'Ω', 0.047],
    ['10 k\u2126', 'Ω', 1e4],
    ['10 kΩ', 'Ω', 1e4],
    ['22 kohm', 'Ω', 22e3],
    ['20m', 'Ω', 0.02],
    ['5 mΩ', 'Ω', 5e-3],
    ['1.2 kV', 'V', 1200],
    ['900 V dc', 'V', 900],
    ['−5 V', 'V', -5],
    ['10 000', 'V', 1e4],
    ['1\u202f000\u202f000 V', 'V', 1e6],
    ['1e-6', 'F', 1e-6],
    ['6.1 × 10^4 A²s', 'A²s', 61000],
    ['90 %', '1', 0.9],
    ['0,25', '1', 0.25],
    ['18 psi', 'Pa', 18 * 6894.757293168],
    ['1 atm', 'Pa', 101325],
    ['760 mmHg', 'Pa', 101325.0144],
    ['3/8 in', 'm', 0.009525],
    ['1 3/8 in', 'm', 0.034925],
    ['2 ft', 'm', 0.6096],
    ['40 cm', 'm', 0.4],
    ['5 m', 'm', 5],
    ['16 AWG', 'm', 1.29085e-3],
    ['4/0 AWG', 'm', 11.684e-3],
    ['5 min', 's', 300],
    ['2 h', 's', 7200],
    ['50 A/µs', 'A/s', 5e7],
    ['1.2 kA/us', 'A/s', 1.2e9],
    ['20 °C', 'K', 293.15],
    ['100 nH', 'H', 1e-7],
    ['20 g', 'kg', 0.02],
    ['1 Mohm', 'Ω', 1e6],
  ])('%s in %s', (text, unit, value) => expect(offBy(read(text, unit).value, value)).toBeLessThan(1e-5));

  test.each<[string, UnitId, string]>([
    ['', 'V', 'empty'],
    ['   ', 'V', 'empty'],
    ['abc', 'V', 'not_a_number'],
    ['NaN', 'V', 'not_a_number'],
    ['Infinity', 'V', 'not_a_number'],
    ['1.5.2', 'V', 'not_a_number'],
    ['1 2', 'V', 'not_a_number'],
    ['0x10', 'V', 'unknown_unit'],
    ['5 apples', 'V', 'unknown_unit'],
    ['100 Vac', 'V', 'unknown_unit'],
    ['3/8', '1', 'unknown_unit'],
    ['100 V', 'Ω', 'wrong_unit'],
    ['4R7', 'F', 'wrong_unit'],
    ['12 psi', 'V', 'wrong_unit'],
    ['1 A', 'A/s', 'wrong_unit'],
    ['5 m', 'Ω', 'doubtful'],
    ['5m', 's', 'doubtful'],
    ['5 M', 'F', 'doubtful'],
    ['20 MFD', 'F', 'doubtful'],
    ['61 kA²s', 'A²s', 'doubtful'],
    ['20', 'K', 'doubtful'],
    ['50', 'A/s', 'doubtful'],
    ['20', 'kg', 'doubtful'],
    ['1,000', 'V', 'thousands_or_decimal'],
    ['1,000.5', 'V', 'thousands_or_decimal'],
    ['12,345,678', 'V', 'thousands_or_decimal'],
    ['1e999', 'V', 'too_large'],
    ['1/0 in', 'm', 'zero_denominator'],
    ['60 AWG', 'm', 'gauge_out_of_range'],
    ['5/0 AWG', 'm', 'gauge_out_of_range'],
    ['100 ±120 %', 'V', 'bad_tolerance'],
    ['100 ± x', 'V', 'bad_tolerance'],
    ['0 ±5 V', 'V', 'bad_tolerance'],
  ])('%s in %s is refused: %s', (text, unit, code) => expect(refused(text, unit)).toBe(code));

  test('a refusal says what to write and repeats little of what was typed', () => {
    const parsed = parseQuantity('x'.repeat(150), 'Ω');
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(wordQuantityIssue(parsed.issue)).toMatch(/^"x{40}…" .*a resistance, such as 4k7/);
  });

  test.each<[string, number, number]>([
    ['100u ±20%', 80e-6, 120e-6],
    ['100u +/- 20 %', 80e-6, 120e-6],
    ['100 µF -10/+50%', 90e-6, 150e-6],
    ['100u −10 % / +50 %', 90e-6, 150e-6],
    ['100u +50/-10%', 90e-6, 150e-6],
    ['100u ±5u', 95e-6, 105e-6],
    ['4u7 ± 2,5 %', 4.5825e-6, 4.8175e-6],
  ])('tolerance of %s', (text, low, high) => {
    const found = bounds(read(text, 'F'));
    expect(offBy(found.low, low)).toBeLessThan(1e-12);
    expect(offBy(found.high, high)).toBeLessThan(1e-12);
  });

  test('a power of ten is the one that is written, in every way of writing it', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9999 }), fc.integer({ min: -140, max: 140 }), (digits, power) => {
        const expected = Number(`${digits / 1000}e${power}`);
        for (const text of [
          `e${power}`,
          `E${power}`,
          `×10^${power}`,
          ` x 10^${power}`,
          `·10${power < 0 ? power : `^${power}`}`,
        ]) {
          const read = parseQuantity(`${digits / 1000}${text}`, '1');
          expect(read.ok && Math.abs(read.quantity.value / expected - 1)).toBeLessThan(1e-12);
        }
      }),
    ));

  test('any text whatever is either taken or refused with a sentence, and never throws', () => {
    const characters = fc.string({
      unit: fc.constantFrom(...'0123456789.,-+±%/ eEkKmMuµnpGTRΩFVAHsin²×^'.split('')),
      maxLength: 14,
    });
    fc.assert(
      fc.property(
        fc.oneof(characters, fc.string({ maxLength: 30 })),
        fc.constantFrom(...Object.keys(units).filter(isUnitId)),
        (text, unit) => {
          const parsed = parseQuantity(text, unit);
          if (parsed.ok) expect(Number.isFinite(parsed.quantity.value)).toBe(true);
          else expect(wordQuantityIssue(parsed.issue).length).toBeGreaterThan(5);
        },
      ),
      { numRuns: 3000 },
    );
  });
});

describe('printing quantities', () => {
  const anyUnit = fc.constantFrom(...Object.keys(units).filter(isUnitId));
  const number = fc
    .tuple(fc.double({ min: 1, max: 9.999999999, noNaN: true }), fc.integer({ min: -17, max: 14 }), fc.boolean())
    .map(([m, e, minus]) => (minus ? -1 : 1) * m * 10 ** e);

  test('what is printed is read back to the same printed digits', () => {
    fc.assert(
      fc.property(number, anyUnit, fc.integer({ min: 1, max: 12 }), (value, unit, digits) => {
        const printed = printQuantity(value, unit, { digits });
        const back = read(printed, unit);
        expect(printQuantity(back.value, unit, { digits })).toBe(printed);
        // A temperature is kept in kelvin but may lie near nought of no other scale, so relative closeness holds for all.
        expect(offBy(back.value, value)).toBeLessThanOrEqual(0.5 * 10 ** (1 - digits) * 1.0001);
      }),
      { numRuns: 5000 },
    );
  });

  test('a value with its tolerance survives the round trip exactly', () => {
    const percent = fc.integer({ min: 0, max: 990 }).map((n) => n / 1000);
    fc.assert(
      fc.property(number, percent, percent, (value, minus, plus) => {
        const quantity = { value: Number(value.toPrecision(6)), tolerance: { minus, plus } };
        const text = printExact(quantity.value, 'F') + printTolerance(quantity);
        const back = read(text, 'F');
        expect(offBy(back.value, quantity.value)).toBeLessThan(1e-12);
        expect(back.tolerance?.minus ?? 0).toBeCloseTo(minus, 12);
        expect(back.tolerance?.plus ?? 0).toBeCloseTo(plus, 12);
      }),
    );
  });

  test.each<[number, UnitId, string]>([
    [1270, 'J', '1.27 kJ'],
    [999.96, 'V', '1.00 kV'],
    [0, 'V', '0 V'],
    [4.7e-6, 'F', '4.70 µF'],
    [61234, 'A²s', '61200 A²s'],
    [3.1e10, 'A/s', '31.0 kA/µs'],
    [376, 's', '376 s'],
    [NaN, 'V', '—'],
    [-1440, 'V', '−1.44 kV'],
    [2e-3, 'kg', '2.00 g'],
    [1e33, 'F', '1.00e30 kF'],
  ])('%d %s is printed as %s', (value, unit, text) => expect(printQuantity(value, unit)).toBe(text));

  test('a waiting time is never printed shorter than it is', () => {
    fc.assert(
      fc.property(fc.double({ min: -6, max: 12, noNaN: true }), (decades) => {
        const seconds = 10 ** decades;
        const factor: Record<string, number> = { µs: 1e-6, ms: 1e-3, s: 1, min: 60, h: 3600, days: 86400, years: 365.25 * 86400 };
        const parts = printDuration(seconds).matchAll(/([\d.e]+) (µs|ms|s|min|h|days|years)/g);
        const printed = [...parts].reduce((sum, [, n, unit]) => sum + Number(n) * (factor[unit ?? ''] ?? NaN), 0);
        expect(printed).toBeGreaterThanOrEqual(seconds * (1 - 1e-8));
        expect(printed).toBeLessThan(seconds * 1.101);
      }),
    );
  });

  test('a fraction is printed as per cent', () =>
    expect([printPercent(0.843), printPercent(0), printPercent(1.2)]).toEqual(['84.3 %', '0 %', '120 %']));
});

describe('outside values', () => {
  test.each(table('awg'))('AWG $awg: $source', ({ awg, diameter_mm, tolerance_pct }) => {
    expect(offBy(awgDiameter(Number(awg)) * 1e3, Number(diameter_mm))).toBeLessThan(Number(tolerance_pct) / 100);
    expect(read(`${awg} AWG`, 'm').value).toBe(awgDiameter(Number(awg)));
  });

  test('E12 and E24 step through every preferred number once a decade and back (IEC 60063)', () => {
    for (const [series, count] of [
      ['E12', 12],
      ['E24', 24],
    ] as const) {
      let value = 1;
      for (let i = 0; i < count; i++) value = stepPreferred(value, 1, series);
      expect(value).toBeCloseTo(10, 9);
      for (let i = 0; i < count; i++) value = stepPreferred(value, -1, series);
      expect(value).toBeCloseTo(1, 9);
    }
    expect(stepPreferred(4700, 1)).toBe(5600);
    expect(stepPreferred(4.8e-6, -1)).toBeCloseTo(4.7e-6, 12);
  });
});

test('what was typed in psi or inches is printed in psi or inches, and read back to what is printed', () => {
  expect(printAsTyped(10 * 6894.757293168, 'Pa', '10 psi')).toBe('10.0 psi');
  expect(printAsTyped(0.25 * 0.0254, 'm', '3/8 in ±2 %', { trim: true })).toBe('0.25 in');
  expect(printAsTyped(1.35e5, 'Pa', '1.2 bar')).toBe('1.35 bar');
  expect(printAsTyped(300.15, 'K', '20 °C')).toBe('27.0 °C');
  // The SI unit stays as it always was, with its prefix.
  expect(printAsTyped(4.7e-3, 'm', '5 mm')).toBe(printQuantity(4.7e-3, 'm'));
  expect(printAsTyped(NaN, 'Pa', '10 psi')).toBe('—');
  fc.assert(
    fc.property(fc.double({ min: 1e3, max: 1e7, noNaN: true }), (p) => {
      const text = printAsTyped(p, 'Pa', '10 psi', { digits: 6, trim: true });
      const read = parseQuantity(text, 'Pa');
      expect(read.ok && Math.abs(read.quantity.value / p - 1) < 1e-5).toBe(true);
    }),
  );
});

describe('a number with its margin', () => {
  test.each<[number, number, UnitId, string]>([
    // The margin has one digit, two where it begins with 1: common practice of measurement reports.
    [0.199, 215e-6, 'Ω', '199.0 ± 0.2 mΩ'],
    [11.2e-6, 72.4e-9, 'H', '11.20 ± 0.07 µH'],
    [32.8e-3, 133e-6, 'F', '32.80 ± 0.13 mF'],
    [1234, 260, 'V', '1.2 ± 0.3 kV'],
    [-4.2, 0.5, 'A', '\u22124.2 ± 0.5 A'],
    [3.3, 0, 's', '3.30 s'],
    [3.3, NaN, 's', '3.30 s'],
  ])('%f with %f %s is %s', (value, margin, unit, text) => {
    expect(printMargin(value, margin, unit)).toBe(text);
  });

  test('ends at one digit, and both are read back within half of it', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1e-9, max: 1e9, noNaN: true }),
        fc.double({ min: 1e-4, max: 0.9, noNaN: true }),
        (value, share) => {
          const text = printMargin(value, value * share, 'V');
          const [, number = '', margin = '', symbol = ''] = /^([\d.]+) ± ([\d.]+) (.+)$/.exec(text) ?? [];
          expect([text, number.split('.')[1]?.length ?? 0]).toEqual([text, margin.split('.')[1]?.length ?? 0]);
          const last = read(`1 ${symbol}`, 'V').value * 10 ** -(number.split('.')[1]?.length ?? 0);
          expect(Math.abs(read(`${number} ${symbol}`, 'V').value - value)).toBeLessThanOrEqual(
            0.5001 * Math.max(last, value * share),
          );
          expect(read(`${margin} ${symbol}`, 'V').value / (value * share)).toBeGreaterThan(0.6);
          expect(read(`${margin} ${symbol}`, 'V').value / (value * share)).toBeLessThan(1.4);
        },
      ),
      { numRuns: 300, seed: 41 },
    ));
});
