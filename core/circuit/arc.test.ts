import fc from 'fast-check';
import { Solver } from 'odex';
import { describe, expect, test } from 'vitest';
import { offBy } from '../test/fixtures.ts';
import { arcBegins, arcRate, arcResistance, arcSlope, type FallingArc } from './arc.ts';
import { simulateCircuit, type Element, type RunOptions } from './index.ts';

const run = (elements: readonly Element[], options: RunOptions) => simulateCircuit({ title: 'test', elements }, options);
const laws: readonly FallingArc[] = [
  { law: 'toepler', k: 1e-2, d: 5e-3, Rmin: 0.2, series: 0.3 },
  { law: 'rompe-weizel', a: 1e-4, d: 5e-3, Rmin: 0.2 },
];

describe('an arc that falls', () => {
  test.each(laws)('of $law grows in voltage with its current within a step by what differences of it say', (arc) => {
    // State before, s of the step, current: an arc from its beginning to long behind its least resistance.
    const size = (low: number, high: number) => fc.double({ min: Math.log(low), max: Math.log(high), noNaN: true }).map(Math.exp);
    fc.assert(
      fc.property(size(1, 1e9), size(1e-12, 1e-7), size(1e-3, 1e5), fc.boolean(), (grown, hg, size, isBack) => {
        const before = arcBegins(arc) * grown;
        const i = isBack ? -size : size;
        const state = (x: number) => before + hg * arcRate(arc, x);
        const voltage = (x: number) => arcResistance(arc, state(x)) * x;
        const step = size * 1e-5;
        const slope = arcSlope(arc, before, state(i));
        // At its least resistance there is a corner: on either side of it one of both holds.
        const ofDifferences = [voltage(i + step) - voltage(i), voltage(i) - voltage(i - step)].map(
          (difference) => difference / step,
        );
        const close = ofDifferences.map((one) => Math.abs(slope - one) / Math.max(one, 0.2));
        expect(Math.min(...close)).toBeLessThan(1e-3);
        expect(slope).toBeGreaterThan(0);
      }),
    );
  });

  test.each(laws)('of $law gives the shot that a general-purpose ODE package gives (odex)', (arc) => {
    const [Cap, L, R, V0, until] = [2e-9, 150e-9, 5, 20e3, 400e-9];
    const solver = new Solver(3);
    solver.relativeTolerance = 1e-10;
    solver.absoluteTolerance = 1e-12;
    solver.maxSteps = 1e6;
    // The state of the arc grows over nine decades: its logarithm is followed.
    const slope = (_t: number, [v = 0, i = 0, u = 0]: number[]): number[] => {
      const q = Math.exp(u);
      return [-i / Cap, (v - (R + arcResistance(arc, q)) * i) / L, arcRate(arc, i) / q];
    };
    let y = [V0, 0, Math.log(arcBegins(arc))];
    const points = 200;
    const made = run(
      [
        { kind: 'capacitor', name: 'C', nodes: ['a', '0'], C: Cap, V0 },
        { kind: 'gap', name: 'G', nodes: ['a', 'b'], breakdown: 30e3, arc, L, fireAt: 0 },
        { kind: 'resistor', name: 'R', nodes: ['b', '0'], R },
      ],
      { until, tolerance: 1e-7, maxStep: until / points, probes: [{ of: 'current', element: 'G' }] },
    );
    const peak = made.traces[0]?.y.reduce((a, b) => Math.max(a, b), 0) ?? NaN;
    let most = 0;
    for (let k = 1; k <= 4 * points; k++) {
      const [from, to] = [((k - 1) * until) / (4 * points), (k * until) / (4 * points)];
      y = [...solver.solve((s, z) => slope(s, z).map((d) => d * (to - from)), 0, y, 1).y];
      most = Math.max(most, y[1] ?? 0);
    }
    expect(offBy(peak, most)).toBeLessThan(1e-4);
    expect(made.closure).toBeLessThan(1e-4);
  });

  test('is found in two or three rounds a stage, also where many fall at once', () => {
    const gaps = Array.from({ length: 8 }, (_, k): Element[] => [
      { kind: 'capacitor', name: `C${k}`, nodes: [`a${k}`, k === 0 ? '0' : `b${k - 1}`], C: 2e-9, V0: 20e3 },
      { kind: 'capacitor', name: `CS${k}`, nodes: [`b${k}`, '0'], C: 8e-12 },
      { kind: 'resistor', name: `R${k}`, nodes: [`a${k}`, '0'], R: 1e6 },
      { kind: 'gap', name: `G${k}`, nodes: [`a${k}`, `b${k}`], breakdown: 18e3, arc: laws[0] as FallingArc, L: 150e-9 },
    ]).flat();
    const load: Element = { kind: 'resistor', name: 'RL', nodes: ['b7', '0'], R: 500 };
    const { steps, rejected, factorisations, closure } = run([...gaps, load], { until: 2e-6, tolerance: 1e-3 });
    expect(factorisations / (steps + rejected) / 5).toBeLessThan(3.5);
    expect(closure).toBeLessThan(1e-2);
  });
});

describe('a run', () => {
  const circuit = (V: number): Element[] => [
    { kind: 'voltage-source', name: 'V', nodes: ['s', '0'], wave: { kind: 'dc', value: V } },
    { kind: 'resistor', name: 'R1', nodes: ['s', 'a'], R: 1e3 },
    { kind: 'capacitor', name: 'C1', nodes: ['a', '0'], C: 1e-6 },
    { kind: 'gap', name: 'G1', nodes: ['a', '0'], breakdown: 800, arc: { law: 'fixed', R: 1 }, L: 1e-7 },
    { kind: 'resistor', name: 'R2', nodes: ['s', 'b'], R: 2e3 },
    { kind: 'capacitor', name: 'C2', nodes: ['b', '0'], C: 1e-6 },
    { kind: 'gap', name: 'G2', nodes: ['b', '0'], breakdown: 900, arc: { law: 'fixed', R: 1 }, L: 1e-7 },
  ];
  const tight = { tolerance: 1e-6, maxStep: 2e-5 };

  test('ends once all that it is to wait for have closed, and goes on where one has not', () => {
    const both = run(circuit(1000), { until: 20e-3, untilClosed: ['G1', 'G2'], ...tight });
    // The slower of two charges: t = −R·C·ln(1 − 900/1000).
    expect(offBy(both.t, -2e-3 * Math.log(0.1))).toBeLessThan(1e-3);
    expect(both.events.map(({ element }) => element)).toEqual(['G1', 'G2']);
    const one = run(circuit(1000), { until: 20e-3, untilClosed: ['G1'], ...tight });
    expect(offBy(one.t, -1e-3 * Math.log(0.2))).toBeLessThan(1e-3);
    expect(run(circuit(850), { until: 20e-3, untilClosed: ['G1', 'G2'], ...tight }).t).toBe(20e-3);
  });

  test('says of each gap that did not fire how near it came', () => {
    const { held } = run(circuit(850), { until: 3e-3, ...tight });
    expect([...held.keys()]).toEqual(['G2']);
    expect(offBy(held.get('G2') ?? NaN, (850 * (1 - Math.exp(-1.5))) / 900)).toBeLessThan(1e-4);
  });

  test('takes shorter steps where a coil that loses its inductance has no solution in a long one', () => {
    // Ten amperes through a coil and a resistor beside it; its inductance falls to a fifth in the middle of a long rest.
    const [L0, tau, R] = [1e-3, 1e-3, 2];
    const falls = { from: 5 * tau, for: 0.5 * tau, by: 0.8 };
    const coil: Element = {
      kind: 'coil',
      name: 'L',
      nodes: ['a', '0'],
      R: 0,
      I0: 10,
      states: [],
      read: (t, _i, _states, out) => {
        const share = Math.min(1, Math.max(0, (t - falls.from) / falls.for));
        out.L = L0 * (1 - falls.by * share);
        out.dLdt = share > 0 && share < 1 ? (-falls.by * L0) / falls.for : 0;
      },
      slopes: () => undefined,
    };
    const around: Element[] = [
      { kind: 'current-source', name: 'I', nodes: ['0', 'a'], wave: { kind: 'dc', value: 10 } },
      { kind: 'resistor', name: 'R', nodes: ['a', '0'], R },
    ];
    const until = 5.5 * tau;
    const at = (options: Partial<RunOptions>) =>
      run([coil, ...around], { until, probes: [{ of: 'current', element: 'L' }], ...options }).traces[0]?.y.at(-1) ?? NaN;
    const long = at({ tolerance: 0.3, maxStep: until });
    expect(offBy(long, at({ tolerance: 1e-6, maxStep: until / 500 }))).toBeLessThan(0.1);
    // While it falls, what it had of flux drives the current up.
    expect(long).toBeGreaterThan(11);
  });
});
