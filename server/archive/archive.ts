import { readArchive, writeArchive, type ArchiveIssue, type Workshop } from '@vast-surge/core/format';
import { pack, unpack, UnreadablePack } from './pack.ts';
import { tablesOf } from './tables.ts';

/** A workshop as one file. The same workshop always gives the same bytes. */
export const packWorkshop = (workshop: Workshop): Uint8Array => pack(new Map([...writeArchive(workshop), ...tablesOf(workshop)]));

export type Unpacked =
  { readonly ok: true; readonly workshop: Workshop } | { readonly ok: false; readonly issues: readonly ArchiveIssue[] };

/** The workshop in an archive file, or every reason why it is none. It never throws on what the file holds. */
export function unpackWorkshop(bytes: Uint8Array): Unpacked {
  try {
    return readArchive(unpack(bytes));
  } catch (error) {
    if (error instanceof UnreadablePack) return { ok: false, issues: [{ path: 'archive', reason: error.message }] };
    throw error;
  }
}
