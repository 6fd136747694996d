import { configureStore } from '@reduxjs/toolkit';
import { vi } from 'vitest';
import type { StoredRig } from '@vast-surge/contract';
import type { RigDocument } from '@vast-surge/core/rig';
import { newDocument } from '@vast-surge/core/rig';
import { api } from '../app/api.ts';
import { startSender, type Sender } from '../app/autosave.ts';
import { editorSlice } from '../app/editor.ts';
import { rigOpened } from '../app/edits.ts';
import { historyReducer } from '../app/history.ts';
import { Outbox } from '../app/outbox.ts';
import { MemoryStorage } from './memory-storage.ts';
import { rigEdits } from '../app/rig-edits.ts';

export const rigId = '22222222-2222-4222-8222-222222222222';

/** `lost`: the write is done and the answer never arrives. */
export type Mood = 'well' | 'away' | 'slow' | 'lost';

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });

/** A server in memory that keeps one rig as the real one does: versions are checked, and each write key is done once. */
export class FakeServer {
  mood: Mood = 'well';
  version = 1;
  document: RigDocument = { ...newDocument('Bank'), note: 'start' };
  /** Every note that was ever written, in order: what was acknowledged must be in here once. */
  readonly notes: string[] = [];
  saves = 0;
  stale = 0;
  open = 0;
  most = 0;
  private readonly done = new Map<string, number>();

  stored(): StoredRig {
    const instant = '2026-01-01T00:00:00.000Z';
    const { version, document } = this;
    return {
      id: rigId,
      version,
      createdAt: instant,
      updatedAt: instant,
      archivedAt: null,
      branchedFrom: null,
      revision: null,
      document,
    };
  }

  /** Another hand saves. */
  change(change: (document: RigDocument) => RigDocument): void {
    this.document = change(this.document);
    this.version += 1;
  }

  private receipt = (version: number) => json(200, { id: rigId, version, updatedAt: '2026-01-01T00:00:00.000Z' });

  private save(key: string, body: { version: number; document: RigDocument }): Response {
    const before = this.done.get(key);
    if (before !== undefined) return this.receipt(before);
    if (body.version !== this.version) {
      this.stale += 1;
      return json(409, { code: 'conflict', message: 'stale', fields: [] });
    }
    this.change(() => body.document);
    this.saves += 1;
    this.notes.push(body.document.note);
    this.done.set(key, this.version);
    return this.receipt(this.version);
  }

  readonly fetch = async (request: Request): Promise<Response> => {
    this.open += 1;
    this.most = Math.max(this.most, this.open);
    const { mood } = this;
    try {
      if (mood === 'slow') await new Promise((resolve) => setTimeout(resolve, 1500));
      if (mood === 'away') throw new TypeError('connection refused');
      if (request.method === 'GET') return json(200, this.stored());
      const answer = this.save(request.headers.get('Idempotency-Key') ?? '', (await request.json()) as never);
      if (mood === 'lost') throw new TypeError('connection reset');
      return answer;
    } finally {
      this.open -= 1;
    }
  };
}

/** What the page's modules ask of a browser. Fake timers must be on. */
export function stubBrowser(): void {
  const silent = { addEventListener: () => undefined, removeEventListener: () => undefined };
  vi.stubGlobal('window', silent);
  vi.stubGlobal('document', { ...silent, visibilityState: 'visible' });
  vi.stubGlobal('sessionStorage', new MemoryStorage());
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
}

/** A page of the interface without its drawing: store, outbox and sender, with the rig open. */
export function openPage(server: FakeServer, storage = new MemoryStorage(), tab = 'tab') {
  vi.stubGlobal('fetch', server.fetch);
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, [editorSlice.name]: editorSlice.reducer, history: historyReducer },
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(api.middleware),
  });
  const outbox = new Outbox(rigEdits, tab, storage);
  const merged: string[] = [];
  const sender: Sender = startSender(store, outbox, (_id, places) => merged.push(...places));
  const kept = outbox.get(rigId);
  const base = kept?.base ?? { version: server.version, document: server.document };
  store.dispatch(rigOpened({ id: rigId, base, document: kept?.document ?? base.document, drafts: {} }));
  return { store, outbox, sender, storage, merged };
}
