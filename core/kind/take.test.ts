import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { evaluateRig } from '../evaluation/index.ts';
import { newRig, withBlock } from '../rig/index.ts';
import { labelledPart, reading } from '../test/parts.ts';
import { compose, judge, type Piece } from '../part/index.ts';
import { blockDefinition, blockSchema, newBlock, outdated, withBank, withoutParts, withPart } from '../kind/index.ts';

const bank = blockDefinition('store', 'capacitor-bank');
const id = '00000000-0000-4000-8000-000000000001';

describe('a block that stands on a part', () => {
  const can = labelledPart('capacitor', { C: '30 µF ±10 %', Vac: '400 V', ESR: '5 mΩ' }, [reading('capacitance', 36.4e-6)]);

  test('takes what was measured before what the label says, and says of each which', () => {
    const block = withPart(newBlock(bank), bank, { id, part: can });
    expect(block.fields['C']).toMatchObject({ value: 36.4e-6, from: 'measured', tolerance: { minus: 0.01, plus: 0.01 } });
    expect(block.fields['ESR']).toMatchObject({ value: 5e-3, from: 'label' });
    // The chosen dc limit is the rating that limits are judged by.
    expect(block.fields['Vr']).toMatchObject({ value: 565.69, from: 'label' });
    expect(block.fields['polarity']).toBe('non-polar');
    expect(block.parts).toEqual([{ id, tag: 'X-1' }]);
    expect(blockSchema('store').parse(JSON.parse(JSON.stringify(block)))).toEqual(block);
  });

  test('shows where its inputs came from in the working of a figure', () => {
    const rig = withBlock(newRig(), 'store', withPart(newBlock(bank), bank, { id, part: can }));
    const figure = evaluateRig(rig).figures.find((f) => f.id === 'bank-capacitance');
    if (!figure?.ok || figure.worked.kind !== 'computed') throw new Error('no figure');
    expect(figure.worked.inputs['C']).toMatchObject({ origin: { from: 'measured', path: 'store.C' } });
  });

  test('a coil takes the wire of the shelf: its gauge as it is labelled, and how much of it there is', () => {
    const coil = blockDefinition('load', 'coilgun-stage');
    const reel = labelledPart('wire', { d: '18 AWG', length: '14 m' });
    const block = withPart({ ...newBlock(coil), fields: { ...newBlock(coil).fields, section: 'strip' } }, coil, {
      id,
      part: reel,
    });
    // 18 AWG is 1.024 mm.
    expect(block.fields['d']).toMatchObject({ value: expect.closeTo(1.0237e-3, 6), from: 'label' });
    expect(block.fields).toMatchObject({ lw: { value: 14 }, section: 'round' });
  });

  test('is out of date when the bench has come to say otherwise, but not where a person typed over it', () => {
    const block = withPart(newBlock(bank), bank, { id, part: can });
    expect(outdated(block, bank, can)).toEqual([]);
    const again = { ...can, readings: [...can.readings, reading('capacitance', 38e-6)] };
    expect(outdated(block, bank, again).map((o) => o.field)).toEqual(['C']);
    const typed = { ...block, fields: { ...block.fields, C: { value: 30e-6, text: '30 µF' } } };
    expect(outdated(typed, bank, again)).toEqual([]);
  });

  test('let go keeps its values, which count as typed from then on', () => {
    const free = withoutParts(withPart(newBlock(bank), bank, { id, part: can }));
    expect(free.parts).toBeUndefined();
    expect(free.fields['C']).toEqual({ value: 36.4e-6, text: expect.any(String), tolerance: { minus: 0.01, plus: 0.01 } });
  });
});

describe('a bank of composed groups', () => {
  test('is limited exactly where its worst group reaches its rating', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 50, max: 150, noNaN: true }), { minLength: 4, maxLength: 12 }),
        fc.integer({ min: 1, max: 3 }),
        (microfarads, np) => {
          const pieces = microfarads.map((c, i): Piece => ({
            id: `p${i}`,
            capacitance: c * 1e-6,
            uncertainty: 0.02,
            rating: 450,
          }));
          const ns = Math.floor(pieces.length / np);
          const made = compose(pieces, ns, np).bank;
          const parts = new Map(
            pieces.map((p) => [
              p.id,
              { ...labelledPart('capacitor', { Vdc: '450 V' }, [reading('capacitance', p.capacitance)]), tag: p.id },
            ]),
          );
          const block = withBank(newBlock(bank), bank, { bank: made, parts, partId: (p) => p.id });
          const V0 = { value: made.worstUsableVoltage, text: 'x' };
          const rig = withBlock(newRig(), 'store', { ...block, fields: { ...block.fields, V0 } });
          const { ladder, figures } = evaluateRig(rig);
          const limit = ladder.limits.find((l) => l.id === 'element-voltage');
          // The field keeps five digits.
          expect((limit?.stress.value ?? NaN) / 450).toBeCloseTo(1, 3);
          const C = figures.find((f) => f.id === 'bank-capacitance');
          expect(C?.ok && C.worked.value / made.capacitance).toBeCloseTo(1, 4);
          expect(block.parts?.reduce((n, ref) => n + (ref.count ?? 1), 0)).toBe(ns * np);
        },
      ),
      { numRuns: 40 },
    ));

  test('counts several pieces of one line together, by group', () => {
    const piece = (i: number): Piece => ({ id: `${id}#${i}`, capacitance: 1e-6, uncertainty: 0.1, rating: 900 });
    const made = judge([
      [piece(1), piece(2)],
      [piece(3), piece(4)],
    ]);
    const part = { ...labelledPart('capacitor', { C: '1 µF ±10 %', Vdc: '900 V' }), tag: 'C-9', quantity: 4 };
    const block = withBank(newBlock(bank), bank, {
      bank: made,
      parts: new Map([[id, part]]),
      partId: (p) => p.id.split('#')[0] ?? '',
    });
    expect(block.parts).toEqual([
      { id, tag: 'C-9', group: 1, count: 2 },
      { id, tag: 'C-9', group: 2, count: 2 },
    ]);
    expect(block.fields['C']).toMatchObject({ value: 1e-6, from: 'label' });
  });
});
