import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { arcFall } from '../block/index.ts';
import { blockDefinition, newBlock } from '../kind/index.ts';
import { simulateCircuit } from '../circuit/index.ts';
import { evaluateRig } from '../evaluation/index.ts';
import { withBlock, type Rig } from '../rig/index.ts';
import { offBy } from '../test/fixtures.ts';
import { figureOf as value, marxRig, problemsOf as texts, solved } from '../test/marx.ts';
import { rigWith } from '../test/rigs.ts';
import { rigCircuit } from './index.ts';

describe('a Marx generator in closed form and through the solver', () => {
  test('its far stage is full when the ladder says, for any number of stages', () =>
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 50 }), (n, megohms) => {
        const rig = marxRig({ 'store.n': String(n), 'charging.R': `${megohms} MΩ` });
        const { compared } = solved(rig, 'charge');
        for (const id of ['charge-time', 'charge-time-fraction', 'charging-current'])
          expect(compared.find((c) => c.id === id)?.off ?? NaN, id).toBeLessThan(2e-3);
      }),
      { numRuns: 12 },
    ));

  test('is bled stage by stage: the last is behind by what the ladder says, and longer than a bank of all of them', () => {
    const rig = marxRig({ 'bleeder.R': '20 MΩ' });
    const [time] = solved(rig, 'bleed').compared;
    expect(time?.off).toBeLessThan(1e-3);
    expect(value(rig, 'bleed-time')).toBeGreaterThan(20e6 * 6 * 3.3e-9 * Math.log(12e3 / 50));
  });

  test('erects into its load as one capacitor of C/n at n times the voltage; strays are named where they tell', () => {
    const ideal = solved(marxRig(), 'discharge', arcFall);
    for (const id of ['peak-current', 'action-integral', 'load-energy'])
      expect(ideal.compared.find((c) => c.id === id)?.off ?? NaN, id).toBeLessThan(0.03);
    // With strays to earth they fire one after another, from the first on.
    const order = solved(marxRig({ 'store.Cs': '8 pF' }), 'discharge').events.map((e) => e.text);
    expect(order).toEqual(['spark gap on', ...[2, 3, 4, 5, 6].map((k) => `gap ${k} on`)]);
    expect(ideal.run.closure).toBeLessThan(1e-4);
    const strays = solved(marxRig({ 'store.Cs': '40 pF' }), 'discharge').compared.find((c) => c.id === 'peak-current');
    expect(strays?.because.join()).toMatch(/arcs fall/);
  });

  test('a lead to its terminal slows the shot as the solver has it, of one stage and of six', () => {
    for (const n of ['1', '6']) {
      const [bare, led] = ['', '4 µH'].map((Lo) => marxRig({ 'store.n': n, 'store.Lo': Lo }));
      if (!bare || !led) throw new Error('no rigs');
      expect(value(led, 'loop-inductance') - value(bare, 'loop-inductance')).toBeCloseTo(4e-6, 12);
      expect(value(led, 'peak-di-dt')).toBeLessThan(value(bare, 'peak-di-dt'));
      expect(solved(led, 'discharge', arcFall).compared.find((c) => c.id === 'peak-current')?.off ?? NaN, n).toBeLessThan(0.03);
    }
  });

  test('of one stage is the bank', () => {
    const one = marxRig({ 'store.n': '1', 'store.C': '10 µF', 'store.V0': '2 kV', 'store.ESR': '30 mΩ', 'switch.d': '1 mm' });
    const bank = rigWith(
      {
        'store.C': '10 µF',
        'store.V0': '2 kV',
        'store.ESR': '30 mΩ',
        // A stage has the inductance of its own loop.
        'store.ESL': '150 nH',
        'store.Ri': '999 TΩ',
      },
      withBlock(one, 'store', newBlock(blockDefinition('store', 'capacitor-bank'))),
    );
    for (const id of [
      'stored-energy',
      'peak-current',
      'time-to-peak',
      'action-integral',
      'voltage-reversal',
      'bleed-time-open',
    ] as const)
      expect(offBy(value(one, id), value(bank, id)), id).toBeLessThan(1e-12);
    const peak = (rig: Rig) => solved(rig, 'discharge').compared.find((c) => c.id === 'peak-current')?.solver ?? NaN;
    expect(offBy(peak(one), peak(bank))).toBeLessThan(1e-4);
  });

  test('twenty bottles of 200 pF at 30 kV add to 600 kV, and hold what practice says', () => {
    // Common practice, no source: 600 kV at 30 kV and 800 kV at 40 kV; a shot holds between about 2 and 3.5 J.
    const bottles = (V0: string) =>
      marxRig({
        'store.n': '20',
        'store.C': '200 pF',
        'store.V0': V0,
        'store.Vg': '45 kV',
        'supply.V': '60 kV',
        'switch.D': '10 cm',
        'switch.d': '16 mm',
      });
    expect(value(bottles('30 kV'), 'marx-ideal-voltage')).toBe(600e3);
    expect(value(bottles('40 kV'), 'marx-ideal-voltage')).toBe(800e3);
    expect(value(bottles('30 kV'), 'stored-energy')).toBeGreaterThan(1.7);
    expect(value(bottles('40 kV'), 'stored-energy')).toBeLessThan(3.5);
  });
});

test('the first stage goes above the last while that fills: a limit, held against the solver', () => {
  const rig = marxRig({ 'store.n': '10', 'store.Vr': '12.5 kV', 'charging.R': '100 kΩ' });
  const limit = evaluateRig(rig).ladder.limits.find((l) => l.id === 'first-stage-voltage');
  const stress = limit?.stress?.value ?? NaN;
  expect(stress).toBeGreaterThan(12e3);
  const { netlist } = rigCircuit(rig, 'Marx', { of: 'charge', charger: true, cycles: false });
  const until = value(rig, 'charge-time');
  const run = simulateCircuit(netlist, { until, tolerance: 1e-6, probes: [{ of: 'voltage', element: 'Cst1' }] });
  expect(offBy(run.traces[0]?.y.at(-1) ?? NaN, stress)).toBeLessThan(2e-3);
});

describe('what a Marx says of its gaps', () => {
  test('gaps that fire while it is charged, gaps that never fire, a first gap that does either', () => {
    expect(texts(marxRig({ 'store.Vg': '11 kV' }))).toMatch(/self-break before the charge is done: they break at 11/);
    expect(texts(marxRig({ 'store.Vg': '30 kV' }))).toMatch(/It may not erect: .* at most twice the stage voltage, 24/);
    expect(texts(marxRig({ 'switch.d': '2 mm' }))).toMatch(/The gap pre-fires before the store is full/);
    expect(texts(marxRig({ 'switch.d': '9 mm' }))).toMatch(/The trigger may miss/);
    expect(texts(marxRig({ 'switch.mode': 'self-break', 'switch.d': '9 mm' }))).toMatch(/The gap never fires: .* Close the gap/);
    expect(texts(marxRig())).not.toMatch(/fire|trigger/);
  });

  test('a gap that is only roughly known says so until breakdowns were observed', () => {
    const rough = /self-break is only known within (8.0|15|20) %/;
    expect(texts(marxRig())).not.toMatch(rough);
    expect(texts(marxRig({ 'switch.p': '2 bar' }))).toMatch(/within 8.0 % \(relative density 3.0: .*law of similarity\)/);
    expect(texts(marxRig({ 'switch.gas': 'sulphur-hexafluoride' }))).toMatch(rough);
    expect(texts(marxRig({ 'switch.geometry': 'needle', 'switch.d': '12 mm' }))).toMatch(rough);
    expect(texts(marxRig({ 'switch.p': '2 bar', 'switch.seen': '31 kV at 2 bar' }))).not.toMatch(rough);
  });

  test('what lies outside its tables is a problem by name, and no number', () => {
    expect(texts(marxRig({ 'switch.d': '15 mm' }))).toMatch(/more than half a diameter: no table/);
    expect(texts(marxRig({ 'switch.geometry': 'uniform', 'switch.reading': 'absolute', 'switch.p': '10 Pa' }))).toMatch(
      /far below the Paschen minimum/,
    );
    const limits = evaluateRig(marxRig({ 'store.Vr': '10 kV' })).ladder.limits;
    const over = limits.find((l) => l.id === 'capacitor-voltage');
    expect((over?.stress?.value ?? 0) / (over?.rating?.value ?? 1)).toBeGreaterThan(1);
  });
});
