export { cautions, runSheetOf, stepsIn, type RunSheet } from './runsheet.ts';
export { phaseTitles, whoWords, type Step } from './step.ts';
export { heldHold, heldIn } from './held-steps.ts';
export type { Unrated } from './judged.ts';
export {
  oneCapacitorDielectrics,
  oneCapacitorFields,
  oneCapacitorSheet,
  oneCapacitorText,
  type OneCapacitor,
  type OneSheet,
} from './one-capacitor.ts';
export type { Emergency } from './emergency.ts';
export type { ShotTime } from './shot.ts';
export { verdictTitles } from './verdict-titles.ts';
export { verdictWords, type Verdict } from './verdict.ts';
export { runSheetMarkdown } from './markdown.ts';
export { sheetChanges, moved, saysOf, type SheetChange } from './edits.ts';
export { headlineOf, kindWords, type Headline, type HeadlineFigure } from './headline.ts';
export { rungErects, rungPrint, rungSays, type Rung, type RungNumber } from './commissioning.ts';
export type { Connections } from './instruments.ts';
