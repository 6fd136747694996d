export { answerOf, nextBest, type Answer } from './answer.ts';
export {
  answered,
  bookOf,
  campaignMarkdown,
  campaignRows,
  pointsOfCampaign,
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
  setFor,
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
  type Series,
} from './plan.ts';
export { expectedAt, lastReading, type ExpectedShot, type LastReading } from './expected.ts';
export { progressOf, replan, type KeptShot, type Place, type Progress } from './progress.ts';
export { planCalendar, planMarkdown, planRows, planTimes, settingTold, settingWords, type Moments } from './report.ts';
export type { Session } from './schedule.ts';
export { shotVerdict, type Evidence, type Gate, type ShotVerdict } from './verdict.ts';
