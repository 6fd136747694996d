export { designs, orders } from './design.ts';
export { planSeries, variedFields, type CampaignPlan, type PlanAnswer, type Series } from './plan.ts';
export { planCalendar, planMarkdown, planRows, planTimes, settingTold, settingWords, type Moments } from './report.ts';
export type { Session } from './schedule.ts';
