import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../../evaluation/index.ts';
import { withBlock, type Rig } from '../../rig/index.ts';
import { runSheetOf } from '../../runsheet/index.ts';
import { figureOf, marxRig, problemsOf } from '../../test/marx.ts';
import { demoRig, rigWith } from '../../test/rigs.ts';
import { blockDefinition, newBlock } from '../index.ts';

const driven = (typed: Readonly<Record<string, string>> = {}): Rig =>
  rigWith(typed, withBlock(demoRig('thimble'), 'trigger', newBlock(blockDefinition('trigger', 'gate-drive'))));
const used = (rig: Rig, id: string) => evaluateRig(rig).ladder.limits.find((l) => l.id === id)?.utilisation ?? NaN;
const sheetOf = (rig: Rig) => {
  const made = runSheetOf('Bench', evaluateRig(rig));
  if (!made.ok) throw new Error(made.reason);
  return made.sheet;
};

describe('a gate that is driven through a resistor', () => {
  test('draws what Ohm’s law leaves, held against what it needs and what it bears', () => {
    // (9 V − 1.5 V) / 75 Ω = 100 mA.
    const rig = driven({ 'trigger.Rg': '75 Ω', 'trigger.Ig': '80 mA', 'trigger.Im': '2 A' });
    expect(figureOf(rig, 'gate-current')).toBeCloseTo(0.1, 12);
    expect([used(rig, 'gate-needed'), used(rig, 'gate-peak')]).toEqual([expect.closeTo(0.8, 9), expect.closeTo(0.05, 9)]);
    expect(problemsOf(rig)).toMatch(/1\.3 times its trigger current: it turns on slowly.* at most 31\.\d Ω/);
    expect(used(driven({ 'trigger.Rg': '150 Ω', 'trigger.Ig': '80 mA' }), 'gate-needed')).toBeGreaterThan(1);
    expect(problemsOf(driven({ 'trigger.Rg': '22 Ω', 'trigger.Ig': '80 mA' }))).not.toMatch(/turns on slowly/);
  });
});

describe('an interlock that takes the charger off and then fires', () => {
  const interlocked = (typed: Readonly<Record<string, string>> = {}) =>
    driven({ 'trigger.order': 'drops', 'trigger.td': '100 ms', 'charging.firing': 'connected', ...typed });

  test('is a charger that is not on the switch at the shot, whatever the charging path says', () => {
    expect(problemsOf(driven({ 'charging.firing': 'connected' }))).toMatch(/The charger is still connected at the shot/);
    expect(problemsOf(interlocked())).not.toMatch(/still connected|does not turn off/);
  });

  test('costs what the bleeder takes in its delay, and is refused where the contact opens after the gate', () => {
    const rig = interlocked();
    const [V0, tau] = [figureOf(rig, 'shot-voltage'), figureOf(rig, 'fall-constant')];
    expect(V0 / evaluateRig(rig).corners.nominal().offer('chargedTo').value).toBeCloseTo(Math.exp(-0.1 / tau), 12);
    expect(used(interlocked({ 'trigger.to': '20 ms' }), 'interlock-order')).toBeCloseTo(0.2, 9);
    expect(used(interlocked({ 'trigger.to': '140 ms' }), 'interlock-order')).toBeGreaterThan(1);
  });

  test('fires before the charger is isolated by hand, at the voltage that is held, with no haste', () => {
    const sheet = sheetOf(interlocked());
    const order = sheet.main.flatMap(({ does }) => (does ? [does] : []));
    expect(order.indexOf('fire')).toBeGreaterThan(order.indexOf('charge'));
    expect(order.indexOf('isolate')).toBeGreaterThan(order.indexOf('fire'));
    expect(sheet.main.find(({ does }) => does === 'fire')?.text).toMatch(
      /the charger drops out, and 100 ms later the gate fires/,
    );
    expect(sheet.shot.within).toBeNull();
    // A charger that stays on until the press takes the store on to what it can reach.
    expect(sheet.shot.high).toBeGreaterThanOrEqual(figureOf(interlocked(), 'charge-towards'));
    expect(sheet.shot.expected).toBeCloseTo(figureOf(interlocked(), 'shot-voltage'), 9);
    expect(sheet.main.some(({ text }) => text.includes('press the fire button'))).toBe(true);
  });

  test('is for a thyristor: before a gap it is refused, with what would fit', () => {
    expect(problemsOf(marxRig({}, { trigger: 'gate-drive' }))).toMatch(/the switch is a gap: choose a trigger generator/);
  });
});

describe('a gap that a person fires with a rod', () => {
  const byHand = (typed: Readonly<Record<string, string>> = {}) =>
    marxRig({ 'switch.mode': 'triggered', 'switch.d': '6 mm', ...typed }, { trigger: 'hand-rod' });

  test('has the rod held against the way that the voltage may flash over, and its act on the sheet', () => {
    // 4.5 kV/cm, the streamer field of air: 45 kV bridge 10 cm.
    const rig = byHand({ 'trigger.lr': '1 m' });
    const V = evaluateRig(rig).ladder.limits.find((l) => l.id === 'hand-rod')?.stress.value ?? NaN;
    expect(used(rig, 'hand-rod')).toBeCloseTo(V, 9);
    expect(used(byHand({ 'trigger.lr': '5 mm' }), 'hand-rod')).toBeGreaterThan(1);
    expect(sheetOf(rig).main.find(({ does }) => does === 'fire')?.text).toMatch(/with the rod alone through it/);
    expect(problemsOf(byHand({ 'switch.mode': 'self-break' }))).toMatch(/set it to be fired by a trigger/);
  });
});
