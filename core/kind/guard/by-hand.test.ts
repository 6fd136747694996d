import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { RigReading } from '../../figure/index.ts';
import { agrees, decades, oneCapacitor, saidBy, typed } from '../../test/by-hand.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';

const runs = { numRuns: 20 };
const wanted = fc.record({ C: decades(1e-6, 5e-2), V0: decades(60, 3000), d: decades(0.3, 30) });
type Wanted = { readonly C: number; readonly V0: number; readonly d: number };

const rigOf = (one: Wanted, more: Readonly<Record<string, string>> = {}) =>
  rigWith({
    ...oneCapacitor(one, 1.1),
    'guard.kind': 'guarded',
    ...typed({ 'guard.d': [one.d, 'm'], 'guard.nd': [1, ''] }),
    'guard.ears': 'none',
    'guard.shield': 'none',
    'guard.act': 'outside',
    'guard.doors': 'two',
    'guard.stop': 'yes',
    'guard.key': 'yes',
    'guard.dumpsBy': 'falling',
    'guard.charger': 'yes',
    'guard.trigger': 'yes',
    ...more,
  });

describe('what reaches people, from all of the energy at once', () => {
  const against = { source: 'definitions, and laws of gas and of light, worked beside the program; from memory', memory: true };

  test('a bang, a flash, a fragment, gases and a spark in what was entered, each in its own unit', () => {
    const more = fc.record({
      mf: decades(1e-3, 0.5),
      Vb: decades(1e-3, 1),
      Vr: decades(10, 300),
      nr: fc.integer({ min: 1, max: 500 }),
      kc: fc.integer({ min: 0, max: 100 }),
    });
    fc.assert(
      fc.property(wanted, more, (one, { mf, Vb, Vr, nr, kc }) => {
        const E = (one.C * one.V0 ** 2) / 2;
        const rig = rigOf(
          one,
          typed({
            'guard.mf': [mf, 'kg'],
            'guard.Vb': [Vb, 'm³'],
            'guard.Vr': [Vr, 'm³'],
            'guard.nr': [nr, ''],
            'guard.kc': [kc, '%'],
          }),
        );
        // 1.2 cal/cm² on a sphere; 4.184 J to a calorie.
        const burn = Math.sqrt(E / (4 * Math.PI * 1.2 * 4.184e4));
        agrees(
          rig,
          {
            figures: { 'burn-reach': burn },
            limits: { 'burn-reach': [burn, one.d] },
          },
          { ...against, within: 1e-3 },
        );
        agrees(
          rig,
          {
            figures: {
              'fragment-speed': Math.sqrt((2 * E) / mf),
              // Two fifths of the energy is pressure times volume: a gas of two atoms, (7/5 − 1).
              'box-pressure': ((7 / 5 - 1) * E) / Vb,
              'nox-share': Math.min(1, (4e-9 * nr * E) / Vr),
              'ozone-share': Math.min(1, (7e-9 * (kc / 100) * nr * E) / Vr),
            },
          },
          { ...against, within: 1e-9 },
        );
      }),
      runs,
    );
  });

  test('ear protection takes its decibels off, and 140 dB are the limit; farther is never louder', () => {
    const attenuation = { none: 0, plugs: 18, muffs: 22, both: 30 } as const;
    fc.assert(
      fc.property(wanted, fc.constantFrom(...(Object.keys(attenuation) as (keyof typeof attenuation)[])), (one, worn) => {
        const bare = new RigReading(rigOf(one)).figure('sound-pressure').value;
        const at = bare / 10 ** (attenuation[worn] / 20);
        const rig = rigOf(one, { 'guard.ears': worn });
        // 20 µPa is the reference of the decibel: 140 of them are 200 Pa.
        const limits = { 'sound-at-ear': [at, 20e-6 * 10 ** (140 / 20)] } as const;
        agrees(rig, { figures: { 'sound-pressure': bare, 'sound-at-ear': at }, limits }, { ...against, within: 1e-9 });
        const farther = new RigReading(rigOf({ ...one, d: one.d * 1.7 })).figure('sound-pressure').value;
        expect(farther).toBeLessThan(bare / 1.7 + 1e-12);
      }),
      runs,
    );
  });

  test('a shield counts once it has a thickness, and is as much thicker as its material is weaker', () => {
    // Over mild steel: common practice, no source.
    const over = { steel: 1, aluminium: 2.5, polycarbonate: 7, plywood: 20 } as const;
    const shield = fc.record({
      Df: decades(5e-3, 0.1),
      ts: decades(1e-3, 0.1),
      of: fc.constantFrom(...(Object.keys(over) as (keyof typeof over)[])),
    });
    fc.assert(
      fc.property(wanted, shield, (one, { Df, ts, of }) => {
        const rig = rigOf(one, { 'guard.shield': of, ...typed({ 'guard.Df': [Df, 'm'], 'guard.ts': [ts, 'm'] }) });
        const E = (one.C * one.V0 ** 2) / 2;
        // (foot-pounds)^(2/3) = 672·D·t, inches: Ballistic Research Laboratory, from memory.
        const inches = (E / 1.3558179483314) ** (2 / 3) / (672 * (Df / 0.0254));
        const needed = over[of] * inches * 0.0254;
        agrees(rig, { figures: { 'shield-needed': needed }, limits: { shield: [needed, ts] } }, { ...against, within: 2e-3 });
        agrees(rigWith({ 'guard.ts': '' }, rig), { unjudged: ['shield'] }, { ...against, within: 1 });
        agrees(rigWith({ 'guard.shield': 'none' }, rig), { unjudged: ['shield'] }, { ...against, within: 1 });
      }),
      runs,
    );
  });

  test('the reach of a flashover is that of the highest voltage of the rig: of a Marx its output, of a bank what its supply can give', () => {
    const reach = (V: number) => Math.max(V / 450e3, (V / 410e3) ** (5 / 3));
    fc.assert(
      fc.property(wanted, (one) => {
        const reading = new RigReading(rigOf(one));
        const V = Number((1.1 * one.V0).toPrecision(6));
        agrees(
          rigOf(one),
          { figures: { 'reach-voltage': V, 'flashover-reach': reach(V) }, limits: { 'flashover-reach': [reach(V), one.d] } },
          { ...against, within: 1e-9 },
        );
        expect(reading.figure('reach-voltage').value).toBeGreaterThanOrEqual(reading.figure('charge-towards').value);
      }),
      runs,
    );
    const marx = rigWith({ 'guard.kind': 'guarded', 'guard.d': '5 m', 'guard.nd': '1' }, demoRig('kittiwake'));
    const reading = new RigReading(marx);
    const erected = reading.figure('marx-output-voltage').value;
    expect(reading.figure('reach-voltage').value).toBeGreaterThanOrEqual(erected * (1 - 1e-9));
    expect(erected).toBeGreaterThan(3 * reading.figure('charge-towards').value);
  });

  test('what a shot induces falls with the cube of the distance, and rises with the loop and the rise of the current', () => {
    fc.assert(
      fc.property(wanted, decades(1e-3, 1), decades(1.1, 4), (one, Al, k) => {
        const at = (d: number, area: number) =>
          new RigReading(rigOf({ ...one, d }, typed({ 'guard.Al': [area, 'm²'] }))).figure('induced-voltage').value;
        const [d, area] = [Number((one.d * k).toPrecision(6)), Number((Al * k).toPrecision(6))];
        expect(at(one.d, Al) / at(d, Al)).toBeCloseTo((d / one.d) ** 3, 6);
        expect(at(one.d, area) / at(one.d, Al)).toBeCloseTo(area / Al, 6);
        // A dipole on its axis, and a lead of a tenth of a square metre; common practice, no source.
        const rise = new RigReading(rigOf(one)).figure('peak-di-dt').value;
        agrees(
          rigOf(one, typed({ 'guard.Al': [Al, 'm²'] })),
          { figures: { 'induced-voltage': (2e-7 * Al * rise * 0.1) / one.d ** 3 } },
          { ...against, within: 1e-6 },
        );
      }),
      runs,
    );
  });
});

describe('the chain of the guard', () => {
  const small = { C: 1e-4, V0: 500, d: 3 };
  const large = { C: 1e-2, V0: 1500, d: 3 };
  const said = (one: Wanted, more: Readonly<Record<string, string>>) => saidBy(rigOf(one, more), 'guard');
  const dump = { 'dump.kind': 'relay', 'dump.R': '1 kΩ', 'dump.n': '1' };

  test('whole, with a dump that the rig has, nothing is said of it', () => {
    expect(said(small, dump)).toEqual([]);
  });

  test('what is missing is said at what has to be changed', () => {
    expect(said(small, { ...dump, 'guard.act': 'reach' })).toContain('error act');
    expect(said(small, { ...dump, 'guard.doors': 'none' })).toContain('error dumpsBy');
    expect(said(small, { ...dump, 'guard.dumpsBy': 'driven' })).toContain('error dumpsBy');
    expect(said(small, { 'guard.nd': '0' })).toContain('warning nd');
    // One that the chain drops, and the rig has not got.
    expect(said(small, {})).toContain('warning nd');
  });

  test('above ten kilojoules one dump is too few', () => {
    expect(said(large, { ...dump, 'guard.nd': '1' })).toContain('error nd');
    expect(said(large, { ...dump, 'guard.nd': '2' })).not.toContain('error nd');
    expect(said({ ...large, C: 8e-3 }, { ...dump, 'guard.nd': '1' })).not.toContain('error nd');
  });
});
