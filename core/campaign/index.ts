export { answerOf, type Answer } from './answer.ts';
export {
  answered,
  betterSetting,
  bookOf,
  campaignMarkdown,
  campaignRows,
  pointsOfCampaign,
  settingRows,
  type Answered,
  type BookRow,
  type Kept,
} from './book.ts';
export {
  answersSchema,
  campaignSchema,
  checkIds,
  checks,
  checkSchema,
  entrySchema,
  mostEntries,
  mostShots,
  setFor,
  seeks,
  settingAt,
  type Answers,
  type Campaign,
  type Check,
  type CheckId,
  type Entry,
  type EntryKind,
} from './campaign.ts';
export { designs, orders } from './design.ts';
export {
  planSeries,
  rigAtSetting,
  standingAt,
  variedFields,
  type Standing,
  type CampaignPlan,
  type PlanAnswer,
  type AskedStock,
  type PlannedStock,
  type Series,
  type Varied,
} from './plan.ts';
export { expectedAt, lastReading, type ExpectedShot, type LastReading } from './expected.ts';
export { isSetTo, rigSetTo, turnsTold } from './hands.ts';
export { printStock, takesOf, coolingOf, type Stock, type StockLeft, type Takes } from './stock.ts';
export type { KeptShot, Place } from './place.ts';
export { progressOf, replan, type Progress } from './progress.ts';
export {
  coolingWords,
  leftCalendar,
  planCalendar,
  planMarkdown,
  planRows,
  planTimes,
  settingTold,
  stockWords,
  type Moments,
} from './report.ts';
export type { Session } from './schedule.ts';
export { shotVerdict, type Evidence, type Gate, type ShotVerdict } from './verdict.ts';
export { settingsNamed, settingWords } from './words.ts';
