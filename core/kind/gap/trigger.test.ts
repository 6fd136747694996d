import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { evaluateFormula, triggerFormulas } from '../../formula/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { figureOf, marxRig, problemsOf } from '../../test/marx.ts';

const rig = (typed: Readonly<Record<string, string>> = {}) => marxRig(typed, { trigger: 'trigger-generator' });
const over = (typed: Readonly<Record<string, string>>, id: string): boolean => {
  const limit = evaluateRig(rig(typed)).ladder.limits.find((l) => l.id === id);
  return (limit?.utilisation ?? NaN) > 1;
};

describe('the delay of a triggered gap', () => {
  test('is 5.6 ns at 60 kV/cm in air and eleven times that at half the field, by the published fit worked out by hand', () => {
    // ρ·t = 97 800·(E/ρ)^(−3.44): ρ = 1.205 mg/cm³, E = 60 kV/cm, with a pocket calculator.
    const at = (E: number, delta: number) => evaluateFormula(triggerFormulas.gapDelay, { E, delta });
    expect(at(6e6, 1) / 5.65e-9).toBeCloseTo(1, 1);
    expect(at(3e6, 1) / at(6e6, 1)).toBeCloseTo(2 ** 3.44, 9);
    expect(at(6e6, 2) / at(6e6, 1)).toBeCloseTo(2 ** 2.44, 9);
  });

  test('falls with the overvoltage and the trigger, and there is none where the gap breaks down by itself', () => {
    const set = (typed: Readonly<Record<string, string>>) => rig({ 'switch.mode': 'triggered', 'switch.d': '6 mm', ...typed });
    const weak = figureOf(set({ 'trigger.V1': '300 V' }), 'trigger-jitter');
    const strong = figureOf(set({ 'trigger.V1': '600 V' }), 'trigger-jitter');
    expect(weak).toBeGreaterThan(strong);
    expect(figureOf(set({}), 'trigger-jitter') / figureOf(set({}), 'trigger-delay')).toBeCloseTo(0.05, 12);
    expect(figureOf(set({ 'switch.d': '8 mm' }), 'trigger-jitter')).toBeGreaterThan(figureOf(set({}), 'trigger-jitter'));
    expect(figureOf(set({ 'switch.mode': 'self-break' }), 'trigger-jitter')).toBeNaN();
  });
});

describe('a gap that fires many times a second', () => {
  test('is blown out between shots: three times its volume at its pressure, a step of the sheet in litres a minute', () => {
    const many = (typed: Readonly<Record<string, string>>) => rig({ 'switch.fs': '50 Hz', 'switch.p': '1.013 bar', ...typed });
    // 3 · 2 cm³ · 2.026 bar / 1.013 bar = 12 cm³ a shot, 50 a second: 36 litres a minute, by hand.
    expect(figureOf(many({ 'switch.Vg': '2 cm³' }), 'gap-gas')).toBeCloseTo(12e-6, 9);
    expect(JSON.stringify(runSheetOf('Fast', evaluateRig(many({ 'switch.Vg': '2 cm³' }))))).toMatch(
      /at least 36 litres a minute/,
    );
    expect(problemsOf(many({}))).toMatch(/does not hold again in still gas/);
    expect(problemsOf(many({ 'switch.fs': '2 Hz' }))).not.toMatch(/still gas/);
  });
});

describe('a trigger generator', () => {
  test('0.2 µF at 500 V give 25 mJ: a feeble spark is tens of millijoules, and less is said to be less', () => {
    // Common practice, no source.
    expect(figureOf(rig({ 'trigger.C1': '200 nF', 'trigger.V1': '500 V' }), 'trigger-energy')).toBeCloseTo(25e-3, 9);
    expect(problemsOf(rig({ 'trigger.C1': '200 nF', 'trigger.V1': '500 V' }))).not.toMatch(/feeble/);
    expect(problemsOf(rig({ 'trigger.C1': '10 nF' }))).toMatch(/feeble spark/);
  });

  test('a gate driven for 100 µs fires it and lets it go, at 200 µs the ring finds it still driven', () => {
    // Common practice, no source: at 100 µs it fires, at 200 µs it stays latched. The ring of 0.47 µF and 1.1 mH takes 143 µs.
    const width = (seconds: number) => ({
      'trigger.Lp': '1.1 mH',
      'trigger.Rd': '1 kΩ',
      'trigger.Cd': `${(seconds / Math.log(12) / 1e3) * 1e9} nF`,
    });
    expect(figureOf(rig(width(100e-6)), 'trigger-gate')).toBeCloseTo(100e-6, 9);
    expect([over(width(100e-6), 'trigger-gate'), over(width(200e-6), 'trigger-gate')]).toEqual([false, true]);
  });

  test('stays latched where its supply gives more than the holding current, and says above what resistance it lets go', () => {
    expect(problemsOf(rig())).not.toMatch(/latched/);
    expect(problemsOf(rig({ 'trigger.Rs': '33 kΩ' }))).toMatch(/stays latched .* Above 60.0 kΩ it releases/);
    expect(over({ 'trigger.Rs': '33 kΩ' }, 'trigger-latch')).toBe(true);
  });

  test('names a spark that does not come across, a wire to the hand, and a gap that pre-fires', () => {
    expect(over({ 'trigger.dt': '2 mm' }, 'trigger-spark')).toBe(false);
    expect(over({ 'trigger.dt': '9 mm' }, 'trigger-spark')).toBe(true);
    // The same spark within a gap that is under pressure, or filled with a stronger gas, no longer comes across.
    expect(over({ 'trigger.dt': '2 mm', 'switch.p': '1.5 bar' }, 'trigger-spark')).toBe(true);
    expect(over({ 'trigger.dt': '2 mm', 'switch.gas': 'sulphur-hexafluoride' }, 'trigger-spark')).toBe(true);
    expect(over({ 'trigger.Vi': '6 kV' }, 'trigger-isolation')).toBe(true);
    expect(problemsOf(rig({ 'trigger.control': 'wire' }))).toMatch(/the store is on that wire/);
    expect(problemsOf(rig({ 'switch.mode': 'self-break' }))).toMatch(/set to self-break/);
    expect(problemsOf(rig({ 'trigger.Vd': '0.5 V' }))).toMatch(/never driven/);
  });

  test('is tried alone before the first shot, and switched off after a misfire', () => {
    const made = runSheetOf('Marx', evaluateRig(rig()));
    if (!made.ok) throw new Error(made.reason);
    const { sheet } = made;
    const ids = (steps: readonly { readonly id: string }[]) => steps.map(({ id }) => id);
    expect(ids(sheet.main).some((id) => id.includes('trigger-alone'))).toBe(true);
    expect(ids(sheet.branches.find(({ id }) => id === 'misfire')?.steps ?? []).some((id) => id.includes('trigger-off'))).toBe(
      true,
    );
  });
});
