import type { KeptEvent, RunTail } from '@vast-surge/contract';
import { runEventSchema, type RunEvent } from '@vast-surge/core/run';
import { failureOf } from './base-api.ts';
import type { Drawer, Outbox } from './outbox.ts';

/** What a screen does, before it gets its id, time and screen. */
export type BareEvent = RunEvent extends infer E ? (E extends RunEvent ? Omit<E, 'id' | 'at' | 'screen'> : never) : never;

/** Events of runs, those of one run and screen together, in the order of their times. */
export const runEvents: Drawer<readonly RunEvent[]> = {
  prefix: 'vast-surge.run.',
  keyOf: (screen, runId) => `${runId}.${screen}`,
  ownerOf: (rest) => {
    const [about = '', tab = ''] = rest.split('.');
    return { tab, about };
  },
  read: (data) => {
    const raw = data as readonly unknown[];
    const value = raw.flatMap((e) => (runEventSchema.safeParse(e).success ? [e as RunEvent] : []));
    return { value: value.length > 0 ? value : null, isWhole: value.length === raw.length };
  },
  isEmpty: (events) => events.length === 0,
  joins: (left, mine) => [...left, ...mine].sort((a, b) => a.at - b.at),
};

export interface RunQueueState {
  /** What the server has, and after it what it does not have yet. */
  readonly events: readonly KeptEvent[];
  readonly waiting: readonly RunEvent[];
  /** The server did not answer the last time. */
  readonly isAway: boolean;
  /** The device did not take the last event: it is in this page alone. */
  readonly isUnkept: boolean;
  /** Why the server takes nothing more from this device than an abort; null where it does. */
  readonly barred: string | null;
  /** ms that the clock of the server is ahead of this one. */
  readonly ahead: number;
}

interface Options {
  readonly runId: string;
  readonly screen: string;
  readonly outbox: Outbox<readonly RunEvent[]>;
  readonly events: readonly KeptEvent[];
  /** Sends events, or asks for what is new where there are none. @throws where no answer came */
  exchange(events: readonly RunEvent[], after: number): Promise<RunTail>;
  now?(): number;
}

/** Why whoever is signed in here may not act in a run; null where that is not what went wrong. */
function barredBy(error: unknown): string | null {
  const { code, message } = failureOf(error);
  return code === 'not_allowed' || code === 'signed_out' ? message : null;
}

/**
 * What was done in a run on its way to the server. Every event is on the device before it is sent, is sent in the order in which it
 * was done, and is let go of when the server says that it has it.
 */
export class RunQueue {
  private state: RunQueueState;
  private readonly listeners = new Set<() => void>();
  private readonly options: Options;
  private busy = false;
  private isClosed = false;

  constructor(options: Options) {
    this.options = options;
    this.state = {
      events: options.events,
      waiting: options.outbox.get(options.runId) ?? [],
      isAway: false,
      isUnkept: false,
      barred: null,
      ahead: 0,
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly snapshot = (): RunQueueState => this.state;

  private set(more: Partial<RunQueueState>): void {
    this.state = { ...this.state, ...more };
    for (const listener of this.listeners) listener();
  }

  private keep(waiting: readonly RunEvent[]): void {
    const isKept = this.options.outbox.put(this.options.runId, waiting);
    this.set({ waiting, isUnkept: !isKept });
  }

  /** Takes over what tabs that are closed by now left behind of this run. */
  adopt(openTabs: ReadonlySet<string>): void {
    const { outbox, runId } = this.options;
    outbox.adopt(openTabs, runId);
    const waiting = outbox.get(runId) ?? [];
    if (waiting.length === this.state.waiting.length) return;
    this.set({ waiting });
    void this.pump();
  }

  /** Something was done: it is kept, shown and sent. */
  act(bare: BareEvent): void {
    const at = (this.options.now ?? Date.now)();
    const event = { ...bare, id: crypto.randomUUID(), at, screen: this.options.screen } as RunEvent;
    this.keep([...this.state.waiting, event]);
    void this.pump();
  }

  /** An abort is everybody's: where the rest is refused it goes out alone, and what others do is seen all the same. */
  private async exchanged(waiting: readonly RunEvent[], after: number): Promise<{ tail: RunTail; barred: string | null }> {
    const { exchange } = this.options;
    try {
      return { tail: await exchange(waiting.slice(0, 200), after), barred: null };
    } catch (error) {
      const barred = barredBy(error);
      if (barred === null || waiting.length === 0) throw error;
      return { tail: await exchange(waiting.filter(({ type }) => type === 'aborted').slice(0, 200), after), barred };
    }
  }

  /** What the server told by itself: it counts as asked for, unless something between was missed. */
  take(tail: RunTail): void {
    const [first] = tail.events;
    const last = this.state.events.at(-1)?.number ?? 0;
    if (this.isClosed || !first) return;
    if (first.number > last + 1) void this.pump();
    else this.merge(tail);
  }

  private merge(tail: RunTail, more: Partial<RunQueueState> = {}): void {
    const known = new Set(this.state.events.map((e) => e.number));
    const merged = [...this.state.events, ...tail.events.filter((e) => !known.has(e.number))];
    const here = new Set(merged.map((e) => e.event.id));
    const left = this.state.waiting.filter((e) => !here.has(e.id));
    this.set({ events: merged, ahead: Date.parse(tail.now) - Date.now(), ...more });
    if (left.length !== this.state.waiting.length) this.keep(left);
  }

  /** Sends what waits, and asks for what other screens did. @returns whether the server answered */
  async pump(): Promise<boolean> {
    if (this.busy || this.isClosed) return !this.state.isAway;
    this.busy = true;
    const { waiting, events } = this.state;
    try {
      const { tail, barred } = await this.exchanged(waiting, events.at(-1)?.number ?? 0);
      this.merge(tail, { isAway: false, barred });
    } catch (error) {
      this.set({ isAway: true, barred: barredBy(error) });
    } finally {
      this.busy = false;
    }
    // Of what is refused only what came meanwhile is worth another try: it may be an abort.
    const isLeft = this.state.barred === null ? this.state.waiting.length > 0 : this.state.waiting.at(-1) !== waiting.at(-1);
    if (!this.state.isAway && isLeft) return this.pump();
    return !this.state.isAway;
  }

  close(): void {
    this.isClosed = true;
  }
}
