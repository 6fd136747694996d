import type { ThunkDispatch, UnknownAction } from '@reduxjs/toolkit';
import { differences, mergeDocuments, placeTitle, sameDocument, type Place, type Rig } from '@vast-surge/core/rig';
import { api, failureOf } from './api.ts';
import { keepDrafts } from './drafts.ts';
import { conflictFound, sendBegun, sendFailed, sent, type EditorState } from './editor.ts';
import { followed, type Base } from './edits.ts';
import type { History } from './history.ts';
import type { Outbox } from './outbox.ts';
import type { KeptEdit } from './rig-edits.ts';

interface EditorStore {
  getState(): { editor: EditorState; history: History };
  subscribe(listener: () => void): () => void;
  dispatch: ThunkDispatch<unknown, unknown, UnknownAction>;
}

export interface Sender {
  /**
   * The state of the open rig on the server, asked for at `askedAt` (ms) and seen in passing: what is newer is merged in, or
   * put before the user. So is what is older, where it was asked for after the last save: the workshop was restored.
   */
  seen(id: string, theirs: Base, askedAt: number): void;
  /** Sends what there is now. @returns whether the server has acknowledged every edit of the rig */
  flush(id: string): Promise<boolean>;
}

const quietTime = 600;
const retryTime = 3000;

/** Faults that the same request will meet again. Anything else is worth another try. */
const lasting = new Set(['bad_input', 'bad_json', 'not_found', 'too_large', 'unsupported_type', 'forbidden_host', 'not_allowed']);

/** The edits of the open rig as something to be kept and sent; null where the server has them all. */
export function pendingEdit({ editor, history }: ReturnType<EditorStore['getState']>): Omit<KeptEdit, 'sending'> | null {
  const { id, base } = editor;
  const document = history.present;
  return id && base && document && document !== base.document ? { rigId: id, base, document } : null;
}

/**
 * Keeps every edit on the device as it is made and sends it a moment after the last one, one request at a time, and goes
 * on trying while the server is away. Edits of rigs that are no longer open are sent just the same.
 *
 * @param onMerged told of places that another hand changed and that are now here too
 */
export function startSender(
  store: EditorStore,
  outbox: Outbox<KeptEdit>,
  onMerged: (id: string, places: readonly Place[]) => void,
): Sender {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: Promise<void> | null = null;
  const later = (delay: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void run(), delay);
  };

  const isOpen = (id: string) => store.getState().editor.id === id;

  function reconcile(id: string, theirs: Base): void {
    const { editor, history } = store.getState();
    const { base } = editor;
    if (!isOpen(id) || !base || !history.present) return reconcileClosed(id, theirs);
    const merge = mergeDocuments(base.document, history.present, theirs.document);
    if (merge.choices.length > 0) {
      const edit = outbox.get(id);
      if (edit) outbox.put(edit.rigId, { ...edit, sending: null, stuck: true });
      store.dispatch(conflictFound({ id, theirs }));
      return;
    }
    const places = [...new Set(differences(base.document, theirs.document).map((d) => d.place))];
    store.dispatch(followed({ id, was: base.document, theirs }));
    if (places.length > 0) onMerged(id, places);
  }

  /** Nobody looks at this rig: what merges by itself does, what does not waits. */
  function reconcileClosed(id: string, theirs: Base): void {
    const edit = outbox.get(id);
    if (!edit) return;
    const merge = mergeDocuments(edit.base.document, edit.document, theirs.document);
    if (merge.choices.length > 0) outbox.put(edit.rigId, { ...edit, sending: null, stuck: true });
    else outbox.put(id, { rigId: id, base: theirs, document: merge.merged, sending: null });
  }

  function acknowledged(id: string, { version, document }: Base): void {
    const edit = outbox.get(id);
    const done = edit !== undefined && sameDocument(edit.document, document);
    // What is shown and what was sent may be two readings of one text, after a reload: from now on they are one.
    const base = { version, document: done ? edit.document : document };
    if (done) outbox.drop(id);
    else if (edit) outbox.put(edit.rigId, { ...edit, base, sending: null });
    store.dispatch(sent({ id, base, when: Date.now() }));
  }

  /** @returns whether there is reason to go on at once */
  async function sendOne(edit: KeptEdit): Promise<boolean> {
    const { rigId: id } = edit;
    const sending = edit.sending ?? { key: crypto.randomUUID(), document: edit.document };
    const kept = outbox.put(edit.rigId, { ...edit, sending });
    store.dispatch(sendBegun({ id }));
    try {
      const { version } = await store
        .dispatch(
          api.endpoints.saveRig.initiate({ id, key: sending.key, version: edit.base.version, document: sending.document }),
        )
        .unwrap();
      acknowledged(id, { version, document: sending.document });
      return true;
    } catch (error) {
      const { code, message } = failureOf(error);
      if (code === 'conflict') return overtaken(id);
      const at = lasting.has(code) ? 'refused' : 'away';
      store.dispatch(sendFailed({ id, at, message, kept }));
      const now = outbox.get(id);
      if (at === 'refused' && now) outbox.put(id, { ...now, sending: null, stuck: true });
      return false;
    }
  }

  async function overtaken(id: string): Promise<boolean> {
    try {
      const rig = await store.dispatch(api.endpoints.getRig.initiate(id, { forceRefetch: true, subscribe: false })).unwrap();
      const edit = outbox.get(id);
      if (edit) outbox.put(edit.rigId, { ...edit, sending: null });
      reconcile(id, { version: rig.version, document: rig.document });
      return true;
    } catch (error) {
      store.dispatch(sendFailed({ id, at: 'away', message: failureOf(error).message, kept: true }));
      return false;
    }
  }

  async function runAll(): Promise<void> {
    for (let again = true; again;) {
      again = false;
      for (const { rigId } of outbox.all()) {
        const edit = outbox.get(rigId);
        if (edit && !edit.stuck) again = (await sendOne(edit)) || again;
      }
    }
    if (outbox.all().some((edit) => !edit.stuck)) later(retryTime);
  }

  function run(): Promise<void> {
    clearTimeout(timer);
    running ??= runAll().finally(() => {
      running = null;
    });
    return running;
  }

  let seen: { readonly document: unknown; readonly base: unknown } = { document: null, base: null };
  let seenDrafts: EditorState['drafts'] = {};
  let seenId: string | null = null;
  store.subscribe(() => {
    const state = store.getState();
    const { id, drafts, send, base } = state.editor;
    const document = state.history.present;
    if (id && id === seenId && drafts !== seenDrafts) keepDrafts(id, drafts);
    seenDrafts = drafts;
    seenId = id;
    if (!id || !document || (document === seen.document && base === seen.base)) return;
    seen = { document, base };
    const edit = pendingEdit(state);
    const before = outbox.get(id);
    if (!edit) {
      // Gone back to what the server has: nothing is left to send, unless an attempt may be on its way.
      if (before?.sending) outbox.put(id, { ...before, document });
      else if (before) outbox.drop(id);
      return;
    }
    outbox.put(id, {
      ...edit,
      // What is being sent builds on the base it was sent from; the answer brings the next one.
      base: before?.sending ? before.base : edit.base,
      sending: before?.sending ?? null,
      ...(send.at === 'conflict' ? { stuck: true } : {}),
    });
    if (send.at !== 'conflict') later(quietTime);
  });

  window.addEventListener('online', () => void run());
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') void run();
  });
  if (outbox.all().length > 0) later(quietTime);

  return {
    seen: (id, theirs, askedAt) => {
      const { editor } = store.getState();
      // While an attempt is under way, what is seen may be that attempt itself.
      if (!isOpen(id) || outbox.get(id)?.sending || editor.send.at === 'conflict') return;
      const { base, send } = editor;
      if (!base) return;
      // An older state may only have been under way for long; one asked for after the last save was not.
      const goneBack = theirs.version < base.version && send.at === 'idle' && send.when !== null && askedAt > send.when;
      if (theirs.version > base.version || goneBack) reconcile(id, theirs);
    },
    flush: async (id) => {
      // A run that was under way may have passed this rig before its last edit; the second one has not.
      await run();
      await run();
      return outbox.get(id) === undefined;
    },
  };
}

export const placesWords = (places: readonly Place[], rig: Rig): string =>
  places.map((place) => placeTitle(rig, place)).join(', ');
