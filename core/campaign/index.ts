export { designs, orders } from './design.ts';
export { planSeries, type CampaignPlan, type Setting } from './plan.ts';
export type { Session } from './schedule.ts';
