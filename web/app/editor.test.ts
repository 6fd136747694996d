import fc from 'fast-check';
import { configureStore } from '@reduxjs/toolkit';
import { describe, expect, test } from 'vitest';
import { blockDefinition, newBlock } from '@vast-surge/core/kind';
import { readQuantityText, type FieldValue } from '@vast-surge/core/field';
import {
  blockIn,
  differences,
  newDocument,
  quantityAt,
  withChannelAdded,
  withLoadKind,
  type RigDocument,
} from '@vast-surge/core/rig';
import { blockSelected, channelSelected, editorSlice, fieldDrafted, numberTouched } from './editor.ts';
import {
  channelAdded,
  channelRemoved,
  fieldTyped,
  followed,
  kindChosen,
  noteWritten,
  renamed,
  restored,
  rigOpened,
  valueSet,
} from './edits.ts';
import { historyReducer } from './history.ts';
import { inShownChannel } from './shown-channel.ts';
import { redo, redoWords, undo, undoWords } from './undo.ts';

const id = '11111111-1111-4111-8111-111111111111';
const document: RigDocument = newDocument('Bank');

const opened = (drafts: Record<string, string> = {}) => {
  const store = configureStore({
    reducer: { editor: editorSlice.reducer, history: historyReducer },
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(inShownChannel),
  });
  store.dispatch(rigOpened({ id, base: { version: 3, document }, document, drafts }));
  return store;
};
type Store = ReturnType<typeof opened>;
const present = (store: Store): RigDocument => store.getState().history.present ?? document;
const at = (store: Store, path: string) => quantityAt(present(store).rig, path)?.value;

const typed = (field: string, text: string): FieldValue => {
  const spec = blockDefinition('store', 'capacitor-bank').fields[field];
  if (spec?.type !== 'quantity') throw new Error(`no field ${field}`);
  const read = readQuantityText(spec, text);
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};
const type = (field: string, text: string, burst?: string) =>
  fieldTyped({ slot: 'store', field, value: typed(field, text), ...(burst === undefined ? {} : { burst }) });

describe('the open rig', () => {
  test('opens with the drafts that were kept; the same rig opened anew keeps the place one was at', () => {
    const store = opened({ 'store.C': 'lots' });
    expect(store.getState().editor).toMatchObject({ id, base: { version: 3 }, drafts: { 'store.C': 'lots' }, selected: 'store' });
    store.dispatch(blockSelected('load'));
    store.dispatch(rigOpened({ id, base: { version: 4, document }, document, drafts: {} }));
    expect(store.getState().editor.selected).toBe('load');
    store.dispatch(rigOpened({ id: 'another', base: { version: 1, document }, document, drafts: {} }));
    expect(store.getState().editor.selected).toBe('store');
  });

  test('takes a typed value and leaves the document it came from as it was', () => {
    const store = opened({ 'store.V0': 'forty' });
    store.dispatch(type('V0', '40 V'));
    expect([at(store, 'store.V0')?.value, quantityAt(document.rig, 'store.V0')?.value?.value]).toEqual([40, 48]);
    expect(store.getState().editor.drafts).toEqual({});
  });

  test('a draft stays until its field is read, taken back, or its block changes kind', () => {
    const store = opened();
    store.dispatch(fieldDrafted({ path: 'switch.Vr', text: 'high' }));
    store.dispatch(fieldDrafted({ path: 'store.C', text: 'lots' }));
    store.dispatch(kindChosen({ slot: 'switch', kind: 'thyristor' }));
    expect(store.getState().editor.drafts).toEqual({ 'store.C': 'lots' });
    expect(blockIn(present(store).rig, 'switch').kind).toBe('thyristor');
  });

  test('a worked value is put in as typed, with the tolerance the field had, and its block is shown', () => {
    const store = opened();
    store.dispatch(type('V0', '48 V ±2 %'));
    store.dispatch(blockSelected('load'));
    store.dispatch(valueSet({ path: 'store.V0', value: 39 }));
    expect(at(store, 'store.V0')).toMatchObject({ value: 39, tolerance: { minus: 0.02, plus: 0.02 }, text: '39 V ±2 %' });
    expect(store.getState().editor.selected).toBe('store');
    store.dispatch(valueSet({ path: 'store.V0', value: -1 }));
    expect(at(store, 'store.V0')?.value).toBe(39);
  });

  test('values that are put in together come back together, and those put in one by one do not', () => {
    const store = opened();
    const before = present(store).rig;
    for (const [path, value] of [
      ['store.V0', 39],
      ['load.R', 2],
    ] as const)
      store.dispatch(valueSet({ path, value, burst: 'point' }));
    expect([at(store, 'store.V0')?.value, at(store, 'load.R')?.value]).toEqual([39, 2]);
    store.dispatch(valueSet({ path: 'store.V0', value: 30 }));
    undo(store);
    expect(at(store, 'store.V0')?.value).toBe(39);
    undo(store);
    expect(present(store).rig).toEqual(before);
  });

  test('touching a number opens its working', () => {
    const store = opened();
    store.dispatch(numberTouched('figure:peak-current'));
    expect(store.getState().editor).toMatchObject({ focus: 'figure:peak-current', workingOpen: true });
  });
});

describe('undo and redo', () => {
  test('take back and do again, say what in words, and show the block it was in', () => {
    const store = opened();
    expect([undo(store), undoWords(store.getState().history)]).toEqual([null, null]);
    store.dispatch(type('V0', '40 V'));
    store.dispatch(renamed('Big bank'));
    store.dispatch(blockSelected('load'));
    expect(undo(store)).toBe('Name: Bank → Big bank');
    expect(undo(store)).toBe('Store, charged to: 48 V (default) → 40 V');
    expect(store.getState().editor.selected).toBe('store');
    expect(present(store)).toBe(document);
    expect(redoWords(store.getState().history)).toBe('Store, charged to: 48 V (default) → 40 V');
    expect(redo(store)).toBe('Store, charged to: 48 V (default) → 40 V');
    expect([redo(store), redo(store)]).toEqual(['Name: Bank → Big bank', null]);
  });

  test('the key strokes of one visit to a field are one step; two visits are two', () => {
    const store = opened();
    for (const text of ['4', '44', '44 V']) store.dispatch(type('V0', text, 'first visit'));
    for (const text of ['3', '39 V']) store.dispatch(type('V0', text, 'second visit'));
    expect(undo(store)).toBe('Store, charged to: 44 V → 39 V');
    expect(undo(store)).toBe('Store, charged to: 48 V (default) → 44 V');
    expect(undo(store)).toBeNull();
  });

  test('a restored revision is one step, and a change of kind comes back with all its fields', () => {
    const store = opened();
    store.dispatch(kindChosen({ slot: 'bleeder', kind: 'none' }));
    store.dispatch(restored({ ...document, note: 'as it was' }));
    undo(store);
    expect(blockIn(present(store).rig, 'bleeder').kind).toBe('none');
    expect(undo(store)).toBe('Bleeder, kind: Permanent bleeder → No bleeder');
    expect(blockIn(present(store).rig, 'bleeder')).toBe(blockIn(document.rig, 'bleeder'));
  });

  test('whatever was done: all of it undone is the rig as opened, all of it redone the rig as it was', () => {
    const edit = fc.oneof(
      fc.integer({ min: 1, max: 99 }).map((n) => type('V0', `${n} V`, `burst ${n % 3}`)),
      fc.integer({ min: 1, max: 99 }).map((n) => type('C', `${n} µF`)),
      fc.string({ maxLength: 8 }).map((note) => noteWritten({ note })),
      fc.constantFrom('contact', 'thyristor').map((kind) => kindChosen({ slot: 'switch' as const, kind })),
    );
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 40 }), (edits) => {
        const store = opened();
        for (const action of edits) store.dispatch(action);
        const end = present(store);
        while (undo(store) !== null);
        expect(present(store)).toBe(document);
        while (redo(store) !== null);
        expect(present(store)).toBe(end);
      }),
      { numRuns: 60 },
    );
  });

  test('another hand’s change stays through every undo and redo of one’s own', () => {
    const store = opened();
    store.dispatch(type('V0', '40 V'));
    store.dispatch(type('C', '900 µF'));
    const theirs = { ...document, note: 'theirs' };
    store.dispatch(followed({ id, was: document, theirs: { version: 4, document: theirs } }));
    undo(store);
    undo(store);
    expect(differences(theirs, present(store))).toEqual([]);
    redo(store);
    redo(store);
    expect([present(store).note, at(store, 'store.C')?.text]).toEqual(['theirs', '900 µF']);
  });
});

describe('a rig of several stages', () => {
  const stage = withLoadKind(document.rig, newBlock(blockDefinition('load', 'coilgun-stage')));
  const launcher: RigDocument = { ...document, rig: withChannelAdded(stage) ?? stage };
  const shown = () => {
    const store = opened();
    store.dispatch(rigOpened({ id, base: { version: 3, document: launcher }, document: launcher, drafts: {} }));
    return store;
  };
  const of = (store: Store, path: string) => quantityAt(present(store).rig, path)?.value?.text;

  test('an edit is of the stage that is shown, a draft stays with its own, and undo shows where it was', () => {
    const store = shown();
    store.dispatch(channelSelected(1));
    store.dispatch(fieldDrafted({ path: 'store@2.V0', text: 'forty' }));
    store.dispatch(channelSelected(0));
    store.dispatch(type('V0', '30 V'));
    expect(store.getState().editor.drafts).toEqual({ 'store@2.V0': 'forty' });
    store.dispatch(channelSelected(1));
    store.dispatch(type('V0', '40 V'));
    expect([of(store, 'store.V0'), of(store, 'store@2.V0')]).toEqual(['30 V', '40 V']);
    expect(store.getState().editor.drafts).toEqual({});
    expect(present(store).rig).not.toHaveProperty('front');
    store.dispatch(channelSelected(0));
    expect(undo(store)).toBe('Stage 2, store, charged to: 48 V (default) → 40 V');
    expect(store.getState().editor).toMatchObject({ selected: 'store', channel: 1 });
    // A value that was worked out for a stage that is not shown goes there, and shows it.
    store.dispatch(valueSet({ path: 'store@1.V0', value: 25 }));
    expect(of(store, 'store.V0')).toBe('25 V');
    expect(store.getState().editor.channel).toBe(0);
  });

  test('stages come and go, at most twelve, and another kind of load leaves the first alone; each is one undo', () => {
    const store = shown();
    for (let k = 0; k < 15; k++) store.dispatch(channelAdded());
    expect(present(store).rig.channels).toHaveLength(12);
    store.dispatch(channelSelected(5));
    store.dispatch(channelRemoved(5));
    expect(store.getState().editor.channel).toBe(4);
    store.dispatch(channelRemoved(0));
    expect(present(store).rig.channels).toHaveLength(11);
    store.dispatch(channelSelected(0));
    store.dispatch(kindChosen({ slot: 'load', kind: 'coil' }));
    expect(present(store).rig.channels).toHaveLength(1);
    undo(store);
    expect(present(store).rig.channels).toHaveLength(11);
  });
});
