export { launchNetlist, rigDeck } from './deck.ts';
export type { Muzzle } from './muzzle.ts';
export { launchSetup, type CoilSetup, type LaunchSetup } from './setup.ts';
export {
  bestSensors,
  launchSpeed,
  launchSpeedRange,
  launchStudy,
  type LaunchStage,
  type LaunchStudy,
  type TimingCost,
} from './study.ts';
export {
  asTheRig,
  findLaunch,
  gaugesBetween,
  launchFinder,
  withDesign,
  type FinderSpec,
  type LaunchDesign,
  type LaunchFreedom,
  type Span,
  type LaunchFinder,
  type LaunchGoal,
  type LaunchLimits,
  type LaunchOutcome,
} from './finder.ts';
