import { cases } from '../test/long.ts';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { slots, type Slot } from '../block/index.ts';
import { blockDefinition, blockDefinitions, kindsOf, newBlock, type Block } from '../kind/index.ts';
import { readQuantityText, type BlockField, type FieldValue } from '../field/index.ts';
import { Corners, RigReading } from '../figure/index.ts';
import { modelSpread, givens } from '../formula/index.ts';
import { limitState } from '../limit/index.ts';
import { printExact } from '../quantity/index.ts';
import { blockIn, newRig, withBlock, withTrialValue, type Rig } from '../rig/index.ts';
import { offBy } from '../test/fixtures.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { evaluateRig, evaluationData, figureIn, leversOf, solveRig, type Evaluation } from './index.ts';
import type { FigureId } from '../block/index.ts';

const figure = (evaluation: Evaluation, id: FigureId) => {
  const found = figureIn(evaluation, id);
  if (!found) throw new Error(`${id}: ${JSON.stringify(evaluation.figures.find((f) => f.id === id))}`);
  return found;
};
const limit = (evaluation: Evaluation, id: string) => {
  const found = evaluation.ladder.limits.find((l) => l.id === id);
  if (!found) throw new Error(`no limit ${id}`);
  return found;
};

/** A bank whose loop is exactly a row of the RLC table: nothing in series but the load. */
const plainBank = (typed: Record<string, string>) =>
  rigWith({ 'store.ESR': '0 Ω', 'store.ESL': '0 H', 'switch.R': '0 Ω', 'load.length': '', 'bleeder.kind': 'none', ...typed });

describe('figures of a rig', () => {
  test('a bank of one capacitor gives the closed form of its loop (RLC table, R 20 mΩ, L 1 µH, C 1 mF, 500 V)', () => {
    const e = evaluateRig(
      plainBank({ 'supply.V': '600 V', 'store.C': '1 mF', 'store.V0': '500 V', 'load.R': '20 mΩ', 'load.L': '1 µH' }),
    );
    expect(offBy(figure(e, 'peak-current').worked.value, 10426.83)).toBeLessThan(1e-4);
    expect(offBy(figure(e, 'time-to-peak').worked.value, 4.163486e-5)).toBeLessThan(1e-4);
    expect(offBy(figure(e, 'voltage-reversal').worked.value, 0.3509198)).toBeLessThan(1e-4);
    expect(offBy(figure(e, 'action-integral').worked.value, 6250)).toBeLessThan(1e-4);
    expect(figure(e, 'load-energy').worked.value).toBeCloseTo(125, 9);
  });

  test('series and parallel elements, the contact and both lead shapes come together in the loop', () => {
    const e = evaluateRig(
      rigWith({
        'store.ns': '3',
        'store.np': '4',
        'store.ESR': '8 mΩ',
        'store.ESL': '40 nH',
        'switch.R': '1 mΩ',
        'load.R': '20 mΩ',
        'load.L': '1 µH',
        'load.length': '0.3 m',
        'load.diameter': '2 mm',
        'load.layout': 'straight',
      }),
    );
    expect(figure(e, 'loop-resistance').worked.value).toBeCloseTo((8e-3 * 3) / 4 + 1e-3 + 20e-3, 12);
    // 0.3 m of 2 mm wire: 338.8158 nH by Rosa (see the fixture of wire inductances).
    expect(offBy(figure(e, 'loop-inductance').worked.value, 30e-9 + 1e-6 + 338.8158e-9)).toBeLessThan(1e-6);
  });

  test('the bleeder stands beside the store while it charges: voltage reached and time are those of the divider', () => {
    const e = evaluateRig(
      rigWith({
        'supply.V': '600 V',
        'supply.R': '0 Ω',
        'charging.R': '10 kΩ',
        // Bleeder and meter side by side: 20 kΩ.
        'bleeder.R': '25 kΩ',
        'meter.R': '100 kΩ',
        'store.C': '100 µF',
        'store.V0': '200 V',
      }),
    );
    expect(figure(e, 'charge-towards').worked.value).toBeCloseTo(400, 9);
    expect(figure(e, 'charge-time').worked.value).toBeCloseTo((20e3 / 3) * 100e-6 * Math.LN2, 9);
  });

  test('a one-way thyristor with a threshold leaves the bank reversed; both ways it rings out', () => {
    const typed = {
      'switch.kind': 'thyristor',
      'supply.V': '60 V',
      'store.C': '1 mF',
      'store.V0': '50 V',
      'load.R': '5 mΩ',
      'load.L': '2 µH',
      'switch.VT': '1.5 V',
      'switch.R': '1 mΩ',
    };
    const oneWay = evaluateRig(plainBank({ ...typed, 'switch.direction': 'one-way' }));
    const k = Math.exp((-Math.PI * 3e-3) / Math.sqrt(2e-6 / 1e-3 - 9e-6));
    expect(offBy(figure(oneWay, 'reversed-voltage').worked.value, 48.5 * k - 1.5)).toBeLessThan(1e-9);
    expect(oneWay.problems.some((p) => p.slot === 'switch' && p.text.includes('charged in reverse'))).toBe(true);
    const bothWays = evaluateRig(plainBank({ ...typed, 'switch.direction': 'both-ways' }));
    expect(figure(bothWays, 'reversed-voltage').worked.value).toBe(0);
    expect(figure(bothWays, 'action-integral').worked.value).toBeGreaterThan(figure(oneWay, 'action-integral').worked.value);
  });

  test('the bleeder-open time rests on insulation alone and never undercuts the bleeder', () => {
    const e = evaluateRig(
      rigWith({ 'supply.V': '600 V', 'store.V0': '400 V', 'store.C': '100 µF', 'store.Ri': '1 GΩ', 'bleeder.R': '1 MΩ' }),
    );
    expect(figure(e, 'bleed-time').worked.value).toBeCloseTo(100 * Math.log(8), 6);
    expect(figure(e, 'bleed-time-open').worked.value).toBeCloseTo(1e5 * Math.log(8), 3);
  });
});

describe('bands', () => {
  /** The extremes over all corners, by brute force. */
  function extremes(rig: Rig, id: FigureId): { low: number; high: number } {
    const leaves = [...givens(new RigReading(rig).figure(id)).values()].flatMap((g) =>
      g.origin.from !== 'rule' && g.tolerance
        ? [{ path: g.origin.path, low: g.value * (1 - g.tolerance.minus), high: g.value * (1 + g.tolerance.plus) }]
        : [],
    );
    const values: number[] = [];
    for (let mask = 0; mask < 2 ** leaves.length; mask++) {
      const overrides = new Map(leaves.map((leaf, i) => [leaf.path, mask & (1 << i) ? leaf.high : leaf.low]));
      values.push(new RigReading(rig, overrides).figure(id).value);
    }
    return { low: Math.min(...values), high: Math.max(...values) };
  }

  test.each(['anvil', 'thimble'] as const)('%s: every band is that of all corners, and of the error of its formulas', (name) => {
    const e = evaluateRig(demoRig(name));
    for (const f of e.figures) {
      if (!f.ok) continue;
      const all = extremes(e.rig, f.id);
      const { down, up } = modelSpread(f.worked);
      expect(offBy(f.band.low, Math.max(all.low < 0 ? -Infinity : 0, all.low - down)), `${f.id} low`).toBeLessThan(1e-12);
      expect(offBy(f.band.high, all.high + up), `${f.id} high`).toBeLessThan(1e-12);
    }
  });

  test('a charge that the supply reaches nominally but not at its worst corner has no upper end and says why', () => {
    const f = figure(evaluateRig(plainBank({ 'supply.V': '100 V ±10 %', 'store.V0': '95 V' })), 'charge-time');
    expect(f.band.high).toBe(Infinity);
    expect(f.band.broken).toContain('below the supply voltage');
  });
});

describe('limits', () => {
  const tough = {
    'supply.V': '3 kV ±3 %',
    'store.C': '100 µF ±10 %',
    'store.ns': '3',
    'store.V0': '2.4 kV ±2 %',
    'store.Vr': '800 V',
    'tool.E': '50 J',
    'switch.I': '2 kA',
    'meter.V': '2 kV',
  };

  test('stand tightest first, judged at the worst corner, those without a rating last', () => {
    const { limits } = evaluateRig(rigWith(tough)).ladder;
    const worst = limits.map((l) => l.worst ?? -1);
    expect(worst).toEqual([...worst].sort((a, b) => b - a));
    for (const l of limits) if (l.worst !== null && l.utilisation !== null) expect(l.worst).toBeGreaterThanOrEqual(l.utilisation);
  });

  test('each relief offered, applied alone, brings the limit to its rating and hardly below it', () => {
    const rig = rigWith(tough);
    const over = evaluateRig(rig).ladder.limits.filter((l) => limitState(l) === 'over');
    expect(over.map((l) => l.id).sort()).toEqual(
      ['capacitor-voltage', 'element-voltage', 'meter-maximum', 'switch-current', 'tool-energy'].sort(),
    );
    for (const l of over) {
      expect(l.relief.length, l.id).toBeGreaterThan(0);
      for (const r of l.relief) {
        const after = limit(evaluateRig(withTrialValue(rig, r.path, r.value)), l.id);
        expect(after.worst, `${l.id} by ${r.path}`).toBeLessThanOrEqual(1);
        if (r.unit !== '1') expect(after.worst, `${l.id} by ${r.path}`).toBeGreaterThan(0.97);
      }
    }
  });

  test('a meter for 1000 V on 3.8 kV is over (common practice, no source: it must not be the one that calibrates there)', () => {
    const e = evaluateRig(rigWith({ 'supply.V': '4 kV', 'store.V0': '3.8 kV', 'meter.V': '1000 V' }));
    expect(limit(e, 'meter-maximum').utilisation).toBeCloseTo(3.8, 9);
    expect(e.problems.some((p) => p.slot === 'meter')).toBe(true);
  });

  test('a stick that suits 100 µF at 400 V is over at 680 µF and 450 V (common practice, no source)', () => {
    const tool = { 'supply.V': '500 V', 'tool.E': '12 J', 'tool.R': '5 kΩ' };
    expect(limitState(limit(evaluateRig(rigWith({ ...tool, 'store.C': '100 µF', 'store.V0': '400 V' })), 'tool-energy'))).toBe(
      'below',
    );
    const big = limit(evaluateRig(rigWith({ ...tool, 'store.C': '680 µF', 'store.V0': '450 V' })), 'tool-energy');
    expect(big.stress.value).toBeCloseTo(68.85, 9);
    expect(limitState(big)).toBe('over');
  });

  test('a bleeder of 200 ohm 10 W carries 440 V for a moment only (common practice, no source)', () => {
    const e = evaluateRig(rigWith({ 'supply.V': '5 kV', 'store.V0': '440 V', 'bleeder.R': '200 Ω', 'bleeder.P': '10 W' }));
    expect(limit(e, 'bleeder-power').utilisation).toBeCloseTo(96.8, 6);
  });

  test('a polar capacitor is held to 1 V for good and to more in a pulse, a film one to its own rating', () => {
    const ring = { 'supply.V': '60 V', 'load.R': '5 mΩ', 'store.ESR': '1 mΩ', 'store.reversal': '90 %' };
    const held = (typed: Readonly<Record<string, string>>) =>
      limit(evaluateRig(rigWith({ ...ring, 'store.polarity': 'polar', ...typed })), 'reversal').rating?.value;
    const oneWay = { 'switch.kind': 'thyristor', 'switch.VT': '1 V', 'switch.R': '1 mΩ', 'switch.direction': 'one-way' };
    // Left reversed by a thyristor that opens: for good. A ring of milliseconds: 2 V, and 2 % of a rating of 450 V; of a second: 1.5 V.
    expect(held(oneWay)).toBe(1);
    expect(held({})).toBe(2);
    expect(held({ 'store.Vr': '450 V' })).toBe(9);
    expect(held({ 'store.C': '100 F', 'store.Vr': '450 V', 'load.length': '', 'load.R': '10 µΩ', 'load.L': '1 mH' })).toBe(1.5);
    // Unless its maker says more for a pulse.
    const rated = evaluateRig(rigWith({ ...ring, 'store.polarity': 'polar', 'store.Vrev': '3 V' }));
    expect(limit(rated, 'reversal').rating?.value).toBe(3);
    expect(limitState(limit(evaluateRig(rigWith({ ...ring, 'store.polarity': 'non-polar' })), 'reversal'))).not.toBe('over');
  });
});

describe('asking a rig backwards', () => {
  test.each([
    ['stored-energy', 400],
    ['peak-current', 9000],
    ['bleed-time', 120],
    ['tool-peak-power', 5000],
  ] as const)('%s = %d is met by every lever that can meet it', (id, target) => {
    const rig = demoRig('anvil');
    const levers = leversOf(new RigReading(rig).figure(id));
    const met = levers.filter((path) => {
      const answer = solveRig(rig, id, path, target);
      if (!answer.ok) return false;
      expect(offBy(new RigReading(withTrialValue(rig, path, answer.value)).figure(id).value, target), path).toBeLessThan(1e-9);
      return true;
    });
    expect(met).toContain('store.V0');
  });
  test('what cannot be met says so', () => {
    expect(solveRig(demoRig('anvil'), 'stored-energy', 'store.ns', 1)).toEqual({
      ok: false,
      reason: 'no whole number gives exactly this',
    });
  });
});

/** Any value a field lets through, often at the ends of its range. */
function anyValue(spec: BlockField): fc.Arbitrary<FieldValue> {
  if (spec.type === 'choice') return fc.constantFrom(...spec.options.map((o) => o.value));
  if (spec.type === 'lines') return fc.constantFrom('', '12 kV', '3 kV at 1 mm\n2.9 kV 1 psi by itself');
  const low = spec.min > 0 ? spec.min : Math.min(1e-12, spec.max / 1e3);
  const number = spec.integer
    ? fc.integer({ min: spec.min, max: spec.max })
    : fc.oneof(
        fc.double({ min: Math.log(low), max: Math.log(spec.max), noNaN: true }).map(Math.exp),
        fc.constantFrom(spec.max, spec.open ? low : spec.min),
      );
  const tolerance = spec.tolerance ? fc.constantFrom('', ' ±20 %', ' -50/+900 %') : fc.constant('');
  const typed = fc.tuple(number, tolerance).map(([value, band]): FieldValue => {
    const read = readQuantityText(spec, printExact(value, spec.unit) + band);
    return read.ok ? read.value : null;
  });
  const usable = typed.filter((v) => v !== null || spec.optional === true);
  return spec.optional ? fc.oneof({ weight: 3, arbitrary: usable }, fc.constant(null)) : usable;
}

const anyBlock = (slot: Slot): fc.Arbitrary<Block> =>
  fc
    .constantFrom(...kindsOf(slot))
    .chain((definition) =>
      fc
        .record(Object.fromEntries(Object.entries(definition.fields).map(([id, spec]) => [id, anyValue(spec)])))
        .map((fields) => ({ kind: definition.kind, fields })),
    );

const anyRig: fc.Arbitrary<Rig> = fc
  .record(Object.fromEntries(slots.map((slot) => [slot, anyBlock(slot)])))
  .map((blocks) => slots.reduce<Rig>((rig, slot) => withBlock(rig, slot, blocks[slot] ?? blockIn(rig, slot)), newRig()));

describe('any rig the form lets through', () => {
  test('is evaluated without a NaN or a throw: what cannot be calculated says why', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        const e = evaluateRig(rig);
        for (const f of e.figures) {
          if (f.ok)
            expect([
              f.id,
              Number.isFinite(f.worked.value),
              Number.isNaN(f.band.low + f.band.high) && f.band.broken === undefined,
            ]).toEqual([f.id, true, false]);
          else expect(f.reason.length).toBeGreaterThan(5);
        }
        for (const l of e.ladder.limits)
          expect([l.id, Number.isNaN(l.worst ?? 0), Number.isNaN(l.utilisation ?? 0)]).toEqual([l.id, false, false]);
        expect(e.problems.every((p) => !/NaN|undefined|Infinity/.test(p.text))).toBe(true);
        expect(() => JSON.stringify(evaluationData(e))).not.toThrow();
      }),
      { numRuns: cases(15, 300) },
    );
  }, 120_000);

  test('stores more energy at a higher voltage and with more capacitance, and bleeds longer', () => {
    fc.assert(
      fc.property(fc.double({ min: 60, max: 400, noNaN: true }), fc.double({ min: 1.01, max: 2, noNaN: true }), (V, k) => {
        const base = rigWith({ 'supply.V': '1 kV' });
        const at = (rig: Rig, id: FigureId) => new RigReading(rig).figure(id).value;
        const lower = withTrialValue(base, 'store.V0', V);
        for (const higher of [withTrialValue(lower, 'store.V0', V * k), withTrialValue(lower, 'store.C', 1e-3 * k)]) {
          for (const id of [
            'stored-energy',
            'stored-charge',
            'bleed-time',
            'tool-time',
            'charge-time',
            'peak-current',
            'action-integral',
          ] as const)
            expect(at(higher, id)).toBeGreaterThan(at(lower, id));
        }
      }),
    );
  });
});

describe('problems', () => {
  test.each<[string, Record<string, string>, Slot, RegExp]>([
    ['a charge above what the supply reaches', { 'store.V0': '70 V' }, 'store', /cannot charge the bank to 70\.0 V/],
    ['a loop without inductance', { 'store.ESL': '0 H', 'load.L': '0 H', 'load.length': '' }, 'load', /no inductance at all/],
    ['a loop without resistance', { 'store.ESR': '0 Ω', 'switch.R': '0 Ω', 'load.R': '0 Ω' }, 'load', /no resistance at all/],
    ['no bleeder', { 'bleeder.kind': 'none' }, 'bleeder', /No permanent bleeder/],
    [
      'a thyristor that never turns on',
      { 'switch.kind': 'thyristor', 'switch.direction': 'one-way', 'switch.VT': '50 V' },
      'switch',
      /threshold voltage/,
    ],
    ['a supply above the rating of the bank', { 'store.Vr': '50 V' }, 'supply', /above its rating of 50\.0 V/],
  ])('%s is shown beside its block', (_name, typed, slot, text) => {
    const e = evaluateRig(rigWith(typed));
    expect(e.problems.filter((p) => text.test(p.text)).map((p) => p.slot)).toContain(slot);
    expect(JSON.stringify(evaluationData(e))).not.toContain('NaN');
  });
});

test('every kind of block declares what the form, the line and the file need', () => {
  for (const definition of blockDefinitions) {
    const { slot, kind } = definition;
    expect(blockDefinition(slot, kind)).toBe(definition);
    const reading = new Corners(withBlock(newRig(), slot, newBlock(definition))).nominal();
    expect(definition.key(reading.ownOf(slot), reading).text, kind).toMatch(/\S/);
    for (const l of definition.limits ?? []) {
      for (const lever of l.levers) {
        const [leverSlot, field = ''] = lever.split('.') as [Slot, string];
        expect(
          kindsOf(leverSlot).some((d) => d.fields[field]?.type === 'quantity'),
          `${l.id}: ${lever}`,
        ).toBe(true);
      }
    }
  }
});
