import { describe, expect, test } from 'vitest';
import { offBy } from '../test/fixtures.ts';
import * as capacitor from './store/capacitor.ts';
import { evaluateFormula, formulaById, type Values } from './index.ts';

function calc(id: string, values: Values): number {
  const formula = formulaById.get(id);
  if (!formula) throw new Error(`no formula ${id}`);
  return evaluateFormula(formula, values);
}

describe('facts of the trade (common practice, no source)', () => {
  test('a foil sandwich of 5 nF becomes 10 nF rolled, for each foil then faces the other on both sides', () => {
    const sheet = { er: 2.3, t: 0.2e-3 };
    const A = 5e-9 / capacitor.plateCapacitance.compute({ ...sheet, A: 1 });
    expect(offBy(capacitor.rolledCapacitance.compute({ ...sheet, w: 0.2, l: A / 0.2 }), 10e-9)).toBeLessThan(1e-9);
  });

  test('a foil-on-bottle capacitor comes to about 200 pF, one filled with salt water to about 1.5 nF', () => {
    // A plastic bottle of 65 mm, its foil a hand high; a glass one of 75 mm with 3 mm walls, water to the shoulder.
    expect(capacitor.bottleCapacitance.compute({ er: 2.3, h: 0.08, d: 0.065, t: 1.6e-3, tb: 1.6e-3 })).toBeGreaterThan(150e-12);
    expect(capacitor.bottleCapacitance.compute({ er: 2.3, h: 0.08, d: 0.065, t: 1.6e-3, tb: 1.6e-3 })).toBeLessThan(300e-12);
    const glass = capacitor.bottleCapacitance.compute({ er: 7, h: 0.2, d: 0.075, t: 2e-3, tb: 3e-3 });
    expect(glass).toBeGreaterThan(1e-9);
    expect(glass).toBeLessThan(2e-9);
  });

  test('5 mA limit a small laser bank to about 10 shots a second, 20 to 30 mA give several times more', () => {
    const rate = (I: number) => calc('repetition-rate', { I, C: 40e-9, V: 12e3 });
    expect(rate(5e-3)).toBeGreaterThan(9);
    expect(rate(5e-3)).toBeLessThan(12);
    expect([rate(20e-3) / rate(5e-3), rate(30e-3) / rate(5e-3)]).toEqual([expect.closeTo(4, 9), expect.closeTo(6, 9)]);
  });

  test('sharp edges leak charge, a ball on the rod holds it', () => {
    const onset = (r: number) => calc('sphere-corona-voltage', { r, delta: 1 });
    expect(onset(0.03) / onset(0.5e-3)).toBeGreaterThan(10);
  });

  test('five 330 k in a sleeve make about 1.7 M', () =>
    expect(calc('series-resistance', { R: 330e3, n: 5 })).toBeCloseTo(1.65e6));

  test('30 µF on 440 V through 200 ohm 10 W reads zero a moment later, and overloads the resistor for that moment', () => {
    expect(calc('rc-bleed-time', { R: 200, C: 30e-6, V0: 440, V: 1 })).toBeLessThan(0.1);
    expect(calc('bleed-peak-power', { R: 200, V: 440 }) / 10).toBeGreaterThan(90);
    expect(calc('stored-energy', { C: 30e-6, V: 440 })).toBeLessThan(3);
  });

  test('4700 µF at 13.5 V through 680 ohm 3 W reads 0.3 V after some ten seconds, within the rating', () => {
    const time = calc('rc-bleed-time', { R: 680, C: 4700e-6, V0: 13.5, V: 0.3 });
    expect(time).toBeGreaterThan(8);
    expect(time).toBeLessThan(15);
    expect(calc('bleed-peak-power', { R: 680, V: 13.5 })).toBeLessThan(3);
  });
});
