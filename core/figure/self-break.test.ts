import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { predictShot } from '../shot/index.ts';
import { figureOf, marxRig, problemsOf, solved } from '../test/marx.ts';
import { RigReading } from './index.ts';

describe('a gap that fires by itself below the set voltage', () => {
  const rig = marxRig({ 'switch.mode': 'self-break', 'switch.d': '2.5 mm', 'store.V0': '12 kV', 'store.Vg': '13 kV' });
  const Vb = figureOf(rig, 'self-break');

  test('gives the rig its voltage, on every page, and the rig says so', () => {
    expect(Vb).toBeLessThan(12e3);
    expect(new RigReading(rig).offer('chargedTo').value).toBe(Vb);
    expect(figureOf(rig, 'discharge-voltage')).toBeCloseTo(6 * Vb, 6);
    expect(figureOf(rig, 'stored-energy')).toBeCloseTo(0.5 * 6 * 3.3e-9 * Vb * Vb, 9);
    expect(predictShot(rig, {}).voltage).toBe(Vb);
    const first = solved(rig, 'discharge').traces.find(({ id }) => id === 'store-voltage')?.y[0] ?? NaN;
    expect(Math.abs(first / Vb - 1)).toBeLessThan(1e-3);
    expect(problemsOf(rig)).toMatch(/fires by itself at .* below the 12\.0 kV that are set: every number of this rig is for/);
    expect(evaluateRig(rig).problems.filter((p) => /Working|fault/.test(p.text))).toEqual([]);
  });

  test('the later gaps of a Marx do the same; one that holds changes nothing', () => {
    expect(new RigReading(marxRig({ 'store.Vg': '9 kV' })).offer('chargedTo').value).toBe(9e3);
    expect(new RigReading(marxRig()).offer('chargedTo').value).toBe(12e3);
  });
});
