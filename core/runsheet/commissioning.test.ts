import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { RigReading } from '../figure/index.ts';
import { quantityAt, type Rig } from '../rig/index.ts';
import { offBy } from '../test/fixtures.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { commissioningLadder, rungErects, rungPrint, rungSays } from './commissioning.ts';

const ladderOf = (rig: Rig) => commissioningLadder(evaluateRig(rig));
const at = (rig: Rig, path: string): number => quantityAt(rig, path)?.value?.value ?? NaN;
const breaksAt = (rig: Rig): number => new RigReading(rig).figure('self-break').value;

/** A bank of one resistor, so that each number of a rung is that of a pocket calculator. */
const bank = (more: Record<string, string> = {}) =>
  rigWith({
    ...{ 'store.C': '1 mF ±10 %', 'store.ns': '1', 'store.np': '1', 'store.V0': '200 V', 'store.ESR': '0 Ω', 'store.ESL': '0 H' },
    ...{
      'supply.V': '400 V',
      'supply.R': '0 Ω',
      'charging.R': '1 kΩ ±5 %',
      'bleeder.R': '10 MΩ',
      'meter.R': '999 TΩ',
      'store.Ri': '999 TΩ',
    },
    ...{ 'tool.R': '30 kΩ', 'tool.n': '1', 'switch.R': '0 Ω', 'load.R': '2 Ω', 'load.L': '1 µH', 'load.length': '' },
    ...more,
  });

describe('the way up', () => {
  test('stops at a tenth, three tenths, half, three quarters and all of the voltage, each with what it stores and takes', () => {
    const rungs = ladderOf(bank());
    expect(rungs.map(({ share }) => share)).toEqual([0.1, 0.3, 0.5, 0.75, 1]);
    for (const { share, voltage, energy, chargeTime, peakCurrent, toolTime, setting, fires } of rungs) {
      const V = 200 * share;
      expect(voltage).toBeCloseTo(V, 9);
      expect(offBy(energy?.worked.value ?? NaN, (1e-3 * V * V) / 2)).toBeLessThan(1e-9);
      // At the top of its tolerance it stores a tenth more.
      expect(offBy(energy?.worst ?? NaN, (1.1e-3 * V * V) / 2)).toBeLessThan(1e-9);
      const time = (C: number, R: number) => -R * C * Math.log(1 - V / 400);
      expect(offBy(chargeTime?.worked.value ?? NaN, time(1e-3, 1e3))).toBeLessThan(1e-3);
      expect(offBy(chargeTime?.worst ?? NaN, time(1.1e-3, 1050))).toBeLessThan(1e-3);
      expect(offBy(peakCurrent?.worked.value ?? NaN, V / 2)).toBeLessThan(0.01);
      // Below 50 V, and below what holds a joule: 44 V of a millifarad; of less than that a tenth.
      const goal = V > 44 ? 44 : V / 10;
      expect(offBy(toolTime?.worked.value ?? NaN, Math.max(10, 30e3 * 1e-3 * Math.log(V / goal)))).toBeLessThan(1e-9);
      expect(setting).toBeNull();
      expect(fires).toBe(true);
    }
  });

  test('a switch fires only above its threshold, and one that self-breaks only where it breaks down', () => {
    const thyristor = bank({
      'switch.kind': 'thyristor',
      'switch.direction': 'one-way',
      'switch.VT': '60 V',
      'switch.R': '1 mΩ',
    });
    // 20 V and exactly 60 V are not above it; 100 V are.
    expect(ladderOf(thyristor).map(({ fires }) => fires)).toEqual([false, false, true, true, true]);
    const gap = rigWith(
      { 'switch.mode': 'self-break', 'store.V0': '40 kV', 'supply.V': '60 kV', 'store.kind': 'capacitor-bank' },
      demoRig('kittiwake'),
    );
    const alone = rigWith(
      {
        'store.C': '5 nF',
        'store.ns': '1',
        'store.np': '1',
        'store.V0': '40 kV',
        'store.ESR': '0 Ω',
        'store.ESL': '0 H',
        'store.Ri': '1 TΩ',
      },
      gap,
    );
    const holds = breaksAt(alone);
    const V0 = new RigReading(alone).offer('chargedTo').value;
    for (const { share, fires } of ladderOf(alone))
      expect(fires, `${share} of ${V0} V, breaks at ${holds} V`).toBe(!(holds > V0 * share));
  });

  test('of a Marx the first gap is closed until it breaks at its share, the later ones to theirs; at the top it is as set', () => {
    const rig = demoRig('kittiwake');
    const [Vb, Vg, d] = [breaksAt(rig), at(rig, 'store.Vg'), at(rig, 'switch.d')];
    const rungs = ladderOf(rig);
    expect(rungs.at(-1)).toMatchObject({ setting: 'as set', fires: true });
    for (const rung of rungs.slice(0, -1)) {
      const gap = at(rung.rig, 'switch.d');
      expect(gap).toBeLessThan(d);
      if (!Number.isNaN(Vg)) expect(offBy(at(rung.rig, 'store.Vg'), Vg * rung.share)).toBeLessThan(1e-9);
      if (rung.fires) {
        // Never wider than where it breaks at the share, and hardly closer.
        expect(breaksAt(rung.rig)).toBeLessThanOrEqual(Vb * rung.share * (1 + 1e-9));
        expect(offBy(breaksAt(rung.rig), Vb * rung.share)).toBeLessThan(1e-5);
        expect(rung.setting).toMatch(/^first gap at [\d.]+ [mµ]?m/);
      } else expect(rung.setting).toMatch(/^no gap is set closer than 300 µm/);
      expect(offBy(at(rung.rig, 'store.V0'), at(rig, 'store.V0') * rung.share)).toBeLessThan(1e-9);
    }
  });

  test('a gap that would have to stand closer than 0.3 mm is not fired at that rung, and the sheet says why', () => {
    const rig = rigWith(
      { 'switch.d': '1.5 mm', 'store.V0': '5 kV', 'store.Vg': '8 kV', 'supply.V': '6 kV' },
      demoRig('kittiwake'),
    );
    const [first, second] = ladderOf(rig);
    const [closest, all] = [breaksAt(rigWith({ 'switch.d': '0.3 mm' }, rig)), breaksAt(rig)];
    expect(closest).toBeGreaterThan(0.1 * all);
    expect(closest).toBeLessThan(0.5 * all);
    expect(first).toMatchObject({ fires: false, setting: 'no gap is set closer than 300 µm: it is not fired here' });
    expect(second?.fires).toBe(!(closest > 0.3 * all));
    expect(rungErects(first ?? { rig, fires: false, setting: null })).toBeNull();
  });

  test('of what is no Marx nothing is set, and whether it erects is not asked', () => {
    const [rung] = ladderOf(bank());
    expect(rung && rungErects(rung)).toBeNull();
    expect(rung?.currentTitle).toBe('Peak current');
  });
});

test('what a rung says of its switch: whether it fires, how the gaps stand, whether it erects', () => {
  const says = (fires: boolean, setting: string | null, erects: boolean | null) => rungSays({ fires, setting }, erects);
  expect(says(true, null, null)).toBe('may fire');
  expect(says(false, null, null)).toBe('does not fire: bleed it');
  expect(says(false, 'no gap closer', null)).toBe('does not fire: bleed it (no gap closer)');
  expect(says(true, 'gaps at 1 mm', true)).toBe('gaps at 1 mm: erects');
  expect(says(true, 'gaps at 1 mm', false)).toBe('gaps at 1 mm: fires and does not erect: bleed every stage');
  expect(says(true, 'gaps at 1 mm', null)).toBe('gaps at 1 mm: whether it erects is not known');
});

test('a number of a rung is written as its kind is: times as times, and one that never comes as never', () => {
  const number = (unit: 's' | 'V', value: number) => rungPrint({ unit } as Parameters<typeof rungPrint>[0], value);
  expect(number('V', 1234)).toBe('1.23 kV');
  expect(number('s', 90)).toBe('90 s');
  expect(number('s', Infinity)).toBe('never');
  expect(number('V', NaN)).toBe('never');
});
