import type { UnknownAction } from '@reduxjs/toolkit';
import undoable, { type StateWithHistory } from 'redux-undo';
import { blockDefinition, changeKind } from '@vast-surge/core/kind';
import {
  blockIn,
  inChannel,
  mergeDocuments,
  openChoices,
  quantityAt,
  resolveMerge,
  typedAt,
  wholeRig,
  withBlock,
  withChannelAdded,
  withLoadKind,
  withoutChannel,
  type RigDocument,
  type Spot,
} from '@vast-surge/core/rig';
import {
  blockReplaced,
  channelAdded,
  channelRemoved,
  builtSet,
  fieldTyped,
  followed,
  isEdit,
  kindChosen,
  noteWritten,
  renamed,
  restored,
  rigReplaced,
  rigOpened,
  sheetEdited,
  valueSet,
} from './edits.ts';

/** The open rig with what undo goes back to and redo forward to. */
export type History = StateWithHistory<RigDocument | null>;

type Field = ReturnType<typeof fieldTyped>['payload'];

function withField(document: RigDocument, { slot: spot, field, value }: Omit<Field, 'slot'> & { slot: Spot }): RigDocument {
  const block = blockIn(document.rig, spot);
  return { ...document, rig: withBlock(document.rig, spot, { ...block, fields: { ...block.fields, [field]: value } }) };
}

function withKind(document: RigDocument, { slot, kind }: ReturnType<typeof kindChosen>['payload']): RigDocument {
  const block = blockIn(document.rig, slot);
  if (block.kind === kind) return document;
  const next = changeKind(block, blockDefinition(slot, block.kind), blockDefinition(slot, kind));
  return { ...document, rig: slot === 'load' ? withLoadKind(document.rig, next) : withBlock(document.rig, slot, next) };
}

/** A number that was worked out, put into its field as if it had been typed there. */
function withWorkedValue(document: RigDocument, { path, value }: { path: string; value: number }): RigDocument {
  const at = quantityAt(document.rig, path);
  const typed = typedAt(document.rig, path, value);
  return at && typed ? withField(document, { slot: at.spot, field: at.id, value: typed }) : document;
}

/** One edit. Documents are plain and never changed in place. */
function editedIn(document: RigDocument, action: UnknownAction): RigDocument {
  if (fieldTyped.match(action)) return withField(document, action.payload);
  if (valueSet.match(action)) return withWorkedValue(document, action.payload);
  if (kindChosen.match(action)) return withKind(document, action.payload);
  if (rigReplaced.match(action)) return { ...document, rig: wholeRig(action.payload) };
  if (channelAdded.match(action)) return { ...document, rig: withChannelAdded(document.rig) ?? document.rig };
  if (channelRemoved.match(action)) return { ...document, rig: withoutChannel(document.rig, action.payload) };
  if (blockReplaced.match(action))
    return { ...document, rig: withBlock(document.rig, action.payload.slot, action.payload.block) };
  if (builtSet.match(action)) return { ...document, built: action.payload };
  if (renamed.match(action)) return { ...document, name: action.payload };
  if (restored.match(action)) return action.payload;
  if (sheetEdited.match(action)) return { ...document, sheet: action.payload.sheet };
  if (noteWritten.match(action)) return { ...document, note: action.payload.note };
  return document;
}

/** The same, with slots and paths of the channel that the page shows; a document is kept as seen from its first. */
function edited(document: RigDocument | null = null, action: UnknownAction): RigDocument | null {
  if (!document || !isEdit(action)) return document;
  const channel = Math.min(action.meta?.channel ?? 0, document.rig.channels.length - 1);
  const seen = channel === 0 ? document : { ...document, rig: inChannel(document.rig, channel) };
  const made = editedIn(seen, action);
  if (made === seen) return document;
  return made.rig.front === undefined ? made : { ...made, rig: wholeRig(made.rig) };
}

function burstOf(action: UnknownAction): string | null {
  if (fieldTyped.match(action) || valueSet.match(action) || noteWritten.match(action) || sheetEdited.match(action))
    return action.payload.burst ?? null;
  return null;
}

const steps = undoable(edited, { limit: 300, groupBy: burstOf });

const historyOf = (past: RigDocument[], present: RigDocument | null, future: RigDocument[]): History => ({
  past,
  present,
  future,
  _latestUnfiltered: present,
  group: null,
  index: past.length,
  limit: past.length + future.length + 1,
});

/** A state with what another hand did merged in; where both did something to the same point, this hand's stands. */
function rebased(was: RigDocument, mine: RigDocument, theirs: RigDocument): RigDocument {
  const merge = mergeDocuments(was, mine, theirs);
  return resolveMerge(merge, mine, Object.fromEntries(openChoices(merge, {}).map(({ path }) => [path, 'mine' as const])));
}

const isDocument = (document: RigDocument | null): document is RigDocument => document !== null;

/**
 * Edits with undo and redo. When another hand saved, every state that undo or redo leads to gets that hand's changes
 * too, so that taking back an edit of one's own never takes back another's.
 */
export function historyReducer(state: History | undefined, action: UnknownAction): History {
  if (rigOpened.match(action)) return historyOf([], action.payload.document, []);
  if (followed.match(action) && state?.present) {
    const { was, theirs, document } = action.payload;
    const over = (mine: RigDocument) => rebased(was, mine, theirs.document);
    const present = document ?? (state.present === was ? theirs.document : over(state.present));
    return historyOf(state.past.filter(isDocument).map(over), present, state.future.filter(isDocument).map(over));
  }
  return steps(state, action);
}
