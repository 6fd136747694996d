import { Solver } from 'odex';
import { describe, expect, test } from 'vitest';
import type { FigureId } from '../block/index.ts';
import { newRig, type Rig } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { offBy } from '../test/fixtures.ts';
import { RigReading } from './index.ts';

/** Charge and bleed-down of whole rigs against the circuit they stand for, integrated by a general-purpose ODE package (odex). */

const figuresOf = (rig: Rig) => {
  const reading = new RigReading(rig);
  return (id: FigureId): number => reading.figure(id).value;
};

/** @returns the state at `until` of what starts at these values */
function integrated(start: readonly number[], until: number, rate: (y: readonly number[]) => number[]): number[] {
  const solver = new Solver(start.length);
  solver.relativeTolerance = 1e-11;
  solver.absoluteTolerance = 1e-14;
  return solver.solve((_t, y) => rate(y), 0, [...start], until).y;
}

describe('a store charged through a resistance', () => {
  test.each([
    ['as it comes', {}],
    [
      'a stronger supply',
      { 'supply.V': '400 V', 'supply.R': '220 Ω', 'store.C': '330 µF', 'store.V0': '250 V', 'charging.R': '4.7 kΩ' },
    ],
    ['a bleeder that takes a good part', { 'bleeder.R': '4 kΩ', 'supply.V': '60 V', 'store.V0': '45 V' }],
    ['no bleeder at all', { 'bleeder.kind': 'none', 'store.V0': '59 V' }],
    ['strings of three', { 'store.ns': '3', 'store.np': '4', 'store.V0': '20 V' }],
  ] as const)('%s: time, currents and energies are those of its circuit', (_what, typed) => {
    const rig = rigWith(typed, newRig());
    const figure = figuresOf(rig);
    const [bleeder, meter] = [new RigReading(rig).offers('bleeder'), new RigReading(rig).offers('meter')];
    const [Vs, R, C, t] = [
      figure('charging-voltage'),
      figure('charging-resistance'),
      figure('bank-capacitance'),
      figure('charge-time'),
    ];
    // The meter hangs on the store beside its bleeder.
    const Rb = 1 / (1 / (bleeder.bleedResistance?.value ?? Infinity) + 1 / (meter.meterResistance?.value ?? Infinity));
    const V0 = new RigReading(rig).offer('chargedTo').value;
    // Voltage, heat in the resistance before it, charge onto the store.
    const [V = NaN, heat = NaN, charge = NaN] = integrated([0, 0, 0], t, ([v = 0]) => {
      const i = (Vs - v) / R;
      return [(i - v / Rb) / C, i * i * R, i - v / Rb];
    });
    expect(offBy(V, V0)).toBeLessThan(1e-8);
    expect(offBy(figure('charging-energy-lost'), heat)).toBeLessThan(1e-8);
    expect(offBy(figure('mean-charging-current') * t, charge)).toBeLessThan(1e-8);
    expect(offBy(figure('charging-current'), Vs / R)).toBeLessThan(1e-12);
    expect(offBy(figure('charge-towards'), (Vs * Rb) / (R + Rb))).toBeLessThan(1e-9);
    // What goes into the bleeder and the meter meanwhile is not counted among what comes out of the supply.
    expect(offBy(figure('source-energy'), heat + (C * V0 ** 2) / 2)).toBeLessThan(1e-8);
    expect(offBy(figure('charging-efficiency'), (C * V0 ** 2) / 2 / (heat + (C * V0 ** 2) / 2))).toBeLessThan(1e-8);
  });

  test('a store that is bled, by what it is bled: the bleeder, the meter, its own leakage, and all at once', () => {
    const rig = rigWith({ 'bleeder.R': '56 kΩ', 'store.Ri': '30 MΩ', 'meter.R': '1 MΩ', 'store.V0': '48 V' });
    const figure = figuresOf(rig);
    const C = figure('bank-capacitance');
    const falls = (R: number, t: number) => integrated([48], t, ([v = 0]) => [-v / (R * C)])[0] ?? NaN;
    const goal = 48 * Math.exp(-figure('bleed-time') / (56e3 * C));
    expect(offBy(falls(56e3, figure('bleed-time')), goal)).toBeLessThan(1e-8);
    expect(offBy(falls(56e3, figure('bleed-time-tenth')), 4.8)).toBeLessThan(1e-8);
    expect(offBy(falls(30e6, figure('bleed-time-open')), goal)).toBeLessThan(1e-8);
    expect(offBy(falls(30e6, figure('bleed-time-open-tenth')), 4.8)).toBeLessThan(1e-8);
    const all = 1 / (1 / 56e3 + 1 / 1e6 + 1 / 30e6);
    expect(offBy(figure('fall-constant'), all * C)).toBeLessThan(1e-9);
  });
});

describe('stages charged one behind the other', () => {
  test.each([
    ['seven', {}],
    ['two', { 'store.n': '2' }],
    ['twelve, of other parts', { 'store.n': '12', 'store.Rc': '330 kΩ', 'store.C': '10 nF', 'supply.R': '100 kΩ' }],
    ['a supply that is hardly enough', { 'supply.V': '17 kV' }],
  ] as const)('%s: the last stage is full when its ladder says so', (_what, typed) => {
    const rig = rigWith(typed, demoRig('kittiwake'));
    const figure = figuresOf(rig);
    const { ladder } = new RigReading(rig).offers('store');
    if (!ladder) throw new Error('a Marx generator has a ladder');
    const [n, R, C] = [ladder.n.value, ladder.R.value, ladder.C.value];
    const [Vs, R1] = [figure('charging-voltage'), figure('charging-resistance')];
    // What hangs on the supply beside the ladder, from what it pulls it down to.
    const towards = figure('charge-towards');
    const Rb = (R1 * towards) / (Vs - towards);
    const t = figure('charge-time');
    const stages = integrated(new Array<number>(n).fill(0), t, (v) => {
      const [first = 0] = v;
      const head = (Vs / R1 + first / R) / (1 / R1 + 1 / Rb + 1 / R);
      return v.map((own, k) => ((k === 0 ? head : (v[k - 1] ?? 0)) - own - (k < n - 1 ? own - (v[k + 1] ?? 0) : 0)) / (R * C));
    });
    const V0 = new RigReading(rig).offer('chargedTo').value;
    // The bleeder and the meter beside the first stage are reckoned into the resistance before the ladder.
    expect(offBy(stages.at(-1) ?? NaN, V0)).toBeLessThan(1e-6);
    expect([...stages].sort((a, b) => b - a)).toEqual(stages);
  });
});
