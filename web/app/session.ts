import { useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import type { RunEvent } from '@vast-surge/core/run';
import { startSender, placesWords, type Sender } from './autosave.ts';
import { startBench } from './bench.ts';
import { benchWrites } from './bench-queue.ts';
import { Outbox, putAside, type Strange } from './outbox.ts';
import { rigEdits, type KeptEdit } from './rig-edits.ts';
import { runEvents } from './run-queue.ts';
import { store } from './store.ts';
import { claimTab, openTabs } from './tab.ts';

/** What waits for the server on this device: one drawer for rigs, one for the bench, one for runs. */
const outboxesOf = (tab: string) => ({
  rigs: new Outbox(rigEdits, tab, localStorage),
  bench: new Outbox(benchWrites, tab, localStorage),
  runs: new Outbox(runEvents, tab, localStorage),
});

let outboxes: ReturnType<typeof outboxesOf> | null = null;
let sender: Sender | null = null;
let screen = '';

/** Edits left behind by tabs that are closed by now come to this one. */
export async function adoptEdits(): Promise<void> {
  outboxes?.rigs.adopt(await openTabs());
}

/** Gives this tab its name, takes up the edits it still has to send, and starts sending. */
export async function startSession(): Promise<void> {
  const tab = await claimTab();
  screen = tab;
  outboxes = outboxesOf(tab);
  startBench(outboxes.bench, await openTabs());
  await adoptEdits();
  sender = startSender(store, outboxes.rigs, (_id, places) => {
    const open = store.getState().history.present;
    if (open) toast(`Edited elsewhere, merged: ${placesWords(places, open.rig)}.`, { duration: 8000 });
  });
}

const none: readonly KeptEdit[] = [];
const never = () => () => undefined;

/** Edits that the server has not acknowledged yet. */
export const useKeptEdits = (): readonly KeptEdit[] =>
  useSyncExternalStore(outboxes?.rigs.subscribe ?? never, outboxes?.rigs.all ?? (() => none));

let strangers: readonly Strange[] = [];
/** All of what cannot be read; the same array while it is the same. */
function strange(): readonly Strange[] {
  if (!outboxes) return strangers;
  const { rigs, bench, runs } = outboxes;
  const now = [...rigs.unreadable(), ...bench.unreadable(), ...runs.unreadable(), ...putAside(localStorage)];
  if (now.length !== strangers.length || now.some(({ key }, i) => key !== strangers[i]?.key)) strangers = now;
  return strangers;
}

/** What is kept on the device and cannot be read by this version. */
export const useStrangeEdits = (): readonly Strange[] => useSyncExternalStore(outboxes?.rigs.subscribe ?? never, strange);

export const forgetStrangeEdit = (key: string): void => {
  outboxes?.bench.forget(key);
  outboxes?.runs.forget(key);
  outboxes?.rigs.forget(key);
};

export const keptEdit = (rigId: string): KeptEdit | undefined => outboxes?.rigs.get(rigId);

/** Events of runs that wait on this device. @throws Error before {@link startSession} */
export function runOutbox(): Outbox<readonly RunEvent[]> {
  if (!outboxes) throw new Error('the session has not started');
  return outboxes.runs;
}

/** The name of this screen in the runs that it acts in. */
export const theScreen = (): string => screen;

/** @throws Error before {@link startSession} */
export function theSender(): Sender {
  if (!sender) throw new Error('the session has not started');
  return sender;
}
