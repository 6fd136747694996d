import { describe, expect, test } from 'vitest';
import type { StoredRig } from '@vast-surge/contract';
import { readQuantityText, blockDefinition, type FieldValue } from '@vast-surge/core/block';
import { blockIn, newRig, quantityAt } from '@vast-surge/core/rig';
import {
  blockSelected,
  editorSlice,
  fieldDrafted,
  fieldTyped,
  kindChosen,
  noteWritten,
  numberTouched,
  renamed,
  rigOpened,
  saveBegun,
  saveDone,
  saveFailed,
  valueSet,
  type EditorState,
} from './editor.ts';

const { reducer } = editorSlice;
const stored: StoredRig = {
  id: '11111111-1111-4111-8111-111111111111',
  version: 3,
  createdAt: '2026-01-01T00:00:00.000Z',
  updatedAt: '2026-01-01T00:00:00.000Z',
  archivedAt: null,
  document: { name: 'Bank', note: '', rig: newRig() },
};
const opened = (): EditorState => reducer(undefined, rigOpened({ rig: stored, drafts: {} }));

const typed = (id: string, text: string): FieldValue => {
  const field = blockDefinition('store', 'capacitor-bank').fields[id];
  if (field?.type !== 'quantity') throw new Error(`no field ${id}`);
  const read = readQuantityText(field, text);
  if (!read.ok) throw new Error(read.reason);
  return read.value;
};
const at = (state: EditorState, path: string) => (state.document ? quantityAt(state.document.rig, path)?.value : null);

describe('the open rig', () => {
  test('opens saved, with the drafts that were kept', () => {
    const state = reducer(undefined, rigOpened({ rig: stored, drafts: { 'store.C': 'lots' } }));
    expect(state).toMatchObject({ id: stored.id, version: 3, edits: 0, save: { at: 'saved' }, drafts: { 'store.C': 'lots' } });
  });

  test('takes a typed value, counts the edit, waits to be saved, and leaves the rig it came from as it was', () => {
    const before = opened();
    const after = reducer(before, fieldTyped({ slot: 'store', field: 'V0', value: typed('V0', '40 V') }));
    expect([at(after, 'store.V0')?.value, after.edits, after.save.at]).toEqual([40, 1, 'waiting']);
    expect(at(before, 'store.V0')?.value).toBe(48);
    expect(after.document?.rig.supply).toBe(before.document?.rig.supply);
  });

  test('keeps what cannot be read as a draft and the value in force, until something readable is typed', () => {
    let state = reducer(opened(), fieldDrafted({ path: 'store.C', text: '5 apples' }));
    expect([state.drafts['store.C'], at(state, 'store.C')?.text, state.edits]).toEqual(['5 apples', '1000 µF ±20 %', 0]);
    state = reducer(state, fieldTyped({ slot: 'store', field: 'C', value: typed('C', '5 µF') }));
    expect([state.drafts, at(state, 'store.C')?.value]).toEqual([{}, 5e-6]);
  });

  test('puts a number that was worked out into its field with the tolerance kept, and shows the block', () => {
    const state = reducer(reducer(opened(), blockSelected('load')), valueSet({ path: 'store.C', value: 680e-6 }));
    expect(at(state, 'store.C')).toMatchObject({ value: 680e-6, tolerance: { minus: 0.2, plus: 0.2 }, text: '680 µF ±20 %' });
    expect(state.selected).toBe('store');
  });

  test('does nothing with a worked number that its field does not let through', () => {
    const before = opened();
    expect(reducer(before, valueSet({ path: 'store.C', value: 1e30 }))).toBe(before);
    expect(reducer(before, valueSet({ path: 'store.nonsense', value: 1 }))).toBe(before);
  });

  test('changes the kind of a block, keeps what both kinds have, and drops that block’s drafts alone', () => {
    let state = reducer(opened(), fieldDrafted({ path: 'switch.I', text: '??' }));
    state = reducer(state, fieldDrafted({ path: 'store.C', text: '??' }));
    state = reducer(state, fieldTyped({ slot: 'switch', field: 'Vr', value: typed('V0', '900 V') }));
    state = reducer(state, kindChosen({ slot: 'switch', kind: 'thyristor' }));
    const block = state.document && blockIn(state.document.rig, 'switch');
    expect(block).toMatchObject({ kind: 'thyristor', fields: { Vr: { value: 900 }, direction: 'one-way' } });
    expect(state.drafts).toEqual({ 'store.C': '??' });
  });

  test('renames, notes, and opens the working of what is touched', () => {
    let state = reducer(opened(), renamed('Other'));
    state = reducer(state, noteWritten('dry today'));
    state = reducer(state, numberTouched('limit:reversal'));
    expect(state.document).toMatchObject({ name: 'Other', note: 'dry today' });
    expect(state).toMatchObject({ edits: 2, focus: 'limit:reversal', workingOpen: true });
  });
});

describe('saving', () => {
  const edit = (state: EditorState) => reducer(state, renamed(`${state.document?.name}x`));
  const done = (version: number, edits: number) => saveDone({ id: stored.id, version, edits, when: 5 });

  test('ends as saved only if nothing was edited meanwhile', () => {
    const saving = reducer(edit(opened()), saveBegun(undefined));
    expect(reducer(saving, done(4, 1))).toMatchObject({ version: 4, save: { at: 'saved', when: 5 } });
    expect(reducer(edit(saving), done(4, 1))).toMatchObject({ version: 4, save: { at: 'waiting' } });
  });

  test('of another rig changes nothing', () => {
    const state = edit(opened());
    expect(reducer(state, saveDone({ id: 'other', version: 9, edits: 1, when: 1 }))).toBe(state);
  });

  test('that is refused as stale stays refused through further edits, until the user decides', () => {
    let state = reducer(edit(opened()), saveFailed({ code: 'conflict', message: '' }));
    state = edit(state);
    expect(state.save.at).toBe('conflict');
    expect(reducer(state, rigOpened({ rig: { ...stored, version: 8 }, drafts: {} }))).toMatchObject({
      version: 8,
      save: { at: 'saved' },
    });
  });

  test('that fails says why, and the next edit waits again', () => {
    const state = reducer(edit(opened()), saveFailed({ code: 'server_away', message: 'The server does not answer.' }));
    expect(state.save).toEqual({ at: 'failed', message: 'The server does not answer.' });
    expect(edit(state).save.at).toBe('waiting');
  });
});
