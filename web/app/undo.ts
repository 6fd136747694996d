import type { Dispatch, UnknownAction } from '@reduxjs/toolkit';
import { ActionCreators } from 'redux-undo';
import { slots } from '@vast-surge/core/block';
import { differences, differenceWords, type Difference, type Place, type RigDocument, type Spot } from '@vast-surge/core/rig';
import { draftsDropped, spotSelected } from './editor.ts';
import type { History } from './history.ts';

interface UndoStore {
  readonly dispatch: Dispatch<UnknownAction>;
  getState(): { history: History };
}

const between = (from: RigDocument | null | undefined, to: RigDocument | null | undefined): Difference[] =>
  from && to ? differences(from, to) : [];

/** What the next undo would take back, and the next redo would do again, in words; null where there is none. */
export const undoWords = ({ past, present }: History): string | null =>
  past.length === 0 ? null : differenceWords(between(past.at(-1), present));
export const redoWords = ({ present, future }: History): string | null =>
  future.length === 0 ? null : differenceWords(between(present, future[0]));

const isSpot = (place: Place): place is Spot => (slots as readonly string[]).includes(place.split('@')[0] ?? '');

function step({ dispatch, getState }: UndoStore, action: UnknownAction, words: string | null): string | null {
  if (words === null) return null;
  const before = getState().history.present;
  dispatch(action);
  const changes = between(before, getState().history.present);
  // Text that could not be read belonged to the state one leaves.
  dispatch(draftsDropped(changes.map((d) => d.path)));
  const spot = changes.map((d) => d.place).find(isSpot);
  if (spot) dispatch(spotSelected(spot));
  return words;
}

/** Takes the last edit back and shows the block it was in. @returns what was taken back, in words; null where there was nothing */
export const undo = (store: UndoStore): string | null => step(store, ActionCreators.undo(), undoWords(store.getState().history));
export const redo = (store: UndoStore): string | null => step(store, ActionCreators.redo(), redoWords(store.getState().history));
