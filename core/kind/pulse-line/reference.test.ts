import { describe, expect, test } from 'vitest';
import { simulateCircuit, traceAt, type Element } from '../../circuit/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { rigCircuit } from '../../simulate/index.ts';
import { offBy, table } from '../../test/fixtures.ts';
import { rigWith } from '../../test/rigs.ts';
import { RigReading } from '../../figure/index.ts';
import { blockDefinition, newBlock } from '../index.ts';

const storeOf = (kind: string, typed: Readonly<Record<string, string>>): Rig =>
  rigWith(typed, withBlock(newRig(), 'store', newBlock(blockDefinition('store', kind))));

/** The store of a rig alone, closed onto a resistance at t = 0. */
function into(rig: Rig, R: number, closes: readonly [string, string], load: readonly [string, string], until: number) {
  const { parts } = rigCircuit(rig, 'store', { of: 'discharge', charger: false, cycles: false });
  const store = parts.filter(({ slot }) => slot === 'store').map(({ element }) => element);
  const elements: Element[] = [
    ...store,
    { kind: 'switch', name: 'S1', nodes: closes, Ron: 1e-6, control: { by: 'time', closeAt: 0 } },
    { kind: 'resistor', name: 'Rload', nodes: load, R },
  ];
  const run = simulateCircuit({ title: 'store', elements }, { until, tolerance: 1e-7, probes: [{ of: 'nodes', nodes: load }] });
  return run.traces[0] ?? { t: new Float64Array(), y: new Float64Array() };
}

describe('networks that were simulated twice by others: a matrix exponential and ngspice', () => {
  test.each(table('pfn'))('$kind of $sections sections, $Z_ohm Ω and $T_s s', (row) => {
    const [Z, T, V] = [Number(row['Z_ohm']), Number(row['T_s']), 1000];
    const isTypeE = row['kind'] === 'type E';
    const rig = storeOf('pulse-network', {
      'store.type': isTypeE ? 'type-e' : 'equal',
      'store.n': row['sections'] ?? '',
      'store.C': `${row['C_section_F'] ?? ''} F`,
      'store.L': `${row['L_middle_self_H'] ?? ''} H`,
      ...(isTypeE ? { 'store.k': '0.15', 'store.e': '1.2' } : {}),
      'store.R': '0 Ω',
      'store.ESR': '0 Ω',
      'store.V0': `${V} V`,
    });
    const reading = new RigReading(rig);
    expect(offBy(reading.figure('network-impedance').value, Z)).toBeLessThan(1e-4);
    expect(offBy(reading.figure('network-width').value, T)).toBeLessThan(1e-4);
    const trace = into(rig, Z, ['bank', 'out'], ['out', '0'], 2.5 * T);
    const half = V / 2;
    const crossing = (level: number, from: 'first' | 'last'): number => {
      const rising = from === 'first';
      const at = trace.y.map((y, i) => ((rising ? y >= level : y >= level && (trace.y[i + 1] ?? 0) < level) ? 1 : 0));
      const i = rising ? at.indexOf(1) : at.lastIndexOf(1);
      const [a, b] = rising ? [i - 1, i] : [i, i + 1];
      const [y0, y1, t0, t1] = [trace.y[a] ?? 0, trace.y[b] ?? 0, trace.t[a] ?? 0, trace.t[b] ?? 0];
      return t0 + ((level - y0) / (y1 - y0)) * (t1 - t0);
    };
    const width = crossing(half / 2, 'last') - crossing(half / 2, 'first');
    const rise = crossing(0.9 * half, 'first') - crossing(0.1 * half, 'first');
    const overshoot = trace.y.reduce((most, y) => Math.max(most, y), 0) / half;
    expect(offBy(width, Number(row['width_s']))).toBeLessThan(2e-3);
    expect(offBy(rise, Number(row['rise_s']))).toBeLessThan(5e-3);
    expect(offBy(overshoot, Number(row['overshoot']))).toBeLessThan(2e-3);
  });
});

describe('lines and Blumleins against the steps of travelling waves', () => {
  test.each(table('line-pulser'))('$kind of $Z_ohm Ω into $R_ohm Ω, from $from_s s: $load_V V', (row) => {
    const [Z, T, R, V] = ['Z_ohm', 'T_s', 'R_ohm', 'V_V'].map((name) => Number(row[name])) as [number, number, number, number];
    const isBlumlein = row['kind'] === 'blumlein';
    const rig = storeOf('line', {
      'store.type': isBlumlein ? 'blumlein' : 'single',
      'store.Z0': `${Z} Ω`,
      'store.v': '66 %',
      'store.l': `${T * 0.66 * 299_792_458} m`,
      'store.R': '0 Ω',
      'store.V0': `${V} V`,
    });
    const middle = (Number(row['from_s']) + Number(row['to_s'])) / 2;
    const trace = isBlumlein
      ? into(rig, R, ['bank', '0'], ['0', 'out'], 8 * T)
      : into(rig, R, ['bank', 'out'], ['out', '0'], 8 * T);
    expect(Math.abs(traceAt(trace, middle) - Number(row['load_V']))).toBeLessThan(1e-3 * V);
  });
});
