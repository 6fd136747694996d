import { rigDocumentSchema, type RigDocument } from '@vast-surge/core/rig';
import type { Base } from './edits.ts';
import type { Drawer } from './outbox.ts';

/** Edits of a rig that the server has not acknowledged yet. */
export interface KeptEdit {
  readonly rigId: string;
  readonly base: Base;
  /** What the rig is to become. */
  readonly document: RigDocument;
  /**
   * An attempt whose outcome is not known: it may have arrived although no answer came. It is sent again with the same
   * key, and only then what was edited since.
   */
  readonly sending: { readonly key: string; readonly document: RigDocument } | null;
  /** The edits clash with another hand's and wait until a person opens the rig. */
  readonly stuck?: boolean;
}

const document = (value: unknown): RigDocument => rigDocumentSchema.parse(value);

/** Edits of rigs, those of one rig together; a second tab's of the same rig wait until the first are sent. */
export const rigEdits: Drawer<KeptEdit> = {
  prefix: 'vast-surge.edit.',
  keyOf: (tab, rigId) => `${tab}.${rigId}`,
  ownerOf: (rest) => {
    const [tab = '', about = ''] = rest.split('.');
    return { tab, about };
  },
  read: (data, rigId) => {
    const raw = data as KeptEdit;
    const value: KeptEdit = {
      rigId: raw.rigId,
      base: { version: raw.base.version, document: document(raw.base.document) },
      document: document(raw.document),
      sending: raw.sending ? { key: raw.sending.key, document: document(raw.sending.document) } : null,
    };
    return { value: value.rigId === rigId ? value : null, isWhole: true };
  },
  isEmpty: () => false,
  kept: (edit) => ({ ...edit, stuck: undefined }),
};
