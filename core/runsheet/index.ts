export { cautions, phaseTitles, runSheetOf, type RunSheet, type Step } from './runsheet.ts';
export { runSheetMarkdown } from './markdown.ts';
export type { Connections } from './instruments.ts';
