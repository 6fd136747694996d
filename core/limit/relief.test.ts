import { describe, expect, test } from 'vitest';
import type { FieldPath, LimitSpec } from '../block/index.ts';
import type { Corner } from '../figure/index.ts';
import { rigWith } from '../test/rigs.ts';
import { reliefOf } from './relief.ts';

/** A limit made for the test: whatever is to be set against whatever, with these levers. */
const limit = (stress: LimitSpec['stress'], rating: LimitSpec['rating'], ...levers: FieldPath[]): LimitSpec => ({
  id: 'made-up',
  title: 'Made up',
  slot: 'store',
  stress,
  rating,
  levers,
});

/** Charge voltage against the rating of one capacitor. */
const voltage = limit(
  (rig) => rig.offer('chargedTo'),
  (rig) => rig.own('store').quantity('Vr'),
  'store.V0',
  'store.Vr',
);

const found = (spec: LimitSpec, typed: Record<string, string>, corner: Corner = {}, unsure = 1) =>
  reliefOf(rigWith({ 'supply.V': '20 kV', ...typed }), spec, corner, unsure).map(
    ({ path, direction, value }) => `${direction} ${path} to ${value}`,
  );

describe('what would bring a limit to its rating', () => {
  test.each([
    ['exact', '90 V', '60 V', ['lower store.V0 to 60', 'raise store.Vr to 90']],
    // Three digits, to the nearest where the limit holds there and else to the side where it does.
    ['nearest below', '90 V', '61.24 V', ['lower store.V0 to 61.2', 'raise store.Vr to 90']],
    ['nearest above would be over', '90 V', '61.28 V', ['lower store.V0 to 61.2', 'raise store.Vr to 90']],
    ['a rating is rounded upwards', '91.22 V', '60 V', ['lower store.V0 to 60', 'raise store.Vr to 91.3']],
    ['and to the nearest where that is enough', '91.18 V', '60 V', ['lower store.V0 to 60', 'raise store.Vr to 91.2']],
    // Two decades are looked through: a change by more is no way out.
    ['within two decades', '9 kV', '95 V', ['lower store.V0 to 95', 'raise store.Vr to 9000']],
    ['beyond them', '9 kV', '80 V', []],
  ])('%s', (_what, V0, Vr, expected) => {
    expect(found(voltage, { 'store.V0': V0, 'store.Vr': Vr })).toEqual(expected);
  });

  test('holds at the worst corner, and with what the formulas may be off by', () => {
    const typed = { 'store.V0': '90 V ±10 %', 'store.Vr': '60 V' };
    // 60 V / 1.1 = 54.55 V; 60 V / 1.5 = 40 V; both: 36.36 V.
    expect(found(voltage, typed, { 'store.V0': 'high' })[0]).toBe('lower store.V0 to 54.5');
    expect(found(voltage, typed, {}, 1.5)).toEqual(['lower store.V0 to 40', 'raise store.Vr to 135']);
    expect(found(voltage, typed, { 'store.V0': 'high' }, 1.5)[0]).toBe('lower store.V0 to 36.3');
    // At the low end of its tolerance it needs less.
    expect(found(voltage, typed, { 'store.V0': 'low' })[0]).toBe('lower store.V0 to 66.6');
  });

  test('where nothing stands yet it is sought about what such things have: a tenth of a milliohm, a nanohenry', () => {
    const over = (path: 'store.ESR' | 'store.ESL', field: 'ESR' | 'ESL') =>
      limit(
        (rig) => rig.own('store').quantity('C'),
        (rig) => rig.own('store').quantity(field),
        path,
      );
    const none = { 'store.ESR': '0 Ω', 'store.ESL': '0 H' };
    expect(found(over('store.ESR', 'ESR'), { ...none, 'store.C': '5 mF' })).toEqual(['raise store.ESR to 0.005']);
    expect(found(over('store.ESL', 'ESL'), { ...none, 'store.C': '50 nF' })).toEqual(['raise store.ESL to 5e-8']);
    // Two decades from there, and no further.
    expect(found(over('store.ESR', 'ESR'), { ...none, 'store.C': '20 mF' })).toEqual([]);
    expect(found(over('store.ESL', 'ESL'), { ...none, 'store.C': '200 nF' })).toEqual([]);
  });

  test('whole numbers are counted: upwards first and by fifty at the most, then down to one', () => {
    const count = limit(
      (rig) => rig.own('store').quantity('ns'),
      (rig) => rig.own('store').quantity('np'),
      'store.ns',
      'store.np',
    );
    const of = (ns: number, np: number) => found(count, { 'store.ns': String(ns), 'store.np': String(np) });
    expect(of(5, 3)).toEqual(['lower store.ns to 3', 'raise store.np to 5']);
    expect(of(2, 1)).toEqual(['lower store.ns to 1', 'raise store.np to 2']);
    expect(of(53, 3)).toEqual(['lower store.ns to 3', 'raise store.np to 53']);
    expect(of(54, 3)).toEqual(['lower store.ns to 3']);
    const shared = limit(
      (rig) => ({ ...rig.offer('chargedTo'), value: rig.offer('chargedTo').value / rig.own('store').quantity('ns').value }),
      (rig) => rig.own('store').quantity('Vr'),
      'store.ns',
    );
    expect(found(shared, { 'store.V0': '2.4 kV', 'store.ns': '1', 'store.Vr': '800 V' })).toEqual(['raise store.ns to 3']);
    expect(found(shared, { 'store.V0': '2.4 kV', 'store.ns': '1', 'store.Vr': '790 V' })).toEqual(['raise store.ns to 4']);
  });

  test('nothing is proposed that nobody builds: below 20 nH or 1 mΩ, or outside what the field takes', () => {
    const inductance = (most: number) =>
      limit(
        (rig) => rig.own('load').quantity('L'),
        (rig) => ({ ...rig.own('load').quantity('L'), value: most }),
        'load.L',
      );
    const resistance = (most: number) =>
      limit(
        (rig) => rig.own('load').quantity('R'),
        (rig) => ({ ...rig.own('load').quantity('R'), value: most }),
        'load.R',
      );
    expect(found(inductance(30e-9), { 'load.L': '1 µH' })).toEqual(['lower load.L to 3e-8']);
    expect(found(inductance(20e-9), { 'load.L': '1 µH' })).toEqual(['lower load.L to 2e-8']);
    expect(found(inductance(19e-9), { 'load.L': '1 µH' })).toEqual([]);
    expect(found(resistance(2e-3), { 'load.R': '20 mΩ' })).toEqual(['lower load.R to 0.002']);
    expect(found(resistance(1e-3), { 'load.R': '20 mΩ' })).toEqual(['lower load.R to 0.001']);
    expect(found(resistance(0.9e-3), { 'load.R': '20 mΩ' })).toEqual([]);
    // From below the least nothing is proposed further down, and what is above it may be.
    const raise = {
      ...resistance(5e-3),
      stress: inductance(5e-3).rating as LimitSpec['stress'],
      rating: (rig) => rig.own('load').quantity('R'),
    } satisfies LimitSpec;
    expect(found(raise, { 'load.R': '0.1 mΩ' })).toEqual(['raise load.R to 0.005']);
  });

  test('what is zero is raised from the least that means something', () => {
    const more = (need: number) =>
      limit(
        (rig) => ({ ...rig.own('load').quantity('L'), value: need }),
        (rig) => rig.own('load').quantity('L'),
        'load.L',
      );
    expect(found(more(50e-9), { 'load.L': '0 H' })).toEqual(['raise load.L to 5e-8']);
    expect(found(more(1e-6), { 'load.L': '0 H' })).toEqual([]);
  });

  test('a lever that is not entered is passed over, one that is no field of any kind is a fault of the program', () => {
    expect(found(voltage, { 'store.V0': '90 V', 'store.Vr': '60 V' }, {})).toHaveLength(2);
    const more = { ...voltage, levers: ['load.diameter', 'store.V0'] as const };
    expect(found(more, { 'store.V0': '90 V', 'store.Vr': '60 V', 'load.length': '' })).toEqual(['lower store.V0 to 60']);
    const wrong = { ...voltage, levers: ['store.voltige' as FieldPath] };
    expect(() => found(wrong, { 'store.V0': '90 V', 'store.Vr': '60 V' })).toThrow(/voltige/);
  });

  test('says which field of which block, by its title and in its unit', () => {
    const [lower] = reliefOf(rigWith({ 'supply.V': '1 kV', 'store.V0': '90 V', 'store.Vr': '60 V' }), voltage, {}, 1);
    expect(lower).toEqual({
      path: 'store.V0',
      slot: 'store',
      field: 'V0',
      title: 'Charged to',
      unit: 'V',
      value: 60,
      direction: 'lower',
    });
  });

  test('where the rating itself goes away on the way, that is no way out; what is no gap of knowledge is thrown', () => {
    const gone = limit(
      (rig) => rig.offer('chargedTo'),
      (rig) => (rig.offer('chargedTo').value < 80 ? null : rig.own('store').quantity('Vr')),
      'store.V0',
    );
    expect(found(gone, { 'store.V0': '90 V', 'store.Vr': '60 V' })).toEqual([]);
    const broken = limit(
      () => {
        throw new TypeError('a mistake');
      },
      (rig) => rig.own('store').quantity('Vr'),
      'store.V0',
    );
    expect(() => found(broken, { 'store.V0': '90 V', 'store.Vr': '60 V' })).toThrow('a mistake');
  });
});
