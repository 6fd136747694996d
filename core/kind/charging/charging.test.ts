import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { boundsOf } from '../../formula/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { rigWith } from '../../test/rigs.ts';
import { highestVoltage, type Slot } from '../../block/index.ts';
import { blockDefinition, newBlock } from '../../kind/index.ts';
import type { FigureId } from '../../block/index.ts';

const put = (rig: Rig, slot: Slot, kind: string): Rig => withBlock(rig, slot, newBlock(blockDefinition(slot, kind)));
const made = (kinds: Partial<Record<Slot, string>>, typed: Readonly<Record<string, string>>): Rig =>
  rigWith(
    typed,
    (Object.entries(kinds) as [Slot, string][]).reduce((rig, [slot, kind]) => put(rig, slot, kind), newRig()),
  );
const limit = (rig: Rig, id: string) => {
  const found = evaluateRig(rig).ladder.limits.find((l) => l.id === id);
  if (!found) throw new Error(`no limit ${id}`);
  return found;
};

describe('the highest voltage is that of the worst corner, whatever stands between supply and store', () => {
  test('a transformer 3 % high is 3 % high behind its rectifier; a choke doubles what is left on', () => {
    const highest = (rig: Rig) => highestVoltage(new RigReading(rig));
    const transformer = made(
      { supply: 'mains-transformer' },
      { 'supply.V': '1 kV ±3 %', 'supply.Vf': '0 V', 'bleeder.R': '1 GΩ' },
    );
    expect(offBy(highest(transformer), Math.SQRT2 * 1030)).toBeLessThan(1e-3);
    const multiplier = made({ supply: 'multiplier' }, { 'supply.Vp': '1 kV ±5 %', 'supply.n': '3', 'supply.Vf': '0 V' });
    expect(offBy(highest(multiplier), 6 * 1050)).toBeLessThan(1e-9);
    const choke = made(
      { charging: 'choke' },
      { 'supply.V': '1 kV ±10 %', 'supply.R': '0 Ω', 'charging.Rl': '0 Ω', 'store.C': '1 µF' },
    );
    expect(offBy(highest(choke), 2200)).toBeLessThan(1e-9);
  });

  test('the bounds of a worked number are those over every corner of what is below it', () => {
    const tolerance = fc.constantFrom('', ' ±5 %', ' -20/+50 %');
    fc.assert(
      fc.property(tolerance, tolerance, tolerance, (v, r, b) => {
        const texts = { 'supply.V': `60 V${v}`, 'charging.R': `1 kΩ${r}`, 'bleeder.R': `10 kΩ${b}` };
        const { low, high } = boundsOf(new RigReading(rigWith(texts)).figure('charge-towards'));
        const ends = (x: number, text: string) =>
          text === '' ? [x] : text === ' ±5 %' ? [0.95 * x, 1.05 * x] : [0.8 * x, 1.5 * x];
        // By hand: the divider of the supply’s 10 Ω, the charging resistor and the bleeder.
        const all = ends(60, v).flatMap((V) => ends(1e3, r).flatMap((R) => ends(1e4, b).map((B) => (V * B) / (B + R + 10))));
        expect(offBy(low, Math.min(...all))).toBeLessThan(0.002);
        expect(offBy(high, Math.max(...all))).toBeLessThan(0.002);
      }),
      { numRuns: 40 },
    );
  });
});

describe('limits of the charging path (worked by hand)', () => {
  test('a string of diodes: reverse voltage of the worst, with one that takes a fifth more', () => {
    const rig = made(
      { charging: 'diode' },
      {
        'supply.V': '1 kV',
        'charging.nd': '4',
        'charging.Vf': '0 V',
        'charging.Vd': '400 V',
        'bleeder.R': '1 TΩ',
        'meter.R': '999 TΩ',
      },
    );
    expect(offBy(limit(rig, 'charging-diode-reverse').stress.value, (1000 * 1.2) / 4.2)).toBeLessThan(1e-6);
  });

  test('current back into a charger: supply and reversed store through the charging resistor', () => {
    const rig = made(
      {},
      { 'charging.Ib': '1 A', 'supply.V': '100 V', 'supply.R': '0 Ω', 'store.V0': '90 V', 'load.R': '1 mΩ', 'store.ESR': '0 Ω' },
    );
    const k = figureIn(evaluateRig(rig), 'voltage-reversal')?.worked.value ?? NaN;
    expect(k).toBeGreaterThan(0.5);
    expect(offBy(limit(rig, 'charger-backfeed').stress.value, (100 + 90 * k) / 1000)).toBeLessThan(1e-9);
  });

  test('a supply with a current limit keeps it into a short and into a reversed store; whether it holds a thyristor on is asked', () => {
    const left = {
      'charging.firing': 'connected',
      'charging.R': '5 Ω',
      'supply.V': '400 V',
      'supply.Il': '30 mA',
      'store.V0': '390 V',
    };
    const kinds = { supply: 'bench-supply', switch: 'thyristor' } as const;
    const words = (typed: Readonly<Record<string, string>>) =>
      evaluateRig(made(kinds, { ...left, ...typed }))
        .problems.filter(({ slot, field }) => slot === 'switch' && field === 'Ih')
        .map(({ text }) => text)
        .join();
    expect(words({})).toMatch(/not judged: it keeps supplying 30/);
    expect(words({ 'switch.Ih': '20 mA' })).toMatch(/does not turn off after the shot/);
    expect(words({ 'switch.Ih': '80 mA' })).toBe('');
    expect(words({ 'switch.Ih': '20 mA', 'charging.firing': 'isolated' })).toBe('');
    expect(limit(made(kinds, { ...left, 'switch.Ih': '80 mA' }), 'switch-holding').stress.value).toBeCloseTo(0.03, 9);
    const ringing = made(kinds, {
      ...left,
      'charging.Ib': '1 A',
      'load.R': '1 mΩ',
      'store.ESR': '0 Ω',
      'switch.direction': 'both-ways',
    });
    const k = figureIn(evaluateRig(ringing), 'voltage-reversal')?.worked.value ?? NaN;
    expect(offBy(limit(ringing, 'charger-backfeed').stress.value, 0.03 + (k * 390) / 5)).toBeLessThan(1e-6);
  });

  test('the kick along a shared earth lead is its share of the loop, and never above what drives it', () => {
    const kick = (Le: string) =>
      limit(made({}, { 'charging.Le': Le, 'charging.Vk': '1 kV', 'store.V0': '50 V' }), 'charger-kick');
    const L = figureIn(evaluateRig(made({}, { 'store.V0': '50 V' })), 'loop-inductance')?.worked.value ?? NaN;
    expect(offBy(kick(`${L / 4} H`).stress.value, 50 / 4)).toBeLessThan(1e-3);
    expect(kick('1 H').stress.value).toBeLessThanOrEqual(50 * (1 + 1e-9));
  });

  test('all resistances of a chain count, and the charging resistor takes its share of the heat', () => {
    const rig = made(
      { charging: 'chain' },
      { 'charging.R': '300 Ω', 'charging.Rl': '100 Ω', 'supply.R': '0 Ω', 'store.V0': '50 V' },
    );
    const value = (id: FigureId) => figureIn(evaluateRig(rig), id)?.worked.value ?? NaN;
    expect(value('charging-resistance')).toBe(400);
    expect(offBy(value('charging-resistor-energy'), value('charging-energy-lost') * 0.75)).toBeLessThan(1e-9);
  });
});

describe('meters and monitors (worked by hand)', () => {
  test('a movement: full scale by Ohm’s law and the factor, its string by voltage and power of one', () => {
    const rig = made(
      { meter: 'movement' },
      {
        'meter.R': '1 MΩ',
        'meter.n': '4',
        'meter.Ifs': '1 mA',
        'meter.Rm': '0 Ω',
        'meter.k': '1.1',
        'meter.V': '500 V',
        'meter.P': '1 W',
        'store.V0': '48 V',
      },
    );
    expect(figureIn(evaluateRig(rig), 'meter-full-scale')?.worked.value).toBeCloseTo(4400, 6);
    expect(limit(rig, 'meter-string-voltage').stress.value).toBeCloseTo(12, 9);
    expect(limit(rig, 'meter-string-power').stress.value).toBeCloseTo(144e-6, 12);
  });

  test('a divider: ratio and reading with its meter across the foot', () => {
    const rig = made({ meter: 'divider' }, { 'meter.R1': '999 MΩ', 'meter.R2': '2 MΩ', 'meter.Rm': '2 MΩ', 'store.V0': '40 V' });
    const value = (id: FigureId) => figureIn(evaluateRig(rig), id)?.worked.value ?? NaN;
    expect(value('divider-ratio')).toBeCloseTo(1000, 9);
    expect(value('divider-reading')).toBeCloseTo(0.04, 12);
  });

  test('a shunt is part of the loop, and says what to set; one that is too slow or too inductive is said to be', () => {
    const typed = { 'monitor.R': '1 mΩ', 'load.R': '100 mΩ', 'store.C': '100 µF' };
    const [without, withIt] = [made({}, withoutMonitor(typed)), made({ monitor: 'shunt' }, typed)];
    const value = (rig: Rig, id: FigureId) => figureIn(evaluateRig(rig), id)?.worked.value ?? NaN;
    expect(value(withIt, 'loop-resistance') - value(without, 'loop-resistance')).toBeCloseTo(1e-3, 12);
    expect(value(withIt, 'monitor-peak')).toBeCloseTo(value(withIt, 'peak-current') * 1e-3, 9);
    expect(value(withIt, 'scope-division') * 6).toBeGreaterThanOrEqual(value(withIt, 'monitor-peak'));
    const poor = made({ monitor: 'shunt' }, { ...typed, 'monitor.B': '5 kHz', 'monitor.L': '50 nH' });
    const words = evaluateRig(poor)
      .problems.map((p) => p.text)
      .join();
    expect(words).toMatch(/rise time of .* is not short/);
    expect(words).toMatch(/inductance shows .* at the first instant/);
  });
});

/** The same without what belongs to a monitor that is not there. */
function withoutMonitor(typed: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(typed).filter(([path]) => !path.startsWith('monitor.')));
}
