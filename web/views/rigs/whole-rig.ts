import { toast } from 'sonner';
import type { StoredRig } from '@vast-surge/contract';
import { copyOf } from '@vast-surge/core/rig';
import { api, failureOf } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { store } from '../../app/base-store.ts';

/** The whole rig, fetched when something is done with it: a list holds numbers alone. Null where it cannot be had, which the user has been told. */
export async function wholeRig(id: string): Promise<StoredRig | null> {
  try {
    return await askedOnce(store.dispatch(api.endpoints.getRig.initiate(id, { forceRefetch: true })));
  } catch (error) {
    toast.error(failureOf(error).message);
    return null;
  }
}

/** Makes another rig like this one; the user is told where that fails. */
export async function duplicateRig(id: string): Promise<void> {
  const found = await wholeRig(id);
  if (!found) return;
  try {
    const document = copyOf(found.document);
    await store.dispatch(api.endpoints.createRig.initiate({ id: crypto.randomUUID(), document })).unwrap();
  } catch (error) {
    toast.error(failureOf(error).message);
  }
}
