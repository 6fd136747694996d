import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { simulateCircuit, traceAt } from '../../circuit/index.ts';
import { evaluateFormula, lampFormulas, storeFormulas } from '../../formula/index.ts';
import { dischargeRules, dischargeRulesFor } from '../../hazard/index.ts';
import { absorptions } from '../../material/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Rig } from '../../rig/index.ts';
import { bleedTracesToGoal } from '../../simulate/index.ts';
import { offBy, table } from '../../test/fixtures.ts';
import { integrate } from '../../test/integrate.ts';
import { figureOf, marxRig, problemsOf } from '../../test/marx.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { bleedStudy } from '../index.ts';

const study = (rig: Rig) => bleedStudy(rig, printQuantity);

describe('published rules of discharge', () => {
  const published = [
    ['power capacitors up to 1 kV: 75 V within', 'iec-60831', 75],
    ['power capacitors above 1 kV: 75 V within', 'iec-60871', 75],
    ['50 V within, rated up to 1000 V (600 V in older editions)', 'nec-low', 50],
    ['50 V within, rated above that', 'nec-high', 50],
  ] as const;
  test.each(published)('%s is %s', (what, id, voltage) => {
    const row = table('safety-thresholds').find((one) => one['what'] === what);
    const rule = dischargeRules.find((one) => one.id === id);
    expect(rule?.voltage).toBe(voltage);
    expect(`${rule?.within} s`).toBe(row?.['threshold']);
    expect(rule?.source).toContain((row?.['source'] ?? '?').split(',')[0]?.split(' (')[0]);
  });

  test('each voltage has its rules, and none has those of the other side of 1000 V', () => {
    expect(dischargeRulesFor(400).map(({ id }) => id)).toEqual(['nec-low', 'iec-60831']);
    expect(dischargeRulesFor(1000).map(({ id }) => id)).toEqual(['nec-low', 'iec-60831']);
    expect(dischargeRulesFor(2400).map(({ id }) => id)).toEqual(['nec-high', 'iec-60871']);
  });

  test('are met by a bleeder that is fast enough at its worst corner, and by no other', () => {
    const rig = (R: string) =>
      rigWith({ 'supply.V': '500 V', 'store.V0': '400 V', 'store.C': '1 mF', 'store.np': '1', 'bleeder.R': R, 'bleeder.n': '1' });
    // RC·ln 8 within 60 s: 28.9 kΩ at most.
    const [slow, fast] = [study(rig('30 kΩ')).rules[0], study(rig('25 kΩ')).rules[0]];
    expect(slow?.isMet).toBe(false);
    expect(fast?.isMet).toBe(true);
    expect(offBy(fast?.nominal ?? NaN, 25 * Math.log(8))).toBeLessThan(1e-9);
    expect(
      study(rigWith({ 'bleeder.kind': 'none' }, rig('25 kΩ'))).rules.every(({ isMet, worst }) => !isMet && worst === null),
    ).toBe(true);
  });
});

test.each(table('dielectric-absorption'))(
  '$dielectric gives back $typical_low_pct to $typical_high_pct % ($provenance)',
  (row) => {
    const id = { 'polyester (PET)': 'pet', 'ceramic class 2': 'ceramic-2', 'aluminium electrolytic': 'electrolytic' }[
      row['dielectric'] ?? ''
    ];
    const one = absorptions.find((a) => a.id === (id ?? row['dielectric']));
    expect([(one?.low ?? NaN) * 100, (one?.high ?? NaN) * 100].map((x) => Number(x.toPrecision(6)))).toEqual([
      Number(row['typical_low_pct']),
      Number(row['typical_high_pct']),
    ]);
  },
);

describe('the Bleed-down page', () => {
  test('tells of each way what the page of the rig tells, the worst never below the nominal', () => {
    for (const rig of [demoRig('anvil'), demoRig('shuttle'), demoRig('thimble'), marxRig({ 'store.Ri': '10 GΩ' })]) {
      const { ways, charged, highest } = study(rig);
      expect(ways.length).toBeGreaterThanOrEqual(2);
      for (const { nominal, worst } of ways) expect(worst).toBeGreaterThanOrEqual(nominal);
      expect(highest).toBeGreaterThanOrEqual(charged);
      const bleeder = ways.find((way) => way.id === 'bleeder');
      if (bleeder) expect(bleeder.nominal).toBe(figureOf(rig, 'bleed-time'));
    }
  });

  test('its card names the resistors of the stick and the voltage that it is for', () => {
    const card = study(demoRig('shuttle')).card.join('\n');
    expect(card).toMatch(/^3 × 39.0 Ω in series: 117 Ω in all/);
    expect(card).toMatch(/label: DISCHARGE STICK 117 Ω · NOT ABOVE 1.80 kV · VERIFY WITH A METER/);
    expect(card).not.toMatch(/\bsafe\b/i);
  });
});

test('docs/safety.md tells the rules that the program has', () => {
  const text = readFileSync(new URL('../../../docs/safety.md', import.meta.url), 'utf8');
  for (const { voltage, within } of dischargeRules) expect(text).toContain(`${voltage} V within ${within} s`);
});

describe('a discharge stick with lamps', () => {
  const values = { Rs: 4500, Rp: 470, Rl: 680, Vf: 1.8, Il: 0.2e-3 };
  const out = (more: Partial<typeof values> = {}) => evaluateFormula(lampFormulas.lampOutVoltage, { ...values, ...more });

  test('stays on as long as an independent integration of its circuit says, clamp and lamp as they are', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 3000, noNaN: true }),
        fc.double({ min: 1e-6, max: 1e-2, noNaN: true }),
        fc.double({ min: 4, max: 40, noNaN: true }),
        (V0, C, Vz) => {
          fc.pre(V0 > 1.2 * out());
          const { Rs, Rp, Rl, Vf } = values;
          const t = evaluateFormula(lampFormulas.lampOnTime, { ...values, C, V0, Vz });
          const slope = (_t: number, [V = 0]: number[]) => {
            const v = Math.min(Vz, (V / Rs + Vf / Rl) / (1 / Rs + 1 / Rp + 1 / Rl));
            return [-(V - v) / (Rs * C)];
          };
          const left = integrate(slope, [V0], [t])[0]?.[0] ?? NaN;
          // The integrator steps over the corner of the clamp.
          expect(offBy(left, out())).toBeLessThan(2e-4);
        },
      ),
      { numRuns: 25 },
    ));

  test('its lamp goes out at a voltage that its parts say, the lower the less it needs; without resistance in series at its own drop', () => {
    expect(offBy(out({ Rs: 1e-6 }), 1.8 + 0.2e-3 * 680)).toBeLessThan(1e-6);
    expect(out({ Il: 0.1e-3 })).toBeLessThan(out());
    expect(out({ Rp: 4700 })).toBeLessThan(out());
    // A lamp without a drop that is seen at 20 µA goes out while tenths of a volt remain: common practice, no source.
    expect(out({ Vf: 0, Il: 20e-6, Rp: 4700 })).toBeLessThan(0.5);
  });

  test('in a rig stays on the sheet, discharges through all of it, and is warned of where its lamp says too little', () => {
    const rig = (typed: Readonly<Record<string, string>> = {}) =>
      rigWith({
        'supply.V': '500 V',
        'store.V0': '400 V',
        'tool.kind': 'lamp-tool',
        'tool.R': '1.5 kΩ',
        'tool.n': '3',
        ...lampParts,
        ...typed,
      });
    const lampParts = { 'tool.Rp': '470 Ω', 'tool.Rl': '680 Ω', 'tool.Vz': '12 V', 'tool.Vf': '1.8 V', 'tool.Il': '0.2 mA' };
    expect(figureOf(rig(), 'lamp-out')).toBeGreaterThan(1.8);
    // The clamp only speeds it up: never longer than through all of its resistance, down to where the lamp goes out.
    const all = figureOf(rig(), 'bank-capacitance') * (3 * 1500 + 470) * Math.log(400 / figureOf(rig(), 'lamp-out'));
    expect(figureOf(rig(), 'lamp-on-time')).toBeLessThan(all);
    // At first touch the clamp holds back next to nothing: V·(V − Vz)/Rs, told as no less.
    expect(figureOf(rig(), 'tool-peak-power')).toBeGreaterThan((400 * 388) / 4500);
    expect(problemsOf(rig())).not.toMatch(/lamp is out with/);
    expect(problemsOf(rig({ 'tool.Rp': '50 Ω' }))).toMatch(/lamp is out with \d+ V left/);
    expect(study(rig()).card.join()).toMatch(/under a clamp of 12.0 V, across it 680 Ω and two lamps in inverse parallel/);
  });
});

describe('a bleeder with one of its resistors open', () => {
  const bank = {
    'supply.V': '900 V',
    'store.V0': '800 V',
    'store.C': '300 µF',
    'store.ns': '4',
    'store.np': '1',
    'store.Ri': '10 MΩ',
  };
  const strings = (m: string) => rigWith({ ...bank, 'bleeder.R': '20 kΩ', 'bleeder.n': '2', 'bleeder.m': m });
  const each = rigWith({
    ...bank,
    'bleeder.kind': 'each-element',
    'bleeder.R': '20 kΩ ±5 %',
    'bleeder.n': '1',
    'bleeder.ng': '4',
  });
  const nominal = (rig: Rig, id: string) => study(rig).ways.find((way) => way.id === id)?.nominal ?? NaN;

  test('of m strings takes m/(m − 1) times as long; of one string there is no such way', () => {
    expect(study(strings('1')).ways.map(({ id }) => id)).not.toContain('one-open');
    for (const m of [2, 3, 7]) {
      const rig = strings(String(m));
      expect(offBy(nominal(rig, 'one-open'), (nominal(rig, 'bleeder') * m) / (m - 1))).toBeLessThan(1e-9);
      // RC·ln(V0/50) by hand: 40 kΩ a string, 75 µF.
      expect(offBy(nominal(rig, 'bleeder'), (40e3 / m) * 75e-6 * Math.log(16))).toBeLessThan(1e-9);
    }
  });

  test('across each group leaves that group alone with its leakage, as a circuit of four groups says', () => {
    const [R, C, Ri] = [20e3, 300e-6, 10e6];
    const t = nominal(each, 'one-open');
    const Rtop = 1.05;
    const V0 = (800 * Rtop) / (Rtop + 3 * 0.95);
    const { traces } = simulateCircuit(
      {
        title: 'four groups, the first without its bleeder',
        elements: [0, 1, 2, 3].flatMap((k) => {
          const nodes: [string, string] = [k === 0 ? 'top' : `n${k}`, k === 3 ? '0' : `n${k + 1}`];
          return [
            { kind: 'capacitor' as const, name: `C${k}`, nodes, C, V0: k === 0 ? V0 : (800 - V0) / 3 },
            { kind: 'resistor' as const, name: `R${k}`, nodes, R: k === 0 ? Ri : 1 / (1 / R + 1 / Ri) },
          ];
        }),
      },
      { until: t, probes: [0, 1].map((k) => ({ of: 'voltage', element: `C${k}` }) as const) },
    );
    const [open, bled] = traces.map((trace) => traceAt(trace, t));
    expect(offBy(open ?? NaN, 50)).toBeLessThan(1e-3);
    expect(bled).toBeLessThan(1e-3);
    expect(figureOf(each, 'group-rest-voltage')).toBeCloseTo(V0, 6);
  });

  test('across each group is refused where their number is not that of the groups', () => {
    expect(problemsOf(each)).not.toMatch(/one bleeder for each/);
    expect(problemsOf(rigWith({ 'bleeder.ng': '3' }, each))).toMatch(/each of 3 groups, and the store has 4 in series/);
  });

  test('the share of the highest of several resistors is that of every corner of their tolerances at its worst', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (ns, m, p) => {
          const worst = evaluateFormula(storeFormulas.highestResistorShare, { V: 1, ns, m, p });
          for (let corner = 0; corner < 1 << ns; corner++) {
            const all = Array.from({ length: ns }, (_, k) => ((corner >> k) & 1 ? 1 + p : 1 - m));
            const share = Math.max(...all) / all.reduce((sum, R) => sum + R, 0);
            expect(share).toBeLessThanOrEqual(worst + 1e-12);
          }
        },
      ),
    ));
});

test('what the terminals of the store do not show is listed with its voltage: groups, stages, a doubler, a multiplier', () => {
  const held = (rig: Rig) => study(rig).held.map(({ title, worst, time }) => ({ title, worst, after: time?.worst ?? null }));
  expect(held(rigWith({ 'store.ns': '1' }))).toEqual([]);
  expect(held(demoRig('kittiwake')).map(({ title }) => title)).toEqual([
    expect.stringMatching(/stages that is cut off/),
    'The capacitor of the trigger',
  ]);
  const marx = marxRig({ 'store.Ri': '10 GΩ' });
  const stage = held(marx)[0];
  expect(stage?.after).toBeGreaterThanOrEqual(figureOf(marx, 'stage-float-time'));
  const cascade = rigWith({
    'supply.kind': 'multiplier',
    'supply.Vp': '2 kV',
    'supply.f': '30 kHz',
    'supply.Rd': '100 Ω',
    'supply.n': '3',
    'supply.C': '1 nF',
    'supply.nd': '1',
    'supply.Vf': '1 V',
  });
  expect(held(cascade)[0]).toEqual({ title: 'Each of 6 capacitors of the multiplier', worst: 4000, after: null });
});

test.each(['anvil', 'cricket', 'kittiwake', 'shuttle', 'thimble'] as const)(
  'of %s each way is drawn to the voltage that is aimed at, and ends when the table says that it is there',
  (name) => {
    const rig = demoRig(name);
    const { ways, goal } = study(rig);
    const traces = bleedTracesToGoal(rig);
    expect(traces.map(({ id }) => id).filter((id) => id !== 'worst')).toEqual(ways.map(({ id }) => id));
    for (const { id, t, y } of traces) {
      const way = ways.find((one) => one.id === (id === 'worst' ? 'bleeder' : id));
      const says = id === 'worst' ? way?.worst : way?.nominal;
      // In the worst corner the store may be larger, and less voltage is aimed at.
      if (id === 'worst') expect(y.at(-1)).toBeLessThanOrEqual(goal.voltage * (1 + 1e-6));
      else expect(offBy(y.at(-1) ?? NaN, goal.voltage), id).toBeLessThan(1e-6);
      expect(offBy(t.at(-1) ?? NaN, says ?? NaN), id).toBeLessThan(1e-3);
      expect(
        y.every((volts, i) => i === 0 || volts <= (y[i - 1] ?? 0)),
        id,
      ).toBe(true);
    }
  },
);
