import { describe, expect, test } from 'vitest';
import { normals } from '../numeric/index.ts';
import { testCampaign, testId, testShot } from '../test/campaigns.ts';
import { calibrationOf, type Shot } from '../shot/index.ts';
import type { Kept } from './book.ts';
import { setFor, settingAt, type Campaign, type Entry } from './campaign.ts';
import { expectedAt, lastReading } from './expected.ts';
import type { KeptShot } from './place.ts';
import { progressOf } from './progress.ts';

const levels = [10, 20, 30];
const settings: Campaign['settings'] = levels.map((value) => ({
  values: [{ path: 'store.V0', title: 'Charged to', text: `${value} V`, value }],
  predicted: { current: 5 * value, voltage: value },
  seconds: 300,
  life: null,
  rest: 0,
  cools: '',
  uses: {},
}));
const at = (k: number) => {
  const setting = settings[k];
  if (!setting) throw new RangeError(`no setting ${k}`);
  return setting;
};
const campaignOf = (answers: Campaign['answers']): Campaign =>
  testCampaign({ answers, settings, row: levels.flatMap((_, k) => [k, k, k, k]) });
const light = { name: 'Light', unit: 'mV' };
const id = testId;
const shotAt = (n: number, place: number, more: Partial<Shot>): KeptShot => testShot(n, place, 1e12 + 6e5 * n, more);
function keptOf(answers: Campaign['answers'], shots: readonly KeptShot[], entries: readonly Entry[] = []): Kept {
  const campaign = campaignOf(answers);
  const records = shots.map(({ shot }) => ({ shot, predicted: settingAt(campaign, shot.campaign)?.predicted ?? {} }));
  const learnt = 'measure' in answers ? calibrationOf(records, 'current') : null;
  return { rig: 'Bench', campaign, entries, shots, progress: progressOf(campaign, entries, shots), learnt, caught: [] };
}
const lit = (n: number, place: number, value: number) => shotAt(n, place, { own: [{ ...light, value }] });
const lookedInto = (shot: KeptShot | undefined): Entry => ({
  id: id(800),
  at: new Date(2e12).toISOString(),
  by: 'AB',
  kind: 'looked-into',
  shot: shot?.id ?? '',
  text: 'A bolt was loose.',
});

describe('what the next shot is expected to come to', () => {
  test('what is calculated, by as much off as before; what is not calculated, by the curve through the shots', () => {
    const known = keptOf(
      { measure: 'current' },
      [0, 1, 2, 3, 4].map((n) => shotAt(n, n, { measured: { current: n < 4 ? 55 : 110 } })),
    );
    const next = expectedAt(known, at(2));
    expect(next).toMatchObject({ share: 90, calculated: 150 });
    expect((next?.value ?? NaN) / 165).toBeCloseTo(1, 1);
    const none = keptOf(light, []);
    expect(expectedAt(none, at(0))).toBeNull();
    const own = keptOf(
      light,
      [1.0, 1.1, 0.9, 2.0, 2.1, 1.9].map((value, n) => lit(n, n < 3 ? n : n + 1, value)),
    );
    expect(expectedAt(own, at(1))).toMatchObject({ share: 95, calculated: null });
    expect(expectedAt(own, at(1))?.value).toBeCloseTo(2, 9);
  });

  test('of 400 rigs the band of the curve holds the next shot in nineteen of twenty', () => {
    let held = 0;
    for (let k = 0; k < 400; k++) {
      const normal = normals(7000 + k);
      const draw = (place: number) => 3 + Math.floor(place / 4) + 0.4 * normal();
      const own = keptOf(
        light,
        [0, 1, 4, 5, 8, 9].map((place, n) => lit(n, place, draw(place))),
      );
      const told = expectedAt(own, at(1));
      const came = draw(4);
      held += told && came >= told.low && came <= told.high ? 1 : 0;
    }
    expect(held / 400).toBeGreaterThan(0.92);
    expect(held / 400).toBeLessThan(0.975);
  });
});

describe('the last reading', () => {
  const steady = [50, 51, 49, 50].map((current, n) => shotAt(n, n, { measured: { current } }));

  test('far off it stays the last until it is looked into, whatever did not fire or was not read since', () => {
    expect(lastReading(keptOf({ measure: 'current' }, steady))?.isInside).toBe(true);
    const far = [
      ...steady,
      shotAt(5, 4, { measured: { current: 60 } }),
      shotAt(6, 5, { outcome: 'misfire' }),
      shotAt(7, 5, { outcome: 'partial', measured: { current: 20 } }),
    ];
    const found = lastReading(keptOf({ measure: 'current' }, far));
    expect(found).toMatchObject({ isInside: false, isLookedInto: false, value: 60 });
    expect(found?.shot.id).toBe(far[4]?.id);
    expect(lastReading(keptOf({ measure: 'current' }, far, [lookedInto(found?.shot)]))?.isLookedInto).toBe(true);
    expect(lastReading(keptOf({ measure: 'current' }, far, [lookedInto(far[6])]))?.isLookedInto).toBe(false);
  });

  test('of a quantity that people named it is held against the shots before it, where they were at its setting', () => {
    const values = [1.0, 1.1, 0.9, 1.0, 2.0, 2.1, 1.9];
    const shots = values.map((value, n) => lit(n, n, value));
    expect(lastReading(keptOf(light, shots))).toMatchObject({ isInside: true, value: 1.9 });
    expect(lastReading(keptOf(light, [...shots, lit(8, 7, 4)]))).toMatchObject({ isInside: false, value: 4 });
    // The first at a setting has nothing to be held against.
    expect(lastReading(keptOf(light, [...shots, lit(8, 8, 40)]))).toBeNull();
    expect(lastReading(keptOf(light, []))).toBeNull();
  });
});

test('a shot at a setting is set to it by the names that shots have; a voltage that does not vary is that of the rig', () => {
  expect(setFor(at(1))).toEqual({ voltage: 20 });
  const gap = {
    ...at(1),
    values: [
      { path: 'switch.d', title: 'Spacing', text: '6 mm', value: 0.006 },
      { path: 'load.m', title: 'Mass', text: '30 g', value: 0.03 },
    ],
  };
  expect(setFor(gap)).toEqual({ voltage: 20, spacing: 0.006 });
  expect(settingAt(campaignOf(light), null)).toBeNull();
  expect(settingAt(campaignOf(light), { id: id(1), place: 12 })).toBeNull();
});
