/** What was kept and read back. */
export interface Read<T> {
  /** What of it this program can use; null where that is nothing. */
  readonly value: T | null;
  /** Whether that is all of it. */
  readonly isWhole: boolean;
}

/** One kind of what waits for the server: edits of rigs, writes of the bench, events of runs. */
export interface Drawer<T> {
  /** What its keys on the device begin with. */
  readonly prefix: string;
  /** The rest of the key under which a tab keeps what is about something. */
  keyOf(tab: string, about: string): string;
  ownerOf(rest: string): { readonly tab: string; readonly about: string };
  /** @throws anything where it is none of this kind */
  read(data: unknown, about: string): Read<T>;
  /** Nothing waits any more: it needs no place on the device. */
  isEmpty(value: T): boolean;
  /** As it is kept, where that is not all of it. */
  kept?(value: T): unknown;
  /** What another tab left behind together with what is here; where it is not declared the first waits until the second is gone. */
  joins?(left: T, mine: T): T;
}

/** Something kept that this program cannot read, perhaps because another version wrote it. It is left until a person decides. */
export interface Strange {
  readonly key: string;
  readonly text: string;
}

const asidePrefix = 'vast-surge.aside.';

const keysWith = (storage: Storage, prefix: string): string[] =>
  Array.from({ length: storage.length }, (_, i) => storage.key(i) ?? '').filter((key) => key.startsWith(prefix));

/** What was put aside because this program could read only a part of it. */
export const putAside = (storage: Storage): Strange[] =>
  keysWith(storage, asidePrefix).map((key) => ({ key, text: storage.getItem(key) ?? '' }));

/**
 * What a tab still has to send, kept on the device at every change, so that neither a reload nor a crash loses any; what
 * cannot be read is never passed over in silence.
 */
export class Outbox<T> {
  private readonly held = new Map<string, T>();
  private readonly listeners = new Set<() => void>();
  private snapshot: readonly T[] = [];
  private strange: readonly Strange[] = [];
  private readonly drawer: Drawer<T>;
  private readonly tab: string;
  private readonly storage: Storage;

  constructor(drawer: Drawer<T>, tab: string, storage: Storage) {
    this.drawer = drawer;
    this.tab = tab;
    this.storage = storage;
    for (const { key, owner } of this.owned()) {
      if (owner.tab !== tab) continue;
      const value = this.readAt(key, owner.about);
      if (value !== null) this.held.set(owner.about, value);
    }
    this.changed();
  }

  private owned() {
    const { prefix } = this.drawer;
    return keysWith(this.storage, prefix).map((key) => ({ key, owner: this.drawer.ownerOf(key.slice(prefix.length)) }));
  }

  private keyOf(about: string): string {
    return this.drawer.prefix + this.drawer.keyOf(this.tab, about);
  }

  private strangeAt(key: string, text: string): null {
    if (!this.strange.some((s) => s.key === key)) this.strange = [...this.strange, { key, text }];
    return null;
  }

  private parse(text: string, about: string): Read<T> {
    try {
      return this.drawer.read(JSON.parse(text), about);
    } catch {
      return { value: null, isWhole: false };
    }
  }

  /** What lies under a key. Of what can be read in part a copy of the whole is put aside first; where there is no room, it stays. */
  private readAt(key: string, about: string): T | null {
    const text = this.storage.getItem(key) ?? '';
    const { value, isWhole } = this.parse(text, about);
    if (value === null) return this.strangeAt(key, text);
    if (isWhole) return value;
    try {
      this.storage.setItem(`${asidePrefix}${crypto.randomUUID()}`, text);
      return value;
    } catch {
      return this.strangeAt(key, text);
    }
  }

  private changed(): void {
    this.snapshot = [...this.held.values()];
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** All that waits; the same array until something changes. */
  readonly all = (): readonly T[] => this.snapshot;
  /** What is kept here and cannot be read. The same array until it changes. */
  readonly unreadable = (): readonly Strange[] => this.strange;

  get(about: string): T | undefined {
    return this.held.get(about);
  }

  /** @returns whether the device took it; it is kept in this page either way */
  put(about: string, value: T): boolean {
    if (this.drawer.isEmpty(value)) this.held.delete(about);
    else this.held.set(about, value);
    let isKept = true;
    try {
      if (this.drawer.isEmpty(value)) this.storage.removeItem(this.keyOf(about));
      else this.storage.setItem(this.keyOf(about), JSON.stringify(this.drawer.kept?.(value) ?? value));
    } catch {
      isKept = false;
    }
    this.changed();
    return isKept;
  }

  drop(about: string): void {
    this.held.delete(about);
    this.storage.removeItem(this.keyOf(about));
    this.changed();
  }

  /** Removes what could not be read, once a person has saved it elsewhere or does not want it. */
  forget(key: string): void {
    this.storage.removeItem(key);
    this.strange = this.strange.filter((s) => s.key !== key);
    this.changed();
  }

  /** What tabs that are closed by now have left behind is about these. */
  leftBy(openTabs: ReadonlySet<string>): string[] {
    const left = this.owned().filter(({ key, owner }) => {
      if (openTabs.has(owner.tab)) return false;
      return this.parse(this.storage.getItem(key) ?? '', owner.about).value !== null;
    });
    return [...new Set(left.map(({ owner }) => owner.about))];
  }

  /**
   * Takes over what tabs that are closed by now have left behind, each before what is here.
   *
   * @param about of this alone; left out, of everything
   */
  adopt(openTabs: ReadonlySet<string>, about?: string): void {
    for (const { key, owner } of this.owned()) {
      if (owner.tab === this.tab || openTabs.has(owner.tab) || (about !== undefined && owner.about !== about)) continue;
      const mine = this.held.get(owner.about);
      if (mine !== undefined && !this.drawer.joins) continue;
      const left = this.readAt(key, owner.about);
      if (left !== null && this.put(owner.about, mine === undefined ? left : (this.drawer.joins?.(left, mine) ?? mine)))
        this.storage.removeItem(key);
    }
    this.changed();
  }
}
