import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig, figureIn, startRig } from '../../evaluation/index.ts';
import { readPartFile, readRigFile, writeRigFile } from '../../format/index.ts';
import { starters } from '../../kind/index.ts';
import { compose, piecesOf, type Kept } from '../../part/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import { blockIn, endsAt, newDocument, partsUsed, quantityAt, spotsOf, withTrialValue, type Rig } from '../../rig/index.ts';
import { cases } from '../../test/long.ts';
import { designBounds, draftsOf, fallenBy, readDesign, tryDraft, type Designed, type DesignQuestion } from './design.ts';
import { hasRoom, withRatings } from './fit.ts';
import { beats, merits, ranked, type Merits } from './front.ts';
import { designGoals } from './goals/index.ts';
import { chargedTo, printReached } from './print.ts';
import { capacitorClasses } from './stock.ts';
import type { ReadQuestion } from './design.ts';
import type { Draft } from './goal.ts';

const file = readPartFile(readFileSync('demo/bench/shelf.json', 'utf8'));
if (!file.ok) throw new Error('the demo shelf cannot be read');
const shelf: readonly Kept[] = file.file.parts;

function read(question: Partial<DesignQuestion> & { goal: string }): ReadQuestion {
  const made = readDesign({ typed: {}, bounds: {}, shelf: [], ...question });
  if (!made.ok) throw new Error(JSON.stringify(made.issues));
  return made.question;
}
const issuesOf = (question: Partial<DesignQuestion> & { goal: string }) => {
  const made = readDesign({ typed: {}, bounds: {}, shelf: [], ...question });
  return made.ok ? [] : made.issues;
};
const isDesigned = (one: { ok: boolean }): one is Designed => one.ok;
const designsOf = (question: ReadQuestion, drafts: readonly Draft[] = draftsOf(question)) =>
  drafts.map((draft) => tryDraft(question, draft));

/** Evenly chosen, the first among them; all of them at length. */
const some = <T>(all: readonly T[], each: number): T[] => {
  const step = Math.max(1, Math.floor(all.length / cases(each, all.length)));
  return all.filter((_, k) => k % step === 0);
};

const asked: readonly (Partial<DesignQuestion> & { goal: string })[] = [
  { goal: 'energy', typed: { V: '2 kV' }, shelf },
  { goal: 'energy', typed: { V: '700 V', E: '60 J' }, bounds: { current: '3 kA' } },
  { goal: 'field', typed: { B: '1 T', t: '200 µs', D: '20 mm' }, shelf },
  { goal: 'field', typed: { B: '4 T', t: '100 µs', D: '36 mm' } },
  { goal: 'launch', typed: { v: '12 m/s', m: '30 g', d: '14 mm' }, shelf },
  { goal: 'pulse', typed: { V: '120 kV', t: '50 ns', R: '400 Ω' }, shelf },
];

describe.each(asked)('$goal $typed', (one) => {
  const question = read(one);
  const outcomes = designsOf(question, some(draftsOf(question), 8));
  const found = outcomes.filter(isDesigned);

  test('what is found is whole: judged, within its margin, written and read back, of parts that are there', () => {
    expect(found.length).toBeGreaterThan(0);
    for (const { rig, bill, merits: of, tightest, mostEnergy, voltage } of found) {
      const evaluation = evaluateRig(rig);
      const { problems, ladder } = evaluation;
      expect(mostEnergy).toBe(figureIn(evaluation, 'stored-energy')?.band.high);
      expect(problems.filter(({ severity }) => severity === 'error')).toEqual([]);
      expect(ladder.blind).toEqual([]);
      for (const { id, worst, rating } of ladder.limits) {
        expect(worst, id).not.toBeNull();
        const isWhole = rating?.unit === '1' && rating.value === 1;
        expect(worst ?? NaN, id).toBeLessThanOrEqual(isWhole ? 1 : 1 / 1.1 + 1e-6);
      }
      expect(tightest.use).toBe(ladder.limits[0]?.worst);
      // What a person sets: of a Marx the voltage of a stage, and not what all of them add up to.
      expect(voltage).toBe(quantityAt(rig, 'store.V0')?.value?.value);
      expect(chargedTo({ rig })).toBe(question.goal.id === 'pulse' ? 'Stages charged to' : 'Charged to');
      expect(readRigFile(writeRigFile({ ...newDocument('Designed'), rig }))).toMatchObject({ ok: true });
      expect(of.cost).toBeCloseTo(
        bill.reduce((sum, { price }) => sum + price, 0),
        of.cost > 100 ? -1 : 0,
      );
      for (const { from, tags, price } of bill) if (from === 'shelf') expect([tags.length > 0, price]).toEqual([true, 0]);
      for (const id of partsUsed(rig)) {
        const part = (one.shelf ?? []).find((kept) => kept.id === id)?.part;
        expect(part?.condition).toBe('good');
      }
    }
  });

  test('each comes to what was wanted, and what falls says by what', () => {
    const measures = question.goal.measures(question.wishes);
    for (const { rig, reached } of found)
      measures.forEach((measure, k) => {
        expect(measure.of(rig)).toBeGreaterThanOrEqual(measure.least * (1 - 1e-6));
        expect(reached[k]?.value).toBe(measure.of(rig));
        // Over all tolerances it goes from what to what the page of the rig says; what is no figure of it says nothing.
        const page = measure.figure && figureIn(evaluateRig(rig), measure.figure)?.band;
        expect(reached[k]?.band ?? null).toEqual(page ? { low: page.low, high: page.high } : null);
        const printed = reached[k] && printReached(reached[k]);
        if (page && page.low < 0.98 * page.high)
          expect(printed).toBe(`${printQuantity(page.low, measure.unit)} to ${printQuantity(page.high, measure.unit)}`);
        if (!page) expect(printed).toBeNull();
      });
    for (const outcome of outcomes)
      if (!outcome.ok) expect([outcome.by.length > 2, outcome.reason.length > 8], outcome.title).toEqual([true, true]);
    expect(fallenBy(outcomes).reduce((sum, { count }) => sum + count, 0) + found.length).toBe(outcomes.length);
    // The same question has the same answers, whoever works them out.
    const [draft] = draftsOf(question);
    if (draft) expect(JSON.stringify(tryDraft(read(one), draft))).toBe(JSON.stringify(tryDraft(question, draft)));
  });
});

describe('against a full grid', () => {
  test('the most energy at 2 kV out of the film cans: every arrangement of them, by the composer alone', () => {
    const pieces = shelf
      .filter(({ part }) => part.name === 'Dc-link film, round can' && part.condition === 'good')
      .flatMap((kept) => {
        const made = piecesOf(kept);
        return made.ok ? made.pieces : [];
      });
    let most = 0;
    for (let ns = 1; ns <= pieces.length; ns++)
      for (let np = 1; ns * np <= pieces.length; np++) {
        const { bank } = compose(pieces, ns, np);
        if (bank.worstUsableVoltage >= 2000 * 1.1) most = Math.max(most, 0.5 * bank.capacitance * 2000 ** 2);
      }
    const found = designsOf(read({ goal: 'energy', typed: { V: '2 kV' }, shelf })).filter(isDesigned);
    const [first] = ranked(found, true);
    // The rig has its capacitance to five digits.
    expect(first?.one.merits.energy).toBeGreaterThan(most * (1 - 1e-4));
    expect(first?.one.title).toMatch(/film/);
  });

  test('the cheapest Marx for a pulse: every number of stages of every class', () => {
    const question = read({ goal: 'pulse', typed: { V: '120 kV', t: '60 ns', R: '400 Ω' } });
    const cheapest = (drafts: readonly Draft[]) =>
      Math.min(
        ...designsOf(question, drafts)
          .filter(isDesigned)
          .map(({ merits: { cost } }) => cost),
      );
    const all = Array.from({ length: 27 }, (_, k) => k + 4).flatMap((n) =>
      capacitorClasses.map(({ id }): Draft => ({
        bank: { from: 'stock', class: id },
        more: { n, V: (120e3 * 1.1) / n, C: (60e-9 / 400 / Math.LN2) * n },
      })),
    );
    // What is tried is a few of them: it may cost a little more than the cheapest of all.
    expect(cheapest(draftsOf(question))).toBeLessThanOrEqual(cheapest(all) * 1.05);
  });

  test('the field with the least energy: every gauge, length and number of layers', () => {
    const question = read({ goal: 'field', typed: { B: '1 T', t: '200 µs', D: '20 mm' } });
    const drafts = draftsOf(question);
    const [like] = drafts.filter(({ bank }) => bank.from === 'stock' && bank.class === 'electrolytic');
    if (!like) throw new Error('no electrolytic is tried');
    const gauges = [8, 10, 12, 14, 16, 18].map((n) => 0.127e-3 * 92 ** ((36 - n) / 39));
    const all = gauges.flatMap((d) =>
      [16e-3, 20e-3, 32e-3, 48e-3].flatMap((l) =>
        [1, 2, 3, 4].map((layers): Draft => {
          const N = Math.floor(l / (d * 1.1)) * layers;
          return { bank: like.bank, more: { ...like.more, d, l, layers, N, V: 300, C: 300e-6 } };
        }),
      ),
    );
    const least = (list: readonly Draft[]) =>
      Math.min(
        ...designsOf(question, list)
          .filter(isDesigned)
          .map(({ merits: { energy } }) => energy),
      );
    expect(least(drafts)).toBeLessThanOrEqual(least(some(all, 24)) * 1.05);
  });
});

test.each(starters.map((starter) => [starter.id, starter] as const))(
  'a new %s gets every rating that its limits wait for, or says which is not sold',
  (_id, starter) => {
    const started = startRig(starter, {});
    if (!started.ok) throw new Error('a starter makes no rig');
    const rated = withRatings(started.rig, { from: 'stock', class: 'pulse' }, [], 0.03);
    if (!rated.ok) {
      expect(rated.reason).toMatch(/is the most that is sold/);
      return;
    }
    const { limits, blind } = evaluateRig(rated.rig).ladder;
    expect(blind).toEqual([]);
    for (const limit of limits) expect([limit.id, hasRoom(limit, 0.03)]).toEqual([limit.id, true]);
    expect([...rated.bought.keys()]).toContain('store');
  },
);

const merit = fc.double({ min: 0.1, max: 100, noNaN: true });
const any: fc.Arbitrary<{ merits: Merits }> = fc.record({
  merits: fc.record({ cost: merit, energy: merit, margin: merit, mass: merit }),
});

test('nothing beats the front, and each of the others is beaten by whom it names', () => {
  fc.assert(
    fc.property(fc.array(any, { maxLength: 40 }), fc.boolean(), (all, wantsEnergy) => {
      const list = ranked(all, wantsEnergy);
      for (const { one, beaten } of list) {
        const better = all.filter((other) => beats(other.merits, one.merits, wantsEnergy));
        if (!beaten) expect(better).toEqual([]);
        else {
          const by = list[beaten.by];
          expect(by?.beaten).toBeNull();
          expect(beats(by?.one.merits as Merits, one.merits, wantsEnergy)).toEqual(beaten.in);
        }
      }
      expect(list.length).toBeLessThanOrEqual(all.length);
    }),
  );
  const dear: Merits = { cost: 2, energy: 1, margin: 1, mass: 1 };
  expect(beats({ ...dear, cost: 1 }, dear, false)).toEqual(['cost']);
  expect(beats({ ...dear, energy: 2 }, dear, true)).toEqual(['energy']);
  expect(beats(dear, dear, false)).toBeNull();
  expect(merits).toHaveLength(4);
});

describe('a goal that holds at the worst corner', () => {
  /** The rig with each of its fields anywhere within its tolerance. */
  const anywhere = (rig: Rig, draw: () => number): Rig =>
    spotsOf(rig)
      .flatMap((spot) => Object.keys(blockIn(rig, spot).fields).map((id) => `${spot}.${id}`))
      .reduce((moved, path) => {
        const ends = endsAt(rig, path);
        return ends ? withTrialValue<string>(moved, path, ends.low + (ends.high - ends.low) * draw()) : moved;
      }, rig);

  test.each([asked[1], asked[3], asked[4], asked[5]])(
    '$goal: so it does, wherever within the tolerances its fields lie',
    (one) => {
      if (!one) throw new Error('nothing is asked');
      const question = read({ ...one, atWorst: true });
      const drafts = some(draftsOf(question), 4);
      const found = designsOf(question, drafts).filter(isDesigned);
      expect(found.length).toBeGreaterThan(0);
      let place = 1;
      // The additive recurrence of the golden ratio: even over the whole range, the same each time.
      const draw = () => (place++ * 0.6180339887498949) % 1;
      for (const { rig, reached, title } of found) {
        question.goal.measures(question.wishes).forEach(({ of, figure, least }, k) => {
          const { low, high } = reached[k]?.band ?? { low: NaN, high: NaN };
          expect(low).toBeGreaterThanOrEqual(least * (1 - 1e-6));
          if (figure !== undefined) return;
          for (let round = 0; round < 6; round++) {
            const value = of(anywhere(rig, draw));
            expect([value >= low * (1 - 1e-3), value <= high * (1 + 1e-3)], `${title}: ${low} ${value} ${high}`).toEqual([
              true,
              true,
            ]);
          }
        });
      }
    },
  );

  test('what cannot hold there falls by what it comes to', () => {
    // As much as a bank of the shelf has nominally, and nobody can add to it.
    const most = read({ goal: 'energy', typed: { V: '2 kV' }, shelf });
    const draft = draftsOf(most).find((each) => tryDraft(most, each).ok);
    if (!draft) throw new Error('the shelf gives nothing');
    const made = tryDraft(most, draft);
    if (!made.ok) throw new Error('the shelf gives nothing');
    const E = `${(made.merits.energy * 0.9999).toPrecision(8)} J`;
    const wants = (atWorst: boolean) => tryDraft(read({ goal: 'energy', typed: { V: '2 kV', E }, shelf, atWorst }), draft);
    expect(wants(false).ok).toBe(true);
    expect(wants(true)).toMatchObject({
      by: expect.stringMatching(/^Energy, at least .*, worst case$/) as string,
      reason: expect.stringMatching(/^it comes to [\d.]+ J at the worst corner$/) as string,
    });
  });
});

test('bounds are held at the worst corner, and rule out by name', () => {
  const within = (bounds: Record<string, string>) =>
    designsOf(read({ goal: 'energy', typed: { V: '700 V', E: '60 J' }, bounds }));
  for (const { rig } of within({ energy: '80 J' }).filter(isDesigned))
    expect(figureIn(evaluateRig(rig), 'stored-energy')?.band.high).toBeLessThanOrEqual(80);
  const ruled = (bounds: Record<string, string>) => fallenBy(within(bounds)).map(({ by }) => by);
  expect(ruled({ energy: '60 J' })).toContain(designBounds.energy.title);
  expect(ruled({ current: '100 A' })).toContain(designBounds.current.title);
  expect(ruled({ budget: '20' })).toContain(designBounds.budget.title);
  expect(ruled({ outletV: '230 V', outletI: '0.1 A' })).toContain(designBounds.outletI.title);
});

test('what cannot be read or had is refused by its field, with what would do', () => {
  expect(issuesOf({ goal: 'field', typed: { B: '400 T' } })).toMatchObject([
    { asked: 'B', reason: expect.stringMatching(/20/) as string },
  ]);
  expect(issuesOf({ goal: 'field', typed: { B: '4 V' }, bounds: { margin: '-3 %' } }).map(({ asked: of }) => of)).toEqual([
    'B',
    'margin',
  ]);
  expect(issuesOf({ goal: 'energy', bounds: { outletV: '230 V' }, typed: { E: '5 J' } })).toMatchObject([{ asked: 'outletI' }]);
  // As much as there is, of a shelf that has nothing.
  expect(issuesOf({ goal: 'energy' })).toMatchObject([{ asked: 'E' }]);
  expect(issuesOf({ goal: 'launch', typed: { m: '2 kg', d: '8 mm' } })).toMatchObject([
    { asked: 'm', reason: expect.stringMatching(/long/) as string },
  ]);
  expect(() => issuesOf({ goal: 'perpetual motion' })).toThrow(/there is no goal/);
  expect(new Set(designGoals.map(({ id }) => id)).size).toBe(designGoals.length);
  // Out of reach is no fault: it says what stands in the way.
  const nothing = designsOf(read({ goal: 'pulse', typed: { V: '1 MV', t: '90 µs', R: '10' }, bounds: { budget: '50' } }));
  expect(nothing.filter(isDesigned)).toEqual([]);
});
