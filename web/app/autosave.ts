import type { ThunkDispatch, UnknownAction } from '@reduxjs/toolkit';
import { differences, mergeDocuments, placeTitle, sameDocument, type Place, type Rig } from '@vast-surge/core/rig';
import { api, failureOf } from './api.ts';
import { askedOnce } from './asked-once.ts';
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

/** What startSender starts; one for the open rig and all edits that still wait. */
class Sending implements Sender {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: Promise<void> | null = null;

  constructor(
    private readonly store: EditorStore,
    private readonly outbox: Outbox<KeptEdit>,
    private readonly onMerged: (id: string, places: readonly Place[]) => void,
  ) {}

  later(delay: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), delay);
  }

  private isOpen(id: string): boolean {
    return this.store.getState().editor.id === id;
  }

  private reconcile(id: string, theirs: Base): void {
    const { editor, history } = this.store.getState();
    const { base } = editor;
    if (!this.isOpen(id) || !base || !history.present) return this.reconcileClosed(id, theirs);
    const merge = mergeDocuments(base.document, history.present, theirs.document);
    if (merge.choices.length > 0) {
      const edit = this.outbox.get(id);
      if (edit) this.outbox.put(edit.rigId, { ...edit, sending: null, stuck: true });
      this.store.dispatch(conflictFound({ id, theirs }));
      return;
    }
    const places = [...new Set(differences(base.document, theirs.document).map((d) => d.place))];
    this.store.dispatch(followed({ id, was: base.document, theirs }));
    if (places.length > 0) this.onMerged(id, places);
  }

  /** Nobody looks at this rig: what merges by itself does, what does not waits. */
  private reconcileClosed(id: string, theirs: Base): void {
    const edit = this.outbox.get(id);
    if (!edit) return;
    const merge = mergeDocuments(edit.base.document, edit.document, theirs.document);
    if (merge.choices.length > 0) this.outbox.put(edit.rigId, { ...edit, sending: null, stuck: true });
    else this.outbox.put(id, { rigId: id, base: theirs, document: merge.merged, sending: null });
  }

  private acknowledged(id: string, { version, document }: Base): void {
    const edit = this.outbox.get(id);
    const done = edit !== undefined && sameDocument(edit.document, document);
    // What is shown and what was sent may be two readings of one text, after a reload: from now on they are one.
    const base = { version, document: done ? edit.document : document };
    if (done) this.outbox.drop(id);
    else if (edit) this.outbox.put(edit.rigId, { ...edit, base, sending: null });
    this.store.dispatch(sent({ id, base, when: Date.now() }));
  }

  /** @returns whether there is reason to go on at once */
  private async sendOne(edit: KeptEdit): Promise<boolean> {
    const { rigId: id } = edit;
    const sending = edit.sending ?? { key: crypto.randomUUID(), document: edit.document };
    const kept = this.outbox.put(edit.rigId, { ...edit, sending });
    this.store.dispatch(sendBegun({ id }));
    try {
      const { version } = await this.store
        .dispatch(
          api.endpoints.saveRig.initiate({ id, key: sending.key, version: edit.base.version, document: sending.document }),
        )
        .unwrap();
      this.acknowledged(id, { version, document: sending.document });
      return true;
    } catch (error) {
      const { code, message } = failureOf(error);
      if (code === 'conflict') return this.overtaken(id);
      const at = lasting.has(code) ? 'refused' : 'away';
      this.store.dispatch(sendFailed({ id, at, message, kept }));
      const now = this.outbox.get(id);
      if (at === 'refused' && now) this.outbox.put(id, { ...now, sending: null, stuck: true });
      return false;
    }
  }

  private async overtaken(id: string): Promise<boolean> {
    try {
      const rig = await askedOnce(this.store.dispatch(api.endpoints.getRig.initiate(id, { forceRefetch: true })));
      const edit = this.outbox.get(id);
      if (edit) this.outbox.put(edit.rigId, { ...edit, sending: null });
      this.reconcile(id, { version: rig.version, document: rig.document });
      return true;
    } catch (error) {
      this.store.dispatch(sendFailed({ id, at: 'away', message: failureOf(error).message, kept: true }));
      return false;
    }
  }

  private async runAll(): Promise<void> {
    for (let again = true; again;) {
      again = false;
      for (const { rigId } of this.outbox.all()) {
        const edit = this.outbox.get(rigId);
        if (edit && !edit.stuck) again = (await this.sendOne(edit)) || again;
      }
    }
    if (this.outbox.all().some((edit) => !edit.stuck)) this.later(retryTime);
  }

  run(): Promise<void> {
    clearTimeout(this.timer);
    this.running ??= this.runAll().finally(() => {
      this.running = null;
    });
    return this.running;
  }

  /** The document or its base is another than a moment before: what is to be sent is kept, or dropped. */
  keep(state: ReturnType<EditorStore['getState']>, id: string): void {
    const edit = pendingEdit(state);
    const before = this.outbox.get(id);
    if (!edit) {
      const document = state.history.present;
      // Gone back to what the server has: nothing is left to send, unless an attempt may be on its way.
      if (before?.sending && document) this.outbox.put(id, { ...before, document });
      else if (before) this.outbox.drop(id);
      return;
    }
    const isTorn = state.editor.send.at === 'conflict';
    this.outbox.put(id, {
      ...edit,
      // What is being sent builds on the base it was sent from; the answer brings the next one.
      base: before?.sending ? before.base : edit.base,
      sending: before?.sending ?? null,
      ...(isTorn ? { stuck: true } : {}),
    });
    if (!isTorn) this.later(quietTime);
  }

  seen(id: string, theirs: Base, askedAt: number): void {
    const { editor } = this.store.getState();
    // While an attempt is under way, what is seen may be that attempt itself.
    if (!this.isOpen(id) || this.outbox.get(id)?.sending || editor.send.at === 'conflict') return;
    const { base, send } = editor;
    if (!base) return;
    // An older state may only have been under way for long; one asked for after the last save was not.
    const goneBack = theirs.version < base.version && send.at === 'idle' && send.when !== null && askedAt > send.when;
    if (theirs.version > base.version || goneBack) this.reconcile(id, theirs);
  }

  async flush(id: string): Promise<boolean> {
    // A run that was under way may have passed this rig before its last edit; the second one has not.
    await this.run();
    await this.run();
    return this.outbox.get(id) === undefined;
  }
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
  const sending = new Sending(store, outbox, onMerged);
  let seen: { readonly document: unknown; readonly base: unknown } = { document: null, base: null };
  let seenDrafts: EditorState['drafts'] = {};
  let seenId: string | null = null;
  store.subscribe(() => {
    const state = store.getState();
    const { id, drafts, base } = state.editor;
    const document = state.history.present;
    if (id && id === seenId && drafts !== seenDrafts) keepDrafts(id, drafts);
    seenDrafts = drafts;
    seenId = id;
    if (!id || !document || (document === seen.document && base === seen.base)) return;
    seen = { document, base };
    sending.keep(state, id);
  });

  window.addEventListener('online', () => void sending.run());
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') void sending.run();
  });
  if (outbox.all().length > 0) sending.later(quietTime);
  return sending;
}

export const placesWords = (places: readonly Place[], rig: Rig): string =>
  places.map((place) => placeTitle(rig, place)).join(', ');
