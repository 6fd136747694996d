import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { simulateCircuit } from '../../circuit/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { evaluateFormula, stackFormulas, type Formula } from '../index.ts';

const calc = (formula: unknown, values: Record<string, number>) => evaluateFormula(formula as Formula, values);

describe('switches in series', () => {
  const stack = fc.record({
    n: fc.integer({ min: 2, max: 20 }),
    share: fc.double({ min: 0.5, max: 0.95, noNaN: true }),
    leaks: fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 20, maxLength: 20 }),
  });

  test('no leakage within its spread brings any of them above its rating, and the worst one brings it just there', () =>
    fc.assert(
      fc.property(stack, ({ n, share, leaks }) => {
        const [V1, dI] = [1200, 8e-3];
        const V = n * V1 * share;
        const R = calc(stackFormulas.sharingResistor, { n, V1, V, dI });
        // One current through all of them: what its leakage does not carry, its resistor does.
        const highest = (leakage: readonly number[]) => {
          const I = (V / R + leakage.reduce((a, b) => a + b, 0)) / n;
          return Math.max(...leakage.map((leak) => (I - leak) * R));
        };
        expect(highest(leaks.slice(0, n).map((leak) => leak * dI))).toBeLessThanOrEqual(V1 * (1 + 1e-12));
        expect(offBy(highest(Array.from({ length: n }, (_, i) => (i === 0 ? 0 : dI))), V1)).toBeLessThan(1e-9);
      }),
    ));

  test('the capacitor of the one that turns on last takes what the circuit solver says it does', () => {
    const [n, V1, V, L, dt] = [9, 1600, 10e3, 60e-6, 250e-9];
    const C = calc(stackFormulas.lateSwitchCapacitance, { n, V1, V, L, dt });
    // The store at the others' voltage and its own, the loop, and the snubber of the late one.
    const run = simulateCircuit(
      {
        title: 'the last of a stack',
        elements: [
          { kind: 'capacitor', name: 'Cstore', nodes: ['a', '0'], C: 1e-3, V0: V },
          { kind: 'inductor', name: 'Lloop', nodes: ['a', 'b'], L },
          { kind: 'capacitor', name: 'Clate', nodes: ['b', '0'], C, V0: V / n },
        ],
      },
      { until: dt, tolerance: 1e-6, probes: [{ of: 'voltage', element: 'Clate' }] },
    );
    const reached = run.traces[0]?.y.at(-1) ?? NaN;
    expect(reached).toBeLessThanOrEqual(V1);
    // It takes the rise for even: what the snubber itself holds back is a few per cent of what it may rise.
    expect(offBy(reached - V / n, V1 - V / n)).toBeLessThan(0.15);
  });

  test('too few of them are refused by name', () => {
    expect(() => calc(stackFormulas.sharingResistor, { n: 5, V1: 1000, V: 5000, dI: 1e-3 })).toThrow(
      /^n: that many in series do not hold the voltage/,
    );
  });
});
