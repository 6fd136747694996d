import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { printQuantity } from '../quantity/index.ts';
import {
  dcRatingBySchool,
  decodeBands,
  decodeCapacitor,
  decodeResistor,
  deltaUses,
  ratingSchools,
  type Decoded,
} from './index.ts';

const read = (decoded: Decoded): [number, number?, number?][] => {
  if (!decoded.ok) throw new Error(decoded.reason);
  return decoded.readings.map(({ value, tolerance, voltage }) => {
    const reading: [number, number?, number?] = [value];
    if (tolerance || voltage !== undefined) reading[1] = tolerance?.plus ?? 0;
    if (voltage !== undefined) reading[2] = voltage;
    return reading;
  });
};

// Meaning of the codes: IEC 60062 and the EIA codes, from memory.
describe('markings of capacitors', () => {
  test.each<[string, [number, number?, number?]]>([
    ['104', [100e-9]],
    ['104K', [100e-9, 0.1]],
    ['473J', [47e-9, 0.05]],
    ['225', [2.2e-6]],
    ['479', [4.7e-12]],
    ['339D', [3.3e-12, 0.5 / 3.3]],
    ['2n2', [2.2e-9]],
    ['2n2K', [2.2e-9, 0.1]],
    ['p47', [0.47e-12]],
    ['4u7', [4.7e-6]],
    ['47n', [47e-9]],
    ['n10', [0.1e-9]],
    ['3m3', [3.3e-3]],
    ['.047K', [47e-9, 0.1]],
    ['0.1', [0.1e-6]],
    ['0,22M', [0.22e-6, 0.2]],
    ['2A104J', [100e-9, 0.05, 100]],
    ['2J473K', [47e-9, 0.1, 630]],
    ['3A102', [1e-9, 0, 1000]],
    ['104K 630V', [100e-9, 0.1, 630]],
    ['2n2 2 kV', [2.2e-9, 0, 2000]],
    ['1µF 400VDC', [1e-6, 0, 400]],
    ['30 MFD', [30e-6]],
    ['500 MMF', [500e-12]],
  ])('%s has one meaning', (text, reading) => {
    const [only, ...others] = read(decodeCapacitor(text));
    expect(others).toEqual([]);
    expect(only?.[0]).toBeCloseTo(reading[0], 20);
    expect(only?.[0]).toBe(Number(reading[0].toPrecision(6)));
    expect(only?.slice(1)).toEqual(reading.slice(1).map((x) => expect.closeTo(x ?? 0, 9) as number));
  });

  test.each<[string, number[]]>([
    ['100', [10e-12, 100e-12, 100e-6]],
    ['470', [47e-12, 470e-12, 470e-6]],
    ['47', [47e-12, 47e-6]],
    ['4700', [4700e-12, 4700e-6]],
    ['4R7', [4.7e-12, 4.7e-6]],
    ['1.5', [1.5e-12, 1.5e-6]],
  ])('%s is asked, not guessed: it may be several', (text, values) =>
    expect(read(decodeCapacitor(text)).map(([v]) => v)).toEqual(values),
  );

  test('an AC voltage is named, and not taken for a direct one', () => {
    const decoded = decodeCapacitor('30uF 440VAC');
    expect(decoded).toMatchObject({
      ok: true,
      readings: [{ value: 30e-6, says: expect.stringContaining('440 V on it is alternating') }],
    });
    expect(decoded.ok && decoded.readings[0]?.voltage).toBeFalsy();
  });

  test('every three-digit code is two digits times a power of ten, in picofarad', () =>
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 99 }), fc.integer({ min: 1, max: 7 }), (two, zeros) => {
        expect(read(decodeCapacitor(`${two}${zeros}`))).toEqual([[Number(`${two}e${zeros - 12}`)]]);
      }),
    ));
});

describe('markings of resistors', () => {
  test.each<[string, [number, number?]]>([
    ['4R7', [4.7]],
    ['R047', [0.047]],
    ['4k7J', [4700, 0.05]],
    ['4K7', [4700]],
    ['1M0', [1e6]],
    ['472', [4700]],
    ['4702', [47e3]],
    ['1R00F', [1, 0.01]],
    ['10k', [10e3]],
    ['01C', [10e3, 0.01]],
    ['68X', [49.9, 0.01]],
    ['000', [0]],
    ['4R7 Ω', [4.7]],
  ])('%s has one meaning', (text, reading) =>
    expect(read(decodeResistor(text))).toEqual([reading.map((x) => expect.closeTo(x ?? 0, 9) as number)]),
  );

  test.each<[string, number[]]>([
    ['100', [10, 100]],
    ['473K', [473e3, 47e3]],
  ])('%s is asked, not guessed', (text, values) => expect(read(decodeResistor(text)).map(([v]) => v)).toEqual(values));

  test.each<[string[], [number, number]]>([
    [
      ['yellow', 'violet', 'red', 'gold'],
      [4700, 0.05],
    ],
    [
      ['brown', 'black', 'orange'],
      [10e3, 0.2],
    ],
    [
      ['brown', 'black', 'black', 'red', 'brown'],
      [10e3, 0.01],
    ],
    [
      ['Orange', 'White', 'Silver', 'Gold'],
      [0.39, 0.05],
    ],
    [
      ['gold', 'red', 'violet', 'yellow'],
      [4700, 0.05],
    ],
  ])('bands %j', (colours, [value, tolerance]) =>
    expect(read(decodeBands(colours))[0]).toEqual([value, expect.closeTo(tolerance, 12)]),
  );

  test('bands that say the same from either end have one meaning', () =>
    expect(read(decodeBands(['brown', 'red', 'red', 'brown']))).toEqual([[1200, 0.01]]));
  test('bands of five with a value from both ends give both', () =>
    expect(read(decodeBands(['brown', 'green', 'red', 'red', 'red'])).map(([v]) => v)).toEqual([15200, 22.2e6]));
});

test.each([
  [() => decodeCapacitor(''), /is empty/],
  [() => decodeCapacitor('hello'), /not a capacitor's marking/],
  [() => decodeCapacitor('0'), /not a capacitor's marking/],
  [() => decodeCapacitor('x'.repeat(100)), /longer than any marking/],
  [() => decodeResistor('2n2'), /not a resistor's marking/],
  [() => decodeBands(['yellow', 'teal', 'red']), /"teal" is not a colour/],
  [() => decodeBands(['gold', 'gold', 'gold', 'gold']), /no value from either end/],
  [() => decodeBands(['red']), /three to six/],
])('what is no marking is refused with the reason', (act, reason) => {
  const decoded = act();
  expect(decoded.ok ? 'read' : decoded.reason).toMatch(reason);
});

test('no text whatever makes a decoder throw, and none gives a value that is none', () =>
  fc.assert(
    fc.property(fc.oneof(fc.string({ maxLength: 14 }), fc.stringMatching(/^[0-9.,pnuµmRkKMGJVZ ]{1,10}$/)), (text) => {
      for (const decoded of [decodeCapacitor(text), decodeResistor(text)])
        if (decoded.ok) for (const { value } of decoded.readings) expect(Number.isFinite(value) && value >= 0).toBe(true);
    }),
    { numRuns: 1000 },
  ));

describe('the schools of dc rating', () => {
  test('come in order from the most careful, show their working, and say nothing where the label does not', () => {
    const label = { rating: 440, test: 950 };
    const volts = ratingSchools.map((school) => dcRatingBySchool(school, label)?.value ?? 0);
    expect(volts.map((v) => printQuantity(v, 'V'))).toEqual(['440 V', '622 V', '880 V', '1.34 kV']);
    expect(volts).toEqual([...volts].sort((a, b) => a - b));
    expect(ratingSchools.map((school) => dcRatingBySchool(school, { rating: null, test: null }))).toEqual([
      null,
      null,
      null,
      null,
    ]);
  });
});

describe('a can with three capacitors in delta', () => {
  test('one element shorted leaves the other two in parallel (common practice, no source)', () => {
    const can = { c12: 30e-6, c23: 20e-6, c31: 10e-6, rating: 640 };
    const uses = new Map(deltaUses(can).map((use) => [use.id, use]));
    expect(uses.get('short-12')).toMatchObject({ capacitance: expect.closeTo(30e-6, 15), rating: 640, open: [], floatsAt: null });
    expect(uses.get('short-23')?.capacitance).toBeCloseTo(40e-6, 15);
    expect(uses.get('open-3')?.capacitance).toBeCloseTo(30e-6 + (20e-6 * 10e-6) / 30e-6, 15);
    expect(uses.get('open-3')).toMatchObject({ ends: [[1], [2]], open: [3], floatsAt: expect.closeTo(1 / 3, 12) });
    expect(uses.size).toBe(6);
  });

  test('an equal delta gives 2 C with one element shorted and 1.5 C with one terminal open', () =>
    fc.assert(
      fc.property(fc.double({ min: 1e-9, max: 1e-3, noNaN: true }), (c) => {
        const uses = deltaUses({ c12: c, c23: c, c31: c, rating: 1 });
        expect(uses.map((use) => use.capacitance / c)).toEqual(
          [2, 2, 2, 1.5, 1.5, 1.5].map((x) => expect.closeTo(x, 9) as number),
        );
      }),
    ));

  test('a capacitance of zero is refused by name', () =>
    expect(() => deltaUses({ c12: 0, c23: 1, c31: 1, rating: 1 })).toThrow(/c12 must be above 0/));
});
