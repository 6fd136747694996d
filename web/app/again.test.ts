// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { askFailedAgain } from './again.ts';
import { baseApi } from './base-api.ts';
import { store } from './base-store.ts';

const list = { rows: [], next: null, total: 0 };
let answer: () => Promise<Response>;
let asked = 0;
let end: () => void;
const asRigs = { archived: false, q: '', sort: 'changed' } as const;

beforeEach(() => {
  vi.useFakeTimers();
  asked = 0;
  vi.stubGlobal('fetch', () => {
    asked++;
    return answer();
  });
  // A browser makes an address of a path by itself.
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(url: string, init?: RequestInit) {
        super(new URL(url, 'http://localhost'), init);
      }
    },
  );
  end = askFailedAgain();
});
afterEach(() => {
  end();
  store.dispatch(baseApi.util.resetApiState());
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const json = (body: unknown, status = 200) => Promise.resolve(Response.json(body, { status }));
const shown = () => baseApi.endpoints.listRigs.select(asRigs)(store.getState());

describe('what could not be fetched', () => {
  test('comes back by itself within seconds, and is then left alone', async () => {
    answer = () => Promise.reject(new TypeError('away'));
    store.dispatch(baseApi.endpoints.listRigs.initiate(asRigs));
    await vi.advanceTimersByTimeAsync(2000);
    expect([shown().status, asked]).toEqual(['rejected', 1]);
    await vi.advanceTimersByTimeAsync(3000);
    expect([shown().status, asked]).toEqual(['rejected', 2]);
    answer = () => json(list);
    await vi.advanceTimersByTimeAsync(3000);
    expect([shown().status, asked]).toEqual(['fulfilled', 3]);
    await vi.advanceTimersByTimeAsync(30_000);
    expect(asked).toBe(3);
  });

  test('what a person has to mend, and what no page shows any more, is not asked for again', async () => {
    answer = () => json({ code: 'bad_input', message: 'sort must be one of name, changed' }, 400);
    const held = store.dispatch(baseApi.endpoints.listRigs.initiate(asRigs));
    await vi.advanceTimersByTimeAsync(10_000);
    expect([shown().status, asked]).toEqual(['rejected', 1]);
    answer = () => json({ code: 'busy', message: 'The server is busy.' }, 503);
    await held.refetch();
    expect(asked).toBe(2);
    held.unsubscribe();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(asked).toBe(2);
  });
});
