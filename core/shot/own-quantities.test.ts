import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { inManner, siManner } from '../quantity/index.ts';
import { axesOf, ownIn, shotSchema, type Shot } from './index.ts';

const shot = (more: Partial<Shot>): Shot => ({
  at: '2026-05-02T09:00:00.000Z',
  outcome: 'fired',
  set: { voltage: 12_000 },
  measured: {},
  own: [],
  sound: '',
  remarks: '',
  campaign: null,
  ...more,
});
const issuesOf = (own: unknown): string[] => {
  const read = shotSchema.safeParse({ ...shot({}), own });
  return read.success ? [] : read.error.issues.map((issue) => `${issue.path.join('.')} ${issue.message}`);
};

describe('quantities of one’s own', () => {
  test('are refused without a unit, without a name, with the name of another, and a shot of before they were there has none', () => {
    expect(issuesOf([{ name: 'Dent', unit: 'mm', value: 1.2 }])).toEqual([]);
    expect(issuesOf([{ name: 'Dent', unit: ' ', value: 1 }])).toEqual([
      'own.0.unit needs a unit, such as "mJ"; write "1" for a plain number or a share',
    ]);
    expect(issuesOf([{ name: '', unit: 'mm', value: 1 }])).toEqual(['own.0.name needs a name, such as "laser energy"']);
    expect(issuesOf([{ name: 'peak current', unit: 'A', value: 1 }])[0]).toMatch(/enter it under "Peak current"/);
    const twice = [
      { name: 'Dent', unit: 'mm', value: 1 },
      { name: ' dent', unit: 'in', value: 2 },
    ];
    expect(issuesOf(twice)).toEqual(['own.1.name is there twice: each quantity has a name of its own']);
    expect(issuesOf([{ name: 'Dent', unit: 'mm', value: '3' }])).toEqual(['own.0.value must be a number']);
    expect(issuesOf(Array.from({ length: 13 }, (_, i) => ({ name: `q${i}`, unit: '1', value: i })))).toHaveLength(1);
    const { own: _none, ...before } = shot({});
    expect(shotSchema.parse(before).own).toEqual([]);
  });

  test('stand on either axis under one name and unit; the same name in another unit is another quantity', () => {
    const shots = [
      shot({ own: [{ name: 'Laser energy', unit: 'mJ', value: 2.5 }], measured: { current: 900 } }),
      shot({ own: [{ name: 'laser energy ', unit: 'mJ', value: -3 }] }),
      shot({ own: [{ name: 'Laser energy', unit: 'a.u.', value: 40 }] }),
    ];
    expect(ownIn(shots)).toEqual([
      { name: 'Laser energy', unit: 'mJ' },
      { name: 'Laser energy', unit: 'a.u.' },
    ]);
    const { over, against } = axesOf(shots);
    expect(over.map(({ title }) => title)).toEqual(['Set voltage', 'Laser energy, mJ', 'Laser energy, a.u.', 'Peak current']);
    expect(against.map(({ title }) => title)).toEqual(['Peak current', 'Laser energy, mJ', 'Laser energy, a.u.']);
    const energy = against.find(({ title }) => title === 'Laser energy, mJ');
    expect(shots.map((one) => energy?.of(one))).toEqual([2.5, -3, undefined]);
    expect([energy?.print(2.5), energy?.printMargin(1.5, 0.25)]).toEqual(['2.5 mJ', '1.5 ± 0.25 mJ']);
    expect(inManner({ ...siManner, decimal: 'comma' }, () => energy?.print(2.5))).toBe('2,5 mJ');
  });

  test('every value that is kept is on its axis, whatever its name', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.string({ minLength: 1, maxLength: 20 }), { maxLength: 6, selector: (s) => s.trim().toLowerCase() }),
        fc.array(fc.double({ min: -1e9, max: 1e9, noNaN: true }), { minLength: 6, maxLength: 6 }),
        (names, values) => {
          const own = names.map((name, i) => ({ name, unit: 'u', value: values[i] ?? 0 }));
          const read = shotSchema.safeParse({ ...shot({}), own });
          fc.pre(read.success);
          const found = axesOf([shot({ own })]).over.filter(({ key }) => key.startsWith('own-'));
          expect(found.map(({ of }) => of(shot({ own })))).toEqual(own.map(({ value }) => value));
        },
      ),
      { seed: 23, numRuns: 200 },
    ));
});
