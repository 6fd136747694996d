import { useSyncExternalStore } from 'react';
import { liveTables, type LiveTable, type RunTold, type Told } from '@vast-surge/contract';
import { baseApi, tagTypes, type Tag } from './base-api.ts';
import { store } from './base-store.ts';

/** What the server told of; `all` where everything may have changed. */
export type Heard = Told | 'all';

/** What pages ask again when a table was written. */
const tagsOf: Readonly<Record<LiveTable, readonly Tag[]>> = {
  rigs: ['rig', 'archived'],
  // Numbers of a rig come behind it.
  rig_heads: ['rig'],
  revisions: ['revision', 'rig'],
  runs: ['run'],
  run_events: ['run'],
  shots: ['shot', 'campaign'],
  shot_files: ['shot'],
  campaigns: ['campaign'],
  campaign_entries: ['campaign'],
  checks: ['check'],
  parts: ['bench'],
  lots: ['bench'],
  backups: ['backup'],
  studies: ['study'],
  study_chunks: ['study'],
};

/** ms in which what is told is gathered: a save writes several tables. */
const gather = 150;
/** ms between two times that pages ask again: a workshop that is written to without end must not be asked without end. */
const pause = 2000;
/** ms without a sign of life after which the line counts as lost: the server gives one every ten seconds. */
const patience = 25_000;

/** ms for which a line may be away before a page says so: a server that is started again takes as long. */
const forgiven = 8000;

let isUp = false;
/** It stood once, and has been away for longer than is forgiven. */
let isLost = false;
let losing: ReturnType<typeof setTimeout> | null = null;
const watchers = new Set<() => void>();
const hearers = new Set<(told: Heard) => void>();
const runHearers = new Set<(told: RunTold) => void>();
let waiting = new Set<Tag>();
let timer: ReturnType<typeof setTimeout> | null = null;
let lastAsked = -Infinity;

function setUp(up: boolean): void {
  if (up === isUp) return;
  isUp = up;
  if (losing) clearTimeout(losing);
  losing = null;
  if (up) isLost = false;
  else
    losing = setTimeout(() => {
      isLost = true;
      watchers.forEach((tell) => tell());
    }, forgiven);
  watchers.forEach((tell) => tell());
}

/** Asks again what pages show of it; a page that nobody looks at does so when it is looked at. */
function flush(): void {
  timer = null;
  if (document.hidden || waiting.size === 0) return;
  const tags = [...waiting];
  waiting = new Set();
  lastAsked = Date.now();
  store.dispatch(baseApi.util.invalidateTags(tags));
}

/** Everything that pages show is asked for anew: somebody signed in. */
export const hearAll = (): void => hear('all');

function hear(told: Heard): void {
  hearers.forEach((one) => one(told));
  // A server of another version may tell of a table that this page does not know.
  const known = liveTables.filter((table) => told !== 'all' && table in told);
  const tags = told === 'all' ? tagTypes : known.flatMap((table) => tagsOf[table]);
  tags.forEach((tag) => waiting.add(tag));
  timer ??= setTimeout(flush, Math.max(gather, lastAsked + pause - Date.now()));
}

/** What the tab that has the line says to the others. */
type Said = { readonly told: Heard } | { readonly run: RunTold } | { readonly up: boolean } | { readonly asks: true };

/** Opens the line to the server and tells what it says; it opens itself again. */
function openLine(say: (said: Said) => void): void {
  let lastHeard = Date.now();
  let source: EventSource;
  const heard = () => {
    lastHeard = Date.now();
    say({ up: true });
  };
  const open = () => {
    source = new EventSource('/api/live');
    source.onopen = () => {
      heard();
      // What was written while nothing was heard is not known: also between what a page asked first and now.
      say({ told: 'all' });
    };
    source.onmessage = ({ data }) => {
      heard();
      say({ told: JSON.parse(String(data)) as Told });
    };
    source.addEventListener('run', ({ data }) => say({ run: JSON.parse(String(data)) as RunTold }));
    source.addEventListener('all', () => say({ told: 'all' }));
    source.addEventListener('beat', heard);
    source.onerror = () => {
      say({ up: false });
    };
  };
  open();
  setInterval(() => {
    const isSilent = Date.now() - lastHeard > patience;
    if (!isSilent && source.readyState !== EventSource.CLOSED) return;
    say({ up: false });
    lastHeard = Date.now();
    source.close();
    open();
  }, 5000);
}

/**
 * Listens to the server. One tab of a browser has the line and hands on what it hears, for a browser opens few connections to one server;
 * when it goes, the next takes it over.
 */
export function goLive(): void {
  document.addEventListener('visibilitychange', flush);
  const channel = new BroadcastChannel('vast-surge.live');
  const take = (said: Said) => {
    if ('told' in said) hear(said.told);
    else if ('run' in said) runHearers.forEach((one) => one(said.run));
    else if ('up' in said) setUp(said.up);
  };
  let isLine = false;
  channel.onmessage = ({ data }: MessageEvent<Said>) => {
    if ('asks' in data) {
      if (isLine) channel.postMessage({ up: isUp } satisfies Said);
    } else take(data);
  };
  channel.postMessage({ asks: true } satisfies Said);
  const lead = () => {
    isLine = true;
    openLine((said) => {
      take(said);
      channel.postMessage(said);
    });
  };
  navigator.locks
    .request('vast-surge.live', () => {
      lead();
      return new Promise<never>(() => undefined);
    })
    .catch(lead);
}

const subscribe = (tell: () => void) => {
  watchers.add(tell);
  return () => watchers.delete(tell);
};

/** ms after which a list is asked for again by itself: 0, never, while the server tells what changes. What failed is asked again by `again.ts`. */
export function usePolling(ms: number): number {
  const up = useSyncExternalStore(subscribe, () => isUp);
  return up ? 0 : ms;
}

/** Whether pages hear of what others write only when they ask again. */
export const useLineLost = (): boolean => useSyncExternalStore(subscribe, () => isLost);

/** Told of everything that the server tells. @returns ends it */
export function onTold(hearer: (told: Heard) => void): () => void {
  hearers.add(hearer);
  return () => hearers.delete(hearer);
}

/** Told of what comes into a run, as it comes. @returns ends it */
export function onRunTold(hearer: (told: RunTold) => void): () => void {
  runHearers.add(hearer);
  return () => runHearers.delete(hearer);
}
