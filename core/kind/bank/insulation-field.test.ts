import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { insulationConstants } from '../../material/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { rigWith } from '../../test/rigs.ts';

const film = { 'supply.V': '24 kV', 'store.V0': '20 kV', 'store.C': '25 nF', 'meter.V': '40 kV', 'store.dielectric': 'pet' };
const open = (typed: Record<string, string>) => {
  const figure = figureIn(evaluateRig(rigWith(typed)), 'bleed-time-open');
  if (!figure) throw new Error('no time');
  return figure;
};

describe('insulation that nobody measured', () => {
  test('is the time constant of its dielectric with its span: 25 nF of film keep their charge for hours to days, never for seconds', () => {
    const { band } = open(film);
    // t = R·C·ln(20 kV/50 V) with R·C of 3 000 s to 100 000 s, whatever the capacitance.
    expect(band.low).toBeCloseTo(3e3 * Math.log(400), 0);
    expect(band.high).toBeCloseTo(1e5 * Math.log(400), 0);
    expect(band.low).toBeGreaterThan(3600);
    const made = runSheetOf('film', evaluateRig(rigWith(film)));
    expect(made.ok && made.sheet.summary.join(' ')).toMatch(/by leakage alone after 28\.\d h to 7 days: not measured/);
  });

  test('moves with its dielectric alone, and gives way to what was measured', () => {
    const mid = (typed: Record<string, string>) => open(typed).worked.value;
    expect(mid({ ...film, 'store.C': '2.5 nF' }) / mid(film)).toBeCloseTo(1, 6);
    expect(mid({ ...film, 'store.dielectric': 'polypropylene' })).toBeGreaterThan(mid(film));
    expect(open({ ...film, 'store.dielectric': 'unknown' }).band.low).toBeLessThan(open(film).band.low);
    // R·C·ln 400 with 200 GΩ.
    expect(mid({ ...film, 'store.Ri': '200 GΩ' })).toBeCloseTo(200e9 * 25e-9 * Math.log(400), 3);
  });

  test('has a span for every dielectric that gives anything back', () => {
    expect(insulationConstants.every(({ low, high }) => low > 0 && high >= 30 * low)).toBe(true);
  });
});
