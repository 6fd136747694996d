import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { acts } from '../block/index.ts';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { noSheetEdits } from '../rig/index.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { secondsOfStep } from './seconds.ts';
import { beyondHands, tiers } from './tier.ts';
import { verdictOf, verdictWords } from './verdict.ts';

describe('the verdict', () => {
  const thimble = evaluateRig(demoRig('thimble'));
  const over = evaluateRig(rigWith({ 'store.Vr': '20 V' }, demoRig('thimble')));

  test('goes at most as far as the rig is charged, and names what is tightest', () => {
    const verdict = verdictOf(thimble, [], [], [], null);
    expect(verdict).toMatchObject({ word: 'go at most', upTo: '37.0 V', turn: null });
    const [tightest] = thimble.ladder.limits;
    expect(verdict.because).toMatch(/^as set; tightest limit: [a-z].*, (\d\.\d|\d\d|\d\d0) % worst case$/);
    expect(verdict.because.toLowerCase()).toContain(tightest?.title.toLowerCase());
    expect(verdictWords(verdict)).toBe(`By calculation, go at most 37.0 V, ${verdict.because}.`);
    const unjudged = { ...thimble, ladder: { limits: [], blind: [] } };
    expect(verdictOf(unjudged, [], [], [], null).because).toBe('as set');
    // An abbreviation keeps its capitals within the sentence.
    const named = (title: string) => ({
      ...thimble,
      ladder: { ...thimble.ladder, limits: thimble.ladder.limits.slice(0, 1).map((limit) => ({ ...limit, title })) },
    });
    expect(verdictOf(named('RMS current of the supply'), [], [], [], null).because).toContain('limit: RMS current');
    expect(verdictOf(named('Voltage of the store'), [], [], [], null).because).toContain('limit: voltage of the store');
  });

  test('what is over or wrong stands before what cannot be carried out, and that before what waits for a name', () => {
    const [stops, cannot, withheld] = [['A limit is over.'], ['Nobody can.'], ['One.', 'Two.', 'Three.']];
    expect(verdictOf(thimble, stops, cannot, withheld, 'Do this.')).toEqual({
      ...{ word: 'do not fire', upTo: null, because: 'A limit is over.' },
      turn: 'Correct what is named first, and look again.',
    });
    expect(verdictOf(thimble, [], cannot, withheld, 'Do this.')).toEqual({
      ...{ word: 'not now', upTo: null, because: 'Nobody can.', turn: 'Do this.' },
    });
    expect(verdictOf(thimble, [], cannot, withheld, null).turn).toMatch(/^Correct what is named first/);
    expect(verdictOf(thimble, [], [], withheld, null).because).toBe('One. 2 more like it are named below.');
    expect(verdictOf(thimble, [], [], withheld.slice(0, 2), null).because).toBe('One. 1 more like it is named below.');
    const one = verdictOf(thimble, [], [], ['One.'], null);
    expect(one).toMatchObject({ word: 'not now', because: 'One.', turn: expect.stringMatching(/^Enter what is missing/) });
    expect(verdictWords(one)).toBe(
      'By calculation, not now, because: One. What would turn it: Enter what is missing, or have a person waive it by name.',
    );
  });

  test('of a limit that is over names the change that brings it within, by its sign and its value', () => {
    const [limit] = over.ladder.limits;
    const [relief] = limit?.relief ?? [];
    if (!relief) throw new Error('nothing relieves it');
    const { turn } = verdictOf(over, ['It is over.'], [], [], null);
    expect(turn).toMatch(new RegExp(`^${relief.direction === 'raise' ? 'Raise' : 'Lower'} .* to [\\d.]+ [µmkM]?V\\.$`));
    // Whoever does as it says is told something else next.
    const path = relief.path;
    const mended = evaluateRig(rigWith({ 'store.Vr': '20 V', [path]: `${relief.value} ${relief.unit}` }, demoRig('thimble')));
    const still = mended.ladder.limits.find(({ id }) => id === limit?.id);
    expect(still?.worst).toBeLessThanOrEqual(1 + 1e-9);
  });
});

describe('what hands may discharge', () => {
  const stored = (rig: ReturnType<typeof demoRig>) => {
    const evaluation = evaluateRig(rig);
    return { evaluation, worst: figureIn(evaluation, 'stored-energy')?.band.high ?? NaN };
  };
  /** A bank of a wanted energy at the worst corner, by its capacitance. */
  const bankOf = (joules: number, more: Record<string, string> = {}) => {
    const at = (C: number) =>
      stored(
        rigWith({ 'store.C': `${C} F`, 'store.V0': '400 V', 'store.Vr': '450 V', 'store.np': '1', 'store.ns': '1', ...more }),
      );
    const trial = at(1e-3);
    return at((1e-3 * joules) / trial.worst);
  };

  test('ends at a kilojoule of all that is connected, in the worst case; from ten no stick comes first at all', () => {
    for (const [share, says] of [
      [0.999, null],
      [1.001, /the stick comes only after a fixed dump/],
      [9.99, /the stick comes only after a fixed dump/],
      [10.01, /a hand-held discharge never comes first/],
    ] as const) {
      const { evaluation, worst } = bankOf(tiers.byHand * share);
      expect(worst / tiers.byHand).toBeCloseTo(share, 6);
      const said = beyondHands(evaluation);
      if (says === null) expect(said).toBeNull();
      else expect(said).toMatch(says);
      if (said)
        expect(said).toMatch(/^Up to \d.* k?J in the worst case is more than is discharged by hand \(1 kJ\).* Add a dump\.$/);
    }
  });

  test('is not asked where a fixed dump stands', () => {
    const { evaluation } = bankOf(20e3, { 'dump.kind': 'relay', 'dump.R': '1 kΩ', 'dump.n': '1' });
    expect(evaluation.corners.nominal().offers('dump').dumpResistance).toBeDefined();
    expect(beyondHands(evaluation)).toBeNull();
  });
});

describe('how long a step takes a person', () => {
  test('is what was timed for it, else the pace of the crew, else what the sheet says of it, else what its act usually takes', () => {
    const act = fc.constantFrom(...acts, undefined);
    fc.assert(
      fc.property(
        act,
        fc.option(fc.integer({ min: 1, max: 99 })),
        fc.option(fc.integer({ min: 1, max: 99 })),
        fc.option(fc.integer({ min: 1, max: 99 })),
        (does, timed, pace, said) => {
          const step = { id: 'one', ...(does ? { does } : {}), ...(said === null ? {} : { seconds: said }) };
          const edits = { ...noSheetEdits, pace, seconds: timed === null ? {} : { one: timed } };
          const seconds = secondsOfStep(step, edits);
          const first = [timed, pace, said].find((one) => one !== null);
          if (first !== undefined) expect(seconds).toBe(first);
          else expect(seconds).toBeGreaterThanOrEqual(2);
          expect(secondsOfStep(step, { ...edits, seconds: { ...edits.seconds, another: 1 } })).toBe(seconds);
        },
      ),
    );
  });

  test('of what is no act is that of a reading, of an answer, or of a look', () => {
    const plain = (more: object) => secondsOfStep({ id: 'one', ...more }, noSheetEdits);
    const reading = { expected: null, below: 10 };
    expect([plain({}), plain({ second: true }), plain({ reading }), plain({ reading, second: true })]).toEqual([10, 5, 10, 10]);
    expect(plain({ does: 'hand-over', reading })).toBe(60);
    expect(plain({ does: 'isolate' })).toBeLessThan(plain({ does: 'tool' }));
  });
});
