import { describe, expect, test } from 'vitest';
import { holds } from '../../test/evidence.ts';
import { evaluateRig } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { simulateCircuit, traceAt } from '../../circuit/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { rigCircuit } from '../../simulate/index.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const led = (kind: string, typed: Readonly<Record<string, string>> = {}): Rig =>
  rigWith(typed, withBlock(newRig(), 'leads', newBlock(blockDefinition('leads', kind))));

const discharge = (rig: Rig) => rigCircuit(rig, 'leads', { of: 'discharge', charger: false, cycles: false });

describe('leads of their own', () => {
  test('a rig without any is the circuit that it was', () => {
    const names = discharge(newRig()).netlist.elements.map(({ name }) => name);
    expect(names.filter((name) => /le$/.test(name))).toEqual([]);
    expect(discharge(newRig()).parts.find(({ slot }) => slot === 'load')?.element).toMatchObject({ nodes: ['out', '0'] });
  });

  test('bars are in the loop with their inductance and resistance, and their force goes with the square of the current', () => {
    const rig = led('bus-bars');
    const [bare, reading] = [new RigReading(newRig()), new RigReading(rig)];
    const added = reading.figure('loop-inductance').value - bare.figure('loop-inductance').value;
    expect(added).toBeCloseTo(reading.figure('leads-inductance').value, 15);
    // Plates: μ₀·l·(s + 2t/3)/w = 50 nH; bars of 50 mm that are 2 mm apart have a little less at their edges.
    expect(added).toBeGreaterThan(30e-9);
    expect(added).toBeLessThan(50.3e-9);
    expect(discharge(rig).parts.find(({ slot }) => slot === 'load')?.element).toMatchObject({ nodes: ['far', '0'] });
    const force = (V0: string) => new RigReading(led('bus-bars', { 'store.V0': V0 })).figure('leads-force').value;
    expect(force('400 V') / force('200 V')).toBeCloseTo(4, 6);
  });

  test('creepage is judged where it is entered', () => {
    const limits = evaluateRig(led('bus-bars', { 'leads.c': '1 mm', 'store.V0': '400 V' })).ladder.limits;
    expect(limits.find(({ id }) => id === 'leads-creepage')?.worst ?? 0).toBeGreaterThan(1);
  });

  test('a cable shorter than a tenth of the rise is lumped and says so; a longer one is a line with its delay', () => {
    const kinds = (rig: Rig) =>
      discharge(rig)
        .parts.filter(({ slot }) => slot === 'leads')
        .map(({ element }) => element.kind);
    const said = (rig: Rig) => evaluateRig(rig).problems.filter(({ slot }) => slot === 'leads');
    expect(kinds(led('cable'))).toEqual(['inductor', 'capacitor']);
    expect(discharge(led('cable')).parts.find(({ slot }) => slot === 'leads')?.says).toMatch(/shorter than a tenth of the rise/);
    expect(said(led('cable'))).toEqual([]);
    const long = led('cable', { 'leads.l': '20 m', 'load.R': '50 Ω', 'store.C': '1 µF' });
    expect(kinds(long)).toEqual(['resistor', 'line-end', 'line-end', 'resistor']);
    expect(said(long)).toMatchObject([{ field: 'l' }]);
  });

  test('through a long cable nothing is at the load before its delay, and the energy closes', () => {
    const rig = led('cable', { 'leads.l': '20 m', 'load.R': '50 Ω', 'store.C': '1 µF' });
    const reading = new RigReading(rig);
    const td = reading.figure('cable-delay').value;
    const run = simulateCircuit(discharge(rig).netlist, {
      until: 2.5 * td,
      tolerance: 1e-5,
      probes: [{ of: 'current', element: 'Lld' }],
    });
    const at = (t: number) => (run.traces[0] ? traceAt(run.traces[0], t) : NaN);
    expect(Math.abs(at(0.98 * td))).toBeLessThan(1e-6);
    // Into its own impedance all of the voltage arrives, as fast as the coil of the load lets it.
    expect(at(2.4 * td)).toBeGreaterThan(0.9 * (reading.offer('chargedTo').value / 50));
    expect(run.closure).toBeLessThan(1e-3);
  });
});

test('bars and cables against what is known of them', () => {
  // Wide plates 1 mm apart, 1 mm thick: μ₀·(s + 2t/3)/w.
  holds('bus-bar-inductance', { w: 1, t: 1e-3, s: 1e-3, l: 1 }, 4e-7 * Math.PI * (1e-3 + 2e-3 / 3), {
    source: 'plates with even current, worked by hand',
    within: 0.02,
  });
  // Far apart: Grover’s mean radius 0.2235·(w + t).
  holds('bus-bar-inductance', { w: 0.05, t: 0.005, s: 2, l: 1 }, 4e-7 * Math.log(2.005 / (0.2235 * 0.055)), {
    source: 'Grover, Inductance Calculations, rectangular bars; from memory',
    memory: true,
    within: 0.005,
  });
  holds('bus-bar-force', { w: 1, t: 1e-3, s: 2e-3, l: 1, I: 1e5 }, (4e-7 * Math.PI * 1e10) / 2, {
    source: 'magnetic pressure between plates, μ₀·I²/(2w), worked by hand',
    within: 0.03,
  });
  holds('bus-bar-resistance', { rho: 1.7241e-8, l: 1, w: 0.1, t: 0.01 }, 34.48e-6, {
    source: 'definition of resistivity',
    within: 1e-3,
  });
  holds('line-over-rise', { td: 5e-9, tr: 50e-9 }, 0.1, { source: 'worked by hand', within: 1e-12 });
});
