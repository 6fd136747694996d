// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Heard } from './live.ts';

/** A line to a server that a test holds in its hand. */
class FakeSource {
  static readonly CLOSED = 2;
  static all: FakeSource[] = [];
  readyState = 1;
  onopen: (() => void) | null = null;
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  readonly named = new Map<string, () => void>();
  constructor(readonly url: string) {
    FakeSource.all.push(this);
  }
  addEventListener(name: string, on: () => void): void {
    this.named.set(name, on);
  }
  close(): void {
    this.readyState = FakeSource.CLOSED;
  }
  tell(told: object): void {
    this.onmessage?.({ data: JSON.stringify(told) });
  }
}

/** The other tabs of the browser. */
class FakeChannel {
  static posted: object[] = [];
  onmessage: ((event: { data: object }) => void) | null = null;
  static last: FakeChannel | null = null;
  constructor() {
    FakeChannel.last = this;
  }
  postMessage(said: object): void {
    FakeChannel.posted.push(said);
  }
}

let given: (() => void) | null = null;
async function fresh() {
  vi.resetModules();
  const live = await import('./live.ts');
  const { store } = await import('./base-store.ts');
  const dispatched: unknown[] = [];
  const dispatch = vi.spyOn(store, 'dispatch').mockImplementation((action) => {
    dispatched.push(action);
    return action;
  });
  const tags = () =>
    dispatched.flatMap((action) => {
      const { type, payload } = action as { type: string; payload: string[] };
      return type.endsWith('invalidateTags') ? payload : [];
    });
  return { ...live, tags, dispatch };
}

beforeEach(() => {
  vi.useFakeTimers();
  FakeSource.all = [];
  FakeChannel.posted = [];
  vi.stubGlobal('EventSource', FakeSource);
  vi.stubGlobal('BroadcastChannel', FakeChannel);
  // The lock is given when the test gives it: until then another tab has the line.
  Object.defineProperty(navigator, 'locks', {
    configurable: true,
    value: {
      request: (_name: string, take: () => Promise<never>) =>
        new Promise<void>(() => {
          given = () => void take();
        }),
    },
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe('the line to the server', () => {
  test('what is told is asked again, gathered; lists are asked for by nobody while it stands, and as before when it is lost', async () => {
    const { goLive, usePolling, useLineLost, onTold, tags } = await fresh();
    goLive();
    given?.();
    const [source] = FakeSource.all;
    const heard: Heard[] = [];
    onTold((told) => heard.push(told));
    const { result } = renderHook(() => usePolling(5000));
    expect(result.current).toBe(5000);
    act(() => source?.onopen?.());
    expect(result.current).toBe(0);
    // A list that was asked for before the line stood may have been written to before it did.
    expect(heard).toEqual(['all']);
    vi.advanceTimersByTime(200);
    expect(tags()).toEqual(expect.arrayContaining(['rig', 'run', 'shot', 'study']));
    vi.advanceTimersByTime(2000);
    heard.length = 0;
    const first = tags().length;
    source?.tell({ rigs: ['a'] });
    source?.tell({ run_events: ['r'], nonsense: [] });
    expect(tags().length).toBe(first);
    vi.advanceTimersByTime(200);
    expect(tags().slice(first).sort()).toEqual(['archived', 'rig', 'run']);
    expect(heard).toEqual([{ rigs: ['a'] }, { run_events: ['r'], nonsense: [] }]);
    // Where much is written without end, pages ask every other second and miss nothing.
    source?.tell({ runs: ['r'] });
    vi.advanceTimersByTime(300);
    source?.tell({ checks: ['c'] });
    expect(tags().length).toBe(first + 3);
    vi.advanceTimersByTime(1700);
    expect(
      tags()
        .slice(first + 3)
        .sort(),
    ).toEqual(['check', 'run']);
    act(() => source?.onerror?.());
    expect(result.current).toBe(5000);
    // A page says so when it stays away, and no longer once it stands.
    const lost = renderHook(() => useLineLost());
    expect(lost.result.current).toBe(false);
    act(() => void vi.advanceTimersByTime(8000));
    expect(lost.result.current).toBe(true);
    // It opened itself again: what was written meanwhile is not known, so everything is asked for.
    act(() => source?.onopen?.());
    expect(heard.at(-1)).toBe('all');
    expect(lost.result.current).toBe(false);
    expect(result.current).toBe(0);
  });

  test('a line that is silent counts as lost and is opened anew; a sign of life keeps it', async () => {
    const { goLive, usePolling } = await fresh();
    goLive();
    given?.();
    const { result } = renderHook(() => usePolling(5000));
    act(() => FakeSource.all[0]?.onopen?.());
    for (let n = 0; n < 6; n++)
      act(() => {
        vi.advanceTimersByTime(10_000);
        FakeSource.all[0]?.named.get('beat')?.();
      });
    expect([FakeSource.all.length, result.current]).toEqual([1, 0]);
    act(() => void vi.advanceTimersByTime(35_000));
    expect(FakeSource.all.length).toBe(2);
    expect(result.current).toBe(5000);
    expect(FakeSource.all[0]?.readyState).toBe(FakeSource.CLOSED);
  });

  test('one tab has the line; the others hear from it, and take it over when it goes', async () => {
    const { goLive, usePolling, tags } = await fresh();
    goLive();
    expect(FakeSource.all).toEqual([]);
    expect(FakeChannel.posted).toEqual([{ asks: true }]);
    const { result } = renderHook(() => usePolling(5000));
    act(() => FakeChannel.last?.onmessage?.({ data: { up: true } }));
    expect(result.current).toBe(0);
    FakeChannel.last?.onmessage?.({ data: { told: { shots: [] } } });
    vi.advanceTimersByTime(200);
    expect(tags().sort()).toEqual(['campaign', 'shot']);
    given?.();
    FakeSource.all[0]?.onopen?.();
    FakeSource.all[0]?.tell({ parts: ['p'] });
    expect(FakeChannel.posted).toContainEqual({ told: { parts: ['p'] } });
    FakeChannel.posted = [];
    FakeChannel.last?.onmessage?.({ data: { asks: true } });
    expect(FakeChannel.posted).toEqual([{ up: true }]);
  });

  test('a page that nobody looks at asks for nothing until it is looked at', async () => {
    const { goLive, tags } = await fresh();
    const hidden = vi.spyOn(document, 'hidden', 'get').mockReturnValue(true);
    goLive();
    given?.();
    FakeSource.all[0]?.tell({ checks: ['c'] });
    vi.advanceTimersByTime(1000);
    expect(tags()).toEqual([]);
    hidden.mockReturnValue(false);
    document.dispatchEvent(new Event('visibilitychange'));
    expect(tags()).toEqual(['check']);
  });
});
