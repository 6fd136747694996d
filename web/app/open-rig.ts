import { useEffect } from 'react';
import type { RigDocument } from '@vast-surge/core/rig';
import { failureOf, useGetRigQuery } from './api.ts';
import { keptDrafts } from './drafts.ts';
import { rigOpened } from './edits.ts';
import { usePolling } from './live.ts';
import { adoptEdits, keptEdit, theSender } from './session.ts';
import { useAppDispatch, useAppSelector, useOpenDocument } from './store.ts';

/** Codes of failures that will not pass by asking again. */
const lasting = new Set(['not_found', 'unreadable']);

export interface OpenRig {
  /** The rig as it stands in this page; null while it is fetched or cannot be. */
  readonly document: RigDocument | null;
  readonly error: unknown;
  /** The server is not reached just now. */
  readonly away: boolean;
  /** It is off the list, as far as is known. */
  readonly archived: boolean;
  refetch(): void;
}

/**
 * Opens a rig for a view: edits of it that were kept on this device come first, then what the server has. While it is
 * open the server is asked every few seconds, so that another hand's changes come in by themselves.
 */
export function useOpenRig(id: string): OpenRig {
  const dispatch = useAppDispatch();
  const document = useOpenDocument();
  const isOpen = useAppSelector((s) => s.editor.id) === id && document !== null;
  const { data, error, refetch } = useGetRigQuery(id, {
    refetchOnMountOrArgChange: true,
    refetchOnFocus: true,
    pollingInterval: usePolling(5000),
    skipPollingIfUnfocused: true,
  });
  const fetched = data?.id === id ? data : null;

  useEffect(() => {
    if (isOpen) {
      if (fetched) theSender().seen(id, { version: fetched.version, document: fetched.document }, fetched.askedAt);
      return;
    }
    let current = true;
    void adoptEdits().then(() => {
      if (!current) return;
      const kept = keptEdit(id);
      if (kept) dispatch(rigOpened({ id, base: kept.base, document: kept.document, drafts: keptDrafts(id) }));
      else if (fetched) {
        const base = { version: fetched.version, document: fetched.document };
        dispatch(rigOpened({ id, base, document: base.document, drafts: keptDrafts(id) }));
      }
    });
    return () => {
      current = false;
    };
  }, [id, isOpen, fetched, dispatch]);

  const failed = error !== undefined && !lasting.has(failureOf(error).code);
  useEffect(() => {
    if (!failed) return;
    const timer = setInterval(() => void refetch(), 3000);
    return () => clearInterval(timer);
  }, [failed, refetch]);

  return {
    document: isOpen ? document : null,
    error,
    away: failed,
    archived: (fetched?.archivedAt ?? null) !== null,
    refetch: () => void refetch(),
  };
}
