import { useEffect, useState, useSyncExternalStore } from 'react';
import type { StoredRig } from '@vast-surge/contract';
import type { Headline } from '@vast-surge/core/evaluation';
import type { HeadlineCalculations } from './headlines.worker.ts';
import { SupervisedWorker } from './supervised.ts';

const worker = new SupervisedWorker<HeadlineCalculations>(
  () => new Worker(new URL('./headlines.worker.ts', import.meta.url), { type: 'module' }),
);

/** So many rigs are asked for at once, so that the first answers come soon. */
const batchSize = 25;
const retryTime = 2000;

const keyOf = ({ id, version }: StoredRig) => `${id} ${version}`;

/** Headlines by rig and version; a version never changes, so what is known stays true. */
const known = new Map<string, Headline>();
const listeners = new Set<() => void>();
let size = 0;

function learn(batch: readonly StoredRig[], found: readonly Headline[]): void {
  batch.forEach((rig, i) => {
    const headline = found[i];
    if (headline) known.set(keyOf(rig), headline);
  });
  size = known.size;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export interface Headlines {
  of(rig: StoredRig): Headline | undefined;
  /** Why the worker has no answer just now; it is asked again by itself. */
  readonly trouble: string | null;
}

/** The headlines of a list of rigs, as they come in from the worker. */
export function useHeadlines(rigs: readonly StoredRig[]): Headlines {
  useSyncExternalStore(subscribe, () => size);
  const [trouble, setTrouble] = useState<string | null>(null);
  const wanted = rigs.map(keyOf).join();
  useEffect(() => {
    let current = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const ask = async () => {
      try {
        for (;;) {
          const batch = rigs.filter((rig) => !known.has(keyOf(rig))).slice(0, batchSize);
          if (batch.length === 0) break;
          const found = await worker.call((remote) => remote.headlines(batch.map((rig) => rig.document.rig)));
          learn(batch, found);
          if (!current) return;
        }
        setTrouble(null);
      } catch (error) {
        if (!current) return;
        setTrouble(error instanceof Error ? error.message : 'no reason given');
        timer = setTimeout(() => void ask(), retryTime);
      }
    };
    void ask();
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // The rigs are those that `wanted` names.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [wanted]);
  return { of: (rig) => known.get(keyOf(rig)), trouble };
}
