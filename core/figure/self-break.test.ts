import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { predictShot } from '../shot/index.ts';
import { bounds } from '../quantity/index.ts';
import { quantityAt } from '../rig/index.ts';
import { figureOf, marxRig, problemsOf, solved } from '../test/marx.ts';
import { demoRig } from '../test/rigs.ts';
import { RigReading } from './index.ts';

describe('a gap whose self-break is below the set voltage', () => {
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
    expect(problemsOf(rig)).toMatch(/self-breaks at .* below the 12\.0 kV set: every number of this rig is for/);
    expect(evaluateRig(rig).problems.filter((p) => /Working|fault/.test(p.text))).toEqual([]);
  });

  test('the later gaps of a Marx do the same; one that holds changes nothing', () => {
    expect(new RigReading(marxRig({ 'store.Vg': '9 kV' })).offer('chargedTo').value).toBe(9e3);
    expect(new RigReading(marxRig()).offer('chargedTo').value).toBe(12e3);
  });
});

describe('a band', () => {
  test('has the error of its formulas in it: a gap between needles is known to 15 % whatever was measured', () => {
    const rig = marxRig({ 'switch.geometry': 'needle', 'switch.d': '14 mm', 'switch.b': '1', 'store.V0': '8 kV' });
    const figure = evaluateRig(rig).figures.find((f) => f.id === 'self-break');
    if (!figure?.ok) throw new Error('no self-break');
    expect(figure.band.high / figure.worked.value - 1).toBeGreaterThan(0.149);
    expect(1 - figure.band.low / figure.worked.value).toBeGreaterThan(0.149);
  });

  test('of a limit has it too: a gap that is known to 3 % only is nearer to its self-break than its tolerances say', () => {
    const one = evaluateRig(demoRig('kittiwake')).ladder.limits.find(({ id }) => id === 'gap-prefire');
    if (!one?.rating) throw new Error('no such limit');
    const byTolerances = one.band.high / one.rating.value;
    expect((one.worst ?? 0) / byTolerances).toBeGreaterThan(1.03);
  });

  test('of a tuned circuit holds what lies inside the tolerances: its peak is where the two are in tune', () => {
    const cricket = demoRig('cricket');
    const figure = evaluateRig(cricket).figures.find((f) => f.id === 'secondary-peak');
    if (!figure?.ok) throw new Error('no peak');
    const C = quantityAt(cricket, 'store.C')?.value;
    if (!C) throw new Error('no capacitance');
    const { low, high } = bounds(C);
    for (let k = 0; k <= 8; k++) {
      const at = new RigReading(cricket, new Map([['store.C', low + ((high - low) * k) / 8]])).figure('secondary-peak').value;
      expect(at).toBeLessThanOrEqual(figure.band.high * (1 + 1e-9));
    }
  });
});
