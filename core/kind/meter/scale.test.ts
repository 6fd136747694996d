import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { meterScale } from './scale.ts';

const decades = (low: number, high: number) => fc.double({ min: Math.log(low), max: Math.log(high), noNaN: true }).map(Math.exp);

describe('a meter scale', () => {
  test('every mark stands where a moving coil and ½·C·V² put it (from the definitions)', () => {
    fc.assert(
      fc.property(decades(1, 1e5), decades(1e-9, 1), (fullScale, capacitance) => {
        const { volts, joules } = meterScale({ fullScale, capacitance, planned: fullScale / 2, limit: null });
        for (const { share, value } of volts) expect(share * fullScale).toBeCloseTo(value, 9);
        for (const { share, value } of joules)
          expect(Math.abs(0.5 * capacitance * (share * fullScale) ** 2 - value)).toBeLessThan(1e-9 * value + 1e-15);
        for (const list of [volts, joules]) {
          expect(list.every(({ share }, i) => share <= 1 + 1e-9 && (i === 0 || share > (list[i - 1]?.share ?? 0)))).toBe(true);
          expect(list.filter((m) => m.labelled).length).toBeGreaterThanOrEqual(2);
          expect(list.filter((m) => m.labelled).length).toBeLessThanOrEqual(8);
        }
      }),
    );
  });

  test('the plan and the limit are marked while they are on it', () => {
    const scale = (planned: number, limit: number | null) => meterScale({ fullScale: 1000, capacitance: 1e-4, planned, limit });
    expect(scale(400, 900)).toMatchObject({ planned: 0.4, limit: 0.9 });
    expect(scale(1200, 1500)).toMatchObject({ planned: null, limit: null });
    expect(scale(0.4e3, null).limit).toBeNull();
  });
});
