import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { newDocument, noSheetEdits, withChannelAdded, type Rig } from '../rig/index.ts';
import { predictedShot } from '../study/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { headlineOf, kindWords, runSheetOf, saysOf, stepsIn } from './index.ts';

const headline = (rig: Rig, name = 'Test') => headlineOf({ name, rig, sheet: noSheetEdits });

describe('what a list shows of a rig', () => {
  test('is there for a coil that cannot be wound as well: one such rig does not take the list away', () => {
    const shown = headline(rigWith({ 'load.kind': 'coil', 'load.d': '60 mm' }));
    expect(shown.kind).not.toBe('');
    expect(shown.energy?.value).toBeGreaterThan(0);
  });

  test.each(['anvil', 'kittiwake', 'cricket', 'thimble', 'shuttle'] as const)(
    'is for %s what its own pages say: energy, verdict, tightest limit',
    (name) => {
      const rig = demoRig(name);
      const evaluation = evaluateRig(rig);
      const made = runSheetOf(name, evaluation, noSheetEdits);
      const shown = headline(rig, name);
      expect(shown.energy?.value).toBe(figureIn(evaluation, 'stored-energy')?.worked.value);
      expect(shown.verdict).toEqual(
        made.ok ? { word: made.sheet.verdict.word, upTo: made.sheet.verdict.upTo, because: made.sheet.verdict.because } : null,
      );
      const worst = evaluation.ladder.limits.map((l) => l.worst ?? 0);
      expect(shown.tightest?.worst).toBe(Math.max(...worst));
    },
  );

  test('says of a Marx the output that its page predicts, by the solver, and of a coilgun its muzzle speed', () => {
    const marx = demoRig('kittiwake');
    const output = predictedShot(marx).output?.value ?? NaN;
    expect(headline(marx).does).toEqual({ title: 'Peak output', text: printQuantity(output, 'V') });
    expect(headline(demoRig('shuttle')).does).toMatchObject({ title: 'Muzzle speed', text: expect.stringMatching(/ m\/s$/) });
    expect(headline(demoRig('thimble')).does).toBeNull();
  });

  test('calls each by what it makes, and counts its stages', () => {
    expect(kindWords(demoRig('kittiwake'))).toBe('Marx generator');
    expect(kindWords(demoRig('cricket'))).toBe('Tesla coil');
    expect(kindWords(demoRig('thimble'))).toBe('Capacitor bank');
    const gun = demoRig('shuttle');
    expect(kindWords(gun)).toBe(`Coilgun, ${gun.channels.length} stages`);
    expect(kindWords(withChannelAdded(gun) ?? gun)).toBe(`Coilgun, ${gun.channels.length + 1} stages`);
  });

  test('goes to the set voltage where everything holds, and names what does not where a limit is over', () => {
    const go = headline(demoRig('anvil'));
    expect(go.verdict).toMatchObject({ word: 'go at most', upTo: printQuantity(go.chargedTo, 'V') });
    const over = headline(rigWith({ 'store.V0': '2.2 kV' }, demoRig('anvil')));
    expect(over.verdict).toMatchObject({ word: 'do not fire', upTo: null });
    expect(over.tightest?.worst).toBeGreaterThan(1);
  });

  test('counts the steps that say something else than when the sheet was read, and none where it never was', () => {
    const rig = demoRig('anvil');
    const { name } = newDocument('Anvil');
    const made = runSheetOf(name, evaluateRig(rig), noSheetEdits);
    if (!made.ok) throw new Error(made.reason);
    const seen = Object.fromEntries(stepsIn(made.sheet).map((step) => [step.id, saysOf(step)]));
    const sheet = { ...noSheetEdits, seen };
    expect(headlineOf({ name, rig, sheet }).changedSteps).toBe(0);
    expect(headlineOf({ name, rig: rigWith({ 'store.V0': '1.5 kV' }, rig), sheet }).changedSteps).toBeGreaterThan(0);
    expect(headlineOf({ name, rig: rigWith({ 'store.V0': '1.5 kV' }, rig), sheet: noSheetEdits }).changedSteps).toBe(0);
  });
});
