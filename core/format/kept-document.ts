import { rigDocumentSchema, type RigDocument } from '../rig/index.ts';
import { fieldIssues, forbiddenKey, rigFileVersion, wordFileIssue } from './rig-file.ts';
import { upgraded } from './upgrade.ts';

/**
 * A document as it is kept: readable, or as plain data that this program cannot read, such as one with a block from a
 * newer version. Such data is carried along unchanged.
 */
export type KeptDocument =
  | { readonly ok: true; readonly document: RigDocument }
  | {
      readonly ok: false;
      readonly data: object;
      readonly reason: string;
      /** The version of the rig file it was written by. */
      readonly fileVersion: number;
    };

/** Reads a document out of storage or an archive. `version` is the version of the rig file it was written by. */
export function readDocument(data: unknown, version: number = rigFileVersion): KeptDocument {
  const object = (typeof data === 'object' && data !== null ? data : {}) as object;
  const key = forbiddenKey(data);
  if (key !== null) return { ok: false, fileVersion: version, data: {}, reason: `holds the key "${key}"` };
  const { format: _f, version: _v, id: _i, ...raw } = upgraded({ ...object, version }, version) as Record<string, unknown>;
  const read = rigDocumentSchema.safeParse(raw);
  if (read.success) return { ok: true, document: read.data };
  return {
    ok: false,
    fileVersion: version,
    data: object,
    reason: fieldIssues(read.error).map(wordFileIssue).join('; ').slice(0, 400),
  };
}

export const documentName = (kept: KeptDocument): string => {
  const name: unknown = kept.ok ? kept.document.name : (kept.data as { name?: unknown }).name;
  return typeof name === 'string' && name.trim() !== '' ? name.slice(0, 80) : 'unnamed';
};

/** A document as it is stored and sent, readable or not. */
export const documentData = (kept: KeptDocument): object => (kept.ok ? kept.document : kept.data);

/** The version of the rig file that {@link documentData} is of: what can be read is always of the newest. */
export const documentVersion = (kept: KeptDocument): number => (kept.ok ? rigFileVersion : kept.fileVersion);
