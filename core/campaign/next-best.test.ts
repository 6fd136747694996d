// Where one more shot teaches the most: against the known optimal design of a parabola, and against even rounds.
import { describe, expect, test } from 'vitest';
import { normals, uniforms } from '../numeric/index.ts';
import { newDocument } from '../rig/index.ts';
import { testCampaign, testId, testShot } from '../test/campaigns.ts';
import { demoRig } from '../test/rigs.ts';
import { answerOf, type Point } from './answer.ts';
import { betterSetting } from './book.ts';
import { bestSequence, nextBest, sharesOf } from './next-best.ts';
import { planSeries } from './plan.ts';
import type { KeptShot } from './place.ts';
import { progressOf } from './progress.ts';

const grid = Array.from({ length: 21 }, (_, i) => [i / 10 - 1]);

test('of a parabola a quarter of the shots at each end and half in the middle', () => {
  // The design with the least mean variance over an interval. Atkinson, Donev and Tobias, Optimum Experimental Designs; from memory.
  const row = bestSequence(grid, 80);
  const at = (x: number) => row.filter((i) => Math.abs((grid[i]?.[0] ?? NaN) - x) < 0.15).length / row.length;
  expect(at(-1)).toBeCloseTo(0.25, 1);
  expect(at(0)).toBeCloseTo(0.5, 1);
  expect(at(1)).toBeCloseTo(0.25, 1);
  // The corners and the middle come before anything is chosen.
  expect(row.slice(0, 3).map((i) => grid[i]?.[0])).toEqual([-1, 1, 0]);
});

test('of two fields every corner and the middle come first, and then what tells the one curve from the other', () => {
  const plane = [0, 1, 2].flatMap((a) => [0, 1, 2].map((b) => [a, b]));
  const row = bestSequence(plane, 12).map((i) => plane[i]);
  expect(row.slice(0, 5)).toEqual([
    [0, 0],
    [0, 2],
    [2, 0],
    [2, 2],
    [1, 1],
  ]);
  expect(row.slice(5).some((point) => point?.includes(1))).toBe(true);
  expect(nextBest([], [[1], [1]])).toBeNull();
});

test('a campaign that seeks the highest point knows it better than even rounds do, with as many shots', () => {
  const candidates = Array.from({ length: 9 }, (_, i) => [i]);
  const errors = { even: 0, sought: 0 };
  for (let n = 0; n < 24; n++) {
    const [uniform, normal] = [uniforms(n + 1), normals(n + 1000)];
    const top = 1 + 6 * uniform();
    const fire = ([x = NaN]: readonly number[]): Point => ({ levels: [x], y: 10 - 0.15 * (x - top) ** 2 + 0.8 * normal() });
    const even = [...candidates, ...candidates, ...candidates].map(fire);
    const sought: Point[] = [];
    while (sought.length < even.length) {
      const answer = answerOf(sought);
      const k = nextBest(
        sought.map(({ levels }) => levels),
        candidates,
        { shares: sharesOf(answer, candidates, 'highest'), first: 'opening' },
      );
      sought.push(fire(candidates[k ?? 0] ?? []));
    }
    const off = (points: readonly Point[]): number => {
      const answer = answerOf(points);
      const values = candidates.map((levels) => answer?.at(levels).value ?? NaN);
      return 0.15 * (values.indexOf(Math.max(...values)) - top) ** 2;
    };
    errors.even += off(even);
    errors.sought += off(sought);
  }
  expect(errors.sought).toBeLessThan(errors.even);
});

test('shares add up to one, and nothing is given up altogether', () => {
  const points = [0, 1, 2, 3, 4].flatMap((x) => [x, x].map((at, i): Point => ({ levels: [at], y: 5 * at + 0.1 * i })));
  const candidates = [[0], [1], [2], [3], [4]];
  const shares = sharesOf(answerOf(points), candidates, 'highest');
  expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
  expect(shares.indexOf(Math.max(...shares))).toBe(4);
  expect(Math.min(...shares)).toBeGreaterThan(0);
  expect(sharesOf(null, candidates, 'highest')).toEqual([0.2, 0.2, 0.2, 0.2, 0.2]);
});

describe('as the design of a campaign', () => {
  const sessions = [{ start: 0, seconds: 8 * 3600, people: 'AB' }];
  const series = {
    varied: [{ path: 'store.V0', levels: [20, 24, 28, 32, 36] }],
    design: 'next-best' as const,
    replicates: 2,
    order: 'as-taught' as const,
    seed: 1,
    rest: 0,
    sessions,
  };
  const document = { ...newDocument('Bench'), rig: demoRig('thimble') };

  test('its order begins with ends and middle; a fixed order is refused, and too few settings', () => {
    const made = planSeries(document, series);
    if (!made.ok) throw new Error(made.reason);
    expect(made.plan.row).toHaveLength(10);
    expect(made.plan.row.slice(0, 3)).toEqual([0, 4, 2]);
    expect(planSeries(document, { ...series, order: 'random' })).toMatchObject({ ok: false, field: 'order' });
    expect(planSeries(document, { ...series, varied: [{ path: 'store.V0', levels: [20, 36] }] })).toMatchObject({
      ok: false,
      field: 'vary',
      reason: expect.stringMatching(/3 settings or more/),
    });

    // What is read moves the next shot; what the book says of a place stands, and a shot that was fired there keeps its setting.
    const { settings, row, before, after } = made.plan;
    const campaign = testCampaign({
      settings,
      row,
      design: 'next-best',
      order: 'as-taught',
      before,
      after,
      sessions,
      seeks: 'highest',
    });
    const shot = (place: number, setting: number, current: number): KeptShot =>
      testShot(place, place, 60_000 * place, { measured: { current }, campaign: { id: testId(900), place, setting } });
    const shots = [shot(0, 0, 100), shot(1, 4, 178), shot(2, 2, 141), shot(3, 4, 181), shot(4, 0, 98)];
    const progress = progressOf(campaign, [], shots);
    expect(progress.places[3]?.setting).toBe(campaign.settings[4]);
    const better = betterSetting({ campaign, progress, shots });
    const chosen = better ?? campaign.row[5] ?? -1;
    expect(chosen).toBe(4);
    const entry = {
      kind: 'setting' as const,
      id: testId(501),
      at: new Date(1e6).toISOString(),
      by: 'AB',
      place: 5,
      setting: 4,
      text: 'it teaches the most there.',
    };
    const moved = progressOf(campaign, [entry], shots);
    expect(moved.next?.setting).toBe(campaign.settings[4]);
    expect(betterSetting({ campaign, progress: moved, shots })).toBeNull();
  });
});
