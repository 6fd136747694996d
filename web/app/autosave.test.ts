import { configureStore } from '@reduxjs/toolkit';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { StoredRig } from '@vast-surge/contract';
import { newRig } from '@vast-surge/core/rig';
import { api } from './api.ts';
import { autosave } from './autosave.ts';
import { editorSlice, noteWritten, rigOpened } from './editor.ts';

const id = '22222222-2222-4222-8222-222222222222';
const rig = newRig();

type Mood = 'well' | 'away' | 'slow';

/** A server in memory that keeps one rig as the real one does: a save names the version it builds on. */
function fakeServer() {
  const kept = { version: 1, note: 'start' };
  const server = { kept, mood: 'well' as Mood, stale: 0, saves: 0, open: 0, most: 0 };
  const answer = (): StoredRig => ({
    id,
    version: kept.version,
    createdAt: '2026-01-01T00:00:00.000Z',
    updatedAt: '2026-01-01T00:00:00.000Z',
    archivedAt: null,
    document: { name: 'Bank', note: kept.note, rig },
  });
  const json = (status: number, body: unknown) =>
    new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
  const fetch = async (request: Request): Promise<Response> => {
    server.open += 1;
    server.most = Math.max(server.most, server.open);
    try {
      if (server.mood === 'slow') await new Promise((resolve) => setTimeout(resolve, 1500));
      if (server.mood === 'away') throw new TypeError('connection refused');
      const body = (await request.json()) as { version: number; document: { note: string } };
      if (body.version !== kept.version) {
        server.stale += 1;
        return json(409, { code: 'conflict', message: 'stale', fields: [] });
      }
      kept.version += 1;
      kept.note = body.document.note;
      server.saves += 1;
      return json(200, answer());
    } finally {
      server.open -= 1;
    }
  };
  return { server, fetch, answer };
}

function page(fetch: (request: Request) => Promise<Response>, opened: StoredRig) {
  vi.stubGlobal('fetch', fetch);
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer },
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
  });
  autosave(store);
  store.dispatch(rigOpened({ rig: opened, drafts: {} }));
  return store;
}

beforeEach(() => {
  vi.useFakeTimers();
  const silent = { addEventListener: () => undefined, removeEventListener: () => undefined };
  vi.stubGlobal('window', silent);
  vi.stubGlobal('document', { ...silent, visibilityState: 'visible' });
  vi.stubGlobal('location', { origin: 'http://127.0.0.1', href: 'http://127.0.0.1/' });
  const RealRequest = Request;
  // Paths such as /api/rigs are relative to the page in a browser; here there is none.
  vi.stubGlobal(
    'Request',
    class extends RealRequest {
      constructor(input: string | URL | Request, init?: RequestInit) {
        super(typeof input === 'string' && input.startsWith('/') ? `http://127.0.0.1${input}` : input, init);
      }
    },
  );
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('autosave', () => {
  test('waits for a quiet moment and saves a burst of edits once', async () => {
    const { server, fetch, answer } = fakeServer();
    const store = page(fetch, answer());
    for (const note of ['a', 'ab', 'abc']) {
      store.dispatch(noteWritten(note));
      await vi.advanceTimersByTimeAsync(100);
    }
    expect(server.saves).toBe(0);
    await vi.advanceTimersByTimeAsync(2000);
    expect([server.saves, server.kept.note, store.getState().editor.save.at]).toEqual([1, 'abc', 'saved']);
  });

  test('saves nothing when a rig is only opened', async () => {
    const { server, fetch, answer } = fakeServer();
    page(fetch, answer());
    await vi.advanceTimersByTimeAsync(10_000);
    expect(server.saves).toBe(0);
  });

  test('goes on trying while the server is away, and says so meanwhile', async () => {
    const { server, fetch, answer } = fakeServer();
    server.mood = 'away';
    const store = page(fetch, answer());
    store.dispatch(noteWritten('kept'));
    await vi.advanceTimersByTimeAsync(5000);
    expect(store.getState().editor.save).toEqual({ at: 'failed', message: 'The server does not answer.' });
    server.mood = 'well';
    await vi.advanceTimersByTimeAsync(5000);
    expect([server.kept.note, store.getState().editor.save.at]).toEqual(['kept', 'saved']);
  });

  test('stops at a conflict and never overwrites what another hand saved', async () => {
    const { server, fetch, answer } = fakeServer();
    const store = page(fetch, answer());
    server.kept.version = 2;
    server.kept.note = 'theirs';
    store.dispatch(noteWritten('mine'));
    await vi.advanceTimersByTimeAsync(20_000);
    store.dispatch(noteWritten('mine again'));
    await vi.advanceTimersByTimeAsync(20_000);
    expect([server.kept.note, server.stale, store.getState().editor.save.at]).toEqual(['theirs', 1, 'conflict']);
    expect(store.getState().editor.document?.note).toBe('mine again');
  });

  test('whatever the edits and the moods of the server: one save at a time, no conflict with itself, and the last edit arrives', async () => {
    const mood = fc.constantFrom<Mood>('well', 'away', 'slow');
    const step = fc.oneof(
      fc.record({ do: fc.constant('edit' as const) }),
      fc.record({ do: fc.constant('wait' as const), ms: fc.integer({ min: 1, max: 4000 }) }),
      fc.record({ do: fc.constant('mood' as const), mood }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 25 }), async (steps) => {
        const { server, fetch, answer } = fakeServer();
        const store = page(fetch, answer());
        let edits = 0;
        for (const s of steps) {
          if (s.do === 'edit') store.dispatch(noteWritten(`edit ${++edits}`));
          else if (s.do === 'wait') await vi.advanceTimersByTimeAsync(s.ms);
          else server.mood = s.mood;
        }
        server.mood = 'well';
        await vi.advanceTimersByTimeAsync(20_000);
        expect(server.kept.note).toBe(edits === 0 ? 'start' : `edit ${edits}`);
        expect([server.stale, server.most <= 1, store.getState().editor.save.at]).toEqual([0, true, 'saved']);
      }),
      { numRuns: 60 },
    );
  });
});
