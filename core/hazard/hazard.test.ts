import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { table } from '../test/fixtures.ts';
import { hazardOf, hazardRules } from './index.ts';

/** Thresholds of the table, from memory of the named sources, by what they say. */
const published: Readonly<Record<string, string>> = {
  'below 100 V: hazardous above': 'nfpa-below-100',
  '100 to 400 V: hazardous above': 'nfpa-100-to-400',
  'above 400 V: hazardous above (startle reaction)': 'nfpa-above-400',
  'severe injury or death likely above': 'doe-severe',
  'charge limit up to 15 kV': 'iec-charge',
  'energy limit above 15 kV': 'iec-energy',
  'DC, normal condition': 'iec-voltage',
};
const siPrefix: Readonly<Record<string, number>> = { J: 1, mJ: 1e-3, uC: 1e-6, V: 1 };

describe('hazard thresholds', () => {
  test.each(table('safety-thresholds').filter((row) => published[row['what'] ?? '']))('$what: $source ($provenance)', (row) => {
    const rule = hazardRules.find((r) => r.id === published[row['what'] ?? '']);
    const [number, unit = ''] = (row['threshold'] ?? '').split(' ');
    expect(rule?.threshold).toBeCloseTo(Number(number) * (siPrefix[unit] ?? NaN), 12);
    expect(row['source']).toContain(rule?.source.split(/[ ,]/)[0]);
  });

  test.each<[string, number, number, string]>([
    ['a little above 10 J at 5 V', 12, 5, 'below'],
    ['a teaching bank', 25, 40, 'below'],
    ['at 48 V above 100 J', 150, 48, 'hazardous'],
    ['300 V just below 1 J', 0.9, 300, 'hazardous'],
    ['a flash capacitor', 12, 330, 'severe'],
    ['an oven capacitor', 4, 2900, 'severe'],
    ['a joule at 5 kV', 0.9, 5000, 'hazardous'],
    ['a film bank', 1100, 2000, 'severe'],
  ])('%s: %d J at %d V is %s', (_name, energy, voltage, of) => {
    expect(hazardOf({ energy, voltage, charge: (2 * energy) / voltage }).class).toBe(of);
  });

  test('the words are graded by the published lines, and never say less than a line beneath them', () => {
    const words = [0.5, 2, 100, 2000, 20_000].map(
      (energy) => hazardOf({ energy, voltage: 3000, charge: (2 * energy) / 3000 }).headline,
    );
    expect(words).toEqual([
      'can injure',
      'can kill',
      'can kill, and is likely to',
      'can kill, and its arc burns',
      'can kill, burn and burst things',
    ]);
    // Below 100 V nothing is driven through a person, and a short burns all the same.
    expect([50, 150, 2000].map((energy) => hazardOf({ energy, voltage: 48, charge: (2 * energy) / 48 }).headline)).toEqual([
      'below the published thresholds',
      'can burn',
      'can burn: a short melts metal',
    ]);
    fc.assert(
      fc.property(
        fc.double({ min: 1e-3, max: 1e6, noNaN: true }),
        fc.double({ min: 1, max: 1e5, noNaN: true }),
        (energy, voltage) => {
          const { class: of, headline, findings } = hazardOf({ energy, voltage, charge: (2 * energy) / voltage });
          const deadlyLine = findings.some((f) => f.exceeded && /fibrillat|death/.test(f.rule.text));
          expect([of === 'severe', headline.startsWith('can kill')]).toEqual([deadlyLine, deadlyLine]);
          expect(of === 'below').toBe(!findings.some((f) => f.exceeded));
        },
      ),
    );
  });

  test('a coin-sized capacitor at 5 V is below every threshold, and the strip does not promise more', () => {
    const hazard = hazardOf({ energy: 0.01, voltage: 5, charge: 4e-3 });
    expect(hazard.class).toBe('below');
    expect(hazard.headline).toBe('below the published thresholds');
  });

  test('more energy, voltage or charge never lowers the class of a store above 400 V', () => {
    const rank = { below: 0, hazardous: 1, severe: 2 };
    const positive = fc.double({ min: 1e-6, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(
        positive,
        fc.double({ min: 401, max: 14_000, noNaN: true }),
        positive,
        fc.double({ min: 1, max: 10, noNaN: true }),
        (energy, voltage, charge, k) => {
          const less = rank[hazardOf({ energy, voltage, charge }).class];
          expect(rank[hazardOf({ energy: energy * k, voltage, charge }).class]).toBeGreaterThanOrEqual(less);
          expect(rank[hazardOf({ energy, voltage, charge: charge * k }).class]).toBeGreaterThanOrEqual(less);
        },
      ),
    );
  });
});
