import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { gasById, gases } from '../material/index.ts';
import { offBy, table } from '../test/fixtures.ts';
import { evaluateFormula, formulaById, gasBreakdown, solveFormula, type Formula } from './index.ts';

const formula = (id: string): Formula => {
  const found = formulaById.get(id);
  if (!found) throw new Error(`no formula ${id}`);
  return found;
};
const air = { p: 101_300, T: 293.15 };
const within = (row: Record<string, string>) => Number(row['tolerance_pct']) / 100;

describe('breakdown against tables', () => {
  test('sphere gaps: every entry of the standard tables within 2.5 %, which is closer than they claim', () => {
    for (const row of table('sphere-gap-breakdown')) {
      const values = { d: Number(row['spacing_cm']) / 100, D: Number(row['sphere_diameter_cm']) / 100, ...air };
      const off = offBy(evaluateFormula(formula('sphere-gap-breakdown'), values), Number(row['breakdown_kV_peak']) * 1e3);
      expect(off, JSON.stringify(values)).toBeLessThan(Math.min(0.025, within(row)));
      // Within the tables nothing is drawn out, and the band that is told is that of the standard.
      expect(formula('sphere-gap-breakdown').certainty?.(values)).toEqual({ band: 0.03, drawnOut: null });
    }
  });

  test('uniform field and relative density', () => {
    for (const row of table('uniform-gap-breakdown')) {
      const p = Number(row['relative_air_density']) * 101_300;
      const Vb = evaluateFormula(formula('uniform-gap-breakdown'), { d: Number(row['spacing_cm']) / 100, p, T: 293.15 });
      expect(offBy(Vb, Number(row['breakdown_kV_peak']) * 1e3)).toBeLessThan(within(row));
    }
    for (const row of table('air-density-factor')) {
      const [p, T] = [Number(row['pressure_kPa']) * 1e3, Number(row['temperature_degC']) + 273.15];
      expect(offBy(evaluateFormula(formula('air-density-factor'), { p, T }), Number(row['delta']))).toBeLessThan(within(row));
    }
  });

  test('the Paschen minimum of each gas lies where the table has it', () => {
    const ids: Record<string, string> = { 'carbon dioxide': 'carbon-dioxide' };
    let seen = 0;
    for (const row of table('paschen-minimum')) {
      const gas = gasById(ids[row['gas'] ?? ''] ?? row['gas'] ?? '');
      if (!gas) continue;
      seen += 1;
      // Looked for by trying, and not where the constants put it.
      const products = Array.from({ length: 200 }, (_, i) => gas.minimumProduct * 0.5 * 1.01 ** i);
      const best = products.reduce((a, b) => (gasBreakdown(gas, a) <= gasBreakdown(gas, b) ? a : b));
      expect(offBy(gasBreakdown(gas, best), Number(row['breakdown_min_V']))).toBeLessThan(within(row));
      expect(offBy(best / 1.33322, Number(row['pd_min_Torr_cm']))).toBeLessThan(within(row));
    }
    expect(seen).toBe(4);
  });

  test('far above the minimum air is what the uniform field says, and sulphur hexafluoride holds more than twice it', () => {
    const at = (id: string, d: number) => evaluateFormula(formula(id), { p: 101_300, d });
    for (const d of [1e-3, 5e-3, 0.02])
      expect(offBy(at('paschen-breakdown', d), evaluateFormula(formula('uniform-gap-breakdown'), { d, ...air }))).toBeLessThan(
        0.01,
      );
    // Between the two laws: 0.1 mm at atmospheric pressure breaks down at about 1 kV; common practice, no source.
    expect(at('paschen-breakdown', 1e-4)).toBeGreaterThan(750);
    expect(at('paschen-breakdown', 1e-4)).toBeLessThan(1150);
    expect(at('paschen-breakdown-sulphur-hexafluoride', 0.01) / at('paschen-breakdown', 0.01)).toBeGreaterThan(2);
    expect(at('paschen-breakdown-argon', 0.01) / at('paschen-breakdown', 0.01)).toBeLessThan(0.5);
  });

  test("Peek's onset gradients", () => {
    const ids: Record<string, string> = {
      'wire in coaxial cylinder': 'wire-corona-onset',
      'parallel wires': 'parallel-wire-corona-onset',
      sphere: 'sphere-corona-onset',
    };
    for (const row of table('corona-onset')) {
      const r = Number(row['radius_cm']) / 100;
      const g = evaluateFormula(formula(ids[row['geometry'] ?? ''] ?? ''), { r, delta: Number(row['relative_air_density']) });
      expect(offBy(g, Number(row['onset_gradient_kV_per_cm']) * 1e5)).toBeLessThan(within(row));
    }
  });
});

describe('laws', () => {
  const spheres = fc.record({
    D: fc.double({ min: 0.02, max: 0.25, noNaN: true }),
    share: fc.double({ min: 0.02, max: 0.49, noNaN: true }),
    p: fc.double({ min: 6e4, max: 1.1e5, noNaN: true }),
    T: fc.double({ min: 260, max: 320, noNaN: true }),
  });

  test('a sphere gap holds more with spacing, with pressure and in the cold; the spacing for a voltage is found again', () =>
    fc.assert(
      fc.property(spheres, ({ D, share, p, T }) => {
        const at = (d: number, q = p, t = T) => evaluateFormula(formula('sphere-gap-breakdown'), { d, D, p: q, T: t });
        const d = share * D;
        expect(at(d * 1.01)).toBeGreaterThan(at(d));
        expect(at(d, p * 1.01)).toBeGreaterThan(at(d));
        expect(at(d, p, T * 1.01)).toBeLessThan(at(d));
        expect(offBy(solveFormula(formula('sphere-gap-breakdown'), 'd', { D, p, T, Vb: at(d) }), d)).toBeLessThan(1e-6);
        expect(offBy(solveFormula(formula('sphere-gap-breakdown'), 'p', { d, D, T, Vb: at(d) }), p)).toBeLessThan(1e-6);
      }),
    ));

  test('right of its minimum the breakdown of every gas rises with pressure times distance, left of it it falls', () => {
    for (const gas of gases) {
      const at = (u: number) => gasBreakdown(gas, u * gas.minimumProduct);
      for (let u = 1.2; u < 1e5; u *= 1.07) expect(at(u * 1.07), `${gas.id} at ${u}`).toBeGreaterThan(at(u));
      for (let u = 0.9; u > 0.47; u /= 1.05) expect(at(u / 1.05), `${gas.id} at ${u}`).toBeGreaterThan(at(u));
    }
  });
});

test('what is drawn out past the tables says past what, with a wider band', () => {
  const of = (id: string, values: Record<string, number>) => {
    const { band = NaN, drawnOut = null } = formula(id).certainty?.(values) ?? {};
    return { band, drawnOut };
  };
  const spheres = { d: 5e-3, D: 0.02, ...air };
  expect(of('sphere-gap-breakdown', { ...spheres, D: 0.015 }).drawnOut).toBe('spheres of 15 mm: the tables begin at 20 mm');
  expect(of('sphere-gap-breakdown', { ...spheres, d: 0.015 })).toEqual({
    band: 0.2,
    drawnOut: 'spacing 15 mm is more than half a diameter: no table, a gap on its way to a rod gap',
  });
  expect(of('sphere-gap-breakdown', { ...spheres, d: 3e-4 }).drawnOut).toMatch(/^spacing 300 µm: the tables begin/);
  expect(of('sphere-gap-breakdown', { ...spheres, p: 4e5 }).drawnOut).toMatch(/^relative density 3.9: .*law of similarity$/);
  expect(of('sphere-gap-breakdown', { ...spheres, p: 2e6 }).band).toBeGreaterThan(
    of('sphere-gap-breakdown', { ...spheres, p: 4e5 }).band,
  );
  expect(of('paschen-breakdown', { p: 60, d: 0.01 }).drawnOut).toMatch(/left of the Paschen minimum/);
  const [minimum, between, far] = [80, 1e3, 1e5].map((p) => of('paschen-breakdown', { p, d: 0.01 }).band);
  expect([minimum, between, far]).toEqual([0.1, 0.2, gasById('air')?.band]);
});

test('what lies outside the tables is refused with the reason, and no number is given for it', () => {
  const said = (id: string, values: Record<string, number>) => {
    try {
      return String(evaluateFormula(formula(id), values));
    } catch (error) {
      return (error as Error).message;
    }
  };
  expect(said('sphere-gap-breakdown', { d: 1.1, D: 0.05, ...air })).toMatch(/^d: the spacing is more than 20 diameters/);
  expect(said('sphere-gap-breakdown', { d: 0.001, D: 0.001, ...air })).toMatch(
    /^D \(diameter of the spheres\) is 1 mm; it must be above 5 mm up to 2 m/,
  );
  // Far below the minimum spheres would have fewer volts than any gap in air breaks down at.
  expect(said('sphere-gap-breakdown', { d: 5e-3, D: 0.02, p: 50, T: 293.15 })).toMatch(
    /^p: relative density times spacing is 2.47 µm, below 0.1 mm: on the way to the Paschen minimum/,
  );
  expect(said('needle-gap-breakdown', { d: 0.02, delta: 4 })).toMatch(/^delta .* is 4; it must be from 0.3 to 3$/);
  expect(said('uniform-gap-breakdown', { d: 0.5, ...air })).toMatch(/above 20 cm/);
  expect(said('uniform-gap-breakdown', { d: 2e-5, ...air })).toMatch(/below 0.1 mm: use the breakdown near the Paschen minimum/);
  expect(said('paschen-breakdown', { p: 100, d: 1e-3 })).toMatch(
    /^p: pressure times spacing is 0.1.* far below the Paschen minimum/,
  );
});
