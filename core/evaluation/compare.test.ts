import { describe, expect, test, vi } from 'vitest';
import { storeFormulas } from '../formula/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { runSheetOf } from '../runsheet/index.ts';
import { compareEvaluations, evaluateRig, figureIn } from './index.ts';

describe('two evaluations side by side', () => {
  const anvil = demoRig('anvil');

  test('a rig beside itself shows no difference', () =>
    expect(compareEvaluations(evaluateRig(anvil), evaluateRig(anvil))).toEqual({ figures: [], limits: [] }));

  test('twice the capacitance changes what follows from it and nothing else', () => {
    const { figures, limits } = compareEvaluations(evaluateRig(anvil), evaluateRig(rigWith({ 'store.np': '10' }, anvil)));
    const energy = figures.find((f) => f.id === 'stored-energy');
    expect((energy?.to?.value ?? 0) / (energy?.from?.value ?? 1)).toBeCloseTo(2, 12);
    const changed = figures.map((f) => f.id);
    expect(changed).toContain('bleed-time');
    expect(changed).not.toContain('charging-current');
    expect(limits.map((l) => l.id)).toContain('tool-energy');
    expect(limits.map((l) => l.id)).not.toContain('capacitor-voltage');
  });

  test('a figure that one of them has not got stands beside nothing', () => {
    const bare = rigWith({ 'bleeder.kind': 'none' }, anvil);
    const { figures, limits } = compareEvaluations(evaluateRig(anvil), evaluateRig(bare));
    expect(figures.find((f) => f.id === 'bleed-time')).toMatchObject({ to: null });
    expect(limits.find((l) => l.id === 'bleeder-voltage')).toMatchObject({ to: null });
    expect(compareEvaluations(evaluateRig(bare), evaluateRig(anvil)).figures.find((f) => f.id === 'bleeder-power')).toMatchObject(
      { from: null },
    );
  });
});

test('a formula that throws costs its own number and what rests on it, is said to be a fault, and nothing takes its place', () => {
  const broken = vi.spyOn(storeFormulas.storedEnergy, 'compute').mockImplementation(() => {
    throw new TypeError('boom');
  });
  try {
    const evaluation = evaluateRig(demoRig('anvil'));
    const energy = evaluation.figures.find((f) => f.id === 'stored-energy');
    expect(energy).toMatchObject({
      ok: false,
      reason: expect.stringMatching(/formula itself failed \(boom\).*fault of this program/),
    });
    expect(evaluation.hazard).toBeNull();
    expect(evaluation.problems.some((p) => p.severity === 'error' && /Stored energy cannot be calculated/.test(p.text))).toBe(
      true,
    );
    expect(figureIn(evaluation, 'peak-current')?.worked.value).toBeGreaterThan(0);
    const sheet = runSheetOf('Anvil', evaluation);
    // No bleed has a goal without it, and no sheet is made without a goal.
    expect(sheet).toMatchObject({ ok: false, reason: expect.stringMatching(/^Stored energy cannot be calculated/) });
  } finally {
    broken.mockRestore();
  }
});
