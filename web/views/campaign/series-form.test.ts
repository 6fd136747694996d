import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { demoDocument } from '../../test/demo.ts';
import { addressOf, formIn, readAmount, readForm, type Form } from './series-form.ts';

const document = demoDocument('thimble');
const session = '2026-12-05T10:00/3 h/AB holds the key';
const form = (more: Partial<Form> = {}): Form => ({
  varied: [{ path: 'store.V0', from: '20 V', to: '36 V', steps: '5' }],
  design: 'factorial',
  repeat: '3',
  order: 'random',
  rest: '2 min',
  sessions: [session],
  have: {},
  own: [],
  ...more,
});
const read = (more: Partial<Form> = {}, unitOf: (id: string) => string = () => '1') => readForm(document, form(more), unitOf);

describe('the form of a series', () => {
  test('is read into levels, hours with who is there, and rest, in SI', () => {
    const { series } = read();
    expect(series?.varied[0]?.levels).toEqual([20, 24, 28, 32, 36]);
    expect(series).toMatchObject({ replicates: 3, order: 'random', rest: 120, design: 'factorial' });
    expect(series?.sessions).toMatchObject([{ seconds: 10_800, people: 'AB holds the key' }]);
    // The unit in which a person asks is that of the settings.
    expect(series?.varied[0]?.typed).toBe('20 V');
  });

  test('several fields; a central composite design asks for ends alone, and where a shot teaches the most has an order of its own', () => {
    const varied = [...form().varied, { path: 'load.R', from: '150 mΩ', to: '210 mΩ', steps: 'many' }];
    expect(read({ varied }).varied[1]?.steps).toBeTruthy();
    expect(read({ varied }).series).toBeNull();
    const composite = read({ varied, design: 'central-composite' }).series;
    expect(composite?.varied.map(({ levels }) => levels)).toEqual([
      [20, 36],
      [0.15, 0.21],
    ]);
    expect(read({ design: 'next-best' }).series?.order).toBe('as-taught');
  });

  test.each<[Partial<Form>, (of: ReturnType<typeof read>) => unknown]>([
    [{ varied: [{ path: 'store.V0', from: '', to: '36 V', steps: '5' }] }, ({ varied }) => varied[0]?.from],
    [{ varied: [{ path: 'store.V0', from: '20 V', to: '20 V', steps: '2' }] }, ({ varied }) => varied[0]?.to],
    [{ varied: [{ path: 'store.V0', from: '20 V', to: '36 A', steps: '2' }] }, ({ varied }) => varied[0]?.to],
    [{ varied: [{ path: 'store.V0', from: '20 V', to: '36 V', steps: '0' }] }, ({ varied }) => varied[0]?.steps],
    [{ repeat: '2.5' }, ({ reasons }) => reasons.repeat],
    [{ rest: '3 V' }, ({ reasons }) => reasons.rest],
    [{ sessions: ['tomorrow/3 h'] }, ({ sessions }) => sessions[0]],
    [{ sessions: ['2026-12-05T10:00/long'] }, ({ sessions }) => sessions[0]],
    [{ own: [{ title: '', unit: '', each: '1', have: '' }] }, ({ own }) => own[0]],
    [{ own: [{ title: 'Foil', unit: '', each: '-1', have: '' }] }, ({ own }) => own[0]],
    [{ own: [{ title: 'Foil', unit: '', each: '1', have: 'two' }] }, ({ own }) => own[0]],
    [{ have: { 'load.wire': 'some' } }, ({ have }) => have['load.wire']],
  ])('%j is told at its field, and no series is made of it', (more, at) => {
    const found = read(more);
    expect(found.series).toBeNull();
    expect(at(found)).toEqual(expect.stringMatching(/.{5,}/));
  });

  test('what is there of what the rig uses up is read in its unit; what is not counted is left out', () => {
    const { series } = read(
      { have: { 'load.wire': '2 m', 'switch.gas': ' ' }, own: [{ title: 'Foil', unit: 'sheets', each: '1', have: '' }] },
      (id) => (id === 'load.wire' ? 'm' : '1'),
    );
    expect(series?.stocks).toEqual([
      { id: 'load.wire', onHand: 2 },
      { title: 'Foil', unit: 'sheets', each: 1, onHand: null },
    ]);
    expect(readAmount('30 mm', 'm')).toBeCloseTo(0.03, 12);
    expect(readAmount('12', 'sheets')).toBe(12);
    expect(readAmount('-1', 'sheets')).toMatch(/from 0/);
  });
});

test('a law: whatever is typed stands in the address and comes back as it was', () => {
  // What separates the parts of one thing in the address is nothing that people write.
  const text = fc.string({ maxLength: 12 }).map((s) => s.replaceAll('|', ''));
  fc.assert(
    fc.property(
      fc.record({
        varied: fc.array(fc.record({ path: text, from: text, to: text, steps: text }), { minLength: 1, maxLength: 4 }),
        design: fc.constantFrom('factorial', 'central-composite', 'next-best') as fc.Arbitrary<Form['design']>,
        repeat: text,
        order: text,
        rest: text,
        sessions: fc.array(text, { minLength: 1, maxLength: 3 }),
        have: fc.dictionary(fc.constantFrom('load.wire', 'switch.gas'), text),
        own: fc.array(fc.record({ title: text, unit: text, each: text, have: text }), { maxLength: 3 }),
      }),
      (typed) => {
        const kept = new URLSearchParams(addressOf(typed).toString());
        expect(formIn(kept, document.rig)).toEqual({ ...typed, have: { ...typed.have } });
      },
    ),
    { seed: 24, numRuns: 200 },
  );
});
