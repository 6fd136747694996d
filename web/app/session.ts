import { useSyncExternalStore } from 'react';
import { setupListeners } from '@reduxjs/toolkit/query';
import { toast } from 'sonner';
import { startSender, placesWords, type Sender } from './autosave.ts';
import { startBench } from './bench.ts';
import { Outbox, type KeptEdit, type StrangeEdit } from './outbox.ts';
import { store } from './store.ts';
import { claimTab, openTabs } from './tab.ts';

let outbox: Outbox | null = null;
let sender: Sender | null = null;
let screen = '';

/** Edits left behind by tabs that are closed by now come to this one. */
export async function adoptEdits(): Promise<void> {
  outbox?.adopt(await openTabs());
}

/** Gives this tab its name, takes up the edits it still has to send, and starts sending. Before the first drawing. */
export async function startSession(): Promise<void> {
  // What is asked for again and again rests while the page is not looked at, and comes at once when it is.
  setupListeners(store.dispatch);
  const tab = await claimTab();
  screen = tab;
  outbox = new Outbox(tab, localStorage);
  startBench(tab, await openTabs());
  await adoptEdits();
  sender = startSender(store, outbox, (_id, places) => {
    toast(`Changed by another hand and merged in: ${placesWords(places)}.`, { duration: 8000 });
  });
}

const none: readonly KeptEdit[] = [];

/** Edits that the server has not acknowledged yet. */
export const useKeptEdits = (): readonly KeptEdit[] =>
  useSyncExternalStore(outbox?.subscribe ?? (() => () => undefined), outbox?.all ?? (() => none));

const noStrangers: readonly StrangeEdit[] = [];

/** What is kept on the device and cannot be read by this version. */
export const useStrangeEdits = (): readonly StrangeEdit[] =>
  useSyncExternalStore(outbox?.subscribe ?? (() => () => undefined), outbox?.unreadable ?? (() => noStrangers));

export const forgetStrangeEdit = (key: string): void => outbox?.forget(key);

export const keptEdit = (rigId: string): KeptEdit | undefined => outbox?.get(rigId);

/** The name of this screen in the runs that it acts in. */
export const theScreen = (): string => screen;

/** @throws Error before {@link startSession} */
export function theSender(): Sender {
  if (!sender) throw new Error('the session has not started');
  return sender;
}
