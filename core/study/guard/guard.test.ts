import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { newRig, type Rig } from '../../rig/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { buildSheet, interlockStudy } from '../index.ts';

const guarded = (typed: Readonly<Record<string, string>> = {}, from: Rig = demoRig('anvil')) => evaluateRig(rigWith(typed, from));
const verdictOf = (evaluation: ReturnType<typeof evaluateRig>) => {
  const made = runSheetOf('rig', evaluation);
  if (!made.ok) throw new Error('no sheet');
  return made.sheet.verdict;
};

describe('the guard of a rig', () => {
  test('that of the demo’s bank holds: no hole in its chain, no limit over, and it may be fired', () => {
    const evaluation = guarded();
    expect(interlockStudy(evaluation)?.holes).toEqual([]);
    expect(evaluation.ladder.limits.filter(({ slot, worst }) => slot === 'guard' && (worst ?? 0) > 1)).toEqual([]);
    expect(verdictOf(evaluation).word).toBe('go at most');
  });

  test('a rig without one has no interlock, and is evaluated as before', () => {
    const evaluation = evaluateRig(newRig());
    expect(interlockStudy(evaluation)).toBeNull();
    expect(evaluation.figures.filter(({ slot }) => slot === 'guard')).toEqual([]);
  });

  test.each([
    ['a guard through which the person reaches', { 'guard.act': 'reach' }, /through which a person reaches/],
    ['one contact on the door', { 'guard.doors': 'one' }, /the door contact welded, the dump is open/],
    ['a dump that has to be driven', { 'guard.dumpsBy': 'driven' }, /the control power lost, the dump is open/],
    ['a charger that the chain does not hold', { 'guard.charger': 'no' }, /nothing broken, the charger is on/],
    ['a shield that is just a sheet', { 'guard.ts': '1 mm' }, /Shield perforation/],
    ['people within the flash', { 'guard.d': '2 mm' }, /above its rating/],
    ['a dump that is smaller than its energy', { 'dump.E': '5 J' }, /Dump: energy, each/],
    [
      'a fuse that cannot break the voltage',
      { 'store.Am': '5e3 A²s', 'store.Vf': '690 V' },
      /Fuse per capacitor, voltage it must break/,
    ],
    [
      'a fuse of which nobody says what it breaks',
      { 'store.Am': '5e3 A²s' },
      /without a breaking voltage a fuse is a wire that arcs/,
    ],
  ])('%s: it is named, and the verdict is not to fire', (_what, typed, words) => {
    const evaluation = guarded(typed as Readonly<Record<string, string>>);
    const verdict = verdictOf(evaluation);
    expect(verdict.word).toBe('do not fire');
    const all = [
      ...evaluation.problems.map(({ text }) => text),
      ...evaluation.ladder.limits.filter(({ worst }) => (worst ?? 0) > 1).map(({ title }) => title),
      verdict.because,
    ];
    expect(all.join('\n')).toMatch(words);
  });

  test('above ten kilojoules one dump is not enough: one that sticks cannot be met with the stick', () => {
    const large = { 'store.np': '60', 'dump.E': '100 kJ', 'dump.P': '1 GW' };
    const one = guarded(large);
    expect(interlockStudy(one)).toMatchObject({ strict: true, holes: [{ what: 'the dump is open' }] });
    expect(one.problems.map(({ text }) => text).join()).toMatch(/with one dump/);
    expect(interlockStudy(guarded({ ...large, 'guard.nd': '2' }))?.holes).toEqual([]);
  });

  test('twice the distance is a little less than six decibels down, and better ears are heard at once', () => {
    const at = (typed: Readonly<Record<string, string>>) => {
      const figure = guarded(typed).figures.find(({ id }) => id === 'sound-at-ear');
      return figure?.ok ? figure.worked.value : NaN;
    };
    const near = at({});
    expect(near / at({ 'guard.d': '8 m' })).toBeGreaterThan(2);
    expect(near / at({ 'guard.d': '8 m' })).toBeLessThan(2.1);
    expect(near / at({ 'guard.ears': 'both' })).toBeCloseTo(10 ** (8 / 20), 6);
  });
});

describe('the build sheet', () => {
  test('sizes the loop by its action, the dump by its energy, and says the numbers on its labels', () => {
    const evaluation = guarded();
    const sheet = buildSheet('Anvil', evaluation);
    const loop = sheet.wires.find(({ id }) => id === 'loop');
    const dump = sheet.wires.find(({ id }) => id === 'dump');
    const action = evaluation.figures.find(({ id }) => id === 'action-integral');
    expect(loop?.action).toBe(action?.ok ? action.band.high : NaN);
    // IEC 60949 by hand: K·√ln((80 + 234.5)/(20 + 234.5)) = 104 A·√s/mm² of copper.
    expect((loop?.section ?? NaN) * 1e6).toBeCloseTo(
      Math.sqrt(loop?.action ?? NaN) / (226 * Math.sqrt(Math.log(314.5 / 254.5))),
      6,
    );
    expect(loop?.made ?? 0).toBeGreaterThanOrEqual(loop?.section ?? 1);
    expect(dump?.action ?? 0).toBeGreaterThan(0);
    expect(sheet.labels[0]).toMatch(/Anvil: .*J at 1\.94 kV/);
    expect(sheet.creepage).toBeGreaterThan(sheet.clearance);
  });
});
