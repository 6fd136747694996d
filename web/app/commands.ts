import { toast } from 'sonner';
import { useNavigate } from 'react-router';
import { newDocument, type RigDocument } from '@vast-surge/core/rig';
import { api, failureOf, useCreateRigMutation } from './api.ts';
import { theSender } from './session.ts';
import { store } from './store.ts';
import { redo, undo } from './undo.ts';

interface NewRig {
  /** The id it is to have; a new one unless given. */
  readonly id?: string | undefined;
  /** The revision it is branched from. */
  readonly branchedFrom?: string;
}

/** Makes a rig of a document. @returns its id, or null where it could not be made, which the user has been told */
export function useAddRig() {
  const [create] = useCreateRigMutation();
  return async (document: RigDocument, { id = crypto.randomUUID(), ...more }: NewRig = {}): Promise<string | null> => {
    try {
      await create({ id, document, ...more }).unwrap();
      return id;
    } catch (error) {
      toast.error(failureOf(error).message);
      return null;
    }
  };
}

/** Makes a new capacitor bank and opens it. */
export function useNewBank() {
  const add = useAddRig();
  const navigate = useNavigate();
  return async () => {
    const id = await add(newDocument('New capacitor bank'));
    if (id) void navigate(`/rigs/${id}`);
  };
}

export function undoEdit(): void {
  const words = undo(store);
  toast(words === null ? 'There is nothing to undo.' : `Undone: ${words}`, { id: 'undo', duration: 5000 });
}

export function redoEdit(): void {
  const words = redo(store);
  toast(words === null ? 'There is nothing to redo.' : `Redone: ${words}`, { id: 'undo', duration: 5000 });
}

/** Said where a rig is to be used that has edits on this device alone. */
export const unsavedWords = 'Some edits have not reached the server yet: try again when they have.';

/**
 * The version of a rig to begin something with: of the open one what it is once every edit is saved, of another `known`.
 *
 * @returns null where edits have not reached the server
 */
export async function versionOnceSaved(id: string, known: number): Promise<number | null> {
  if (store.getState().editor.id !== id) return known;
  if (!(await theSender().flush(id))) return null;
  const { editor } = store.getState();
  return editor.id === id && editor.base ? editor.base.version : known;
}

/**
 * Closes the edits of the open rig into a revision, once all of them are saved.
 *
 * @returns whether there is a revision that holds what is shown; the user has been told either way
 */
export async function closeOpenRevision(name: string): Promise<boolean> {
  const { id } = store.getState().editor;
  if (!id) return false;
  if (!(await theSender().flush(id))) {
    toast.error('Some edits have not reached the server yet: a revision can be saved when they have.');
    return false;
  }
  const { base } = store.getState().editor;
  if (!base || store.getState().editor.id !== id) return false;
  const revisionId = crypto.randomUUID();
  const body = { rigId: id, id: revisionId, version: base.version, ...(name === '' ? {} : { name }) };
  try {
    const revision = await store.dispatch(api.endpoints.closeRevision.initiate(body)).unwrap();
    const called = revision.name ? `, “${revision.name}”` : '';
    toast(
      revision.id === revisionId
        ? `Saved as revision ${revision.number}${called}.`
        : `Nothing has changed since revision ${revision.number}${called}.`,
    );
    return true;
  } catch (error) {
    toast.error(failureOf(error).message);
    return false;
  }
}
