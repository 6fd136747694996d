import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { causesOf } from '../../study/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { figureOf, marxRig } from '../../test/marx.ts';

// A column whose resistors are 45 mm each, with a spark as its load.
const column = (typed: Readonly<Record<string, string>>) =>
  marxRig({ 'store.lc': '45 mm', 'store.V0': '12 kV', ...typed }, { load: 'spark' });
const limit = (typed: Readonly<Record<string, string>>, id: string) => {
  const found = evaluateRig(column(typed)).ladder.limits.find((l) => l.id === id);
  return {
    stress: found?.stress.value ?? NaN,
    used: found?.utilisation ?? NaN,
    relief: found?.relief.map(({ path }) => path) ?? [],
  };
};

describe('the resistors of a column, from top to earth', () => {
  test('see the whole output where the output gap holds more, and what it holds where it is short', () => {
    const length = 0.045 * evaluateRig(column({})).corners.nominal().own('store').quantity('n').value;
    const far = limit({ 'load.d': '30 cm' }, 'column-flashover').stress * length;
    const near = limit({ 'load.d': '1 cm' }, 'column-flashover').stress * length;
    expect(far).toBeCloseTo(figureOf(column({ 'load.d': '30 cm' }), 'marx-output-voltage'), 3);
    expect(near).toBeCloseTo(figureOf(column({ 'load.d': '1 cm' }), 'spark-needs-most'), 3);
    expect(near).toBeLessThan(far);
  });

  test('flash over sooner when they are dirty and later when they are coated, with the scatter that was entered', () => {
    const as = (ks: string) => limit({ 'load.d': '30 cm', 'store.ks': ks }, 'column-flashover').used;
    expect(as('0.5') / as('1')).toBeCloseTo(2, 9);
    expect(as('1.3') / as('1')).toBeCloseTo(1 / 1.3, 9);
    const ladder = evaluateRig(column({ 'store.ks': '0.5 ±40 %' })).ladder.limits.find(({ id }) => id === 'ladder-flashover');
    // Half of 300 V/mm, and 40 % less: 90 V/mm, against 12 kV on 45 mm.
    expect(ladder?.worst ?? NaN).toBeCloseTo(12e3 / 0.045 / 90e3, 9);
  });

  test('are relieved by a shorter output gap, which the page for troubles says as well', () => {
    const dirty = { 'load.d': '12 cm', 'store.ks': '0.2' };
    expect(limit(dirty, 'column-flashover').used).toBeGreaterThan(1);
    expect(limit(dirty, 'column-flashover').relief).toContain('load.d');
    const cause = causesOf(column(dirty), 'resistor-arcs', (value, unit) => printQuantity(value, unit)).find(
      ({ id }) => id === 'long-output-gap',
    );
    expect(cause).toMatchObject({ likely: true, change: expect.stringMatching(/Shorten the output gap/) });
  });
});
