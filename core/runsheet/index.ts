export { cautions, runSheetOf, type RunSheet } from './runsheet.ts';
export { phaseTitles, whoWords, type Step } from './step.ts';
export { heldHold, heldIn } from './held-steps.ts';
export type { ShotTime } from './shot.ts';
export { verdictWords, type Verdict } from './verdict.ts';
export { runSheetMarkdown } from './markdown.ts';
export { sheetChanges, moved, saysOf, type SheetChange } from './edits.ts';
export { rungPrint, type Rung, type RungNumber } from './commissioning.ts';
export type { Connections } from './instruments.ts';
