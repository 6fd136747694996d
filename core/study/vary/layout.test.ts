import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { demoRig, rigWith } from '../../test/rigs.ts';
import type { Rig } from '../../rig/index.ts';
import {
  askedAxis,
  layoutOf,
  outputsOf,
  pointsOf,
  readAxis,
  sweepChunk,
  sweepColumnsChunk,
  sweepPoints,
  widthOf,
  type Axis,
  type SweepLayout,
} from './index.ts';

function axisOf(rig: Rig, text: string): Axis {
  const read = readAxis(rig, askedAxis(text));
  if (!read.ok) throw new Error(`${read.at} ${read.reason}`);
  return read.axis;
}
const layoutFor = (rig: Rig, axes: readonly string[], ids: readonly string[]): SweepLayout =>
  layoutOf(
    rig,
    axes.map((text) => axisOf(rig, text)),
    outputsOf(rig).filter(({ id }) => ids.includes(id)),
  );
/** A stretch as it lies in memory. */
const stretch = (rig: Rig, layout: SweepLayout, from: number, to: number) => ({
  from,
  numbers: Float64Array.from(sweepColumnsChunk(rig, layout, from, to).flatMap((column) => Array.from(column))),
});

describe('a sweep in columns', () => {
  const cases = [
    ['anvil', ['store.V0=1 kV..4 kV/6', 'store.ESR=1 mΩ..30 mΩ/4 log'], ['peak-current', 'limit:tightest', 'charge-time']],
    ['kittiwake', ['store.V0=5 kV..40 kV/7'], ['marx-output-voltage', 'limit:gap-window']],
    // Stages of a launcher: limits of channels that the rig is not seen from.
    ['shuttle', ['store@3.V0=100 V..900 V/5'], ['peak-current', 'limit:tightest']],
    ['cricket', ['supply.V=5 kV..20 kV/4'], ['break-rate', 'limit:tightest']],
    ['thimble', ['store.V0=100 V..500 V/3'], ['solver:current', 'stored-energy']],
  ] as const;

  test.each(cases)('of %s comes out of them as it went in, however it was cut', (name, axes, ids) => {
    const rig = demoRig(name);
    const layout = layoutFor(rig, axes, ids);
    expect(layout.outputs).toHaveLength(ids.length);
    const n = pointsOf(layout);
    const whole = sweepChunk(rig, { axes: layout.axes, outputs: layout.outputs.map(({ id }) => id) }, 0, n);
    const all = stretch(rig, layout, 0, n);
    expect(all.numbers).toHaveLength(widthOf(layout) * n);
    expect(sweepPoints(layout, [all])).toEqual(whole);
    const cut = Math.floor(n / 3);
    expect(sweepPoints(layout, [stretch(rig, layout, cut, n), stretch(rig, layout, 0, cut)])).toEqual(whole);
  });

  test('what is not there yet is left open, and a sweep of a rig without ratings has no tightest limit', () => {
    const rig = demoRig('anvil');
    const layout = layoutFor(rig, ['store.V0=1 kV..4 kV/6'], ['peak-current']);
    const some = sweepPoints(layout, [stretch(rig, layout, 4, 6)]);
    expect(some.map((point) => point !== undefined)).toEqual([false, false, false, false, true, true]);
    const bare = rigWith({});
    const unrated = layoutFor(bare, ['store.V0=100 V..400 V/2'], ['stored-energy']);
    for (const point of sweepPoints(unrated, [stretch(bare, unrated, 0, 2)])) {
      expect(point?.over).toEqual([]);
      if (point?.tightest) expect(unrated.limits).toContain(point.tightest.id);
    }
  });

  test('any set of limits over their ratings is kept, of any number of limits', () => {
    const axis = axisOf(demoRig('anvil'), 'store.V0=1 kV; 2 kV');
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 90 }), fc.array(fc.nat(89), { maxLength: 90 }), (many, picks) => {
        const limits = Array.from({ length: many }, (_, k) => `limit:${k}`);
        const layout: SweepLayout = { axes: [axis], outputs: [], limits };
        const over = [...new Set(picks.filter((k) => k < many))].sort((a, b) => a - b);
        const masks = Array.from({ length: Math.ceil(many / 32) }, (_, m) =>
          over.filter((k) => Math.floor(k / 32) === m).reduce((sum, k) => sum + 2 ** (k % 32), 0),
        );
        const [point] = sweepPoints(layout, [{ from: 0, numbers: Float64Array.of(NaN, NaN, ...masks) }]);
        expect(point?.over).toEqual(over.map((k) => `limit:${k}`));
        expect(point?.tightest).toBeNull();
      }),
      { seed: 20 },
    );
  });
});
