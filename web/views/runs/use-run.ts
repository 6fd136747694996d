import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import type { StoredRun } from '@vast-surge/contract';
import { cameFrom, replay, stepAt, untilTaken, type Replayed } from '@vast-surge/core/run';
import { api } from '../../app/api.ts';
import { useGetSessionQuery } from '../../app/base-api.ts';
import { onRunTold, onTold, usePolling } from '../../app/live.ts';
import { RunQueue, type BareEvent, type RunQueueState } from '../../app/run-queue.ts';
import { runOutbox, theScreen } from '../../app/session.ts';
import { store } from '../../app/store.ts';
import { openTabs } from '../../app/tab.ts';

/** How often what other screens did is asked for, ms. */
const every = 1000;

function queueFor(run: StoredRun): RunQueue {
  return new RunQueue({
    runId: run.id,
    screen: theScreen(),
    outbox: runOutbox(),
    events: run.events,
    exchange: (events, after) =>
      store
        .dispatch(
          events.length > 0
            ? api.endpoints.appendEvents.initiate({ id: run.id, after, events })
            : api.endpoints.getEvents.initiate({ id: run.id, after }),
        )
        .unwrap(),
  });
}

/** The time, ms, drawn anew four times a second while something depends on it. */
export function useNow(isRunning: boolean): number {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [isRunning]);
  return now;
}

/** Tells when the clock of this device jumps against its running time: it was set, or the device has slept. */
function useClockWatch(isActing: boolean, act: (event: BareEvent) => void): void {
  useEffect(() => {
    if (!isActing) return;
    let before = Date.now() - performance.now();
    const timer = setInterval(() => {
      const offset = Date.now() - performance.now();
      const by = (offset - before) / 1000;
      if (Math.abs(by) > 2) act({ type: 'clock', by });
      before = offset;
    }, 500);
    return () => clearInterval(timer);
  }, [isActing, act]);
}

/** Keeps the screen lit while a run is under way, where the browser can. */
function useWakeLock(isRunning: boolean): void {
  useEffect(() => {
    if (!isRunning || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const take = () =>
      void navigator.wakeLock.request('screen').then(
        (taken) => {
          if (isOver) void taken.release();
          else lock = taken;
        },
        () => undefined,
      );
    const again = () => document.visibilityState === 'visible' && take();
    take();
    document.addEventListener('visibilitychange', again);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release();
    };
  }, [isRunning]);
}

export interface Running extends Replayed, RunQueueState {
  readonly act: (event: BareEvent) => void;
  readonly isActing: boolean;
  readonly speed: number;
  /** ms that have passed at the present step by the clock that counts here. */
  readonly elapsed: number;
  /** s until this screen may take over without an answer; null where it asks first. */
  readonly untilTaken: number | null;
}

/** Beside a line that stands it is not asked; without one, and while something waits, every second. */
function usePumped(queue: ReturnType<typeof queueFor>, isWaiting: boolean): void {
  const beside = usePolling(every);
  const pause = isWaiting ? every : beside;
  useEffect(() => {
    if (pause === 0) return;
    const timer = setInterval(() => void queue.pump(), pause);
    return () => clearInterval(timer);
  }, [queue, pause]);
}

/** A run as it stands: what the server has and what this screen has done since. */
export function useRun(run: StoredRun): Running {
  const queue = useMemo(() => queueFor(run), [run]);
  const kept = useSyncExternalStore(queue.subscribe, queue.snapshot);
  const speed = run.rehearsal?.speed ?? 1;
  const events = useMemo(() => [...kept.events.map((e) => e.event), ...kept.waiting], [kept.events, kept.waiting]);
  const replayed = useMemo(() => replay(run.plan, events, speed), [run.plan, events, speed]);
  const { state } = replayed;
  const isRunning = state.at === 'running';
  const isActing = isRunning && state.actor === theScreen();
  const { data: session } = useGetSessionQuery(undefined);
  const me = session?.account?.id ?? null;
  const act = useMemo(() => (event: BareEvent) => queue.act(cameFrom(me, event)), [queue, me]);

  useEffect(() => {
    void openTabs().then((tabs) => queue.adopt(tabs));
    void queue.pump();
    // What another screen did comes by itself; where something was missed, or came many at a time, it is asked for.
    const deaf = [
      onRunTold(({ id, tail }) => id === run.id && queue.take(tail)),
      onTold((told) => {
        if (told === 'all' || told['run_events']?.length === 0) void queue.pump();
      }),
    ];
    return () => {
      deaf.forEach((end) => end());
      queue.close();
    };
  }, [queue, run.id]);
  usePumped(queue, kept.isAway || kept.waiting.length > 0);
  const given = state.asking?.isGiven === true && state.asking.screen === theScreen() ? state.asking.by : null;
  useEffect(() => {
    if (given !== null && !isActing) act({ type: 'took-over', by: given });
  }, [given, isActing, act]);
  useClockWatch(isActing, act);
  useWakeLock(isRunning);
  useEffect(() => {
    if (!isActing || !state.mayBeCharged) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [isActing, state.mayBeCharged]);

  const now = useNow(isRunning);
  // On the screen that acts its own clock counts; on another the time at which the server had the step.
  const entered = kept.events[replayed.entered];
  const since = isActing || !entered ? now - state.enteredAt : now + kept.ahead - Date.parse(entered.receivedAt);
  const left = untilTaken(state, theScreen(), me, now);
  return { ...replayed, ...kept, act, isActing, speed, elapsed: Math.max(0, since), untilTaken: left };
}

/** The present step of a run. */
export const presentStep = (run: StoredRun, { state }: Running) => (state.at === 'running' ? stepAt(run.plan, state) : null);
