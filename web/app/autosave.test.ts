import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { blockDefinition } from '@vast-surge/core/kind';
import { readQuantityText, type FieldValue } from '@vast-surge/core/field';
import { quantityAt, withBlock, type RigDocument } from '@vast-surge/core/rig';
import { MemoryStorage } from '../test/memory-storage.ts';
import { FakeServer, openPage, rigId, stubBrowser, type Mood } from '../test/page.ts';
import { pendingEdit } from './autosave.ts';
import { fieldTyped, followed, noteWritten } from './edits.ts';
import { Outbox } from './outbox.ts';
import { rigEdits } from './rig-edits.ts';
import { redo, undo } from './undo.ts';

beforeEach(() => {
  vi.useFakeTimers();
  stubBrowser();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const note = (text: string) => noteWritten({ note: text });
const typed = (slot: 'store' | 'meter', kind: string, field: string, text: string) => {
  const spec = blockDefinition(slot, kind).fields[field];
  const read = spec?.type === 'quantity' ? readQuantityText(spec, text) : null;
  if (!read?.ok) throw new Error(`${field} takes no ${text}`);
  return { slot, field, value: read.value as FieldValue };
};
const volts = (text: string) => fieldTyped(typed('store', 'capacitor-bank', 'V0', text));
const farads = (text: string) => fieldTyped(typed('store', 'capacitor-bank', 'C', text));
const text = (document: RigDocument | null, path: string) => (document ? quantityAt(document.rig, path)?.value?.text : undefined);

/** Another hand changes the meter, or the voltage of the store. */
const otherHand = (server: FakeServer, slot: 'store' | 'meter', field: string, value: string) =>
  server.change((document) => {
    const block = slot === 'meter' ? document.rig.channels[0]?.meter : document.rig.channels[0]?.store;
    if (!block) throw new Error('no such block');
    const fields = { ...block.fields, [field]: typed(slot, block.kind, field, value).value };
    return { ...document, rig: withBlock(document.rig, slot, { ...block, fields }) };
  });

describe('sending', () => {
  test('waits for a quiet moment and sends a burst of edits once', async () => {
    const server = new FakeServer();
    const { store, outbox } = openPage(server);
    for (const words of ['a', 'ab', 'abc']) {
      store.dispatch(note(words));
      await vi.advanceTimersByTimeAsync(100);
    }
    expect([server.saves, outbox.get(rigId)?.document.note]).toEqual([0, 'abc']);
    await vi.advanceTimersByTimeAsync(2000);
    expect([server.saves, server.document.note, outbox.all().length]).toEqual([1, 'abc', 0]);
    expect(pendingEdit(store.getState())).toBeNull();
  });

  test('sends nothing when a rig is only opened, or when an edit was taken back before it went', async () => {
    const server = new FakeServer();
    const { store, outbox } = openPage(server);
    await vi.advanceTimersByTimeAsync(5000);
    store.dispatch(note('a slip'));
    undo(store);
    await vi.advanceTimersByTimeAsync(5000);
    expect([server.saves, outbox.all().length]).toEqual([0, 0]);
  });

  test('goes on trying while the server is away, keeps the edits over a reload, and says so meanwhile', async () => {
    const server = new FakeServer();
    server.mood = 'away';
    const first = openPage(server);
    first.store.dispatch(note('kept'));
    await vi.advanceTimersByTimeAsync(5000);
    expect(first.store.getState().editor.send).toEqual({ at: 'away', message: 'The server does not answer.', kept: true });
    vi.clearAllTimers();
    const second = openPage(server, first.storage);
    expect(second.store.getState().history.present?.note).toBe('kept');
    server.mood = 'well';
    await vi.advanceTimersByTimeAsync(5000);
    expect([server.document.note, second.store.getState().editor.send.at, second.storage.length]).toEqual(['kept', 'idle', 0]);
  });

  test('a device without room is said to be one, and the edit still goes', async () => {
    const server = new FakeServer();
    const storage = new MemoryStorage();
    storage.full = true;
    server.mood = 'away';
    const { store } = openPage(server, storage);
    store.dispatch(note('no room'));
    await vi.advanceTimersByTimeAsync(2000);
    expect(store.getState().editor.send).toMatchObject({ at: 'away', kept: false });
    server.mood = 'well';
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.document.note).toBe('no room');
  });

  test('what arrived although its answer was lost is not done twice and is no conflict with oneself', async () => {
    const server = new FakeServer();
    const { store } = openPage(server);
    server.mood = 'lost';
    store.dispatch(note('one'));
    await vi.advanceTimersByTimeAsync(1500);
    store.dispatch(note('two'));
    await vi.advanceTimersByTimeAsync(1500);
    server.mood = 'well';
    await vi.advanceTimersByTimeAsync(8000);
    expect([server.notes, server.stale, store.getState().editor.send.at]).toEqual([['one', 'two'], 0, 'idle']);
  });
});

describe('two hands', () => {
  test('edits of different blocks merge by themselves, both ways, and undo takes back only one’s own', async () => {
    const server = new FakeServer();
    const { store, merged } = openPage(server);
    otherHand(server, 'meter', 'V', '750 V');
    store.dispatch(volts('44 V'));
    await vi.advanceTimersByTimeAsync(4000);
    expect([text(server.document, 'store.V0'), text(server.document, 'meter.V'), merged]).toEqual(['44 V', '750 V', ['meter']]);
    undo(store);
    await vi.advanceTimersByTimeAsync(4000);
    expect([text(server.document, 'store.V0'), text(server.document, 'meter.V')]).toEqual(['48 V', '750 V']);
    redo(store);
    await vi.advanceTimersByTimeAsync(4000);
    expect([text(server.document, 'store.V0'), text(server.document, 'meter.V')]).toEqual(['44 V', '750 V']);
  });

  test('edits of one block wait for a person; nothing is overwritten and nothing dropped meanwhile', async () => {
    const server = new FakeServer();
    const { store, outbox, storage } = openPage(server);
    otherHand(server, 'store', 'V0', '41 V');
    store.dispatch(volts('43 V'));
    await vi.advanceTimersByTimeAsync(20_000);
    store.dispatch(farads('900 µF'));
    await vi.advanceTimersByTimeAsync(20_000);
    const { send, base } = store.getState().editor;
    expect([send.at, text(server.document, 'store.V0'), server.stale]).toEqual(['conflict', '41 V', 1]);
    expect(new Outbox(rigEdits, 'tab', storage).get(rigId)?.document).toEqual(store.getState().history.present);
    expect(outbox.get(rigId)?.stuck).toBe(true);
    if (send.at !== 'conflict' || !base) throw new Error('no conflict');
    const mine = store.getState().history.present;
    store.dispatch(followed({ id: rigId, was: base.document, theirs: send.theirs, document: mine ?? base.document }));
    await vi.advanceTimersByTimeAsync(4000);
    expect([text(server.document, 'store.V0'), text(server.document, 'store.C')]).toEqual(['43 V', '900 µF']);
  });

  test('what another hand saved comes in by being seen, without an edit of one’s own', () => {
    const server = new FakeServer();
    const { store, sender, outbox } = openPage(server);
    otherHand(server, 'meter', 'V', '750 V');
    sender.seen(rigId, { version: server.version, document: server.document }, Date.now());
    expect([text(store.getState().history.present, 'meter.V'), outbox.all().length]).toEqual(['750 V', 0]);
  });

  test('a state older than one’s own is an answer that came late, unless it was asked for after the last save: then all was restored', async () => {
    const server = new FakeServer();
    const { store, sender } = openPage(server);
    const old = { version: server.version, document: server.document };
    const asked = Date.now();
    store.dispatch(volts('44 V'));
    await vi.advanceTimersByTimeAsync(2000);
    sender.seen(rigId, old, asked);
    expect(text(store.getState().history.present, 'store.V0')).toBe('44 V');
    sender.seen(rigId, old, Date.now() + 1);
    expect([text(store.getState().history.present, 'store.V0'), store.getState().editor.base?.version]).toEqual(['48 V', 1]);
  });

  test('what another version kept and this one cannot read is shown and stays until a person removes it', () => {
    const storage = new MemoryStorage();
    const [broken, foreign] = [`vast-surge.edit.tab.${rigId}`, 'vast-surge.edit.gone.another'];
    storage.setItem(broken, '{"rigId":"from tomorrow"}');
    storage.setItem(foreign, 'no JSON');
    const outbox = new Outbox(rigEdits, 'tab', storage);
    outbox.adopt(new Set(['tab']));
    outbox.adopt(new Set(['tab']));
    expect([outbox.all(), outbox.unreadable().map((s) => s.key)]).toEqual([[], [broken, foreign]]);
    outbox.forget(broken);
    expect([outbox.unreadable().length, storage.getItem(broken), storage.getItem(foreign)]).toEqual([1, null, 'no JSON']);
  });

  test('edits that a closed tab left behind are taken up by another; those of an open tab are not', () => {
    const storage = new MemoryStorage();
    const base = { version: 1, document: new FakeServer().document };
    new Outbox(rigEdits, 'dead', storage).put(rigId, {
      rigId,
      base,
      document: { ...base.document, note: 'left behind' },
      sending: null,
    });
    const heir = new Outbox(rigEdits, 'heir', storage);
    heir.adopt(new Set(['heir', 'dead']));
    expect(heir.all()).toHaveLength(0);
    heir.adopt(new Set(['heir']));
    expect([heir.get(rigId)?.document.note, new Outbox(rigEdits, 'dead', storage).all().length]).toEqual(['left behind', 0]);
  });
});

test('whatever the edits, the moods of the server, the reloads and the other hand: no edit is lost, doubled or overwritten', async () => {
  const step = fc.oneof(
    { weight: 3, arbitrary: fc.record({ do: fc.constant('edit' as const) }) },
    { weight: 3, arbitrary: fc.record({ do: fc.constant('wait' as const), ms: fc.integer({ min: 1, max: 4000 }) }) },
    {
      weight: 2,
      arbitrary: fc.record({ do: fc.constant('mood' as const), mood: fc.constantFrom<Mood>('well', 'away', 'slow', 'lost') }),
    },
    {
      weight: 1,
      arbitrary: fc.record({ do: fc.constantFrom('other' as const, 'undo' as const, 'redo' as const, 'reload' as const) }),
    },
  );
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 30 }), async (steps) => {
      const server = new FakeServer();
      let page = openPage(server);
      let [edits, others] = [0, 0];
      for (const s of steps) {
        if (s.do === 'edit') page.store.dispatch(note(`edit ${++edits}`));
        else if (s.do === 'wait') await vi.advanceTimersByTimeAsync(s.ms);
        else if (s.do === 'mood') server.mood = s.mood;
        else if (s.do === 'other') otherHand(server, 'meter', 'V', `${600 + ++others} V`);
        else if (s.do === 'undo') undo(page.store);
        else if (s.do === 'redo') redo(page.store);
        else {
          // The page goes away in the middle of whatever it was doing.
          vi.clearAllTimers();
          page = openPage(server, page.storage);
        }
      }
      server.mood = 'well';
      await vi.advanceTimersByTimeAsync(30_000);
      const present = page.store.getState().history.present;
      expect(server.document.note).toBe(present?.note);
      expect(text(server.document, 'meter.V')).toBe(others === 0 ? '600 V' : `${600 + others} V`);
      expect(page.store.getState().editor.send.at).toBe('idle');
      expect([page.storage.length, page.outbox.all().length]).toEqual([0, 0]);
      // The same state comes twice only where it was made twice, by an undo.
      if (!steps.some((s) => s.do === 'undo' || s.do === 'redo')) expect(new Set(server.notes).size).toBe(server.notes.length);
    }),
    { numRuns: 150 },
  );
});
