import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blockDefinition, newBlock, readObserved } from '../kind/index.ts';
import { RigReading } from '../figure/index.ts';
import { newRig, withBlock, type Rig } from '../rig/index.ts';
import { offBy } from '../test/fixtures.ts';
import { evaluateRig } from '../evaluation/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { printQuantity } from '../quantity/index.ts';
import {
  causesOf,
  coilStudy,
  compareSwitches,
  erectionOf,
  erectionShot,
  erectionStudy,
  erectionThresholds,
  overvoltages,
  stagesStudy,
  gapCurve,
  gapStudy,
  inSeries,
  ownSwitch,
  symptoms,
  usualStock,
  type Duty,
  type SwitchStock,
  type SymptomId,
} from './index.ts';
import { cases } from '../test/long.ts';

const rigOf = (typed: Readonly<Record<string, string>>): Rig =>
  rigWith(
    { 'supply.V': '30 kV', 'load.R': '300 Ω', 'load.L': '2 µH', ...typed },
    withBlock(
      withBlock(newRig(), 'store', newBlock(blockDefinition('store', 'marx'))),
      'switch',
      newBlock(blockDefinition('switch', 'spark-gap')),
    ),
  );
const print = (value: number, unit: 'V' | 'm' | 'Pa') => printQuantity(value, unit);
const study = (typed: Readonly<Record<string, string>>) => {
  const made = gapStudy(rigOf(typed), print);
  if (!made) throw new Error('no study');
  return made;
};

describe('the Gap page', () => {
  test('what it says to turn brings the gap to where it says', () => {
    for (const typed of [
      { 'switch.d': '4 mm' },
      { 'switch.d': '9 mm' },
      { 'switch.d': '2 mm', 'switch.p': '20 psi' },
      { 'switch.mode': 'self-break', 'switch.d': '7 mm' },
      { 'switch.geometry': 'uniform', 'switch.gas': 'nitrogen', 'switch.d': '3 mm' },
    ]) {
      const { wanted, window, triggered, charged } = study(typed);
      const aim = triggered ? (window.low + window.high) / 2 : charged;
      expect(wanted.d).not.toBeNull();
      expect(offBy(study({ ...typed, 'switch.d': `${wanted.d} m` }).selfBreak, aim)).toBeLessThan(1e-6);
      if (wanted.p !== null) expect(offBy(study({ ...typed, 'switch.p': `${wanted.p} Pa` }).selfBreak, aim)).toBeLessThan(1e-6);
    }
    expect(study({ 'switch.d': '2 mm' }).advice.join()).toMatch(
      /self-breaks at 8\.\d+ kV.* open the gap by 2\.\d+ mm, to 4\.\d+ mm, or raise the pressure by/,
    );
    expect(study({ 'switch.d': '9 mm' }).advice.join()).toMatch(/the trigger may miss.* close the gap by/);
    expect(study({ 'switch.d': '4.8 mm' }).advice.join()).toMatch(/within the 70 to 85 % of common practice/);
  });

  test('breakdowns made with an enhancement and a scatter give both back, and how sure they are', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.8, max: 1.6, noNaN: true }),
        fc.array(fc.double({ min: -0.04, max: 0.04, noNaN: true }), { minLength: 3, maxLength: 20 }),
        (enhancement, errors) => {
          const spacings = errors.map((_, i) => 3 + (i % 5));
          const lines = errors.map((error, i) => {
            const V = study({ 'switch.d': `${spacings[i]} mm` }).selfBreak / enhancement;
            return `${((V * (1 + error)) / 1e3).toFixed(6)} kV at ${spacings[i]} mm`;
          });
          const bare = rigOf({});
          const block = bare.channels[0]?.switch;
          if (!block) throw new Error('no switch');
          const fit = gapStudy(
            withBlock(bare, 'switch', { ...block, fields: { ...block.fields, seen: lines.join('\n') } }),
            print,
          )?.fit;
          const mean = errors.reduce((a, b) => a + b, 0) / errors.length;
          expect(offBy(fit?.enhancement ?? NaN, enhancement / (1 + mean))).toBeLessThan(1e-5);
          const deviation = Math.sqrt(errors.reduce((sum, e) => sum + (e - mean) ** 2, 0) / (errors.length - 1)) / (1 + mean);
          expect(Math.abs((fit?.scatter ?? NaN) - deviation)).toBeLessThan(1e-5);
          expect(fit?.uncertainty ?? 0).toBeGreaterThanOrEqual((fit?.scatter ?? NaN) / Math.sqrt(errors.length));
        },
      ),
      { numRuns: cases(6, 15) },
    ));

  test('its curve goes on beyond half a diameter, and its band holds its middle', () => {
    const curve = gapCurve(rigOf({}), 'd', 1e-3, 20e-3, 40);
    curve.x.forEach((d, i) => {
      const [low, mean, high] = [curve.low[i], curve.mean[i], curve.high[i]] as [number, number, number];
      expect(low < mean && mean < high, String(d)).toBe(true);
    });
  });

  test.each([
    ['27 kV at 8 psi by itself', { V: 27e3, d: null, p: 8 * 6894.757293168, note: 'at by itself' }],
    ['18.5kV, 6mm', { V: 18.5e3, d: 6e-3, p: null, note: '' }],
    ['27 kV at 8 psig', { V: 27e3, p: 8 * 6894.757293168, reading: 'gauge', note: 'at' }],
    ['fired by itself at 27 kV at 8 psi gauge', { V: 27e3, p: 8 * 6894.757293168, reading: 'gauge' }],
    ['20 kV at 30 psi absolute', { V: 20e3, p: 30 * 6894.757293168, reading: 'absolute' }],
    ['20 kV at 2.5 bara', { V: 20e3, p: 2.5e5, reading: 'absolute' }],
    ['9 kV 1/8 in', { V: 9e3, d: 25.4e-3 / 8, p: null, note: '' }],
    ['12 kV\n- 11 kV, 9 mm: nothing at all', { V: 12e3, line: 1 }],
  ])('reads "%s"', (line, wanted) => {
    const read = readObserved(line);
    expect(read.ok ? read.observed : read.reason).toEqual([expect.objectContaining(wanted)]);
  });

  test('a pressure that says it is absolute is one bar less by the gauge', () => {
    const [absolute, gauge] = ['18 kV at 24.7 psia', '18 kV at 10.0077 psig'].map(
      (seen) => study({ 'switch.seen': seen }).points[0]?.calculated ?? NaN,
    );
    expect(offBy(absolute ?? NaN, gauge ?? NaN)).toBeLessThan(1e-3);
  });

  test.each([
    ['fired at last', /line 1 has no voltage/],
    ['12 kV\n3 mm', /line 2 has no voltage/],
    ['12 kV 13 kV', /line 1, "13 kV": there is another voltage before it/],
    ['12 kV at 4 m', /line 1, "4 m": must be above 0 m up to 1 m/],
  ])('refuses "%s" by its line', (text, reason) => {
    const read = readObserved(text);
    expect(read.ok ? '' : read.reason).toMatch(reason);
  });
});

describe('erection', () => {
  const marx = (typed: Readonly<Record<string, string>> = {}) => rigOf({ 'store.V0': '12 kV', ...typed });

  test('gaps set near the stage voltage all fire, one after another; gaps set wide do not', () => {
    const good = erectionShot(marx({ 'store.Vg': '15 kV' }));
    expect(good.erects).toBe(true);
    const times = good.gaps.map(({ at }) => at ?? NaN);
    expect(times).toEqual([...times].sort((a, b) => a - b));
    for (const { seen } of good.gaps) expect(offBy(seen, 1)).toBeLessThan(0.02);
    // The last top ends near all stages in series.
    expect(Math.max(...(good.tops.at(-1)?.y ?? []))).toBeGreaterThan(4 * 12e3);
    const wide = erectionShot(marx({ 'store.Vg': '60 kV' }));
    expect([wide.erects, wide.gaps[0]?.at, wide.gaps.at(-1)?.at]).toEqual([false, 0, null]);
    expect(wide.gaps[1]?.seen).toBeLessThan(1);
    // What erected gives its energy off; what did not keeps all but nothing of it.
    const stored = 0.5 * 6 * 3.3e-9 * 12e3 ** 2;
    expect(good.left.all).toBeLessThan(0.02 * stored);
    expect(offBy(wide.left.all, stored)).toBeLessThan(0.03);
    expect(
      offBy(
        wide.left.each.reduce((a, b) => a + b, 0),
        wide.left.all,
      ),
    ).toBeLessThan(1e-12);
  });

  test('misfires fall and pre-fires rise with the charge voltage; the window lies between and scales with the setting', () => {
    const options = { shots: 24 };
    const narrow = erectionStudy(marx({ 'store.Vg': '16 kV', 'switch.mode': 'self-break' }), options);
    if (!narrow?.window) throw new Error('no window');
    narrow.rates.reduce((before, rate) => {
      expect(rate.misfire).toBeLessThanOrEqual(before.misfire);
      expect(rate.prefire).toBeGreaterThanOrEqual(before.prefire);
      return rate;
    });
    expect([narrow.rates[0]?.misfire, narrow.rates.at(-1)?.prefire]).toEqual([1, 1]);
    expect(narrow.window.low).toBeGreaterThan(8e3);
    expect(narrow.window.high).toBeLessThan(16e3);
    // The circuit is linear: twice the setting, twice the window.
    const wide = erectionStudy(marx({ 'store.Vg': '32 kV', 'store.V0': '24 kV', 'switch.mode': 'self-break' }), options);
    expect(offBy(wide?.window?.low ?? NaN, 2 * narrow.window.low)).toBeLessThan(0.02);
    expect(offBy(wide?.window?.high ?? NaN, 2 * narrow.window.high)).toBeLessThan(1e-9);
  });

  test('a first gap that stands too close ends the window before the others do; one without a trigger does not', () => {
    const top = (typed: Record<string, string>) =>
      erectionStudy(marx({ 'store.Vg': '16 kV', ...typed }), { shots: 24 })?.window?.high ?? NaN;
    const [wide, close, free] = [
      top({ 'switch.d': '9 mm' }),
      top({ 'switch.d': '3.6 mm' }),
      top({ 'switch.d': '3.6 mm', 'switch.mode': 'self-break' }),
    ];
    const selfBreak = study({ 'switch.d': '3.6 mm' }).selfBreak;
    expect(close).toBeLessThan(selfBreak);
    expect(close).toBeGreaterThan(0.9 * selfBreak);
    expect(free).toBe(wide);
    expect(wide).toBeGreaterThan(close);
  });

  test('shots run here and there come to what all of them come to, whatever is expected of them beforehand', () => {
    const towers = marx({ 'store.Vg': '15 kV', 'store.towers': 'two', 'store.n': '3', 'store.CL': '20 pF' });
    const all = erectionThresholds(towers, { shots: 10 });
    if (!all) throw new Error('cancelled');
    const parts = [erectionThresholds(towers, { shots: 10, to: 4 }), erectionThresholds(towers, { shots: 10, from: 4 })];
    expect(parts.flat()).toEqual(all);
    // What is tried first alone follows from what the gaps are said to see.
    for (const seen of [0.3, 3, 30]) {
      const over = Array.from({ length: 6 }, () => seen);
      expect(erectionThresholds(towers, { shots: 10, over })).toEqual(all);
    }
    expect(erectionOf(towers, all)).toEqual(erectionStudy(towers, { shots: 10 }));
    // Held to shots: with each gap at that share of its setting it erects there and not one part in a hundred lower.
    const single = marx({ 'store.Vg': '16 kV', 'store.sc': '0.001 %' });
    const [threshold = NaN] = erectionThresholds(single, { shots: 1 }) ?? [];
    const erects = (ratio: number) => erectionShot(marx({ 'store.Vg': `${12 / ratio} kV`, 'store.sc': '0.001 %' })).erects;
    expect([erects(threshold * 1.01), erects(threshold * 0.98)]).toEqual([true, false]);
  });

  test('is the same for the same seed, tells how far it is, and ends when it is cancelled', () => {
    const seen: number[] = [];
    const run = () => erectionStudy(marx(), { shots: 6, onProgress: (share) => void seen.push(share) });
    expect(run()).toEqual(run());
    expect(seen.slice(0, 6)).toEqual([1, 2, 3, 4, 5, 6].map((k) => k / 6));
    let asked = 0;
    expect(erectionStudy(marx(), { shots: 50, cancelled: () => ++asked > 3 })).toBeNull();
  });
});

describe('overvoltage', () => {
  const marx = (typed: Readonly<Record<string, string>> = {}) => rigOf({ 'store.V0': '12 kV', ...typed });

  test('the second gap sees at most twice the stage voltage, and later ones more: that is what makes a Marx erect', () => {
    // Common practice, no source: strays to earth hold the base of the next stage while the top of this one rises.
    const [first, second, ...later] = overvoltages(marx({ 'store.Vg': '15 kV' }));
    expect(first).toBeNull();
    expect((second ?? NaN) * 15e3).toBeGreaterThan(1.4 * 12e3);
    // It may overshoot by what the stage inductance rings.
    expect((second ?? NaN) * 15e3).toBeLessThan(3 * 12e3);
    for (const x of later) expect(x ?? NaN).toBeGreaterThan(second ?? NaN);
  });

  test('of two towers both erect alike, and the first gap of either is fired', () => {
    const two = marx({ 'store.Vg': '15 kV', 'store.towers': 'two', 'store.n': '3', 'store.CL': '20 pF' });
    const { gaps, erects, tops } = erectionShot(two);
    expect(erects).toBe(true);
    expect(gaps.map(({ tower, stage }) => `${tower}.${stage}`)).toEqual(['1.1', '1.2', '1.3', '2.1', '2.2', '2.3']);
    for (const k of [0, 1, 2]) expect(offBy(gaps[k + 3]?.at ?? NaN, gaps[k]?.at ?? NaN)).toBeLessThan(1e-3);
    const [up, down] = [tops[2]?.y.at(-1) ?? NaN, tops[5]?.y.at(-1) ?? NaN];
    expect(Math.abs(up + down)).toBeLessThan(1e-3 * 36e3);
    expect(overvoltages(two).map((x) => x === null)).toEqual([true, false, false, true, false, false]);
  });

  test('a contact or a thyristor in the place of the first gap fires it as well', () => {
    for (const kind of ['contact', 'thyristor']) {
      const rig = withBlock(marx({ 'store.Vg': '15 kV' }), 'switch', newBlock(blockDefinition('switch', kind)));
      expect(erectionShot(rig).erects, kind).toBe(true);
    }
  });
});

describe('stage by stage', () => {
  const marx = (typed: Readonly<Record<string, string>> = {}) => rigOf({ 'store.V0': '12 kV', 'store.n': '9', ...typed });

  test('the last stage is full when the rig says; fired early every stage has less, the last the least', () => {
    const full = stagesStudy(marx());
    expect(full.by).toBe('closed form');
    expect(offBy(full.then.at(-1)?.V ?? NaN, 12e3)).toBeLessThan(1e-9);
    // What is said of bleeding is the worst corner, and so never less than the nominal time.
    expect(full.then.at(-1)?.bled ?? NaN).toBeGreaterThan(new RigReading(marx()).figure('bleed-time').value * 1.01);
    expect(full.floating.worst).toBeGreaterThan(1.01 * full.floating.nominal);
    const early = stagesStudy(marx(), (full.full ?? NaN) / 3);
    early.then.reduce((before, stage) => {
      expect(stage.V).toBeLessThanOrEqual(before.V + 1e-9);
      expect(stage.toEarth).toBeGreaterThan(before.toEarth);
      expect(stage.bled ?? NaN).toBeGreaterThan(before.bled ?? NaN);
      return stage;
    });
    expect(early.output.then).toBeLessThan(full.output.then);
    expect(
      offBy(
        early.output.then,
        early.then.reduce((sum, { V }) => sum + V, 0),
      ),
    ).toBeLessThan(1e-12);
    expect(offBy(full.secondGap ?? NaN, ((full.then[0]?.V ?? 0) + (full.then[1]?.V ?? 0)) / 16e3)).toBeLessThan(1e-12);
  });

  test('where there is no closed form the solver runs it: measured stages that are all alike come to the same', () => {
    const alike = stagesStudy(marx({ 'store.Cm': new Array(9).fill('3.3 nF').join(', '), 'store.Ri': '999 TΩ' }), 0.5);
    const closed = stagesStudy(marx({ 'store.Ri': '999 TΩ' }), 0.5);
    expect([alike.by, closed.by]).toEqual(['solver', 'closed form']);
    alike.then.forEach(({ V }, i) => expect(offBy(V, closed.then[i]?.V ?? NaN)).toBeLessThan(5e-3));
  });

  test('of a mains supply with too many cycles each stage is before the last by the lag of the ladder', () => {
    const mains = withBlock(
      marx({ 'store.V0': '1 kV', 'store.Rc': '200 kΩ', 'store.Vg': '1.4 kV' }),
      'supply',
      newBlock(blockDefinition('supply', 'mains-transformer')),
    );
    const made = stagesStudy(rigWith({ 'supply.V': '2 kV', 'charging.R': '2 MΩ', 'bleeder.R': '1 GΩ' }, mains));
    expect(made.by).toBe('lag');
    expect(offBy(made.then.at(-1)?.V ?? NaN, 1e3)).toBeLessThan(0.01);
    made.then.reduce((before, stage) => {
      expect(stage.V).toBeLessThanOrEqual(before.V);
      return stage;
    });
  });

  test('a bank has no stages, and says so', () => {
    expect(() => stagesStudy(newRig())).toThrow(/no stages/);
  });
});

describe('commissioning', () => {
  const likely = (typed: Readonly<Record<string, string>>, symptom: SymptomId) =>
    causesOf(rigOf({ 'store.V0': '12 kV', 'switch.d': '4.8 mm', ...typed }), symptom, printQuantity)
      .filter((c) => c.likely)
      .map((c) => c.id);

  test('what people see leads to the cause that the numbers show, and not to others', () => {
    // Common practice, no source: a gap that does not fire is set too wide, one that fires at once too close; arcs along the
    // resistors mean that they are too short; the far stages need seconds.
    expect(likely({ 'switch.d': '9 mm' }, 'no-spark')).toContain('first-gap-wide');
    expect(likely({}, 'no-spark')).not.toContain('first-gap-wide');
    expect(likely({ 'switch.d': '3 mm' }, 'free-running')).toEqual(['first-gap-close']);
    expect(likely({ 'store.lc': '20 mm' }, 'resistor-arcs')).toContain('short-resistors');
    expect(likely({ 'store.lc': '90 mm' }, 'resistor-arcs')).toEqual([]);
    expect(likely({ 'store.Vg': '26 kV' }, 'first-only')).toContain('gaps-wide');
    expect(likely({ 'store.n': '30' }, 'weak')).toContain('far-stage');
    expect(likely({ 'charging.R': '100 Ω', 'store.Rc': '100 Ω' }, 'steady-arc')).toEqual(['feeds-arc']);
    expect(likely({ 'supply.V': '11 kV' }, 'no-spark')).toContain('supply-short');
  });

  test('a Marx that does not fire is led, change by change, to one that does', () => {
    let typed: Record<string, string> = { 'store.V0': '12 kV', 'store.Vg': '30 kV', 'switch.d': '9 mm' };
    const causes = (symptom: SymptomId) => causesOf(rigOf(typed), symptom, printQuantity);
    const [wide] = causes('no-spark');
    expect(wide?.id).toBe('first-gap-wide');
    const to = /Close the gap to ([\d.]+ mm)/.exec(wide?.change ?? '')?.[1] ?? '';
    typed = { ...typed, 'switch.d': to };
    expect(gapStudy(rigOf(typed), print)?.advice.join()).toMatch(/within the 70 to 85 %/);
    expect(erectionShot(rigOf(typed)).erects).toBe(false);
    const [behind] = causes('first-only');
    const [, least = '', most = ''] = /between ([\d.]+ kV) and ([\d.]+ kV)/.exec(behind?.change ?? '') ?? [];
    for (const Vg of [least, most]) {
      const shot = erectionShot(rigOf({ ...typed, 'store.Vg': Vg }));
      expect(shot.erects, Vg).toBe(true);
    }
  });

  test('a bank behind a contact has none of the causes of gaps, and no cause throws', () => {
    for (const { id } of symptoms) {
      const bank = causesOf(newRig(), id, printQuantity).map((c) => c.id);
      expect(bank.filter((cause) => /gap|stage|resistors|strays/.test(cause))).toEqual([]);
    }
  });
});

describe('switches', () => {
  const duty = { V: 15e3, I: 800, action: 40, L: 150e-6, rate: 0.01, Q: 0.06, rings: false, jitter: null };
  const choices = (more: Partial<Duty> = {}, stock: Partial<SwitchStock> = {}) =>
    new Map(compareSwitches({ ...duty, ...more }, { ...usualStock, ...stock }, printQuantity).map((c) => [c.id, c]));

  test('fifteen kilovolts take ten thyristors of 1.5 kV at the least, and twelve to fourteen as people use them', () => {
    // Common practice, no source.
    expect(inSeries(15e3, { Vr: 1500, derating: 1 })).toBe(10);
    expect(inSeries(15e3, { Vr: 1500, derating: 0.8 })).toBe(13);
    const cost = { ...usualStock.cost, thyristor: 40, gap: 12, triggeredGap: 2000 };
    expect(choices({}, { Vr: 1500, derating: 0.8, cost }).get('thyristors')).toMatchObject({
      title: '13 thyristors in series',
      cost: 520,
    });
  });

  test('each is told what it cannot do, and nothing else', () => {
    const can = (more: Partial<Duty>) => [...choices(more).values()].filter((c) => c.against.length === 0).map((c) => c.id);
    expect(can({})).toEqual(['free-gap', 'triggered-gap', 'thyristors', 'tube']);
    expect(can({ jitter: 1e-5 })).toEqual(['triggered-gap', 'thyristors', 'tube']);
    expect(can({ V: 400, I: 300 })).toEqual(['thyristors', 'igbts', 'tube', 'contact']);
    expect(can({ I: 20e3, action: 5e6 })).toEqual(['free-gap', 'triggered-gap', 'tube']);
    expect(choices({ I: 20e3 }).get('thyristors')?.against.join()).toMatch(/surge rating 1.50 kA, the shot has 20/);
    expect(can({ rate: 50 })).toEqual(['thyristors']);
    expect(choices({ L: 10e-6 }).get('thyristors')?.against.join()).toMatch(/di\/dt 1.50 kA\/µs, .* 100 µH in the loop/);
    // 15 kV over 1.2 kV at 70 %: 18 in series; 800 A over 600 A at 70 %: 2 side by side. By hand.
    const igbts = choices().get('igbts');
    expect(igbts?.title).toBe('36 IGBTs, 18 in series, 2 side by side');
    expect(igbts?.against.join()).toMatch(/36 of them: more than 24/);
    expect(choices({ Q: 40 }).get('tube')?.against).toEqual(['charge per shot rating 10.0 C, the shot has 40.0 C']);
    expect(choices({ rings: true }).get('tube')?.needs.join()).toMatch(/lets go at the first current zero/);
    // One alone shares with nobody.
    expect(choices({ V: 400 }).get('thyristors')?.needs.join()).not.toMatch(/sharing|snubber/);
  });
});

test('the switch of a rig comes first, judged as the rig judges it', () => {
  const good = ownSwitch(evaluateRig(demoRig('thimble')), 7, null, printQuantity);
  expect(good).toMatchObject({ id: 'own', title: 'The switch it has: thyristor', against: [], cost: 7 });
  expect(good.needs.join()).toMatch(/Switch peak current: [\d.]+ % of its rating/);
  const weak = ownSwitch(evaluateRig(rigWith({ 'switch.I': '10 A' }, demoRig('thimble'))), 0, null, printQuantity);
  expect(weak.against.join()).toMatch(/Switch peak current: \d+ % of its rating/);
});

describe('the coil desk', () => {
  const rig = rigWith({ 'load.N': '60' }, withBlock(newRig(), 'load', newBlock(blockDefinition('load', 'coil'))));
  const made = coilStudy(rig, print);
  if (!made) throw new Error('no study');

  test('draws every turn once, on its layer and inside its length', () => {
    const { wires, winding } = made;
    expect(wires).toHaveLength(60);
    for (const { r, z } of wires) {
      expect(r).toBeGreaterThan(winding.inner / 2);
      expect(r).toBeLessThan(winding.outer / 2);
      expect(Math.abs(z)).toBeLessThan(winding.length / 2);
    }
    expect(made.card.join()).toMatch(/60 turns of copper.*3 layers of 23, the last of 14/);
  });

  test('of a coilgun stage shows the force of each current over the place: drawn to the middle, more with more current', () => {
    const force = coilStudy(demoRig('shuttle'), print)?.force;
    expect(coilStudy(rig, print)?.force).toBeNull();
    const [strong, , , weak] = force?.curves ?? [];
    force?.x.forEach((x, k) => {
      const [F, f] = [strong?.F[k] ?? NaN, weak?.F[k] ?? NaN];
      if (Math.abs(x) < 1e-9) expect(Math.abs(F)).toBeLessThan(1e-6);
      else {
        expect(Math.sign(F)).toBe(-Math.sign(x));
        expect(Math.abs(F)).toBeGreaterThan(Math.abs(f));
      }
    });
  });

  test('its map of loops agrees on the axis with the closed form of a filled section', () => {
    const { map, axis, inductances } = made;
    // The row next to the axis, in the middle column.
    const near = map.B[Math.floor(map.columns / 2)] ?? NaN;
    expect(offBy(near, axis.B[120] ?? NaN)).toBeLessThan(0.02);
    const values = inductances.map(({ L }) => L);
    expect(Math.max(...values) / Math.min(...values)).toBeLessThan(1.15);
  });

  test('has nothing to say of a load that is no coil', () => {
    expect(coilStudy(newRig(), print)).toBeNull();
  });
});
