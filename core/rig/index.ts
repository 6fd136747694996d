export { differences, differenceWords, saidDifferences, sameDocument, type Difference, type Place } from './difference.ts';
export { copyName, copyOf, newDocument, rigDocumentSchema, rigNameSchema, rigNoteSchema, type RigDocument } from './document.ts';
export { endsAt, fieldName, midSentence, quantityAt, typedAt, withTrialValue, type QuantityAt } from './field-path.ts';
export { mergeDocuments, openChoices, placeTitle, resolveMerge, type Choice, type Merge, type Side } from './merge.ts';
export { partsUsed } from './parts-used.ts';
export { noSheetEdits, sheetWords, type AddedStep, type Alone, type SheetEdits, type Waiver } from './sheet-edits.ts';
export {
  blockIn,
  channelNoun,
  channelOf,
  channelsTitle,
  channelTitle,
  desksOf,
  hasDesk,
  inChannel,
  numberedSpot,
  spotAt,
  spotIn,
  spotsOf,
  spotTitle,
  wholeRig,
  withBlock,
  withChannelAdded,
  withLoadKind,
  withoutChannel,
  type Spot,
} from './channel.ts';
export { mostChannels, newRig, rigSchema, type Channel, type Rig } from './schema.ts';
export { allPages, pageGroups, pagesOf, type RigPage } from './pages.ts';
