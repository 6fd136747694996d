import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { noSheetEdits, sheetWords, type Rig, type SheetEdits } from '../rig/index.ts';
import { planOf } from '../run/index.ts';
import { play } from '../rehearsal/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { runSheetMarkdown, runSheetOf, type RunSheet } from './index.ts';

function sheetOf(rig: Rig, edits: SheetEdits = noSheetEdits): RunSheet {
  const made = runSheetOf('Bank', evaluateRig(rig), edits);
  if (!made.ok) throw new Error(made.reason);
  return made.sheet;
}
function stopsOf(rig: Rig, edits: SheetEdits = noSheetEdits): readonly string[] {
  const made = planOf('Bank', evaluateRig(rig), edits);
  if (!made.ok) throw new Error(made.reason);
  return made.plan.stops;
}

const reason = 'Borrowed thyristor, marked for far more than this.';

describe('a rating that protects people, or what bursts', () => {
  const blank = rigWith({ 'switch.I': '' }, demoRig('anvil'));
  const [open] = sheetOf(blank).unrated;

  test('is asked for before a live run, and not before a rehearsal', () => {
    expect(stopsOf(demoRig('anvil'))).toEqual([]);
    expect(open).toMatchObject({ limit: 'switch-current', waiver: null });
    expect(stopsOf(blank)).toEqual([expect.stringMatching(/^Switch peak current: no rating is entered, .*A worst case/)]);
    const sheet = sheetOf(blank);
    expect(sheet.verdict).toMatchObject({ word: 'not now', because: expect.stringContaining('Switch peak current') });
    expect(runSheetMarkdown(sheet).split('\n')[2]).toContain('not now');
    const made = planOf('Bank', evaluateRig(blank), noSheetEdits);
    if (!made.ok) throw new Error(made.reason);
    expect(play(made.plan, { pace: 5, faults: [], seed: 1 })).toMatchObject({ executable: true, inBand: true });
  });

  test('is waived by name and reason up to what it was waived for, and asked again beyond', () => {
    const upTo = open?.stress?.value ?? NaN;
    const edits = { ...noSheetEdits, waivers: [{ limit: 'switch-current', by: 'Key holder', reason, upTo }] };
    const sheet = sheetOf(blank, edits);
    expect([sheet.withheld, sheet.verdict.word]).toEqual([[], 'go at most']);
    expect(sheet.waived.join()).toMatch(/Switch peak current: not rated .*Key holder answers for it: borrowed thyristor/);
    expect(runSheetMarkdown(sheet)).toContain('## Waived');
    expect(sheetWords(edits)).toContain('1 rating waived');
    // What became less is not asked again, what became more is, and nothing else.
    const at = (V0: string) => sheetOf(rigWith({ 'store.V0': V0 }, blank), edits);
    expect(at('1.5 kV').withheld).toEqual([]);
    expect(at('1.99 kV').withheld).toEqual([expect.stringMatching(/more than was waived/)]);
  });

  test('of a rig with all of them blanked are all named: capacitor, switch, bleeder, stick', () => {
    const withheld = sheetOf(rigWith({})).withheld.join(' ');
    for (const what of ['Bank voltage', 'Switch peak current', 'Bleeder: voltage', 'Bleeder, power', 'Discharge stick: energy'])
      expect(withheld).toContain(what);
  });
});

describe('one person alone', () => {
  test('needs somebody who answers for it, with a reason and a time to call in', () => {
    const one: SheetEdits = { ...noSheetEdits, people: 'one' };
    expect(stopsOf(demoRig('thimble'), one)).toEqual([expect.stringMatching(/Working alone/)]);
    const answered: SheetEdits = { ...one, alone: { by: 'Workshop lead', reason: 'Half a joule on a bench.', callIn: 20 } };
    expect(stopsOf(demoRig('thimble'), answered)).toEqual([]);
    const text = runSheetMarkdown(sheetOf(demoRig('thimble'), answered));
    expect(text).toContain('Workshop lead answers for it: half a joule on a bench. Calls in every 20 min.');
    expect(text).toContain('you call in every 20 min');
  });
});

describe('what is named as a way out', () => {
  test('can be built: no inductance below that of a lead, no change by more than a hundred', () => {
    for (const rig of [rigWith({ 'store.V0': '2.6 kV' }, demoRig('anvil')), rigWith({ 'switch.I': '30 A' }, demoRig('anvil'))]) {
      const { limits } = evaluateRig(rig).ladder;
      const over = limits.filter(({ worst }) => worst !== null && worst > 1);
      expect(over.length).toBeGreaterThan(0);
      for (const { relief } of over)
        for (const { unit, value } of relief) {
          if (unit === 'H') expect(value).toBeGreaterThanOrEqual(20e-9);
          if (unit === 'Ω') expect(value).toBeGreaterThanOrEqual(1e-3);
        }
    }
  });
});
