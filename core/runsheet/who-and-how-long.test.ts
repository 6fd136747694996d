import { describe, expect, test } from 'vitest';
import { acts, type Act } from '../block/index.ts';
import { evaluateRig, figureIn } from '../evaluation/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { noSheetEdits, type Rig, type SheetEdits } from '../rig/index.ts';
import { oneCapacitor } from '../test/by-hand.ts';
import { demoRig, rigWith } from '../test/rigs.ts';
import { moved } from './edits.ts';
import { secondsOfStep } from './seconds.ts';
import { beyondHands } from './tier.ts';
import { oneCapacitorSheet, oneCapacitorText, runSheetOf, stepsIn, whoWords, type RunSheet } from './index.ts';

const sheetOf = (rig: Rig, edits: Partial<SheetEdits> = {}): RunSheet => {
  const made = runSheetOf('Bench', evaluateRig(rig), { ...noSheetEdits, ...edits });
  if (!made.ok) throw new Error(made.reason);
  return made.sheet;
};
const step = (sheet: RunSheet, id: string) => stepsIn(sheet).find((one) => one.id === id);

describe('who does a step, and how long it takes', () => {
  test('each act takes what people usually take for it; common practice, no source', () => {
    const usual: Readonly<Record<Act, number>> = {
      ...{ 'strap-off': 30, 'hold-off': 3, charge: 5, isolate: 3, fire: 5, dump: 3, bleed: 5, tool: 15 },
      ...{ prove: 15, verify: 10, 'prove-again': 15, held: 15, strap: 15, 'hand-over': 60 },
    };
    for (const does of acts) expect(secondsOfStep({ id: 'one', does }, noSheetEdits), does).toBe(usual[does]);
    expect(Object.keys(usual).sort()).toEqual([...acts].sort());
  });

  test('both do what both answer for; all else the key holder does, and the reader reads aloud what there is to read', () => {
    const sheet = sheetOf(demoRig('thimble'));
    const who = (id: string) => step(sheet, id)?.who;
    for (const id of ['people', 'clear', 'strap-off', 'strap']) expect(who(id), id).toBe('both');
    // The key holder alone switches and touches, also where it is read meanwhile: it says so, on paper and on every screen.
    for (const id of ['charge', 'verify', 'verify-again']) expect(who(id), id).toBe('reader');
    expect(whoWords.reader).toBe('key holder, reader reads');
    for (const id of ['supply-isolate', 'fire', 'tool-apply', 'guard']) expect(who(id), id).toBe('key');
    // Nobody holds on for an answer that two have to give while one alone is there to give it.
    expect(step(sheetOf(demoRig('thimble'), { people: 'one' }), 'people')?.who).toBe('key');
    // An answer that has to be given before the run goes on is asked of no reading.
    for (const one of stepsIn(sheet)) if (one.second) expect([one.who, one.reading], one.id).toEqual(['both', undefined]);
  });

  test('a reading takes its ten seconds, and one of many groups five for each', () => {
    const sheet = sheetOf(
      rigWith({ 'store.ns': '4', 'store.V0': '160 V', 'store.Vr': '63 V', 'supply.V': '300 V', 'meter.V': '600 V' }),
    );
    const [tool, read, strap] = ['group-tool', 'group-read', 'group-strap'].map((id) => step(sheet, id));
    expect(read?.seconds).toBe(5 + 5 * 4);
    expect(read?.text).toBe('Meter across each group by itself, all 4.');
    expect(read?.hold).toMatch(/^Each reads below /);
    expect(strap?.hold).toBe('All 4 straps are seen on.');
    expect(tool?.expect.map(({ label }) => label)).toEqual(['One of them may hold', 'That is', 'Stick on each for at least']);
    // A stick of 1 kΩ on 250 µF of a joule and more: ten seconds on each, one after the other.
    expect(tool?.wait).toBe(40);
    expect(step(sheet, 'verify')?.seconds).toBe(10);
  });

  test('of one thing that holds a charge it is said as of one', () => {
    const sheet = sheetOf(demoRig('kittiwake'));
    const read = step(sheet, 'trigger-read');
    expect(read?.text).toBe('Meter across the capacitor of the trigger by itself.');
    expect(read?.hold).toMatch(/^It reads below /);
    expect(read?.seconds).toBe(10);
    expect(step(sheet, 'trigger-strap')?.hold).toBe('Its strap is seen on.');
    expect(step(sheet, 'trigger-tool')?.expect.map(({ label }) => label)).toEqual([
      'It may hold',
      'That is',
      'Stick on for at least',
    ]);
  });
});

test('hands end at a kilojoule in the worst case, and from ten the stick is no first way at all: at the very edge', () => {
  /** A bank that stores so many joules at the worst corner, with nothing that takes it down. */
  const at = (E: number) => {
    const evaluation = evaluateRig(rigWith(oneCapacitor({ C: (2 * E) / 400 ** 2, V0: 400 }, 2)));
    return { high: figureIn(evaluation, 'stored-energy')?.band.high ?? NaN, said: beyondHands(evaluation) };
  };
  expect(at(999).said).toBeNull();
  expect(at(1000)).toMatchObject({ high: 1000, said: expect.stringMatching(/^Up to 1\.00 kJ .*comes only after a fixed dump/) });
  expect(at(9999).said).toMatch(/comes only after a fixed dump/);
  expect(at(10_000)).toMatchObject({ high: 10_000, said: expect.stringMatching(/never comes first/) });
});

test('a step moves to any place of its phase but its own and those outside', () => {
  const steps = sheetOf(demoRig('thimble')).main.filter(({ phase }) => phase === 'prepare');
  const ids = steps.map(({ id }) => id);
  const last = ids.length - 1;
  const [first = ''] = ids;
  expect(moved(steps, first, 0)).toBeNull();
  expect(moved(steps, first, -1)).toBeNull();
  expect(moved(steps, first, last + 1)).toBeNull();
  expect(moved(steps, 'no-such-step', 0)).toBeNull();
  expect(moved(steps, 'guard', last)?.at(-1)).toBe('guard');
  expect(moved(steps, 'guard', last)).toHaveLength(ids.length);
  expect(moved(steps, 'guard', last)?.toSorted()).toEqual(ids.toSorted());
});

describe('the sheet of one capacitor as text', () => {
  const of = (C: number, V0: number, R: number | null = null) => ({
    C: { value: C },
    V0: { value: V0 },
    R: R === null ? null : { value: R },
    meter: { value: 600 },
    dielectric: 'polypropylene' as const,
  });

  test('numbers its lines from one, each with what to wait for, and its cards from one again', () => {
    const much = of(3.3e-3, 750);
    const sheet = oneCapacitorSheet(much);
    const text = oneCapacitorText(much);
    for (const [k, { text: says, hold }] of sheet.lines.entries()) {
      expect(text).toContain(`\n${k + 1}. ${says}\n`);
      if (hold !== undefined) expect(text).toContain(`${k + 1}. ${says}\n   - [ ] HOLD until: ${hold}\n`);
    }
    expect(sheet.cards).toHaveLength(2);
    for (const card of sheet.cards) {
      const part = text.split(`## Card: ${card.title}\n\n`)[1]?.split('\n\n')[0]?.split('\n');
      expect(part).toEqual(card.lines.map((line, k) => `${k + 1}. ${line}`));
    }
    expect(text.split('\n')[0]).toBe(`# Discharge one capacitor: ${printQuantity(3.3e-3, 'F')} at ${printQuantity(750, 'V')}`);
    expect(text).toContain(printQuantity((3.3e-3 * 750 ** 2) / 2, 'J'));
  });

  test('proposes a resistor where none is at hand, and says of one that is what it gets', () => {
    expect(oneCapacitorText(of(1e-4, 400))).toMatch(/\nResistor: \d+ × [\d.]+ [kM]?Ω in series, each for /);
    const atHand = oneCapacitorText(of(1e-4, 400, 4700));
    expect(atHand).toContain(
      `Resistor at hand: ${printQuantity(4700, 'Ω')}, ${printQuantity(400 ** 2 / 4700, 'W')} at first touch`,
    );
  });
});
