import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { newRig, withBlock, type Rig } from '../../rig/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { offBy } from '../../test/fixtures.ts';
import { figureOf, problemsOf, solved } from '../../test/marx.ts';
import { rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

/** A small store behind a multiplier whose drive is fed by something. */
const fed = (typed: Readonly<Record<string, string>>): Rig =>
  rigWith(
    {
      'supply.Vp': '1 kV',
      'supply.n': '3',
      'supply.C': '4.7 nF',
      'supply.f': '40 kHz',
      'store.C': '80 nF',
      'store.ns': '1',
      'store.np': '1',
      'store.V0': '4 kV',
      'charging.R': '100 kΩ',
      'charging.n': '1',
      'bleeder.R': '500 MΩ',
      'bleeder.n': '1',
      'meter.R': '10 GΩ',
      'meter.V': '10 kV',
      'supply.src': 'battery',
      'supply.Es': '9 V',
      'supply.Rs': '1 Ω',
      'supply.es': '60 %',
      ...typed,
    },
    withBlock(newRig(), 'supply', newBlock(blockDefinition('supply', 'multiplier'))),
  );

describe('a chain from a source through a drive', () => {
  test('charges no faster than its source lets it: the time by a balance of power, step by step', () => {
    const rig = fed({ 'supply.Iq': '16 mA' });
    // 9 V, 16 mA, 1 Ω: 0.6 · 0.016 · (9 − 0.016) W behind the drive; the mean of a cascade behind its resistance, by Euler's method.
    const P = 0.6 * 0.016 * (9 - 0.016);
    const [R, Vs] = [figureOf(rig, 'charging-resistance'), figureOf(rig, 'charging-voltage')];
    const C = figureOf(rig, 'bank-capacitance');
    const Rb = 1 / (1 / 500e6 + 1 / 10e9);
    const dt = 2e-4;
    let [v, t, energy] = [0, 0, 0];
    while (v < 4000) {
      const i = Math.min((Math.sqrt(v * v + 4 * R * P) - v) / (2 * R), (Vs - v) / R);
      energy += i * (v + i * R) * dt - (v * v * dt) / Rb;
      v += ((i - v / Rb) / C) * dt;
      t += dt;
    }
    expect(offBy(figureOf(rig, 'charge-time'), t)).toBeLessThan(2e-3);
    expect(figureOf(rig, 'charge-time')).toBeGreaterThan(figureOf(rig, 'stored-energy') / P);
    // What the battery gives over that time is what the store and the charging resistance took, over the efficiency; without the bleeder.
    expect(offBy(figureOf(rig, 'chain-power') * t, energy / 0.6)).toBeLessThan(0.02);
    expect(problemsOf(rig)).toMatch(
      /The source sets the charge time: .* 9\.00 V, 16\.0 mA at most, behind 1\.00 Ω gives it 86\.2 mW\. One charge takes/,
    );
    // The battery behind its own resistance alone, and one that is no limit at all.
    expect(figureOf(fed({ 'supply.Rs': '40 Ω' }), 'charge-time')).toBeGreaterThan(figureOf(fed({}), 'charge-time') * 1.2);
    const strong = { 'supply.Es': '24 V', 'supply.Rs': '0 Ω', 'supply.Iq': '1 kA' };
    expect(offBy(figureOf(fed(strong), 'charge-time'), figureOf(fed({ 'supply.src': 'unsaid' }), 'charge-time'))).toBeLessThan(
      1e-6,
    );
  });

  test('is solved as it is calculated: constant power, then the voltage behind the resistance', () => {
    const rig = fed({ 'supply.Iq': '16 mA' });
    const time = solved(rig, 'charge').compared.find(({ id }) => id === 'charge-time');
    expect(time?.off).toBeLessThan(5e-3);
  });

  test('has its sag, and the charges of one battery, where it can give what is asked', () => {
    const rig = fed({
      'supply.Iq': '8 A',
      'supply.Es': '12 V',
      'supply.Rs': '100 mΩ',
      'supply.Qs': '1 Ah',
      'charging.R': '2 MΩ',
    });
    const [P, I] = [figureOf(rig, 'chain-power'), figureOf(rig, 'chain-current')];
    // I·(E − I·R) = P, the root by hand.
    expect(offBy(I * (12 - I * 0.1), P)).toBeLessThan(1e-9);
    expect(offBy(figureOf(rig, 'chain-voltage'), 12 - I * 0.1)).toBeLessThan(1e-9);
    expect(offBy(figureOf(rig, 'chain-charges'), (3600 * 12 * 0.6) / figureOf(rig, 'source-energy'))).toBeLessThan(1e-9);
    expect(problemsOf(rig)).not.toMatch(/source/i);
    expect(evaluateRig(rig).ladder.limits.map(({ id }) => id)).toContain('chain-current');
  });

  test('of parts that do not fit is named at the part, with what would fit; what is not entered asks for nothing', () => {
    expect(problemsOf(fed({ 'supply.drv': 'transformer' }))).toMatch(/from a battery or a DC supply the drive is a converter/);
    expect(problemsOf(fed({ 'supply.src': 'ac' }))).toMatch(/A converter takes direct current: rectify and smooth/);
    const unsaid = fed({ 'supply.src': 'unsaid' });
    expect(problemsOf(unsaid)).not.toMatch(/converter|drive/);
    expect(evaluateRig(unsaid).ladder.limits.map(({ id }) => id)).not.toContain('chain-current');
  });

  test('tells what keeps its source alive: a diode and a suppressor at a bench supply, a fuse at a battery', () => {
    const sheet = (src: string) =>
      JSON.stringify(runSheetOf('Fed', evaluateRig(fed({ 'supply.src': src, 'supply.Iq': '8 A', 'charging.R': '2 MΩ' }))));
    expect(sheet('dc')).toMatch(/a diode in series and a surge suppressor across the terminals/);
    expect(sheet('battery')).toMatch(/A fuse right at the battery/);
  });
});
