import { requestOf, writeWords, type BenchRequest, type BenchWrite } from './bench-write.ts';

/** A write that waits for its turn, kept on the device until the server has done it or refused it. */
export interface Queued {
  readonly key: string;
  readonly at: string;
  readonly write: BenchWrite;
}

/** A write that the server did not do. It waits until a person has seen it. */
export interface RefusedWrite extends Queued {
  readonly message: string;
}

export type SendOutcome = { readonly ok: true } | { readonly ok: false; readonly again: boolean; readonly message: string };

export interface QueueState {
  readonly waiting: readonly Queued[];
  readonly refused: readonly RefusedWrite[];
  /** Why the first one does not get through just now; it is tried again by itself. */
  readonly trouble: string | null;
  /** Whether the device keeps what waits; a full one does not. */
  readonly kept: boolean;
}

export interface QueueOptions {
  readonly storage: Storage;
  readonly tab: string;
  readonly send: (request: BenchRequest, key: string) => Promise<SendOutcome>;
  /** Runs after a write was done and before it leaves the queue: the bench is fetched anew, so that nothing flickers. */
  readonly done: () => Promise<void>;
  readonly retryTime?: number;
}

const prefix = 'vast-surge.bench.';
/** As the outbox of rigs names what is kept here; it shows what it cannot read. */
const strangePrefix = 'vast-surge.edit.';

interface Stored {
  readonly waiting: readonly Queued[];
  readonly refused: readonly RefusedWrite[];
}

/**
 * What a tab has left in the queue. What cannot be read, perhaps because another version wrote it, is put where edits of
 * that kind lie until a person decides about them.
 */
function stored(storage: Storage, tab: string): Stored {
  const text = storage.getItem(prefix + tab);
  if (text === null) return { waiting: [], refused: [] };
  const aside = () => {
    try {
      storage.setItem(`${strangePrefix}bench-${tab}.${crypto.randomUUID()}`, text);
    } catch {
      // A full device keeps it where it is until there is room.
    }
  };
  try {
    const { waiting, refused } = JSON.parse(text) as Stored;
    const readable = ({ key, write }: Queued): boolean => {
      // A write of another version that this one cannot word is none it could send.
      try {
        return typeof key === 'string' && typeof writeWords(write) === 'string' && typeof requestOf(write).url === 'string';
      } catch {
        return false;
      }
    };
    if (![...waiting, ...refused].every(readable)) aside();
    return { waiting: waiting.filter(readable), refused: refused.filter(readable) };
  } catch {
    aside();
    return { waiting: [], refused: [] };
  }
}

/**
 * Writes of the bench, sent one after the other in the order in which they were made, each with a key of its own. What
 * the server does not answer is sent again with the same key, which does it once; a reload and a crash lose none.
 */
export class BenchQueue {
  private state: QueueState;
  private readonly listeners = new Set<() => void>();
  private readonly options: QueueOptions;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running = false;

  constructor(options: QueueOptions) {
    this.options = options;
    this.state = { ...stored(options.storage, options.tab), trouble: null, kept: true };
  }

  readonly get = (): QueueState => this.state;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private set(change: Partial<QueueState>): void {
    this.state = { ...this.state, ...change };
    const { waiting, refused } = this.state;
    const { storage, tab } = this.options;
    try {
      if (waiting.length + refused.length === 0) storage.removeItem(prefix + tab);
      else storage.setItem(prefix + tab, JSON.stringify({ waiting, refused }));
      this.state = { ...this.state, kept: true };
    } catch {
      this.state = { ...this.state, kept: false };
    }
    for (const listener of this.listeners) listener();
  }

  /** Takes over what tabs that are closed by now have left behind. */
  adopt(openTabs: ReadonlySet<string>): void {
    const { storage, tab } = this.options;
    const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i) ?? '').filter((k) => k.startsWith(prefix));
    for (const key of keys) {
      const owner = key.slice(prefix.length);
      if (owner === tab || openTabs.has(owner)) continue;
      const { waiting, refused } = stored(storage, owner);
      this.set({ waiting: [...this.state.waiting, ...waiting], refused: [...this.state.refused, ...refused] });
      if (this.state.kept) storage.removeItem(key);
    }
    this.kick();
  }

  add(write: BenchWrite): void {
    this.set({ waiting: [...this.state.waiting, { key: crypto.randomUUID(), at: new Date().toISOString(), write }] });
    this.kick();
  }

  /** A person has seen what was not done. */
  dismiss(key: string): void {
    this.set({ refused: this.state.refused.filter((r) => r.key !== key) });
  }

  /** Sends what waits, now. */
  kick(): void {
    clearTimeout(this.timer);
    if (!this.running) void this.run();
  }

  private async run(): Promise<void> {
    this.running = true;
    for (let [first] = this.state.waiting; first; [first] = this.state.waiting) {
      const { key, write } = first;
      const outcome = await this.options.send(requestOf(write), key);
      if (!outcome.ok && outcome.again) {
        this.set({ trouble: outcome.message });
        this.timer = setTimeout(() => this.kick(), this.options.retryTime ?? 2000);
        break;
      }
      if (outcome.ok) await this.options.done();
      this.set({
        waiting: this.state.waiting.filter((w) => w.key !== key),
        refused: outcome.ok ? this.state.refused : [...this.state.refused, { ...first, message: outcome.message }],
        trouble: null,
      });
    }
    this.running = false;
  }
}
