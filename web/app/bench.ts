import { useMemo, useSyncExternalStore } from 'react';
import { passing, type StoredLot, type StoredPart } from '@vast-surge/contract';
import { api, failureOf, useGetBenchQuery } from './api.ts';
import { usePolling } from './live.ts';
import { BenchQueue, type BenchWrites, type QueueState } from './bench-queue.ts';
import { emptyBench, requestOf, withWrite, type BenchWrite, type KnownBench } from './bench-write.ts';
import type { Outbox } from './outbox.ts';
import { store } from './store.ts';

/** Failures after which a write is sent again: nothing in the request was wrong. */
const passesBy = (code: string): boolean => passing.has(code) || code === 'server_away' || code === 'internal';

let queue: BenchQueue | null = null;

/** Starts sending what waits for the bench, also what closed tabs have left. */
export function startBench(outbox: Outbox<BenchWrites>, openTabs: ReadonlySet<string>): void {
  queue = new BenchQueue({
    outbox,
    send: async (request, key) => {
      try {
        await store.dispatch(api.endpoints.writeBench.initiate({ ...request, key })).unwrap();
        return { ok: true };
      } catch (error) {
        const { code, message } = failureOf(error);
        return { ok: false, again: passesBy(code), message };
      }
    },
    done: lookAgain,
  });
  queue.adopt(openTabs);
}

/** Fetches what changed. A look that was under way before may not show a write just done: it is done again until one began after it. */
async function lookAgain(): Promise<void> {
  const since = Date.now();
  for (let i = 0; i < 3; i++) {
    await store.dispatch(api.endpoints.getBench.initiate(undefined, { forceRefetch: true, subscribe: false }));
    const { startedTimeStamp = 0, isError } = api.endpoints.getBench.select(undefined)(store.getState());
    if (startedTimeStamp >= since || isError) return;
  }
}

const idle: QueueState = { waiting: [], refused: [], trouble: null, kept: true };
const never = () => () => undefined;

export const useQueue = (): QueueState => useSyncExternalStore(queue?.subscribe ?? never, queue?.get ?? (() => idle));
export const dismissRefused = (key: string): void => queue?.dismiss(key);
export const sendNow = (): void => queue?.kick();

/** Writes to the bench: shown at once, kept on the device, and sent as soon as the server can be reached. */
export const writeBench = (write: BenchWrite): void => queue?.add(write);

/** Does a write at once, outside the queue: for what is in a file as well. @throws what the server says against it */
export async function writeBenchNow(write: BenchWrite, key: string): Promise<void> {
  await store.dispatch(api.endpoints.writeBench.initiate({ ...requestOf(write), key })).unwrap();
  await lookAgain();
}

export interface Shelf {
  /** Parts on the bench, by tag. */
  readonly parts: readonly StoredPart[];
  readonly lots: readonly StoredLot[];
  readonly bench: KnownBench;
  /** Whether the server has been heard of at all. */
  readonly loaded: boolean;
  readonly error: unknown;
  refetch(): void;
}

const byTag = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** The bench with what is on its way to the server. */
export function useShelf(): Shelf {
  const { data, error, refetch } = useGetBenchQuery(undefined, {
    refetchOnMountOrArgChange: true,
    pollingInterval: usePolling(5000),
    skipPollingIfUnfocused: true,
  });
  const { waiting } = useQueue();
  const bench = useMemo(() => waiting.reduce((b, { write, at }) => withWrite(b, write, at), data ?? emptyBench), [data, waiting]);
  const parts = useMemo(
    () =>
      [...bench.parts.values()]
        .filter((p) => p.removedAt === null)
        .sort((a, b) => byTag.compare(a.part.tag || '\uffff', b.part.tag || '\uffff')),
    [bench],
  );
  const lots = useMemo(() => [...bench.lots.values()].sort((a, b) => byTag.compare(a.lot.name, b.lot.name)), [bench]);
  return { parts, lots, bench, loaded: data !== undefined, error, refetch: () => void refetch() };
}
