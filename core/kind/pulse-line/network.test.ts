import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { simulateCircuit, traceAt } from '../../circuit/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { dischargeTraces, rigCircuit } from '../../simulate/index.ts';
import { readQuantityText } from '../../field/index.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

/** A network into a plain resistance, in ohms for one of its impedance. */
function network(typed: Readonly<Record<string, string>>, share = 1, loadL = '50 nH'): Rig {
  const base = rigWith(
    { 'load.kind': 'resistor-inductor', 'load.R': '1 Ω', 'load.L': loadL },
    withBlock(newRig(), 'store', newBlock(blockDefinition('store', 'pulse-network'))),
  );
  const rig = rigWith(typed, base);
  const Z = new RigReading(rig).figure('network-impedance').value;
  return rigWith({ 'load.R': `${share * Z} Ω` }, rig);
}

/** Current of the load through the solver, section by section. */
function solved(rig: Rig) {
  const reading = new RigReading(rig);
  const width = reading.figure('network-width').value;
  const { netlist } = rigCircuit(rig, 'network', { of: 'discharge', charger: false, cycles: false });
  const run = simulateCircuit(netlist, { until: 3 * width, tolerance: 1e-5, probes: [{ of: 'current', element: 'Lld' }] });
  const trace = run.traces[0] ?? { t: new Float64Array(), y: new Float64Array() };
  return { width, run, at: (t: number) => traceAt(trace, t), trace, I: reading.figure('peak-current').value };
}

describe.each(['type-e', 'equal'])('a network of %s', (type) => {
  test.each(['5', '12', '20'])(
    'with %s sections gives the flat top and the width that its formulas have, through the solver',
    (n) => {
      const { width, run, at, trace, I } = solved(network({ 'store.type': type, 'store.n': n }));
      for (const share of [0.35, 0.5, 0.7]) expect(Math.abs(at(share * width) / I - 1)).toBeLessThan(0.05);
      const above = [...trace.t].filter((_, i) => (trace.y[i] ?? 0) > I / 2);
      expect(((above.at(-1) ?? NaN) - (above[0] ?? NaN)) / width).toBeGreaterThan(0.97);
      expect(((above.at(-1) ?? NaN) - (above[0] ?? NaN)) / width).toBeLessThan(1.1);
      expect(run.closure).toBeLessThan(1e-4);
      // The first top, and how far it overshoots.
      const top = trace.y.findIndex((y, i) => i > 0 && y > 0.8 * I && y > (trace.y[i + 1] ?? Infinity));
      const rise = new RigReading(network({ 'store.type': type, 'store.n': n })).figure('time-to-peak').value;
      expect(Math.abs((trace.t[top] ?? NaN) / rise - 1)).toBeLessThan(0.2);
      expect((trace.y[top] ?? NaN) / I).toBeLessThan(type === 'equal' ? 1.16 : 1.1);
    },
  );

  test('into half of its impedance it steps down by a third and is reversed by as much, as a line is', () => {
    const { width, at, I } = solved(network({ 'store.type': type, 'store.n': '20' }, 0.5));
    expect(Math.abs(at(0.5 * width) / I - 1)).toBeLessThan(0.05);
    expect(Math.abs(at(1.5 * width) / I + 1 / 3)).toBeLessThan(0.05);
    // The resistance of its coils comes to that of the load.
    const { value } = new RigReading(network({ 'store.type': type }, 0.5)).figure('voltage-reversal');
    expect(Math.abs(value - 1 / 3)).toBeLessThan(0.01);
  });
});

test('its curve without the solver is the staircase of a line, and its action all of its energy', () => {
  const rig = network({ 'store.n': '10' }, 2);
  const reading = new RigReading(rig);
  const [current] = dischargeTraces(rig).traces;
  const width = reading.figure('network-width').value;
  const at = (t: number) => (current ? traceAt(current, t) : NaN);
  expect(at(1.5 * width) / at(0.5 * width)).toBeCloseTo(1 / 3, 2);
  const [A, E, R] = (['action-integral', 'stored-energy', 'loop-resistance'] as const).map((id) => reading.figure(id).value);
  expect((A ?? NaN) * (R ?? NaN)).toBeCloseTo(E ?? NaN, 6);
});

test('parts for a wanted pulse make that pulse', () => {
  const wish = network({ 'store.n': '10', 'store.Zw': '12 Ω', 'store.tw': '4 µs' });
  const reading = new RigReading(wish);
  const made = rigWith(
    {
      'store.C': `${reading.figure('wanted-capacitance').value} F`,
      'store.L': `${reading.figure('wanted-inductance').value} H`,
    },
    wish,
  );
  expect(new RigReading(made).figure('network-impedance').value).toBeCloseTo(12, 6);
  expect(new RigReading(made).figure('network-width').value).toBeCloseTo(4e-6, 12);
});

test('a network of one section is refused at its field, a load far from its impedance is named', () => {
  const sections = blockDefinition('store', 'pulse-network').fields['n'];
  if (sections?.type !== 'quantity') throw new Error('sections are a quantity');
  expect(readQuantityText(sections, '1')).toMatchObject({ ok: false });
  const said = (share: number) =>
    evaluateRig(network({}, share))
      .problems.map(({ text }) => text)
      .join();
  expect(said(0.05)).toMatch(/far below its impedance/);
  expect(said(20)).toMatch(/far above its impedance/);
  expect(said(1)).not.toMatch(/its impedance/);
});
