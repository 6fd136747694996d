import { rigDocumentSchema, type RigDocument } from '@vast-surge/core/rig';
import type { Base } from './edits.ts';

/** Edits of a rig that the server has not acknowledged yet. */
export interface KeptEdit {
  readonly rigId: string;
  readonly base: Base;
  /** What the rig is to become. */
  readonly document: RigDocument;
  /**
   * An attempt whose outcome is not known: it may have arrived although no answer came. It is sent again with the same
   * key, and only then what was edited since.
   */
  readonly sending: { readonly key: string; readonly document: RigDocument } | null;
  /** The edits clash with another hand's and wait until a person opens the rig. */
  readonly stuck?: boolean;
}

const prefix = 'vast-surge.edit.';
const keyOf = (tab: string, rigId: string) => `${prefix}${tab}.${rigId}`;

function read(text: string | null): KeptEdit | null {
  try {
    const raw = JSON.parse(text ?? '') as KeptEdit;
    const document = (value: unknown) => rigDocumentSchema.parse(value);
    return {
      rigId: raw.rigId,
      base: { version: raw.base.version, document: document(raw.base.document) },
      document: document(raw.document),
      sending: raw.sending ? { key: raw.sending.key, document: document(raw.sending.document) } : null,
    };
  } catch {
    return null;
  }
}

/** Something kept that this program cannot read, perhaps because another version wrote it. It is left until a person decides. */
export interface StrangeEdit {
  readonly key: string;
  readonly text: string;
}

/**
 * The edits of this tab that still have to reach the server, kept on the device at every change, so that neither a
 * reload nor a crash loses one.
 */
export class Outbox {
  private readonly edits = new Map<string, KeptEdit>();
  private readonly listeners = new Set<() => void>();
  private snapshot: readonly KeptEdit[] = [];
  private strange: readonly StrangeEdit[] = [];
  private readonly tab: string;
  private readonly storage: Storage;

  constructor(tab: string, storage: Storage) {
    this.tab = tab;
    this.storage = storage;
    for (const key of this.keys()) {
      const [owner] = key.slice(prefix.length).split('.');
      const edit = owner === tab ? this.readAt(key) : null;
      if (edit) this.edits.set(edit.rigId, edit);
    }
    this.changed();
  }

  /** The edit under a key; one that cannot be read is noted, so that it is never passed over in silence. */
  private readAt(key: string): KeptEdit | null {
    const text = this.storage.getItem(key);
    const edit = read(text);
    if (edit && key.endsWith(`.${edit.rigId}`)) return edit;
    if (text !== null && !this.strange.some((s) => s.key === key)) this.strange = [...this.strange, { key, text }];
    return null;
  }

  /** What is kept here and cannot be read. The same array until it changes. */
  readonly unreadable = (): readonly StrangeEdit[] => this.strange;

  /** Removes what could not be read, once a person has saved it elsewhere or does not want it. */
  forget(key: string): void {
    this.storage.removeItem(key);
    this.strange = this.strange.filter((s) => s.key !== key);
    this.changed();
  }

  private keys(): string[] {
    return Array.from({ length: this.storage.length }, (_, i) => this.storage.key(i) ?? '').filter((key) =>
      key.startsWith(prefix),
    );
  }

  private changed(): void {
    this.snapshot = [...this.edits.values()];
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** All edits; the same array until one changes. */
  readonly all = (): readonly KeptEdit[] => this.snapshot;

  get(rigId: string): KeptEdit | undefined {
    return this.edits.get(rigId);
  }

  /** @returns whether the device took it; it is kept in this page either way */
  put(edit: KeptEdit): boolean {
    this.edits.set(edit.rigId, edit);
    this.changed();
    try {
      this.storage.setItem(keyOf(this.tab, edit.rigId), JSON.stringify({ ...edit, stuck: undefined }));
      return true;
    } catch {
      return false;
    }
  }

  drop(rigId: string): void {
    this.edits.delete(rigId);
    this.storage.removeItem(keyOf(this.tab, rigId));
    this.changed();
  }

  /**
   * Takes over edits that tabs which are closed by now have left behind, one for each rig; a second one of the same rig
   * waits until the first is sent.
   */
  adopt(openTabs: ReadonlySet<string>): void {
    for (const key of this.keys()) {
      const [owner = '', rigId = ''] = key.slice(prefix.length).split('.');
      if (owner === this.tab || openTabs.has(owner) || this.edits.has(rigId)) continue;
      const edit = this.readAt(key);
      if (!edit) continue;
      if (this.put(edit)) this.storage.removeItem(key);
    }
    this.changed();
  }
}
