import type { Rig } from '@vast-surge/core/rig';
import { api } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { store } from '../../app/store.ts';

/**
 * Changes the rig as it is now by what was measured, and closes that into a revision.
 *
 * @returns what was done, in words
 */
export async function acceptIntoRig(rigId: string, change: (rig: Rig) => Rig, name: string): Promise<string> {
  const rig = await askedOnce(store.dispatch(api.endpoints.getRig.initiate(rigId, { forceRefetch: true })));
  const document = { ...rig.document, rig: change(rig.document.rig) };
  const saved = await store
    .dispatch(api.endpoints.saveRig.initiate({ id: rigId, version: rig.version, document, key: crypto.randomUUID() }))
    .unwrap();
  const revision = await store
    .dispatch(api.endpoints.closeRevision.initiate({ rigId, id: crypto.randomUUID(), version: saved.version, name }))
    .unwrap();
  return `${rig.document.name} is at revision ${revision.number} with what was measured.`;
}
