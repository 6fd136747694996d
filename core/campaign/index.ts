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
export { progressOf, replan, type KeptShot, type Place, type Progress } from './progress.ts';
export { planCalendar, planMarkdown, planRows, planTimes, settingTold, settingWords, type Moments } from './report.ts';
export type { Session } from './schedule.ts';
export { liftedMisfires, shotVerdict, type Evidence, type Gate, type ShotVerdict } from './verdict.ts';
