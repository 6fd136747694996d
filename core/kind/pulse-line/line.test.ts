import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import { netlistText, readNetlist, simulateCircuit, traceAt } from '../../circuit/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { rigCircuit } from '../../simulate/index.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const line = (typed: Readonly<Record<string, string>>): Rig =>
  rigWith(
    { 'load.kind': 'dummy-resistor', 'load.n': '1', 'load.m': '1', 'load.L': '20 nH', 'store.R': '1 mΩ', ...typed },
    withBlock(newRig(), 'store', newBlock(blockDefinition('store', 'line'))),
  );

function solved(rig: Rig) {
  const reading = new RigReading(rig);
  const width = reading.figure('line-width').value;
  const { netlist } = rigCircuit(rig, 'line', { of: 'discharge', charger: false, cycles: false });
  const run = simulateCircuit(netlist, { until: 3.2 * width, tolerance: 1e-5, probes: [{ of: 'current', element: 'Lld' }] });
  const trace = run.traces[0] ?? { t: new Float64Array(), y: new Float64Array() };
  return { reading, width, netlist, run, at: (t: number) => Math.abs(traceAt(trace, t)) };
}

describe('a pulse-forming line', () => {
  test('into its own impedance: half of its voltage for twice its delay, and then next to nothing', () => {
    const { reading, width, run, at } = solved(line({ 'load.R': '50 Ω' }));
    // 20 m of solid polyethylene: 101 ns one way.
    expect(width).toBeCloseTo(2 * (20 / (0.66 * 299_792_458)), 12);
    const I = 1000 / 100;
    expect(reading.figure('peak-current').value).toBeCloseTo(I, 2);
    expect(at(0.5 * width)).toBeCloseTo(I, 1);
    expect(at(0.95 * width)).toBeCloseTo(I, 1);
    expect(at(1.2 * width)).toBeLessThan(0.01 * I);
    // Half of C·V², less what the bleeder of the rig takes meanwhile.
    expect(run.energy.before).toBeCloseTo(reading.figure('stored-energy').value, 6);
    expect(run.closure).toBeLessThan(1e-3);
  });

  test('a Blumlein: nothing for a delay, then all of its voltage into twice the impedance, as long', () => {
    const { reading, width, at } = solved(line({ 'store.type': 'blumlein', 'load.R': '100 Ω' }));
    const I = 1000 / 200;
    expect(reading.figure('line-impedance').value).toBeCloseTo(100, 9);
    expect(at(0.4 * width)).toBeLessThan(0.05 * I);
    // All of the voltage across 100 Ω: 10 A, twice what half of it would drive.
    expect(at(width)).toBeCloseTo(2 * I, 0);
    expect(at(1.45 * width)).toBeCloseTo(2 * I, 0);
    expect(at(1.6 * width)).toBeLessThan(0.1 * I);
    expect(reading.figure('stored-energy').value).toBeCloseTo(2 * 0.5 * (width / 2 / 50) * 1e6, 9);
    expect(reading.figure('peak-current').value).toBeCloseTo(2 * I, 1);
  });

  test('four side by side have a quarter of the impedance, and its circuit is read back as it is written', () => {
    const { reading, width, netlist, at } = solved(line({ 'store.np': '4', 'load.R': '12.5 Ω' }));
    expect(reading.figure('peak-current').value).toBeCloseTo(40, 1);
    expect(at(0.5 * width)).toBeCloseTo(40, 0);
    const read = readNetlist(netlistText(netlist));
    if (!read.ok) throw new Error(JSON.stringify(read.issues));
    expect(read.netlist.elements.filter(({ kind }) => kind === 'line-end')).toHaveLength(2);
  });
});
