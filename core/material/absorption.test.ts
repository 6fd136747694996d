import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { absorptions, insulationConstants } from './index.ts';

/** Typical ranges as makers state them under tests of the kind of IEC 60384-1, recalled from memory; by the titles used here. */
const rows = readFileSync(new URL('../test/fixtures/dielectric-absorption.csv', import.meta.url), 'utf8')
  .split('\n')
  .slice(1)
  .filter((line) => line !== '')
  .map((line) => line.split(','));
const ids: Readonly<Record<string, string>> = {
  'polyester (PET)': 'pet',
  'ceramic class 2': 'ceramic-2',
  'aluminium electrolytic': 'electrolytic',
};

test.each(rows)(
  '%s gives back what the table has, and has a time constant of its own leakage',
  (name = '', low = '', high = '') => {
    const id = ids[name] ?? name;
    const absorption = absorptions.find((one) => one.id === id);
    expect(absorption?.low).toBeCloseTo(Number(low) / 100, 9);
    expect(absorption?.high).toBeCloseTo(Number(high) / 100, 9);
    // What gives back much is left to itself for longer than what gives back little.
    expect(absorption?.wait).toBeGreaterThanOrEqual((absorption?.high ?? 1) > 0.04 ? 300 : 60);
    expect(insulationConstants.some((one) => one.id === id)).toBe(true);
  },
);
