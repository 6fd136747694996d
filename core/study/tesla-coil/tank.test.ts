import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../../evaluation/index.ts';
import { RigReading } from '../../figure/index.ts';
import { layersInductance } from '../../model/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { noSheetEdits, type Rig } from '../../rig/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { integrate } from '../../test/integrate.ts';
import { figureOf, problemsOf } from '../../test/marx.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { printQuantity } from '../../quantity/index.ts';
import { bleedStudy } from '../index.ts';
import { loopsOf, paceOf, ringShape, solvedBreaks, tankRow, tankStudy, tankWindow } from './index.ts';
import type { FigureId } from '../../block/index.ts';
import { cases } from '../../test/long.ts';

const cricket = demoRig('cricket');
const study = tankStudy(cricket, 7);
const verdicts = (rig: Rig) => Object.fromEntries(tankStudy(rig, 1).variants.map(({ id, verdict }) => [id, verdict]));

describe('a tank on DC', () => {
  test('does not run through a choke alone, nor through a resistor alone, and runs through both', () => {
    // Trade fact: a charging choke alone or a resistor alone does not run a small dc-fed tank; both together do, with 15 kΩ or more and
    // tens of henries. Common practice, no source.
    expect(verdicts(cricket)).toEqual({ 'as-set': 'runs', choke: 'holds', resistor: 'holds', ac: 'runs' });
    const set = (R: string, L: string) => rigWith({ 'charging.R': R, 'charging.n': '1', 'charging.L': L }, cricket);
    expect(verdicts(set('15 kΩ', '25 H'))['as-set']).not.toBe('holds');
    expect(verdicts(set('15 kΩ', '100 mH'))['as-set']).not.toBe('runs');
    expect(verdicts(set('2 kΩ', '34 H'))['as-set']).toBe('holds');
    expect(problemsOf(set('2 kΩ', '34 H'))).toMatch(/Does not run: .* 15 kΩ or more in series with the choke/);
  });

  test('leaves in its gap the less the more resistance there is, whatever else is set', () =>
    fc.assert(
      fc.property(fc.double({ min: 8, max: 40, noNaN: true }), fc.double({ min: 1.05, max: 1.4, noNaN: true }), (R, by) => {
        const left = (k: number) => {
          const evaluation = new RigReading(cricket, new Map([['charging.R', (k * 1e3) / 6]]));
          return evaluation.figure('left-current').value;
        };
        expect(left(R * by)).toBeLessThan(left(R));
      }),
      { numRuns: cases(4, 25) },
    ));

  test('breaks as often, and as high, by the solver as by its closed form; the energy of the solver closes to half a per cent', () => {
    const solved = solvedBreaks(cricket, 12);
    expect(offBy(solved.rate, figureOf(cricket, 'break-rate'))).toBeLessThan(0.04);
    expect(offBy(solved.atBreak, figureOf(cricket, 'left-current'))).toBeLessThan(0.03);
    expect(offBy(solved.top, figureOf(cricket, 'secondary-peak'))).toBeLessThan(0.02);
    expect(solved.closure).toBeLessThan(5e-3);
  });

  test('has an energy that adds up: supply, path and tank, and in the ring all of its resistances', () => {
    const f = (id: FigureId) => figureOf(cricket, id);
    expect(offBy(f('supply-power'), f('path-power') + f('tank-power'))).toBeLessThan(5e-3);
    const { R1, R2 } = loopsOf(new RigReading(cricket));
    const E = 0.5 * f('bank-capacitance') * 6600 ** 2;
    const S2 = f('secondary-rms') ** 2 / f('break-rate');
    expect(offBy(R1 * f('ring-action') + R2 * S2, E)).toBeLessThan(5e-3);
  });

  test('scatters from break to break as its gap does, about the rate without scatter', () => {
    const row = tankRow(new RigReading(cricket), 1500, 3);
    const pace = paceOf(row);
    expect(offBy(pace?.rate ?? NaN, figureOf(cricket, 'break-rate'))).toBeLessThan(0.02);
    expect(pace?.spread).toBeGreaterThan(0.01);
    const even = paceOf(tankRow(new RigReading(rigWith({ 'switch.sc': '0' }, cricket)), 300, 3));
    expect(even?.spread).toBeLessThan(1e-3);
    expect(tankRow(new RigReading(cricket), 100, 3).breaks).toEqual(row.breaks.slice(0, 100));
  });
});

describe('a window of a running Tesla coil', () => {
  const { ring, loops } = study;
  const row = tankRow(new RigReading(cricket), 2000, 7);
  const at = (signal: 'tank' | 'top' | 'path', from: number, to: number, columns?: number) =>
    tankWindow(row, ring, loops, signal, from, to, columns);
  const end = row.breaks.at(-1)?.until ?? 1;

  test('loses no extreme, from seconds to nanoseconds: what a fine look finds, the widest look has', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: row.breaks.length - 2 }),
        fc.constantFrom('tank' as const, 'top' as const),
        (n, signal) => {
          const one = row.breaks[n];
          if (!one) return;
          const fine = at(signal, one.at, one.until, 3000);
          const [low, high] = [Math.min(...fine.y), Math.max(...fine.y)];
          const wide = at(signal, 0, end, 500);
          const column = Math.min(499, Math.floor((one.at / end) * 500));
          // The break lies in one column or two.
          const around = [...wide.y.slice(2 * column, 2 * column + 4)];
          expect(Math.max(...around)).toBeGreaterThanOrEqual(high * (1 - 1e-3));
          expect(Math.min(...around)).toBeLessThanOrEqual(low * (1 - 1e-3));
        },
      ),
      { numRuns: cases(6, 40) },
    ));

  test('down to nanoseconds is what an independent integration says', () => {
    const { R1, L1, C1, R2, L2, C2, k } = loopsOf(new RigReading(cricket));
    const M = k * Math.sqrt(L1 * L2);
    const D = L1 * L2 - M * M;
    const one = row.breaks[40];
    if (!one) throw new Error('no break');
    const from = 3.1e-6;
    const [there = []] = integrate(
      (_t, [v1 = 0, i1 = 0, v2 = 0, i2 = 0]) => {
        const [e1, e2] = [v1 - R1 * i1, -v2 - R2 * i2];
        return [-i1 / C1, (L2 * e1 - M * e2) / D, i2 / C2, (L1 * e2 - M * e1) / D];
      },
      [one.V, 0, 0, 0],
      [from],
    );
    const tank = at('tank', one.at + from, one.at + from + 2e-9, 4);
    const top = at('top', one.at + from, one.at + from + 2e-9, 4);
    expect(Math.abs((tank.y[0] ?? NaN) - (there[0] ?? NaN)) / one.V).toBeLessThan(1e-3);
    expect(Math.abs(Math.abs(top.y[0] ?? NaN) - Math.abs(there[2] ?? NaN)) / 1e5).toBeLessThan(2e-3);
  });

  test('draws the charge from zero to the break, and the current of the path without a jump', () => {
    const one = row.breaks[10];
    const next = row.breaks[11];
    if (!one || !next) throw new Error('no break');
    const charge = at('tank', next.from, next.at, 200).y;
    for (let n = 1; n < charge.length; n++) expect(charge[n]).toBeGreaterThanOrEqual((charge[n - 1] ?? 0) - 1e-6);
    expect(offBy(charge.at(-1) ?? NaN, next.V)).toBeLessThan(1e-6);
    const path = at('path', one.from, next.until, 4000).y;
    for (let n = 1; n < path.length; n++) expect(Math.abs((path[n] ?? 0) - (path[n - 1] ?? 0))).toBeLessThan(2e-3);
  });

  test('of a ring keeps its greatest: that of the figure', () => {
    const shape = ringShape(loopsOf(new RigReading(cricket)));
    expect(
      offBy(Math.max(...shape.peaks.v2.high, ...shape.peaks.v2.low.map(Math.abs)) * 6600, figureOf(cricket, 'secondary-peak')),
    ).toBeLessThan(5e-3);
  });
});

const rotaryOf = (rig: typeof cricket) =>
  rigWith({ 'switch.kind': 'rotary-gap', 'switch.n': '900 Hz', 'switch.k': '2', 'switch.d': '0.2 mm' }, rig);

describe('other gaps, supplies and shapes', () => {
  test('a rotary gap breaks as often as it is turned, at what the tank has come to', () => {
    const rotary = rotaryOf(cricket);
    expect(figureOf(rotary, 'break-rate')).toBe(900);
    expect(figureOf(rotary, 'break-voltage')).toBeGreaterThan(figureOf(cricket, 'break-voltage'));
    const row = tankStudy(rotary, 1).row;
    expect(offBy(row?.breaks.at(-1)?.V ?? NaN, figureOf(rotary, 'break-voltage'))).toBeLessThan(1e-3);
    expect(problemsOf(rigWith({ 'switch.d': '3 mm' }, rotary))).toMatch(/The gap never fires: when the electrodes pass/);
  });

  test('a transformer on AC is limited, runs, and is told of as such', () => {
    const ac = rigWith(
      {
        'supply.kind': 'ac-transformer',
        'supply.V': '6 kV',
        'supply.f': '50 Hz',
        'supply.impedance': 'short-circuit',
        'supply.Isc': '25 mA',
        'supply.Rw': '4 kΩ',
        'charging.kind': 'direct',
        'charging.R': '10 Ω',
        'charging.firing': 'connected',
      },
      cricket,
    );
    expect(figureOf(ac, 'break-rate')).toBeGreaterThan(100);
    expect(figureOf(ac, 'left-current')).toBeLessThan(0.1);
    expect(evaluateRig(ac).beside).toEqual([]);
    // At the worst corner, and counted in the hazard class: 8.2 µF + 5 % at twice 2.15 kV + 3 %, by hand.
    const [doubler, current] = evaluateRig(cricket).beside;
    expect(offBy(doubler?.figure.band.high ?? NaN, 8.2e-6 * 1.05 * (2150 * 1.03 * Math.SQRT2) ** 2)).toBeLessThan(1e-9);
    expect(current?.figure.band.high).toBeGreaterThan(figureOf(cricket, 'unlimited-current'));
    expect(evaluateRig(cricket).hazard?.class).toBe('severe');
    expect(tankStudy(ac, 1).row?.breaks.some(({ V }) => V < 0)).toBe(true);
    // The same through a disc: it breaks at some of its passes, of either sign, and says that the tank swings on between them.
    const disc = rigWith({ 'switch.kind': 'rotary-gap', 'switch.n': '450 Hz', 'switch.k': '2', 'switch.d': '0.5 mm' }, ac);
    expect(figureOf(disc, 'break-rate')).toBeGreaterThan(100);
    expect(figureOf(disc, 'break-rate')).toBeLessThanOrEqual(455);
    expect(figureOf(disc, 'break-voltage')).toBeGreaterThan(figureOf(disc, 'self-break'));
    const row = tankStudy(disc, 1).row?.breaks ?? [];
    expect(row.length).toBeGreaterThan(10);
    for (const { at } of row) expect(Math.abs(at * 450 - Math.round(at * 450))).toBeLessThan(1e-6);
    expect(new Set(row.map(({ V }) => Math.sign(V))).size).toBe(2);
    // What it swings up to meanwhile is above its breaks, and stands against the rating of the store at its worst corner.
    const highest = figureOf(disc, 'pass-highest');
    expect(highest).toBeGreaterThan(figureOf(disc, 'break-voltage'));
    expect(problemsOf(disc)).toMatch(/keeps swinging, up to \d.* in its first 25 cycles/);
    const limit = evaluateRig(disc).ladder.limits.find(({ id }) => id === 'pass-highest');
    expect(limit?.band.high).toBeGreaterThanOrEqual(highest);
    expect(evaluateRig(rotaryOf(cricket)).ladder.limits.some(({ id }) => id === 'pass-highest')).toBe(false);
  });

  test.each([
    ['flat', '0'],
    ['cone', '0.5'],
    ['helix', '1'],
  ])('a %s primary is near its approximate formula, and its tap in tune tunes it', (shape, a) => {
    const rig = rigWith({ 'load.shape': shape, 'load.a': a, 'load.n': '9' }, cricket);
    expect(offBy(figureOf(rig, 'primary-wheeler'), figureOf(rig, 'primary-inductance'))).toBeLessThan(0.12);
    const best = figureOf(rig, 'tuning-tap');
    const tuned = rigWith({ 'load.n': String(best), 'load.n1': '30' }, rig);
    expect(offBy(figureOf(tuned, 'primary-resonance'), figureOf(tuned, 'secondary-resonance'))).toBeLessThan(1e-6);
    // In tune the top comes higher than out of it; a tight coupling spreads that.
    if (shape === 'helix') return;
    const top = (by: number) => figureOf(rigWith({ 'load.n': String(best + by), 'load.n1': '30' }, rig), 'secondary-peak');
    expect(top(0)).toBeGreaterThan(top(1.5));
    expect(top(0)).toBeGreaterThan(top(-1.5));
  });

  test('its secondary has the inductance of all its turns as loops, one by one, to a hundredth', () => {
    const [N, r, l, wire] = [940, 0.054, 0.43, 0.2e-3];
    const loops = layersInductance([{ radius: r, turns: N, first: 0, pitch: l / N }], wire);
    expect(offBy(figureOf(cricket, 'secondary-inductance'), loops)).toBeLessThan(0.01);
    expect(offBy(figureOf(cricket, 'secondary-wheeler'), loops)).toBeLessThan(0.02);
  });

  test('a sphere, a given top and none have the capacitance that they say', () => {
    const top = (kind: string, more: Record<string, string> = {}) =>
      figureOf(rigWith({ 'load.top': kind, ...more }, cricket), 'top-capacitance');
    expect(offBy(top('sphere', { 'load.Dt': '200 mm' }), 4 * Math.PI * 8.8541878128e-12 * 0.1)).toBeLessThan(1e-6);
    expect(top('given', { 'load.Ct': '17 pF' })).toBe(17e-12);
    expect(top('none')).toBe(0);
  });
});

describe('bad input is a named problem, never a plausible number', () => {
  test.each<[string, Record<string, string>, RegExp]>([
    ['a secondary longer than its wire', { 'load.w2': '200 m' }, /takes 319 m of wire, and there is 200 m/],
    ['turns that do not fit', { 'load.N2': '1500' }, /1500 turns of 445 µm need 667 mm, and the winding is 430 mm long/],
    [
      'no capacitance at all',
      { 'load.top': 'none', 'load.Cs': '0' },
      /no capacitance at all: neither a top load nor one of its own/,
    ],
    [
      'a gap that never fires',
      { 'switch.d': '1.2 mm' },
      /The gap never fires at this supply: the tank reaches \d.* and the gap holds/,
    ],
    ['a tap past the last turn', { 'load.n': '14' }, /The tap is at turn 14, and the primary has 12/],
    ['out of tune', { 'load.n': '6' }, /Out of tune: .* Tap at 9\.\d\d turns/],
    ['a store that is not set to the gap', { 'store.V0': '5 kV' }, /The tank breaks at 6\.\d\d kV, and it is set to 5\.00 kV/],
    ['a primary within its secondary', { 'load.r0': '50 mm' }, /The primary overlaps the secondary/],
    ['a tight coupling', { 'load.h': '-60 mm', 'load.shape': 'helix' }, /sparks race along the secondary/],
  ])('%s', (_what, typed, words) => {
    expect(problemsOf(rigWith(typed, cricket))).toMatch(words);
  });

  test('a coupling of one cannot be typed: the range is named', () => {
    expect(() => rigWith({ 'load.km': '1' }, cricket)).toThrow(/above 0 up to 0\.98/);
  });

  test('whatever the form lets through, nothing of a tank is NaN and no figure throws', () =>
    fc.assert(
      fc.property(
        fc.constantFrom(
          'load.r0',
          'load.p',
          'load.n',
          'load.h',
          'load.N2',
          'charging.R',
          'charging.L',
          'store.C',
          'switch.d',
          'supply.Cd',
        ),
        fc.double({ min: 1e-3, max: 1e3, noNaN: true }),
        (pathOf, by) => {
          const rig = cricket;
          const reading = new RigReading(rig);
          const [slot, field] = pathOf.split('.') as ['load', string];
          const now = reading.ownOf(slot).quantity(field);
          const value = pathOf === 'load.N2' ? Math.max(1, Math.round(now.value * by)) : now.value * by;
          let changed: Rig;
          try {
            changed = rigWith({ [pathOf]: `${value} ${now.unit === '1' ? '' : now.unit}` }, rig);
          } catch {
            return;
          }
          for (const figure of evaluateRig(changed).figures)
            if (figure.ok) expect(Number.isFinite(figure.worked.value)).toBe(true);
        },
      ),
      { numRuns: cases(2, 12) },
    ));
});

test('its run sheet says what stands behind it, how long it may run, and earth, ozone and radio; its Bleed-down page every capacitor', () => {
  const made = runSheetOf('Cricket', evaluateRig(cricket), noSheetEdits);
  if (!made.ok) throw new Error(made.reason);
  const text = JSON.stringify(made.sheet);
  for (const words of [
    /in the doubler behind it/,
    /not limited/,
    /ozone/,
    /radio/,
    /May run for/,
    /its own stake/,
    /Choke kick if its current is cut/,
  ])
    expect(text).toMatch(words);
  // It runs while the supply is on: what fires it comes before what isolates it, and the strap after a reading all the same.
  const order = made.sheet.main.flatMap(({ does }) => (does ? [does] : []));
  expect(order.indexOf('fire')).toBeLessThan(order.indexOf('isolate'));
  expect(order.lastIndexOf('verify')).toBeLessThan(order.lastIndexOf('strap'));
  const held = bleedStudy(cricket, printQuantity).held;
  expect(held.map(({ title }) => title)).toEqual([expect.stringMatching(/doubler/), expect.stringMatching(/Each of 4 groups/)]);
  expect(figureIn(evaluateRig(cricket), 'charging-resistor-run-time')?.worked.value).toBeGreaterThan(60);
});
