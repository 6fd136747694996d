import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Slot } from '../block/index.ts';
import { Corners } from '../figure/index.ts';
import { givens, modelSpread, type Worked } from '../formula/index.ts';
import { blockIn, newRig, withBlock, type Rig } from '../rig/index.ts';
import { newBlock, blockDefinition } from '../kind/index.ts';
import { offBy } from '../test/fixtures.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import {
  joinedLadder,
  ladderOf,
  limitSpecs,
  limitState,
  tightest,
  wordUse,
  type BlindLimit,
  type Ladder,
  type Limit,
} from './index.ts';

const demos = ['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const;
const ladder = (rig: Rig, seeksRelief?: boolean) => ladderOf(new Corners(rig), seeksRelief);

/** Stress over rating at every corner of what both were made from, the greatest; null where one corner has no value, or there are too many. */
function worstOfAll(rig: Rig, id: string): number | null {
  const spec = limitSpecs(rig).find((one) => one.id === id);
  if (!spec) throw new Error(`no ${id}`);
  const corners = new Corners(rig);
  const nominal = corners.nominal();
  const [stress, rating] = [spec.stress(nominal), spec.rating(nominal)];
  if (!rating) return null;
  const leaves = [...givens(rating, givens(stress)).values()].flatMap(({ origin, tolerance }) =>
    origin.from === 'rule' || !tolerance ? [] : [origin.path],
  );
  // 2^7 rigs are worked out anew for one limit; the longer ones are made of the same steps.
  if (leaves.length > 7) return null;
  let worst = -Infinity;
  for (let mask = 0; mask < 2 ** leaves.length; mask++) {
    const corner = Object.fromEntries(leaves.map((path, i) => [path, mask & (1 << i) ? 'high' : 'low'] as const));
    try {
      const at = corners.at(corner);
      worst = Math.max(worst, spec.stress(at).value / (spec.rating(at)?.value ?? Infinity));
    } catch {
      return null;
    }
  }
  // What the formulas may be off by: upwards in the stress, downwards in the rating, independent of each other.
  const up = stress.value > 0 ? modelSpread(stress).up / stress.value : 0;
  const down = rating.value > 0 ? Math.min(0.9, modelSpread(rating).down / rating.value) : 0;
  return worst * (1 + Math.sqrt(up ** 2 + (1 / (1 - down) - 1) ** 2));
}

describe('the ladder of a rig', () => {
  test.each(demos)('%s: each stands at the worst of all corners of its tolerances, with the error of its formulas', (name) => {
    const rig = demoRig(name);
    let judged = 0;
    for (const limit of ladder(rig, false).limits) {
      if (limit.worst === null || !Number.isFinite(limit.worst)) continue;
      const worst = worstOfAll(rig, limit.id);
      if (worst === null) continue;
      expect(offBy(limit.worst, worst), limit.id).toBeLessThan(1e-9);
      expect(offBy(limit.utilisation ?? NaN, limit.stress.value / (limit.rating?.value ?? NaN)), limit.id).toBeLessThan(1e-12);
      judged += 1;
    }
    expect(judged).toBeGreaterThan(4);
  });

  test('a voltage against a rating by hand: 90 V ± 10 % on 95 V is 99/95 at the worst and 90/95 nominally', () => {
    const { limits } = ladder(rigWith({ 'supply.V': '200 V', 'store.V0': '90 V ±10 %', 'store.Vr': '95 V', 'store.ns': '1' }));
    const voltage = limits.find(({ id }) => id === 'capacitor-voltage');
    expect(voltage).toMatchObject({ slot: 'store', protects: true });
    expect(voltage?.utilisation).toBeCloseTo(90 / 95, 12);
    expect(voltage?.worst).toBeCloseTo(99 / 95, 12);
    expect([voltage?.band.low, voltage?.band.high]).toEqual([expect.closeTo(81, 9), expect.closeTo(99, 9)]);
  });

  test.each(demos)(
    '%s: tightest first, without a rating last; ways out for those that are over, and only where they are asked for',
    (name) => {
      const rig = demoRig(name);
      const { limits, blind } = ladder(rig);
      const uses = limits.map(({ worst }) => worst ?? -1);
      expect(uses).toEqual([...uses].sort((a, b) => b - a));
      for (const limit of limits) {
        if (limit.worst === null) expect(limit).toMatchObject({ rating: null, utilisation: null, relief: [] });
        else if (limit.worst <= 1) expect(limit.relief).toEqual([]);
        else if (Number.isFinite(limit.worst)) expect(limit.relief.length, limit.id).toBeGreaterThan(0);
      }
      for (const limit of ladder(rig, false).limits) expect(limit.relief).toEqual([]);
      for (const { reason } of blind) expect(reason).not.toBe('');
      // What is listed only where its rating is known is in neither list otherwise; everything else is in one.
      const listed = new Set([...limits, ...blind].map(({ id }) => id));
      for (const spec of limitSpecs(rig)) {
        const isRated = limits.some(({ id, rating }) => id === spec.id && rating !== null);
        expect(listed.has(spec.id), spec.id).toBe(spec.onlyIfKnown === true ? isRated : true);
      }
    },
  );

  test('a rating that is missing leaves its limit unjudged; a stress that cannot be worked out leaves it blind, with the reason', () => {
    const unrated = ladder(rigWith({ 'store.Vr': '' }));
    expect(unrated.limits.find(({ id }) => id === 'capacitor-voltage')).toMatchObject({
      rating: null,
      worst: null,
      utilisation: null,
      relief: [],
      protects: true,
    });
    const supply = blockIn(demoRig('anvil'), 'supply');
    const rig = withBlock(demoRig('anvil'), 'supply', { ...supply, fields: { ...supply.fields, V: null } });
    const { blind, limits } = ladder(rig);
    const [voltage, tool] = ['capacitor-voltage', 'tool-energy'].map((id) => blind.find((one) => one.id === id));
    const title = (id: string) => limitSpecs(rig).find((one) => one.id === id)?.title;
    expect(voltage).toEqual({
      id: 'capacitor-voltage',
      title: title('capacitor-voltage'),
      slot: 'store',
      protects: true,
      reason: 'Voltage is not given',
    });
    expect(tool).toMatchObject({ slot: 'tool', title: title('tool-energy'), reason: 'Voltage is not given' });
    expect(limits.some(({ id }) => blind.some((one) => one.id === id))).toBe(false);
  });

  test('a corner without a value is over without bound, and nothing is proposed for it', () => {
    const infinite = ladder(rigWith({ 'supply.V': '100 V ±10 %', 'store.V0': '95 V' })).limits.filter(
      ({ worst }) => worst === Infinity,
    );
    for (const limit of infinite) expect(limit.relief).toEqual([]);
  });

  test('the tightest is the first that has a rating', () => {
    const { limits } = ladder(demoRig('anvil'));
    expect(tightest({ limits, blind: [] })?.id).toBe(limits.find(({ rating }) => rating)?.id);
    expect(tightest({ limits, blind: [] }, 'store')?.id).toBe(limits.find(({ rating, slot }) => rating && slot === 'store')?.id);
    // Of a slot it is that of the channel the rig is seen from.
    const other = limits.filter(({ slot }) => slot === 'store').map((limit) => ({ ...limit, channel: 1 }));
    expect(tightest({ limits: other, blind: [] }, 'store')).toBeUndefined();
    expect(tightest({ limits: other, blind: [] })?.channel).toBe(1);
    expect(tightest({ limits: [], blind: [] })).toBeUndefined();
  });
});

test('a use of one is within, more is over; from 80 % on it is near; without a rating it is neither', () => {
  const state = (worst: number | null) => limitState({ worst });
  expect([null, 0, 0.7999, 0.8, 1, 1 + 1e-12, Infinity].map(state)).toEqual([
    'unrated',
    'below',
    'below',
    'near',
    'near',
    'over',
    'over',
  ]);
  expect(wordUse(0.5)).toMatch(/^50\D/);
  expect(wordUse(Infinity)).toBe('no value in the worst case');
});

describe('limits of several channels in one ladder', () => {
  const two = (() => {
    const rig = withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coilgun-stage')));
    const [first] = rig.channels;
    if (!first) throw new Error('a rig has a channel');
    return { ...rig, channels: [first, first] };
  })();
  const given = (value: number) => ({ value }) as Worked;
  const limit = (id: string, slot: Slot, worst: number | null): Limit => ({
    id,
    title: `Limit ${id}`,
    slot,
    stress: given(1),
    band: { low: 1, high: 1, lowAt: {}, highAt: {} },
    rating: worst === null ? null : given(1),
    utilisation: worst,
    worst,
    protects: false,
    relief: [{ path: `${slot}.V`, slot, field: 'V', title: 'V', unit: 'V', value: 1, direction: 'lower' }],
  });
  const blind = (id: string, slot: Slot): BlindLimit => ({
    id,
    title: `Limit ${id}`,
    slot,
    protects: false,
    reason: 'not known',
  });
  const join = (own: Partial<Ladder>, ...others: Partial<Ladder>[]) =>
    joinedLadder(
      two,
      { limits: [], blind: [], ...own },
      others.map((other, i) => [i + 1, { limits: [], blind: [], ...other }] as const),
    );

  test('each of another channel says which, its ways out name the place of that channel', () => {
    const { limits } = join({ limits: [limit('a', 'store', 0.5)] }, { limits: [limit('a', 'store', 0.7)] });
    expect(limits.map(({ id, channel }) => [id, channel])).toEqual([
      ['a-of-2', 1],
      ['a', undefined],
    ]);
    expect(limits[0]?.title).toBe('Stage 2: limit a');
    expect(limits[0]?.relief[0]?.path).toBe('store@2.V');
    expect(limits[1]?.relief[0]?.path).toBe('store.V');
  });

  test('of what stands once, supply and charging path, only a tighter one is added', () => {
    const supply = (worst: number | null) => ({ limits: [limit('s', 'supply', worst)] });
    const ids = (...all: (number | null)[]) => {
      const [own = null, ...others] = all;
      return join(supply(own), ...others.map(supply)).limits.map(({ id }) => id);
    };
    expect(ids(0.5, 0.5)).toEqual(['s']);
    expect(ids(0.5, 0.4)).toEqual(['s']);
    expect(ids(0.5, 0.6)).toEqual(['s-of-2', 's']);
    // What differs in the last digit of a sum is no other limit.
    expect(ids(0.5, 0.5 * (1 + 1e-12))).toEqual(['s']);
    expect(ids(0.5, 0.6, 0.7)).toEqual(['s-of-3', 's-of-2', 's']);
    expect(ids(null, 0.2)).toEqual(['s-of-2', 's']);
    expect(ids(null, null)).toEqual(['s']);
    // In a slot of its own it is another limit, whatever it is called.
    expect(join(supply(0.5), { limits: [limit('s', 'charging', 0.1)] }).limits).toHaveLength(2);
    expect(join({}, supply(0.5)).limits.map(({ id }) => id)).toEqual(['s-of-2']);
    expect(join({}, supply(0.5)).limits[0]?.relief[0]?.path).toBe('supply.V');
  });

  test('what cannot be told of a channel is always said, of supply and charging path once', () => {
    const all = join(
      { blind: [blind('a', 'store'), blind('s', 'supply')] },
      { blind: [blind('a', 'store'), blind('s', 'supply'), blind('c', 'charging')] },
    ).blind;
    expect(all.map(({ id, channel }) => `${id} ${channel ?? ''}`)).toEqual(['a ', 's ', 'a-of-2 1', 'c-of-2 1']);
    expect(all[2]?.title).toBe('Stage 2: limit a');
  });

  test('the joined ladder is in order whatever it is joined from, and loses none of a channel', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.double({ min: 0, max: 3, noNaN: true }), { maxLength: 5 }), { minLength: 1, maxLength: 4 }),
        (channels) => {
          const [own = [], ...others] = channels.map((uses) => ({
            limits: [...uses].sort((a, b) => b - a).map((use, i) => limit(`l${i}`, 'switch', use)),
          }));
          const { limits } = join(own as Partial<Ladder>, ...others);
          const uses = limits.map(({ worst }) => worst ?? -1);
          expect(uses).toEqual([...uses].sort((a, b) => b - a));
          expect(limits).toHaveLength(channels.flat().length);
          expect(new Set(limits.map(({ id }) => id)).size).toBe(limits.length);
        },
      ),
    );
  });
});
