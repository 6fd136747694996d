import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { acts, phases } from '../block/index.ts';
import { evaluateRig, type Evaluation } from '../evaluation/index.ts';
import { noSheetEdits, type Rig, type SheetEdits } from '../rig/index.ts';
import { cases } from '../test/long.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { moved, runSheetOf, saysOf, sheetChanges, type Step } from './index.ts';

const evaluated = new Map<Rig, Evaluation>();
/** A rig evaluated once, however often its sheet is edited. */
function evaluationOf(rig: Rig): Evaluation {
  const known = evaluated.get(rig) ?? evaluateRig(rig);
  evaluated.set(rig, known);
  return known;
}

function sheetOf(rig: Rig, edits: SheetEdits = noSheetEdits) {
  const made = runSheetOf('Test bank', evaluationOf(rig), edits);
  if (!made.ok) throw new Error(made.reason);
  return made.sheet;
}

const stepsOf = (rig: Rig, edits?: SheetEdits): Step[] => {
  const sheet = sheetOf(rig, edits);
  return [...sheet.main, ...sheet.branches.flatMap((b) => b.steps)];
};

const rigs = [demoRig('anvil'), demoRig('kittiwake'), demoRig('shuttle'), demoRig('thimble')];
const plain = rigs.map((rig) => stepsOf(rig));

describe('what a person makes of a run sheet', () => {
  test('whatever is added, moved and noted, no step is lost and what acts on the store keeps its order', () => {
    const ids = fc.constantFrom(...new Set(plain.flat().map((s) => s.id)), 'mine-1', 'mine-2', 'gone-long-ago');
    const phase = fc.constantFrom(...phases);
    const edits = fc.record({
      people: fc.constantFrom('one' as const, 'two' as const),
      added: fc.uniqueArray(fc.record({ id: ids, phase, text: fc.constant('own step'), hold: fc.constant('') }), {
        selector: (a) => a.id,
        maxLength: 3,
      }),
      order: fc.dictionary(phase, fc.uniqueArray(ids, { maxLength: 12 })),
      notes: fc.dictionary(ids, fc.constant('a note')),
      call: fc.constant('112'),
      seconds: fc.dictionary(ids, fc.integer({ min: 1, max: 60 })),
      pace: fc.option(fc.integer({ min: 2, max: 60 })),
      waivers: fc.constant([]),
      alone: fc.constant(null),
      seen: fc.constant(null),
    });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: rigs.length - 1 }), edits, (i, made) => {
        const [rig, before] = [rigs[i], plain[i]];
        if (!rig || !before) throw new Error('no such rig');
        const after = stepsOf(rig, made);
        const own = made.added.filter((a) => !before.some((s) => s.id === a.id));
        expect(after.map((s) => s.id).sort()).toEqual([...before.map((s) => s.id), ...own.map((a) => a.id)].sort());
        const order = after
          .filter((s) => s.does && !['instruments', 'misfire', 'abort'].includes(s.phase))
          .map((s) => acts.indexOf(s.does ?? 'charge'));
        expect(order).toEqual([...order].sort((a, b) => a - b));
        for (const step of after) expect(step.note).toBe(made.notes[step.id]);
        expect(after.map((s) => phases.indexOf(s.phase))).toEqual(
          after.map((s) => phases.indexOf(s.phase)).sort((a, b) => a - b),
        );
      }),
      { numRuns: cases(40, 150) },
    );
  });

  test('a move within its phase is taken; one past what it has to follow is refused', () => {
    const charge = sheetOf(demoRig('thimble')).main.filter((s) => s.phase === 'charge');
    expect(moved(charge, 'charge', 0)).toBeNull();
    expect(moved(charge, 'charge', 9)).toBeNull();
    const prepare = sheetOf(demoRig('thimble')).main.filter((s) => s.phase === 'prepare');
    const order = moved(prepare, 'guard', 0);
    expect(order?.[0]).toBe('guard');
    const edits = { ...noSheetEdits, order: { prepare: order ?? [] } };
    expect(sheetOf(demoRig('thimble'), edits).main[0]?.id).toBe('guard');
  });

  test('computed numbers stay live under notes, and what changed since somebody looked is told, gone notes included', () => {
    const before = rigWith({});
    const seen = Object.fromEntries(stepsOf(before).map((s) => [s.id, saysOf(s)]));
    const edits: SheetEdits = {
      ...noSheetEdits,
      seen,
      notes: { 'tool-apply': 'mind the crocodile clip', 'bleed-wait': 'slow one' },
    };
    expect(sheetChanges(stepsOf(before, edits), edits)).toEqual([]);
    const after = stepsOf(rigWith({ 'tool.R': '2 kΩ ±10 %', 'bleeder.kind': 'none' }), edits);
    const changes = new Map(sheetChanges(after, edits).map((c) => [c.id, c]));
    expect(changes.get('bleed-wait')).toMatchObject({ phase: null, is: null, note: 'slow one', was: seen['bleed-wait'] });
    expect(changes.get('tool-apply')).toMatchObject({ phase: 'bleed', note: 'mind the crocodile clip', was: seen['tool-apply'] });
    expect(changes.get('tool-apply')?.is).not.toBe(seen['tool-apply']);
    expect(changes.has('guard')).toBe(false);
    expect(after.find((s) => s.id === 'tool-apply')?.note).toBe('mind the crocodile clip');
  });

  test('alone there is nobody to answer: the sheet says so', () => {
    const alone = sheetOf(demoRig('thimble'), { ...noSheetEdits, people: 'one' }).main[0];
    expect(alone?.caution).toMatch(/not run alone/);
    expect(sheetOf(demoRig('thimble')).main[0]?.second).toBe(true);
  });
});

test('on the way up the energy goes as the square of the voltage, the current as the voltage, the time of a charge falls', () => {
  for (const rig of [demoRig('anvil'), demoRig('thimble'), rigWith({ 'store.V0': '40 V' })]) {
    const rungs = sheetOf(rig).commissioning;
    const top = rungs.at(-1);
    if (!top?.energy || !top.peakCurrent || !top.chargeTime) throw new Error('no numbers at the top');
    expect(top.share).toBe(1);
    for (const rung of rungs) {
      expect((rung.energy?.worked.value ?? NaN) / top.energy.worked.value / rung.share ** 2).toBeCloseTo(1, 9);
      expect(rung.chargeTime?.worked.value ?? NaN).toBeLessThanOrEqual(top.chargeTime.worked.value);
      expect(rung.peakCurrent?.worked.value ?? NaN).toBeLessThanOrEqual(top.peakCurrent.worked.value * rung.share * (1 + 1e-9));
      for (const n of [rung.energy, rung.chargeTime, rung.peakCurrent, rung.toolTime])
        expect(n?.worst ?? NaN).toBeGreaterThanOrEqual(n?.worked.value ?? NaN);
      // What the tool needs is at its worst longer than nominally wherever its resistors have a tolerance.
      expect(rung.toolTime?.worst ?? NaN).toBeGreaterThanOrEqual(rung.toolTime?.worked.value ?? NaN);
    }
  }
  // A thyristor that drops 1.4 V does nothing below it, and a gap that self-breaks at 20 kV nothing at 5 kV.
  const low = rigWith({ 'switch.kind': 'thyristor', 'switch.VT': '8 V', 'store.V0': '40 V' });
  expect(sheetOf(low).commissioning.map((r) => r.fires)).toEqual([false, true, true, true, true]);
});
