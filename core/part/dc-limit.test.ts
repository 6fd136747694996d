import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { labelledPart } from '../test/parts.ts';
import { dcLimits, polarityOf, type Part } from './index.ts';

const limit = (part: Part): number => dcLimits(part).chosen?.limit?.value ?? NaN;
const acRated = (more: Record<string, string> = {}) =>
  labelledPart('capacitor', { C: '20 µF', Vac: '400 V', Vtest: '860 V', ...more });

describe('the DC limit of a capacitor', () => {
  test('by the schools of practice, of 400 V AC tested at 860 V: 400, 566, 800 and 1216 V; √2 unless another is asked for', () => {
    const { limits, chosen } = dcLimits(acRated());
    expect(Object.fromEntries(limits.map((l) => [l.id, l.limit && Math.round(l.limit.value)]))).toEqual({
      dc: null,
      ac: 400,
      'ac-peak': 566,
      'ac-twice': 800,
      'test-peak': 1216,
    });
    expect(chosen?.id).toBe('ac-peak');
    expect(limit(acRated({ school: 'ac' }))).toBe(400);
    expect(limit(acRated({ school: 'ac-twice' }))).toBe(800);
    // A dc rating that its maker gives comes before any school.
    expect(limit(acRated({ Vdc: '500 V' }))).toBe(500);
    expect(limits.find((l) => l.id === 'dc')?.missing).toMatch(/no DC rating/);
  });

  test('a school with nothing to start from is no rating, and says what is missing', () => {
    const { chosen, limits } = dcLimits(labelledPart('capacitor', { C: '20 µF', Vac: '400 V', school: 'test-peak' }));
    expect(chosen).toBeNull();
    expect(limits.find((l) => l.id === 'test-peak')?.missing).toMatch(/no AC test voltage/);
  });

  test('under 60 % reversal a DC rating of 1000 V without one for reversal holds 625 V: the swing stays 1000 V', () => {
    const can = (more: Record<string, string>) => labelledPart('capacitor', { C: '1 µF', Vdc: '1 kV', ...more });
    expect(limit(can({ seen: '60 %' }))).toBeCloseTo(625, 9);
    expect(limit(can({ seen: '60 %', reversal: '20 %' }))).toBeCloseTo(750, 9);
    expect(limit(can({ seen: '10 %', reversal: '20 %' }))).toBe(1000);
    // An AC rating bears the full reversal that it sees in service.
    expect(limit(acRated({ seen: '90 %' }))).toBeCloseTo(400 * Math.SQRT2, 9);
  });

  test('for 128 times its rated shots at exponent 7 it holds half its voltage', () => {
    const can = (more: Record<string, string>) => labelledPart('capacitor', { C: '1 µF', Vdc: '1 kV', ...more });
    expect(limit(can({ Nr: '1000', N: '128000' }))).toBeCloseTo(500, 6);
    expect(limit(can({ Nr: '1000', N: '8000', exponent: '3' }))).toBeCloseTo(500, 6);
    // Fewer shots never raise it above its rating.
    expect(limit(can({ Nr: '1000', N: '10' }))).toBe(1000);
    expect(dcLimits(can({ N: '5000' })).notes.join()).toMatch(/rated shot life is not known/);
  });

  test('never rises with reversal or shots, and never goes above what its school gives', () =>
    fc.assert(
      fc.property(
        fc.nat(100),
        fc.nat(100),
        fc.integer({ min: 1, max: 1e6 }),
        fc.integer({ min: 1, max: 1e6 }),
        (k1, k2, n1, n2) => {
          const of = (k: number, n: number) =>
            limit(labelledPart('capacitor', { C: '1 µF', Vdc: '1 kV', seen: `${k} %`, Nr: '500', N: String(n) }));
          const [mild, harsh] = [of(Math.min(k1, k2), Math.min(n1, n2)), of(Math.max(k1, k2), Math.max(n1, n2))];
          expect(harsh).toBeLessThanOrEqual(mild * (1 + 1e-12));
          expect(mild).toBeLessThanOrEqual(1000);
        },
      ),
    ));

  test('an electrolytic is polar: one volt the other way round, no AC school, and no derating makes a reversal good', () => {
    const can = labelledPart('capacitor', { C: '1 mF', dielectric: 'electrolytic', Vdc: '400 V', seen: '30 %' });
    const { polarity, reverse, notes } = dcLimits(can);
    expect([polarity, reverse?.value]).toEqual(['polar', 1]);
    expect(notes.join(' ')).toMatch(/a polar capacitor withstands none/);
    expect(polarityOf(labelledPart('capacitor', { C: '50 µF', dielectric: 'electrolytic', Vac: '250 V' }))).toBe('non-polar');
  });
});
