import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blockDefinition, changeKind, kindsOf, newBlock } from '../kind/index.ts';
import { readQuantityText } from '../field/index.ts';
import {
  blockIn,
  differences,
  differenceWords,
  mergeDocuments,
  newDocument,
  openChoices,
  resolveMerge,
  sameDocument,
  spotAt,
  spotsOf,
  withBlock,
  withChannelAdded,
  withLoadKind,
  withoutChannel,
  type Place,
  type RigDocument,
  type Spot,
} from './index.ts';

const base: RigDocument = { ...newDocument('Bank'), note: 'as found' };

const stage = withLoadKind(base.rig, newBlock(blockDefinition('load', 'coilgun-stage')));
/** A launcher of two stages: every place of both may change. */
const launcher: RigDocument = { ...base, rig: withChannelAdded(stage) ?? stage };

const set = (document: RigDocument, spot: Spot, id: string, text: string): RigDocument => {
  const { slot } = spotAt(spot);
  const block = blockIn(document.rig, spot);
  const field = blockDefinition(slot, block.kind).fields[id];
  const read = field?.type === 'quantity' ? readQuantityText(field, text) : null;
  if (!read?.ok) throw new Error(`${slot}.${id} takes no ${text}`);
  return { ...document, rig: withBlock(document.rig, spot, { ...block, fields: { ...block.fields, [id]: read.value } }) };
};
const turn = (document: RigDocument, spot: Spot, kind: string): RigDocument => {
  const { slot } = spotAt(spot);
  const block = blockIn(document.rig, spot);
  const next = changeKind(block, blockDefinition(slot, block.kind), blockDefinition(slot, kind));
  return { ...document, rig: withBlock(document.rig, spot, next) };
};

/** Any change of one place: another name or note, another value of a field, or another kind of block. */
const changeOf = (place: Exclude<Place, 'channels'>): fc.Arbitrary<(document: RigDocument) => RigDocument> => {
  if (place === 'name' || place === 'note')
    return fc.string({ minLength: 1, maxLength: 6 }).map((text) => (document) => ({ ...document, [place]: `${text}.` }));
  if (place === 'built') return fc.constant((document) => ({ ...document, built: true }));
  if (place === 'sheet')
    return fc
      .integer({ min: 1, max: 9 })
      .map((n) => (document) => ({ ...document, sheet: { ...document.sheet, notes: { charge: `note ${n}` } } }));
  const { slot, channel } = spotAt(place);
  const resistive = Object.entries(blockDefinition(slot, blockIn(launcher.rig, place).kind).fields).flatMap(([id, field]) =>
    field.type === 'quantity' &&
    !(channel !== null && field.once) &&
    !field.integer &&
    field.unit !== '1' &&
    field.unit !== 'A²s' &&
    field.unit !== 'K'
      ? [[id, field] as const]
      : [],
  );
  const value = () =>
    fc.tuple(fc.constantFrom(...resistive), fc.integer({ min: 1, max: 9 })).map(([[id, field], n]) => (document: RigDocument) => {
      const unit = { 'A/s': 'A/µs' }[field.unit as string] ?? field.unit;
      return id in blockIn(document.rig, place).fields ? set(document, place, id, `0.00${n} ${unit}`) : document;
    });
  // Another kind of load leaves no further stage.
  const kinds = kindsOf(slot).map((d) => d.kind);
  const kind = fc.constantFrom(...kinds).map((k) => (document: RigDocument) => turn(document, place, k));
  const standing = fc.constantFrom(1, 2).map((n) => (document: RigDocument) => {
    const parts = [{ id: `00000000-0000-4000-8000-00000000000${n}`, tag: `C-${n}`, group: n }];
    return { ...document, rig: withBlock(document.rig, place, { ...blockIn(document.rig, place), parts }) };
  });
  return fc.oneof(
    // A kind without fields has no value to change.
    ...(resistive.length > 0 ? [{ weight: 6, arbitrary: value() }] : []),
    { weight: 2, arbitrary: standing },
    ...(kinds.length > 1 && slot !== 'load' ? [{ weight: 2, arbitrary: kind }] : []),
  );
};
const places: readonly Exclude<Place, 'channels'>[] = ['name', 'note', 'built', ...spotsOf(launcher.rig)];
const changed = (at: readonly Exclude<Place, 'channels'>[]): fc.Arbitrary<RigDocument> =>
  fc.tuple(...at.map((place) => changeOf(place))).map((changes) => changes.reduce((d, change) => change(d), launcher));
const someChanged = fc.subarray([...places]).chain((at) => changed(at));

describe('differences', () => {
  test('name every changed point with both texts, and are none of a document with itself', () => {
    const other = set(turn({ ...base, name: 'Big bank' }, 'bleeder', 'none'), 'store', 'V0', '60 V');
    expect(differences(base, base)).toEqual([]);
    expect(differences(base, other).filter((d) => d.place !== 'bleeder')).toEqual([
      { path: 'name', place: 'name', title: 'Name', from: 'Bank', to: 'Big bank' },
      { path: 'store.V0', place: 'store', title: 'Store, charged to', from: '48 V (default)', to: '60 V' },
    ]);
    expect(differenceWords(differences(base, other))).toBe('Name: Bank → Big bank and 2 more changes');
  });

  test('a value typed as the default stands is one that somebody has typed', () =>
    expect(sameDocument(base, set(base, 'store', 'V0', '48 V'))).toBe(false));
});

describe('a merge', () => {
  test('of changes in different places holds both, whoever comes first, and asks nothing', () => {
    const apart = fc.subarray([...places]).chain((mine) => {
      const rest = places.filter((place) => !mine.includes(place));
      return fc.tuple(
        changed(mine),
        fc.subarray(rest).chain((theirs) => changed(theirs)),
      );
    });
    fc.assert(
      fc.property(apart, ([mine, theirs]) => {
        const [one, other] = [mergeDocuments(launcher, mine, theirs), mergeDocuments(launcher, theirs, mine)];
        expect([one.choices, other.choices]).toEqual([[], []]);
        expect(one.merged).toEqual(other.merged);
        const all = new Map([...differences(launcher, mine), ...differences(launcher, theirs)].map((d) => [d.path, d.to]));
        expect(new Map(differences(launcher, one.merged).map((d) => [d.path, d.to]))).toEqual(all);
      }),
    );
  });

  test('with an unchanged side is the changed one', () =>
    fc.assert(
      fc.property(someChanged, (document) => {
        expect(sameDocument(mergeDocuments(launcher, document, launcher).merged, document)).toBe(true);
        expect(sameDocument(mergeDocuments(launcher, launcher, document).merged, document)).toBe(true);
        expect(mergeDocuments(launcher, document, document).choices).toEqual([]);
      }),
    ));

  test('takes nothing from either side that nobody wrote, and every choice can be settled either way', () =>
    fc.assert(
      fc.property(someChanged, someChanged, (mine, theirs) => {
        const merge = mergeDocuments(launcher, mine, theirs);
        for (const side of ['mine', 'theirs'] as const) {
          const picks = Object.fromEntries(merge.choices.map((c) => [c.path, side]));
          expect(openChoices(merge, picks)).toEqual([]);
          const document = resolveMerge(merge, mine, picks);
          const whole = side === 'mine' ? mine : theirs;
          const contested = new Set(merge.choices.map((c) => c.place));
          expect(differences(whole, document).filter((d) => contested.has(d.place))).toEqual([]);
        }
      }),
    ));

  test('of one block asks for each point, and suggests the side that alone changed it', () => {
    const mine = set(set(base, 'store', 'V0', '43 V'), 'store', 'C', '900 µF');
    const theirs = set(base, 'store', 'V0', '41 V');
    const merge = mergeDocuments(base, mine, theirs);
    expect(merge.choices).toEqual([
      {
        path: 'store.C',
        place: 'store',
        title: 'Store, capacitance, each',
        base: '1000 µF ±20 % (default)',
        mine: '900 µF',
        theirs: '1000 µF ±20 % (default)',
        suggested: 'mine',
      },
      {
        path: 'store.V0',
        place: 'store',
        title: 'Store, charged to',
        base: '48 V (default)',
        mine: '43 V',
        theirs: '41 V',
        suggested: null,
      },
    ]);
    expect(openChoices(merge, {}).map((c) => c.path)).toEqual(['store.V0']);
    const resolved = resolveMerge(merge, mine, { 'store.V0': 'theirs' });
    expect(differences(base, resolved).map((d) => [d.path, d.to])).toEqual([
      ['store.C', '900 µF'],
      ['store.V0', '41 V'],
    ]);
  });

  test('of two kinds of a block takes one as a whole', () => {
    const mine = turn(base, 'switch', 'thyristor');
    const theirs = set(base, 'switch', 'R', '5 mΩ');
    const merge = mergeDocuments(base, mine, theirs);
    expect(merge.choices).toEqual([
      {
        path: 'switch.kind',
        place: 'switch',
        title: 'Switch, kind',
        base: 'Contact',
        mine: 'Thyristor',
        theirs: 'Contact, with other values',
        suggested: null,
      },
    ]);
    expect(blockIn(resolveMerge(merge, mine, { 'switch.kind': 'mine' }).rig, 'switch')).toEqual(blockIn(mine.rig, 'switch'));
    expect(blockIn(resolveMerge(merge, mine, { 'switch.kind': 'theirs' }).rig, 'switch')).toEqual(blockIn(theirs.rig, 'switch'));
  });

  test('of stages more on one side and a change elsewhere holds both; of a change in a stage one hand stands as a whole', () => {
    const more: RigDocument = { ...launcher, rig: withChannelAdded(launcher.rig) ?? launcher.rig };
    const fewer: RigDocument = { ...launcher, rig: withoutChannel(launcher.rig, 1) };
    expect(differences(launcher, more)).toEqual([
      { path: 'channels', place: 'channels', title: 'Stages', from: '2 stages', to: '3 stages' },
    ]);
    const elsewhere = set(launcher, 'supply', 'V', '100 V');
    const merged = mergeDocuments(launcher, more, elsewhere);
    expect(merged.choices).toEqual([]);
    expect(merged.merged.rig.channels).toHaveLength(3);
    expect(merged.merged.rig.supply).toEqual(elsewhere.rig.supply);
    const inStage = set(launcher, 'store@2', 'V0', '40 V');
    for (const [mine, theirs] of [
      [fewer, inStage],
      [inStage, more],
      [fewer, more],
    ] as const) {
      const merge = mergeDocuments(launcher, mine, theirs);
      expect(merge.choices.map(({ path, suggested }) => [path, suggested])).toEqual([['channels', null]]);
      expect(sameDocument(resolveMerge(merge, mine, { channels: 'mine' }), mine)).toBe(true);
      expect(sameDocument(resolveMerge(merge, mine, { channels: 'theirs' }), theirs)).toBe(true);
    }
    expect(differenceWords(differences(launcher, inStage))).toBe('Stage 2, store, charged to: 48 V (default) → 40 V');
  });
});
