import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readRigFile } from '../format/index.ts';
import { newDocument } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { centralComposite, compositeValues, factorial, latinSquare, ordered } from './design.ts';
import { planSeries, type Series, type Setting } from './plan.ts';
import { schedule } from './schedule.ts';

describe('designs', () => {
  test.each([
    // Axial distance of the rotatable design, and its points without the middle. Montgomery, Design and Analysis of Experiments, table of
    // central composite designs; from memory.
    [2, 1.414, 8],
    [3, 1.682, 14],
    [4, 2, 24],
    [5, 2.378, 42],
  ])('central composite of %d factors: axes at %d, %d points round the middle', (k, alpha, round) => {
    const { alpha: found, points } = centralComposite(k, 5);
    expect(found).toBeCloseTo(alpha, 3);
    expect(points).toHaveLength(round + 5);
    // Rotatable: Σx⁴ is three times Σx²y², over corners and axes.
    const sumOf = (f: (x: number, y: number) => number) => points.reduce((sum, [x = 0, y = 0]) => sum + f(x, y), 0);
    expect(sumOf((x) => x ** 4) / sumOf((x, y) => (x * y) ** 2)).toBeCloseTo(3, 9);
  });

  test('central composite between ends never leaves them, and has its middle', () => {
    const values = compositeValues([
      { low: 10, high: 20 },
      { low: -1, high: 1 },
    ]);
    expect(Math.min(...values.map(([x = NaN]) => x))).toBeCloseTo(10, 12);
    expect(Math.max(...values.map(([x = NaN]) => x))).toBeCloseTo(20, 12);
    expect(values).toContainEqual([15, 0]);
    expect(() => centralComposite(1, 1)).toThrow(/2 to 6 factors/);
  });

  test('factorial is every combination once; a Latin square has each treatment once in every row and column', () => {
    const all = factorial([3, 2, 4]);
    expect(all).toHaveLength(24);
    expect(new Set(all.map(String)).size).toBe(24);
    for (let n = 2; n <= 9; n++) {
      const square = latinSquare(n, 17 * n);
      const whole = (row: readonly (number | undefined)[]) => new Set(row).size === n;
      expect(square.every(whole)).toBe(true);
      expect(Array.from({ length: n }, (_, c) => square.map((row) => row[c])).every(whole)).toBe(true);
    }
  });

  test('an order has every point as often as wanted, the same again for a seed; blocks change as seldom as can be', () => {
    const points = ['a', 'b', 'c', 'd'];
    for (const by of ['blocks', 'rising', 'random', 'latin'] as const) {
      const made = ordered(points, 4, by, 3);
      expect(made).toEqual(ordered(points, 4, by, 3));
      for (const point of points) expect(made.filter((one) => one === point)).toHaveLength(4);
    }
    const changes = (row: readonly string[]) => row.filter((one, i) => i > 0 && one !== row[i - 1]).length;
    expect(changes(ordered(points, 4, 'blocks', 3))).toBe(3);
    expect(ordered(points, 2, 'rising', 3).join('')).toBe('aabbccdd');
    expect(changes(ordered(points, 4, 'random', 3))).toBeGreaterThan(3);
  });
});

test('a schedule books in order, never beyond a session, never two at once, and drops what has no room', () =>
  fc.assert(
    fc.property(
      fc.array(fc.record({ seconds: fc.integer({ min: 60, max: 900 }), setting: fc.constantFrom('a', 'b', 'c') }), {
        maxLength: 40,
      }),
      fc.array(fc.record({ day: fc.integer({ min: 0, max: 30 }), seconds: fc.integer({ min: 600, max: 14_400 }) }), {
        maxLength: 4,
      }),
      (shots, hours) => {
        const work = shots.map((one, i) => ({ of: i, change: 120, ...one }));
        const sessions = [...new Map(hours.map(({ day, seconds }) => [day, { start: day * 86_400_000, seconds }])).values()];
        const made = schedule(work, sessions, { before: 110, after: 60 });
        const booked = made.sessions.flatMap(({ shots: some }) => some.map(({ of }) => of));
        expect([...booked, ...made.dropped]).toEqual(work.map(({ of }) => of));
        for (const { session, shots: some } of made.sessions) {
          let at = session.start + 110_000;
          for (const { of, start, end, changes } of some) {
            expect(start - at).toBe(changes || at === session.start + 110_000 ? 120_000 : 0);
            expect(end - start).toBe(1000 * (shots[of]?.seconds ?? NaN));
            at = end;
          }
          if (some.length > 0) expect(at).toBeLessThanOrEqual(session.start + 1000 * (session.seconds - 60));
        }
      },
    ),
  ));

describe('a series of a rig', () => {
  const document = { ...newDocument('Bench'), rig: demoRig('thimble') };
  const series = (more: Partial<Series> = {}): Series => ({
    varied: [{ path: 'store.V0', levels: [20, 28, 36] }],
    design: 'factorial',
    replicates: 3,
    order: 'blocks',
    seed: 1,
    rest: 0,
    sessions: [{ start: 0, seconds: 7200 }],
    ...more,
  });
  const refused = (more: Partial<Series>, of = document) => {
    const made = planSeries(of, series(more));
    return made.ok ? '' : `${made.field}: ${made.reason}`;
  };

  test('has what is calculated of each setting, the time that a person needs, and says what does not fit', () => {
    const made = planSeries(document, series());
    if (!made.ok) throw new Error(made.reason);
    const { settings, shots, schedule: laid } = made.plan;
    expect([settings.length, shots]).toEqual([3, 9]);
    // A capacitor discharges in proportion to its voltage, but for the drop of the thyristor.
    expect((settings[2]?.predicted.current ?? NaN) / (settings[0]?.predicted.current ?? NaN)).toBeCloseTo(36 / 20, 1);
    // The charge, the bleed and the hands: minutes, not seconds.
    expect(settings[0]?.seconds).toBeGreaterThan(180);
    expect(laid.dropped).toEqual([]);
    const hour = planSeries(document, series({ sessions: [{ start: 0, seconds: 3000 }] }));
    expect(hour.ok && hour.plan.schedule.dropped.length).toBeGreaterThan(0);
    expect(hour.ok && hour.plan.schedule.dropped.length).toBeLessThan(9);
  });

  test('is refused by name, with what would work', () => {
    expect(refused({ varied: [{ path: 'store.V0', levels: [20, 30, 20] }] })).toMatch(
      /store\.V0: two levels are the same: 20\.0 V/,
    );
    expect(refused({ varied: [{ path: 'store.nonsense', levels: [1] }] })).toMatch(/is no quantity of this rig/);
    expect(refused({ varied: [{ path: 'store.V0', levels: [-5] }] })).toMatch(/Charged to is −5\.00 V; it must be from/);
    const beyond = { varied: [{ path: 'store.V0', levels: [20, 55] }] };
    expect(refused(beyond)).toMatch(
      /vary: Charged to 55 V: The supply cannot charge the bank to 55\.0 V.*\. These can be fired: Charged to 20 V\.$/,
    );
    const strong = { ...document, rig: rigWith({ 'supply.V': '80 V' }, document.rig) };
    expect(refused(beyond, strong)).toMatch(/vary: Charged to (20|55) V: do not fire\. /);
    expect(refused({ sessions: [{ start: 0, seconds: 300 }] })).toMatch(
      /session: of 5 min has no room for one shot: preparing takes \d+ min/,
    );
    expect(refused({ design: 'central-composite' })).toMatch(/2 to 6 fields/);
    // A rating that nobody entered holds the sheet back, and the series with it.
    const blind = { ...document, rig: rigWith({ 'bleeder.P': '' }, document.rig) };
    expect(refused({}, blind)).toMatch(
      /vary: Charged to 20 V: not now\. Bleeder, power, each: no rating.* None of the 3 settings can be fired: change the rig/,
    );
    const mortal = { ...document, rig: rigWith({ 'store.Nr': '1', 'store.nl': '1' }, document.rig) };
    expect(refused({}, mortal)).toMatch(/repeat: 9 shots take .* times what the capacitors live/);
  });
});

test('a campaign of the demo is kept as the planner plans it today: npm run draw-shots where it is not', () => {
  const all = JSON.parse(readFileSync(new URL('../../demo/record/campaigns.json', import.meta.url), 'utf8')) as {
    rig: string;
    varied: Series['varied'];
    replicates: number;
    rest: number;
    plan: { settings: Setting[]; row: number[]; before: number; after: number };
  }[];
  const [small] = all.filter(({ rig }) => rig === 'kittiwake').sort((a, b) => a.plan.settings.length - b.plan.settings.length);
  if (!small) throw new Error('no campaign');
  const { varied, replicates, rest, plan } = small;
  const read = readRigFile(readFileSync(new URL('../../demo/kittiwake.json', import.meta.url), 'utf8'));
  if (!read.ok) throw new Error('Kittiwake cannot be read');
  const sessions = [{ start: 0, seconds: 36_000 }];
  const made = planSeries(read.document, { varied, design: 'factorial', replicates, order: 'rising', seed: 1, rest, sessions });
  if (!made.ok) throw new Error(made.reason);
  expect(made.plan.row).toEqual(plan.row);
  expect([made.plan.before, made.plan.after]).toEqual([plan.before, plan.after]);
  made.plan.settings.forEach(({ values, predicted }, i) => {
    const then = plan.settings[i];
    expect(values).toEqual(then?.values);
    expect((predicted.current ?? NaN) / (then?.predicted.current ?? NaN)).toBeCloseTo(1, 6);
  });
});
