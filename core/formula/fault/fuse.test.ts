import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { table } from '../../test/fixtures.ts';
import { evaluateFormula, fuseFormulas } from '../index.ts';

describe('fuses', () => {
  const iec60949 = {
    source: 'IEC 60949, adiabatic short circuit of copper: K = 226, β = 234.5, to 1083 °C; from memory',
    memory: true,
  };

  test.each([0.1e-3, 0.25e-3, 1e-3])('a copper wire of %d m melts at the action that the standard for cables has', (d) => {
    const S = (Math.PI / 4) * (d * 1e3) ** 2;
    holds('wire-melting-action', { d, T: 293.15 }, 226 ** 2 * S ** 2 * Math.log((1083 + 234.5) / (20 + 234.5)), {
      ...iec60949,
      within: 0.01,
    });
  });

  test.each(table('fuse'))(
    'a copper wire of $diameter_mm mm melts within a seventh of the action of pulsed-power practice',
    (row) =>
      holds('wire-melting-action', { d: Number(row['diameter_mm']) * 1e-3, T: 293.15 }, Number(row['action_to_melt_A2s']), {
        source: '8e16 A²s/m⁴ of copper, as in the literature of pulsed power; from memory',
        memory: true,
        within: 0.15,
      }),
  );

  test('a wire of 20 AWG melts at about 160 A in a second', () =>
    holds('wire-melting-action', { d: 0.812e-3, T: 293.15 }, 157 ** 2, {
      source: 'handbook tables of fusing currents of copper wire; from memory',
      memory: true,
      within: 0.1,
    }));

  test('a section of 1 mm² of copper takes 115² A²s from 70 to 160 °C, as for cables in PVC', () =>
    holds('conductor-section', { A: 115 ** 2, T1: 343.15, T2: 433.15 }, 1e-6, {
      source: 'IEC 60364-5-54, k = 115 of copper in PVC; from memory',
      memory: true,
      within: 0.005,
    }));

  test('five strings share the current, and each has a twenty-fifth of the action', () =>
    holds('string-action', { A: 2500, np: 5 }, 100, { source: "definition of the action and Kirchhoff's laws", within: 1e-12 }));

  test('a fuse that takes pulses again and again has half of its melting action', () => {
    holds('fuse-duty', { Am: 200 }, 100, { source: 'common practice, no source', within: 1e-12 });
    expect(evaluateFormula(fuseFormulas.fuseDuty, { Am: 200, k: 0.25 })).toBe(50);
  });
});
