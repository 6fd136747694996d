import fc from 'fast-check';
import { expect, test } from 'vitest';
import { MemoryStorage } from '../test/memory-storage.ts';
import { Outbox, putAside, type Drawer } from './outbox.ts';

/** Words in their order: the plainest of what may wait. */
const words: Drawer<readonly string[]> = {
  prefix: 'words.',
  keyOf: (tab, about) => `${tab}.${about}`,
  ownerOf: (rest) => {
    const [tab = '', about = ''] = rest.split('.');
    return { tab, about };
  },
  read: (data) => {
    const raw = data as unknown[];
    const value = raw.filter((word): word is string => typeof word === 'string');
    return { value: value.length > 0 ? value : null, isWhole: value.length === raw.length };
  },
  isEmpty: (list) => list.length === 0,
  joins: (left, mine) => [...left, ...mine],
};
/** The same, but what another tab left waits until what is here is gone. */
const onlyOne: Drawer<readonly string[]> = { ...words, joins: undefined as never };

const abouts = ['x', 'y'] as const;
type Lists = Map<string, readonly string[]>;

interface Tab {
  readonly box: Outbox<readonly string[]>;
  /** What its page holds, by what it is about, and what the device has of that. */
  readonly holds: Lists;
}

/** What has to be true, told without any storage: what each open tab holds, and what closed ones left on the device. */
class Model {
  readonly open = new Map<string, Tab>();
  /** By tab, what lies on the device. */
  readonly device = new Map<string, Lists>();
  said = 0;
}
interface Real {
  readonly storage: MemoryStorage;
  readonly drawer: Drawer<readonly string[]>;
}

const namesOf = (list: ReadonlyMap<string, unknown>): string[] => [...list.keys()];
const onDevice = (model: Model, tab: string): Lists => {
  const lists = model.device.get(tab) ?? new Map<string, readonly string[]>();
  model.device.set(tab, lists);
  return lists;
};

type Step = (model: Model, real: Real) => void;

function put(model: Model, { storage }: Real, name: string, about: string, list: readonly string[]): void {
  const tab = model.open.get(name);
  if (!tab) return;
  const isKept = tab.box.put(about, list);
  const lists = onDevice(model, name);
  if (list.length === 0) [tab.holds, lists].forEach((held) => held.delete(about));
  else {
    tab.holds.set(about, list);
    if (!storage.full) lists.set(about, list);
  }
  expect(isKept).toBe(list.length === 0 || !storage.full);
}

const steps: Readonly<Record<string, (name: string, about: string) => Step>> = {
  open:
    (name) =>
    (model, { storage, drawer }) => {
      if (model.open.has(name)) return;
      const holds = new Map(onDevice(model, name));
      model.open.set(name, { box: new Outbox(drawer, name, storage), holds });
    },
  // A crash, or a reload: what the device did not take is gone, all else is there again.
  close: (name) => (model) => void model.open.delete(name),
  say: (name, about) => (model, real) => {
    const before = model.open.get(name)?.holds.get(about) ?? [];
    put(model, real, name, about, [...before, `${name}${model.said++}`]);
  },
  done: (name, about) => (model, real) => put(model, real, name, about, (model.open.get(name)?.holds.get(about) ?? []).slice(1)),
  drop: (name, about) => (model) => {
    model.open.get(name)?.box.drop(about);
    if (model.open.has(name)) [model.open.get(name)?.holds, onDevice(model, name)].forEach((held) => held?.delete(about));
  },
  adopt:
    (name) =>
    (model, { storage, drawer }) => {
      const tab = model.open.get(name);
      if (!tab) return;
      tab.box.adopt(new Set(model.open.keys()));
      // In the order in which the device tells them; what goes to whom does not depend on it.
      for (const left of namesOf(model.device)) {
        if (model.open.has(left)) continue;
        for (const [about, list] of [...onDevice(model, left)]) {
          const mine = tab.holds.get(about);
          if (mine && !drawer.joins) continue;
          const all = [...(tab.box.get(about) ?? [])];
          // Of two that were left the one that the device tells first comes; the other waits.
          if (!drawer.joins && String(all) !== String(list)) continue;
          expect(all).toEqual(expect.arrayContaining([...list]));
          tab.holds.set(about, all);
          if (storage.full) continue;
          onDevice(model, left).delete(about);
          onDevice(model, name).set(about, all);
        }
      }
    },
  fill:
    () =>
    (_, { storage }) =>
      void (storage.full = true),
  empty:
    () =>
    (_, { storage }) =>
      void (storage.full = false),
};

function check({ open, device }: Model, { storage }: Real): void {
  for (const [name, { box, holds }] of open) {
    for (const about of abouts) expect(box.get(about), `${name} about ${about}`).toEqual(holds.get(about));
    expect(box.all()).toHaveLength(holds.size);
    expect(box.unreadable()).toEqual([]);
  }
  const kept = [...device].flatMap(([name, lists]) =>
    [...lists].map(([about, list]) => [`words.${name}.${about}`, list] as const),
  );
  expect(storage.length).toBe(kept.length);
  for (const [key, list] of kept) expect(JSON.parse(storage.getItem(key) ?? 'null')).toEqual(list);
}

test.each([
  ['joined', words],
  ['kept apart', onlyOne],
])(
  'whatever tabs do, crash and take over, and however full the device is: all that is %s is held once, in its order',
  (_, drawer) => {
    const step = fc.record({
      // Full and empty are rare, what people do is not.
      what: fc.constantFrom(
        'open',
        'open',
        'say',
        'say',
        'say',
        'say',
        'done',
        'done',
        'drop',
        'close',
        'adopt',
        'adopt',
        'fill',
        'empty',
      ),
      name: fc.constantFrom('a', 'b', 'c'),
      about: fc.constantFrom(...abouts),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (list) => {
        const [model, real] = [new Model(), { storage: new MemoryStorage(), drawer }];
        for (const { what, name, about } of list) {
          // A full device takes over nothing: it would hold it twice.
          if (what === 'adopt' && real.storage.full) continue;
          steps[what]?.(name, about)(model, real);
          check(model, real);
        }
        // At last one tab stands open, and everything the device holds comes to it.
        for (const name of ['a', 'b', 'c']) steps['close']?.(name, '')(model, real);
        real.storage.full = false;
        const before = [...model.device.values()].flatMap((lists) => [...lists.values()].flat());
        steps['open']?.('heir', '')(model, real);
        for (let k = 0; k < 4; k++) {
          steps['adopt']?.('heir', '')(model, real);
          if (drawer.joins) continue;
          for (const about of abouts)
            before.push(...(model.open.get('heir')?.holds.get(about) ?? []).map((word) => `sent ${word}`));
          for (const about of abouts) steps['drop']?.('heir', about)(model, real);
        }
        const sent = before.filter((word) => word.startsWith('sent ')).map((word) => word.slice(5));
        const asked = before.filter((word) => !word.startsWith('sent '));
        const there = drawer.joins ? [...(model.open.get('heir')?.holds.values() ?? [])].flat() : sent;
        expect([...there].sort()).toEqual([...asked].sort());
        // Of one tab the order stands.
        for (const name of ['a', 'b', 'c']) {
          const own = there.filter((word) => word.startsWith(name)).map((word) => Number(word.slice(1)));
          if (drawer.joins)
            for (const about of abouts) expect(ordered(model.open.get('heir')?.holds.get(about) ?? [], name)).toBe(true);
          expect(new Set(own).size).toBe(own.length);
        }
      }),
      { numRuns: 300 },
    );
  },
);

function ordered(list: readonly string[], name: string): boolean {
  const own = list.filter((word) => word.startsWith(name)).map((word) => Number(word.slice(1)));
  return own.every((n, i) => i === 0 || n > (own[i - 1] ?? Infinity));
}

test('what cannot be read is left, of what can in part a copy is put aside; where there is no room for it, all stays', () => {
  const storage = new MemoryStorage();
  storage.setItem('words.gone.x', 'no JSON');
  storage.setItem('words.gone.y', '["one", 2, "three"]');
  const box = new Outbox(words, 'here', storage);
  expect(box.leftBy(new Set(['here']))).toEqual(['y']);
  storage.full = true;
  box.adopt(new Set(['here']));
  expect([box.get('y'), storage.getItem('words.gone.y')]).toEqual([undefined, '["one", 2, "three"]']);
  storage.full = false;
  const again = new Outbox(words, 'again', storage);
  again.adopt(new Set(['again']));
  expect(again.get('y')).toEqual(['one', 'three']);
  expect(putAside(storage).map(({ text }) => text)).toEqual(['["one", 2, "three"]']);
  expect(again.unreadable()).toEqual([{ key: 'words.gone.x', text: 'no JSON' }]);
  putAside(storage).forEach(({ key }) => again.forget(key));
  again.forget('words.gone.x');
  expect([again.unreadable(), putAside(storage), storage.length]).toEqual([[], [], 1]);
});
