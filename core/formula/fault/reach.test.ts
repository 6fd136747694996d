import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { evaluateFormula, reachFormulas } from '../index.ts';

const { blastPressure, perforation, flashoverReach } = reachFormulas;

describe('what reaches a person', () => {
  test.each([
    // Reduced distance in m/kg^(1/3), peak overpressure in kPa of a spherical charge in free air.
    [2, 160],
    [5, 27],
    [10, 10.4],
    [20, 4.3],
    [40, 1.8],
  ])('at a reduced distance of %d the bang is that of the tables for TNT', (Z, kPa) =>
    holds('blast-pressure', { E: 4.184e6, r: Z }, kPa * 1e3, {
      source: 'Kingery and Bulmash, spherical air burst; read off the curve, from memory',
      memory: true,
      within: 0.5,
    }),
  );

  test('a kilogram of TNT and a spark of a thousandth of it are alike at a tenth of the distance', () =>
    expect(evaluateFormula(blastPressure, { E: 4184, r: 0.7 })).toBeCloseTo(
      evaluateFormula(blastPressure, { E: 4.184e6, r: 7 }),
      6,
    ));

  test('twenty decibels are a tenth', () =>
    holds('ear-pressure', { p: 2000, A: 20 }, 200, { source: 'definition of the decibel', within: 1e-12 }));

  test('100 J in 50 g make 63 m/s at the most', () =>
    holds('fragment-speed', { E: 100, m: 0.05 }, 63.25, { source: 'kinetic energy, worked by hand', within: 1e-3 }));

  test.each([
    [300, 0.008],
    [1000, 0.0127],
    [5000, 0.03],
  ])('%d J on %d m go through as much steel as a second laboratory’s formula has', (E, D) => {
    // Stanford Research Institute: E/D = U/46 500·(16 000·T² + 1500·T·W/Ws), inches and foot-pounds, U = 60 000 psi, W = Ws.
    const right = (E / 1.3558179483314 / (D / 0.0254)) * (46_500 / 60_000);
    const T = (-1500 + Math.sqrt(1500 ** 2 + 4 * 16_000 * right)) / 32_000;
    holds('shield-perforation', { E, D, k: 1 }, T * 0.0254, {
      source: 'Stanford Research Institute formula for missiles on steel; from memory',
      memory: true,
      within: 0.3,
    });
  });

  test('the clearance of a lowest bound is no less than what is built for overhead lines and spark gaps hold', () => {
    // Rod to structure at a switching level of 950 kV: 2.9 m (IEC 60071-2, from memory); a rod gap of 10 cm holds some 60 kV.
    expect(evaluateFormula(flashoverReach, { V: 950e3 })).toBeGreaterThan(2.9);
    expect(evaluateFormula(flashoverReach, { V: 60e3 })).toBeGreaterThan(0.1);
    holds('flashover-reach', { V: 410e3 }, 1, {
      source: 'Paris, U50 = 500 kV·d^0.6 less three deviations of 6 %; from memory',
      memory: true,
      within: 0.01,
    });
  });

  test('a kilojoule burns bare skin at 4 cm, not across the room', () =>
    holds('burn-reach', { E: 1000 }, 0.0398, {
      source: '1.2 cal/cm² on a sphere, worked by hand; IEEE 1584, from memory',
      memory: true,
      within: 0.01,
    }));

  test('a kilojoule in ten litres is 40 kPa', () =>
    holds('box-pressure', { E: 1000, Vb: 0.01 }, 40e3, { source: 'ideal gas at constant volume, worked by hand', within: 1e-9 }));

  test('a hundred shots of 100 J in a room of 30 m³ leave some parts per million', () =>
    holds('nox-share', { E: 100, n: 100, Vr: 30 }, 1.33e-6, {
      source: 'about 1e17 molecules of NO a joule in lightning studies; from memory',
      memory: true,
      within: 0.01,
    }));

  test('ten minutes of a kilowatt of streamers in a room of 30 m³ make what its ozone can be at the most', () =>
    holds('ozone-share', { E: 600e3, k: 1, n: 1, Vr: 30 }, 1.4e-4, {
      source: 'ozone generators on air, up to 50 g a kilowatt hour, worked by hand: 8.3 g of 48 g/mol in 1250 mol; from memory',
      memory: true,
      within: 0.02,
    }));

  test('a loop of 1 m² at 100 A/µs gives 0.1 m² at 3 m some 70 mV a turn', () =>
    holds('induced-voltage', { S: 1e8, A: 1, Av: 0.1, r: 3 }, 0.0741, {
      source: 'field of a dipole on its axis, 2·10⁻⁷·m/r³, worked by hand',
      within: 1e-3,
    }));

  test('a shield of another material is its factor thicker', () =>
    expect(evaluateFormula(perforation, { E: 200, D: 0.01, k: 6 })).toBeCloseTo(
      6 * evaluateFormula(perforation, { E: 200, D: 0.01, k: 1 }),
      12,
    ));
});
