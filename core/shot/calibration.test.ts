import { describe, expect, test } from 'vitest';
import { normals, uniforms } from '../numeric/index.ts';
import { figureOf } from '../test/marx.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { predictShot } from './predict.ts';
import { bandShare, calibrationOf, calibrationsOf, causeOf, driftOf, type Recorded } from './calibration.ts';
import type { Values } from './shot.ts';

const at = (i: number) => new Date(Date.UTC(2026, 4, 1, 12, i)).toISOString();
const shot = (i: number, measured: Values, predicted: Values, outcome: 'fired' | 'misfire' = 'fired'): Recorded => ({
  shot: { at: at(i), outcome, set: {}, measured, own: [], sound: '', remarks: '', campaign: null },
  predicted,
});
/** Shots whose measured current is the calculated one times these factors. */
const series = (factors: readonly number[]) => factors.map((f, i) => shot(i, { current: 1000 * f }, { current: 1000 }));

describe('what shots say of a calculation', () => {
  test('without scatter to speak of the bias is their ratio, whatever was thought before; without shots it is what is usual', () => {
    const many = calibrationOf(series(Array.from({ length: 40 }, (_, i) => 0.87 * (1 + 0.002 * Math.sin(i)))), 'current');
    expect(many?.bias.middle).toBeCloseTo(0.87, 3);
    expect(many?.next.high ?? NaN).toBeLessThan(0.89);
    // The first prediction of all stands on the calculation and on how far such calculations are usually off: 12 %, and 1.645 of it.
    const [first] = many?.scored ?? [];
    expect(Math.log((first?.high ?? NaN) / 1000)).toBeGreaterThan(1.6 * 0.12);
    expect(Math.log((first?.high ?? NaN) / 1000)).toBeLessThan(2 * 0.12);
    expect(calibrationOf([], 'current')).toBeNull();
  });

  test('with a scatter that is known the bias is that of the conjugate normal model, by the textbook formula', () => {
    // Twelve logarithms whose own standard deviation is 0.03: mean n·m·τ²/(σ² + n·τ²), with σ summed over a grid that peaks there.
    const next = normals(5);
    const raw = Array.from({ length: 200 }, () => 0.03 * next());
    const logs = raw.map((x) => x + 0.1);
    const mean = logs.reduce((a, b) => a + b, 0) / logs.length;
    const sigma2 = logs.reduce((a, b) => a + (b - mean) ** 2, 0) / (logs.length - 1);
    const expected = (logs.length * mean * 0.12 ** 2) / (sigma2 + logs.length * 0.12 ** 2);
    const found = calibrationOf(series(logs.map(Math.exp)), 'current');
    expect(Math.log(found?.bias.middle ?? NaN)).toBeCloseTo(expected, 4);
    expect(found?.scatter).toBeCloseTo(Math.sqrt(sigma2), 3);
    // A band of nine tenths of a normal is 1.645 deviations each way.
    const width = Math.log((found?.bias.high ?? NaN) / (found?.bias.low ?? NaN)) / 2;
    expect(width / (1.645 * Math.sqrt(sigma2 / logs.length))).toBeCloseTo(1, 1);
  });

  test('a reading that stands alone far from all others is set aside and named; two in a row may be the rig, and stay', () => {
    const steady = Array.from({ length: 12 }, (_, i) => 0.99 + 0.01 * Math.sin(2 * i));
    const alone = steady.map((f, i) => (i === 8 ? 1.29 : f));
    const found = calibrationOf(series(alone), 'current');
    expect(found?.misread).toEqual([{ at: at(8), measured: 1290 }]);
    expect(found?.drift).toBeNull();
    expect(found?.scored[8]?.isInside).toBe(false);
    expect(found?.bias.middle).toBeCloseTo(
      calibrationOf(series(steady.filter((_, i) => i !== 8)), 'current')?.bias.middle ?? NaN,
      9,
    );
    const twice = steady.map((f, i) => (i >= 10 ? 1.29 : f));
    expect(calibrationOf(series(twice), 'current')?.misread).toEqual([]);
    expect(calibrationOf(series(twice), 'current')?.drift).not.toBeNull();
  });

  test('misfires teach nothing, and the order in which shots are handed in does not matter', () => {
    const records = series([0.9, 0.92, 0.88, 0.91, 0.9]);
    const mixed = [...records, shot(9, { current: 10 }, { current: 1000 }, 'misfire')].reverse();
    expect(calibrationOf(mixed, 'current')).toEqual(calibrationOf(records, 'current'));
  });
});

test('bands said before each shot hold nine of ten: fifty rigs that nobody knows, each other than it is entered, 1,600 predictions', () => {
  const [normal, uniform] = [normals(20261130), uniforms(77)];
  const base = demoRig('thimble');
  let [inside, all] = [0, 0];
  for (let k = 0; k < 50; k++) {
    // The rig as it really is: resistance, inductance and capacitance off by some ten per cent of what was entered.
    const off = () => Math.exp(0.1 * normal());
    const truth = rigWith(
      {
        'load.R': `${quantity('load.R') * off()} Ω`,
        'load.L': `${quantity('load.L') * off()} H`,
        'store.C': `${quantity('store.C') * off()} F`,
      },
      base,
    );
    const scatter = 0.01 + 0.03 * uniform();
    const [entered, real] = [base, truth].map((rig) => ({ I: figureOf(rig, 'peak-current'), t: figureOf(rig, 'time-to-peak') }));
    const records = Array.from({ length: 16 }, (_, i): Recorded => {
      const share = 0.5 + 0.5 * uniform();
      const noisy = (x: number) => x * Math.exp(scatter * normal());
      return shot(
        i,
        { current: noisy((real?.I ?? NaN) * share), time: noisy(real?.t ?? NaN) },
        { current: (entered?.I ?? NaN) * share, time: entered?.t ?? NaN },
      );
    });
    for (const { scored } of calibrationsOf(records)) {
      inside += scored.filter(({ isInside }) => isInside).length;
      all += scored.length;
    }
  }
  expect(all).toBe(1600);
  expect(inside / all).toBeGreaterThan(0.85);
  expect(inside / all).toBeLessThan(0.95);
  expect(bandShare).toBe(0.9);
});

const thimble = demoRig('thimble');
function quantity(path: 'load.R' | 'load.L' | 'store.C'): number {
  const [slot = '', field = ''] = path.split('.');
  const block = thimble.channels[0]?.[slot as 'load' | 'store'];
  const value = block?.fields[field];
  return typeof value === 'object' && value ? value.value : NaN;
}

describe('a rig that changes', () => {
  const normal = normals(424242);
  const noisy = (n: number, shift = 0) => Array.from({ length: n }, () => Math.exp(0.02 * (normal() + shift)));
  const drifts = (factors: readonly number[]) => driftOf(series(factors), 'current');

  test('by two and a half of its deviations is found within five shots in 95 of 100 cases', () => {
    let found = 0;
    for (let k = 0; k < 300; k++) {
      const before = noisy(24);
      const after = noisy(5, -2.5);
      const seen = [2, 3, 4, 5].some((n) => drifts([...before, ...after.slice(0, n)]) !== null);
      if (seen) found += 1;
    }
    expect(found / 300).toBeGreaterThanOrEqual(0.95);
  });

  test('is not found where nothing changed: at most one alarm in a hundred shots', () => {
    let [alarms, shots] = [0, 0];
    for (let k = 0; k < 60; k++) {
      const all = noisy(60);
      // An alarm that stays for some shots is one.
      let was = false;
      for (let n = 11; n <= 60; n++) {
        const is = drifts(all.slice(0, n)) !== null;
        if (is && !was) alarms += 1;
        was = is;
        shots += 1;
      }
    }
    expect(alarms / shots).toBeLessThanOrEqual(0.01);
  });

  test('is told with its likely cause, by which measures went which way', () => {
    const step = (factors: readonly number[], times: readonly number[]) =>
      calibrationsOf(
        factors.map((f, i) => shot(i, { current: 1000 * f, time: 1e-4 * (times[i] ?? 1) }, { current: 1000, time: 1e-4 })),
      );
    const steady = Array.from({ length: 10 }, (_, i) => 1 + 0.005 * Math.sin(3 * i));
    const low = [...steady, 0.9, 0.9, 0.89, 0.9];
    const late = [...steady, 1.12, 1.11, 1.12, 1.12];
    const early = [...steady, 0.9, 0.91, 0.9, 0.9];
    expect(causeOf(step(low, late))).toMatch(/More inductance/);
    expect(causeOf(step(low, early))).toMatch(/Less capacitance/);
    expect(causeOf(step(low, [...steady, ...steady.slice(0, 4)]))).toMatch(/More resistance/);
    expect(causeOf(step(steady, steady))).toBeNull();
    const found = step(low, late).find(({ measure }) => measure === 'current')?.drift;
    expect(found?.factor).toBeCloseTo(0.9, 2);
    expect(found?.since).toBe(at(10));
  });
});

test('what is calculated for the settings of a shot is what the band is laid round', () => {
  const predicted = predictShot(demoRig('thimble'), { voltage: 20 });
  const found = calibrationOf([shot(0, { current: (predicted.current ?? NaN) * 1.05 }, predicted)], 'current');
  expect(found?.scored[0]?.calculated).toBe(predicted.current);
});
