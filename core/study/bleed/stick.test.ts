import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { withTrialValue, type Rig } from '../../rig/index.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { stickFor } from '../index.ts';

const taken = (rig: Rig): Rig => {
  const { n, R, V, E } = stickFor(rig);
  return Object.entries({ n, R, V, E }).reduce(
    (made, [field, value]) => withTrialValue<string>(made, `tool.${field}`, value),
    rig,
  );
};

describe('a stick for a store', () => {
  test('of any store has twice its pulse energy, bears its voltage, and is never too strong a short', () => {
    fc.assert(
      fc.property(fc.double({ min: 1.3, max: 4.3, noNaN: true }), fc.double({ min: -7, max: -1, noNaN: true }), (v, c) => {
        const V0 = 10 ** v;
        // Beyond a megajoule nobody carries as many.
        fc.pre(10 ** c * V0 * V0 < 1e6);
        const rig = rigWith({
          'supply.V': `${V0 * 1.1} V`,
          'store.V0': `${V0} V`,
          'store.C': `${10 ** c} F`,
          'meter.V': '100 kV',
        });
        const stick = stickFor(rig);
        const stored = figureIn(evaluateRig(rig), 'stored-energy')?.band.high ?? NaN;
        expect(stick.n * stick.E).toBeGreaterThanOrEqual(2 * stored);
        expect(stick.n * stick.V).toBeGreaterThanOrEqual(V0);
        expect(stick.current).toBeLessThanOrEqual(50 * 1.01);
        expect(stick.E).toBeLessThanOrEqual(275);
      }),
      { numRuns: 60, seed: 4_711 },
    );
  });

  test('taken into the rig, none of the limits of its stick is over', () => {
    for (const rig of [demoRig('anvil'), demoRig('thimble'), rigWith({ 'store.C': '336 mF', 'store.V0': '52 V' })]) {
      const { limits } = evaluateRig(taken(rig)).ladder;
      for (const id of ['tool-energy', 'tool-voltage'])
        expect(limits.find((limit) => limit.id === id)?.worst, id).toBeLessThanOrEqual(1);
    }
  });
});
