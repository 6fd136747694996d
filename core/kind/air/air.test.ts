import { describe, expect, test } from 'vitest';
import { evaluateFormula, formulaById } from '../../formula/index.ts';
import { predictShot, rigAsSet, gapShots, type Shot } from '../../shot/index.ts';
import { gapStudy } from '../../study/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Slot } from '../../block/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { figureOf, problemsOf } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const formula = (id: string) => {
  const found = formulaById.get(id);
  if (!found) throw new Error(`no formula ${id}`);
  return found;
};

describe('formulas of the air', () => {
  // ISO 2533, table of the standard atmosphere: pressure by geopotential height.
  test.each([
    [-500, 107_478],
    [0, 101_325],
    [500, 95_461],
    [1000, 89_875],
    [2000, 79_495],
    [3000, 70_109],
    [4000, 61_640],
  ])('at %d m the standard atmosphere has %d Pa', (h, p) =>
    expect(evaluateFormula(formula('pressure-at-height'), { h }) / p).toBeCloseTo(1, 3),
  );

  // Density of saturated water vapour, steam tables, g/m³.
  test.each([
    [0, 4.85],
    [10, 9.4],
    [20, 17.3],
    [30, 30.4],
  ])('at %d °C air that is full of water holds %d g/m³', (t, h) =>
    expect(evaluateFormula(formula('absolute-humidity'), { rh: 1, T: t + 273.15 }) / h).toBeCloseTo(1, 2),
  );
});

/** A block of another kind with the values it starts with. */
const ofKind = (rig: Rig, slot: Slot, kind: string): Rig => withBlock(rig, slot, newBlock(blockDefinition(slot, kind)));

/** A bank behind an open sphere gap of 10 mm, in air of the day. */
function rigIn(
  air: Readonly<Record<string, string>>,
  typed: Readonly<Record<string, string>> = {},
  load = 'resistor-inductor',
): Rig {
  const plain = ofKind(ofKind(newRig(), 'switch', 'spark-gap'), 'load', load);
  const standing = Object.keys(air).length > 0 ? ofKind(plain, 'air', 'day') : plain;
  return rigWith({ 'switch.d': '10 mm', 'switch.D': '50 mm', 'store.V0': '20 kV', ...typed, ...air }, standing);
}
const selfBreak = (air: Readonly<Record<string, string>>, gap = {}) => figureOf(rigIn(air, gap), 'self-break');

describe('air of the day', () => {
  test('at 20 °C, 101.3 kPa and 8.5 g/m³ changes nothing', () =>
    expect(selfBreak({ 'air.rh': '49.15 %' }) / selfBreak({})).toBeCloseTo(1, 3));

  test('weakens an open gap by its density, as IEC 60052 corrects a sphere gap', () => {
    // IEC 60052: U = δ·U₀ with δ = p/101.3 kPa · 293/(273 + t), 0.2 % for each gram of water; the law of similarity gives 2 to 3 % more.
    const delta = (84 / 101.3) * (293.15 / 303.15);
    const factor = selfBreak({ 'air.pa': '84 kPa', 'air.Ta': '30 °C', 'air.rh': '28 %' }) / selfBreak({});
    expect(factor / delta).toBeGreaterThan(0.99);
    expect(factor / delta).toBeLessThan(1.035);
  });

  test('leaves what a person typed of the gap, and the water in a gap that is not open', () => {
    const warm = { 'air.Ta': '40 °C', 'air.rh': '90 %' };
    expect(selfBreak(warm, { 'switch.T': '20 °C', 'switch.h': '8.5 g/m³' }) / selfBreak({})).toBeCloseTo(1, 6);
    const closed = { 'switch.p': '1 bar', 'switch.T': '20 °C' };
    expect(selfBreak(warm, closed) / selfBreak({}, closed)).toBeCloseTo(1, 6);
    expect(selfBreak({ 'air.by': 'height', 'air.ha': '2000 m' }, closed)).toBeLessThan(selfBreak({}, closed));
    expect(problemsOf(rigIn(warm))).toMatch(/90 % relative humidity surfaces are damp/);
  });

  test('reaches sparks and corona: in thin air a spark needs less and reaches farther', () => {
    const spark = (air: Readonly<Record<string, string>>) => rigIn(air, { 'load.d': '30 mm' }, 'spark');
    const thin = { 'air.by': 'height', 'air.ha': '3000 m' };
    expect(figureOf(spark(thin), 'spark-needs') / figureOf(spark({}), 'spark-needs')).toBeLessThan(0.8);
    expect(figureOf(spark(thin), 'spark-clear')).toBeGreaterThan(1.2 * figureOf(spark({}), 'spark-clear'));
  });

  test('is refused where no barometer reads so, and pressure is one of the two ways', () => {
    expect(() => rigIn({ 'air.pa': '30 kPa' })).toThrow(/58 kPa to 110 kPa/);
    expect(() => rigIn({ 'air.Ta': '90 °C' })).toThrow(/air.Ta .* must be from 243/);
  });

  test('read at a shot stands in its prediction and in what the shot says of the gap', () => {
    const rig = rigIn({}, { 'switch.mode': 'self-break', 'store.V0': '40 kV' });
    const air = { airPressure: 84e3, airTemperature: 303.15 };
    const set = rigAsSet(rig, air);
    expect(set.air.kind).toBe('day');
    expect(predictShot(rig, air).voltage ?? NaN).toBeCloseTo(figureOf(set, 'self-break'), 6);
    const shot: Shot = {
      at: '2026-04-11T10:00:00.000Z',
      outcome: 'fired',
      set: air,
      measured: { voltage: 20_000 },
      own: [],
      sound: '',
      remarks: '',
      campaign: null,
    };
    expect(gapShots(rig, [shot])?.lines).toEqual(['20 kV 0.84 bara shot of 2026-04-11']);
    // The same breakdown in standard air would ask for another gap.
    const [here, there] = [gapShots(rig, [shot]), gapShots(rig, [{ ...shot, set: {} }])];
    expect((here?.fit.enhancement ?? 0) / (there?.fit.enhancement ?? 1)).toBeLessThan(0.9);
    expect(gapStudy(set, printQuantity)?.selfBreak).toBeCloseTo(figureOf(set, 'self-break'), 6);
  });
});
