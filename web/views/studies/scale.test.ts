import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { printOutput, type Output } from '@vast-surge/core/study';
import { readGoal } from './goal-range.tsx';
import { digitsFor, roomFor, scaleOf } from './scale.ts';

const size = fc.double({ min: 1e-9, max: 1e9, noNaN: true });

describe('an axis of a study', () => {
  test('puts its ends where they belong and keeps the order, evenly and by ratio, with ticks between that do not touch', () => {
    fc.assert(
      fc.property(size, fc.double({ min: 1.001, max: 1e4, noNaN: true }), fc.boolean(), (low, ratio, isLog) => {
        const scale = scaleOf(low, low * ratio, 80, 700, isLog);
        expect(scale.at(low)).toBeCloseTo(80, 6);
        expect(scale.at(low * ratio)).toBeCloseTo(700, 6);
        const places = scale.ticks.map((tick) => scale.at(tick));
        for (const [i, place] of places.entries()) {
          expect(place).toBeGreaterThan(79);
          expect(place).toBeLessThan(701);
          if (i > 0) expect(place).toBeGreaterThan(places[i - 1] ?? Infinity);
        }
        expect(places.length).toBeLessThanOrEqual(Math.floor(620 / 64) + 1);
      }),
      { seed: 26 },
    );
    expect(scaleOf(1, 1, 0, 100).at(1)).toBe(50);
  });

  test('has room for everything that is drawn, from nought where that is near', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 20 }), (values) => {
        const [from, to] = roomFor([...values, NaN]);
        expect(to).toBeGreaterThan(from);
        for (const value of values) expect(from <= value && value <= to).toBe(true);
      }),
      { seed: 26 },
    );
    expect(roomFor([1, 10])[0]).toBe(0);
    expect(roomFor([9, 10])[0]).toBeGreaterThan(8);
    expect(roomFor([NaN])).toEqual([0, 1]);
  });

  test('prints what differs in so many digits that it is seen to differ', () => {
    expect([digitsFor(17_300, 266), digitsFor(17_300, 5000), digitsFor(283, 0), digitsFor(1, 1e-9)]).toEqual([4, 3, 3, 6]);
    expect(printOutput(17_283.3, { unit: 'A', from: 'figure' })).toBe('17.3 kA');
    expect(printOutput(17_283.3, { unit: 'A', from: 'figure' }, 4)).toBe('17.28 kA');
    expect(printOutput(0.952, { unit: '1', from: 'limit' })).toBe('95.2 %');
    expect(printOutput(NaN, { unit: 'A', from: 'solver' })).toBe('no value');
  });
});

describe('a goal as it is typed', () => {
  const output: Output = { id: 'peak-current', title: 'Peak current', of: 'Peak current', unit: 'A', from: 'figure' };
  const read = (from: string, to: string) => readGoal(output, [from, to]);

  test('has ends in any unit of its figure, and one that is left empty holds nothing', () => {
    expect(read('15 kA', '')).toEqual({ ok: true, goal: { from: 15_000, to: null } });
    expect(read('', '20k')).toEqual({ ok: true, goal: { from: null, to: 20_000 } });
    expect(read(' ', '')).toEqual({ ok: true, goal: null });
    expect(read('-5', '0')).toEqual({ ok: true, goal: { from: -5, to: 0 } });
  });

  test('that is none says at which end, and why', () => {
    expect(read('15 mm', '')).toMatchObject({ ok: false, at: 0 });
    expect(read('1 kA', 'much')).toMatchObject({ ok: false, at: 1 });
    expect(read('20 kA', '15 kA')).toMatchObject({ ok: false, at: 1, reason: 'must not be below 20 kA, the other end' });
  });
});
