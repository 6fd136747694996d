// Works the headline numbers of rigs out, in a thread: a rig takes tens of milliseconds, and requests go on meanwhile.
import { readDocument } from '@vast-surge/core/format';
import { partsUsed } from '@vast-surge/core/rig';
import { headlineOf } from '@vast-surge/core/runsheet';
import type { FoundHead, StaleRig } from '../db/heads.ts';

export function found({ document, fileVersion }: StaleRig): FoundHead {
  const kept = readDocument(document, fileVersion);
  if (!kept.ok) return { headline: null, unreadable: kept.reason, built: false, parts: [] };
  const { rig, built } = kept.document;
  return { headline: headlineOf(kept.document), unreadable: null, built, parts: partsUsed(rig) };
}
