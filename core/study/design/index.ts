export { type BillLine } from './bill.ts';
export { chargedTo, printReached } from './print.ts';
export {
  designBounds,
  draftsOf,
  fallenBy,
  readDesign,
  tryDraft,
  type Designed,
  type DesignQuestion,
  type Fallen,
  type Outcome,
  type Reached,
  type ReadQuestion,
} from './design.ts';
export { merits, ranked, type Merit, type Merits, type Ranked } from './front.ts';
export { type DesignGoal, type Draft } from './goal.ts';
export { designGoal, designGoals } from './goals/index.ts';
