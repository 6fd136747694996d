import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Unavailable } from '../block/index.ts';
import { givens, type Given } from '../formula/index.ts';
import { offBy } from '../test/fixtures.ts';
import { rigWith } from '../test/rigs.ts';
import { Corners, type RigReading } from './index.ts';

/** Four fields with a tolerance, each with its middle and both of its ends, SI. */
const known = [
  ['store.C', '200 µF -20/+50 %', 200e-6, 160e-6, 300e-6],
  ['store.V0', '90 V ±2 %', 90, 88.2, 91.8],
  ['load.R', '2 Ω ±10 %', 2, 1.8, 2.2],
  ['tool.R', '1 kΩ ±5 %', 1000, 950, 1050],
] as const;
const rig = rigWith({
  ...Object.fromEntries(known.map(([path, text]) => [path, text])),
  'supply.V': '200 V',
  'store.ns': '1',
  'store.np': '1',
});
const corners = new Corners(rig);

const valuesOf = (reading: RigReading): number[] => [
  reading.own('store').quantity('C').value,
  reading.own('store').quantity('V0').value,
  reading.own('load').quantity('R').value,
  reading.own('tool').quantity('R').value,
];
/** The leaves of all four: what a number that is made of them is made of. */
const leaves: readonly Given[] = (() => {
  const reading = corners.nominal();
  const all = [
    ...givens(reading.figure('stored-energy')).values(),
    ...givens(reading.own('load').quantity('R')).values(),
    ...givens(reading.own('tool').quantity('R')).values(),
  ];
  return all.filter(
    (leaf) => leaf.origin.from !== 'rule' && known.some(([path]) => leaf.origin.from !== 'rule' && leaf.origin.path === path),
  );
})();

/** All sixteen corners. */
const everywhere = Array.from({ length: 2 ** known.length }, (_, mask) =>
  known.map(([, , , low, high], k) => (mask & (1 << k) ? high : low)),
);

describe('the band of a number', () => {
  test('is made of the four fields that it depends on, each with its own two ends', () => {
    expect(leaves).toHaveLength(4);
    for (const [k, [path, , middle, low, high]] of known.entries()) {
      expect(offBy(valuesOf(corners.nominal())[k] ?? NaN, middle), path).toBeLessThan(1e-12);
      for (const [side, end] of [
        ['low', low],
        ['high', high],
      ] as const)
        expect(offBy(valuesOf(corners.at({ [path]: side }))[k] ?? NaN, end), path).toBeLessThan(1e-12);
    }
    // The same corner is read once, whoever asks in what order.
    const [a, b] = [corners.at({ 'store.C': 'low', 'load.R': 'high' }), corners.at({ 'load.R': 'high', 'store.C': 'low' })];
    expect(a).toBe(b);
  });

  test('of what is least in the middle of a field is sought with both of its ends', () => {
    // (c - 1)² + 10 (1 - c)(r - 1): 0 in the middle, and greatest where c is high and r low, by hand 0.25 + 0.5.
    const of = ([C = NaN, , R = NaN]: readonly number[]) => (C / 200e-6 - 1) ** 2 + 10 * (1 - C / 200e-6) * (R / 2 - 1);
    const band = corners.band((reading) => of(valuesOf(reading)), leaves);
    expect([band.low, band.high].map((value) => Number(value.toFixed(9)))).toEqual([-0.25, 0.75]);
    expect(band.highAt).toMatchObject({ 'store.C': 'high', 'load.R': 'low' });
  });

  test('of what rises or falls with each of its fields is the least and the greatest of all corners', () => {
    const exponents = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: 4, maxLength: 4 });
    fc.assert(
      fc.property(exponents, (powers) => {
        const of = (values: readonly number[]) => values.reduce((product, value, k) => product * value ** (powers[k] ?? 0), 1);
        const band = corners.band((reading) => of(valuesOf(reading)), leaves);
        const all = everywhere.map(of);
        expect(offBy(band.low, Math.min(...all))).toBeLessThan(1e-9);
        expect(offBy(band.high, Math.max(...all))).toBeLessThan(1e-9);
        expect(band.broken).toBeUndefined();
        // The corners that it names are those where it is so.
        expect(offBy(of(valuesOf(corners.at(band.highAt))), band.high)).toBeLessThan(1e-12);
        expect(offBy(of(valuesOf(corners.at(band.lowAt))), band.low)).toBeLessThan(1e-12);
      }),
      { numRuns: 60 },
    );
  });

  test('of what turns within a tolerance is tried both ways in every combination', () => {
    const turning = fc.array(fc.double({ min: -0.9, max: 0.9, noNaN: true }), { minLength: 4, maxLength: 4 });
    fc.assert(
      fc.property(turning, (at) => {
        // Each field is best somewhere about its middle, and the number falls to both of its ends.
        const of = (values: readonly number[]) =>
          10 -
          values.reduce((sum, value, k) => {
            const [, , middle, low, high] = known[k] ?? known[0];
            const x = value >= middle ? (value - middle) / (high - middle) : (value - middle) / (middle - low);
            return sum + (x - (at[k] ?? 0)) ** 2 - (at[k] ?? 0) ** 2;
          }, 0);
        const band = corners.band((reading) => of(valuesOf(reading)), leaves);
        const nominal = of(valuesOf(corners.nominal()));
        const all = [...everywhere.map(of), nominal];
        expect(Math.abs(band.low - Math.min(...all))).toBeLessThan(1e-9);
        // What it is at the middle is never left out, and nothing stands in it that no corner has.
        expect(band.high).toBeGreaterThanOrEqual(nominal - 1e-12);
        expect(band.high).toBeLessThanOrEqual(Math.max(...all) + 1e-9);
      }),
      { numRuns: 60 },
    );
  });

  test('where a corner has no value it has no bound, and says why; another error is a fault of the program', () => {
    const needs = (reading: RigReading): number => {
      const [C = 0] = valuesOf(reading);
      if (C > 250e-6) throw new Unavailable('store', 'so much is never charged', 'C');
      return C;
    };
    const band = corners.band(needs, leaves);
    expect(band).toMatchObject({ high: Infinity, broken: 'so much is never charged' });
    expect(offBy(band.low, 160e-6)).toBeLessThan(1e-12);
    expect(() =>
      corners.band((reading) => {
        if ((valuesOf(reading)[0] ?? 0) > 250e-6) throw new TypeError('not a number');
        return 1;
      }, leaves),
    ).toThrow(TypeError);
    expect(() => corners.band(() => NaN.toFixed(200) as never, leaves)).toThrow(RangeError);
  });

  test('of nothing that has a tolerance is the number itself', () => {
    expect(corners.band((reading) => valuesOf(reading)[0] ?? NaN, [])).toEqual({
      low: 200e-6,
      high: 200e-6,
      lowAt: {},
      highAt: {},
    });
  });

  test('has the error of its formulas beside its tolerances, and never makes a size negative by it', () => {
    const guarded = rigWith(
      { 'guard.kind': 'guarded', 'guard.d': '3 m', 'guard.nd': '1', 'guard.Vr': '30 m³', 'guard.nr': '10', 'guard.kc': '50 %' },
      rig,
    );
    const at = new Corners(guarded);
    // A rule of thumb that is good to half of itself either way, over a store that is known to its tolerance.
    const share = at.nominal().figure('ozone-share').value;
    const band = at.bandOf((reading) => reading.figure('ozone-share'));
    const E = (C: number, V: number) => (C * V * V) / 2;
    const middle = E(200e-6, 90);
    expect(offBy(band.high, share * (E(300e-6, 91.8) / middle + 0.5))).toBeLessThan(1e-6);
    expect(offBy(band.low, share * Math.max(0, E(160e-6, 88.2) / middle - 0.5))).toBeLessThan(1e-6);
    const loose = rigWith({ 'store.C': '200 µF -60/+50 %' }, guarded);
    expect(new Corners(loose).bandOf((reading) => reading.figure('ozone-share')).low).toBe(0);
  });
});
