import { requestOf, writeWords, type BenchRequest, type BenchWrite } from './bench-write.ts';
import type { Drawer, Outbox } from './outbox.ts';

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
  readonly outbox: Outbox<BenchWrites>;
  readonly send: (request: BenchRequest, key: string) => Promise<SendOutcome>;
  /** Runs after a write was done and before it leaves the queue: the bench is fetched anew, so that nothing flickers. */
  readonly done: () => Promise<void>;
  readonly retryTime?: number;
}

/** Writes of one tab, in the order in which they were made. */
export interface BenchWrites {
  readonly waiting: readonly Queued[];
  readonly refused: readonly RefusedWrite[];
}

/** A write of another version that this one cannot word is none it could send. */
function isReadable({ key, write }: Queued): boolean {
  try {
    return typeof key === 'string' && typeof writeWords(write) === 'string' && typeof requestOf(write).url === 'string';
  } catch {
    return false;
  }
}

const bench = 'bench';
const none: BenchWrites = { waiting: [], refused: [] };

/** Writes of the bench, all of a tab together. */
export const benchWrites: Drawer<BenchWrites> = {
  prefix: 'vast-surge.bench.',
  keyOf: (tab) => tab,
  ownerOf: (tab) => ({ tab, about: bench }),
  read: (data) => {
    const { waiting, refused } = data as BenchWrites;
    return {
      value: { waiting: waiting.filter(isReadable), refused: refused.filter(isReadable) },
      isWhole: [...waiting, ...refused].every(isReadable),
    };
  },
  isEmpty: ({ waiting, refused }) => waiting.length + refused.length === 0,
  joins: (left, mine) => ({ waiting: [...left.waiting, ...mine.waiting], refused: [...left.refused, ...mine.refused] }),
};

/**
 * Writes of the bench, sent one after the other in the order in which they were made, each with a key of its own. What
 * the server does not answer is sent again with the same key, which does it once.
 */
export class BenchQueue {
  private state: QueueState;
  private readonly listeners = new Set<() => void>();
  private readonly options: QueueOptions;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running = false;

  constructor(options: QueueOptions) {
    this.options = options;
    this.state = { ...(options.outbox.get(bench) ?? none), trouble: null, kept: true };
  }

  readonly get = (): QueueState => this.state;
  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private set(change: Partial<QueueState>): void {
    const { waiting, refused, trouble } = { ...this.state, ...change };
    const kept = this.options.outbox.put(bench, { waiting, refused });
    this.state = { waiting, refused, trouble, kept };
    for (const listener of this.listeners) listener();
  }

  /** Takes over what tabs that are closed by now have left behind. */
  adopt(openTabs: ReadonlySet<string>): void {
    this.options.outbox.adopt(openTabs);
    this.set(this.options.outbox.get(bench) ?? none);
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
