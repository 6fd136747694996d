export { predictedNumbers, predictedShot, type Predicted, type PredictedShot } from './predicted-shot.ts';
export { causesOf, symptoms, type Cause, type SymptomId } from './commissioning.ts';
export { bleedStudy, type BleedStudy, type BleedWay, type RuleAnswer } from './bleed/bleed.ts';
export { stickFor, stickOf, type Stick } from './bleed/stick.ts';
export { coilStudy, type CoilStudy } from './coil/coil.ts';
export * from './coil/launch/index.ts';
export * from './tesla-coil/index.ts';
export { erectionShot, overvoltages, type FiredGap, type Shot } from './marx/erection.ts';
export {
  erectionOf,
  erectionStudy,
  erectionThresholds,
  type ErectionRate,
  type ErectionStudy,
  type ShotsOfStudy,
} from './marx/window.ts';
export { stagesStudy, type StagesStudy, type StageThen } from './coil/stages.ts';
export {
  gapCurve,
  gapPrint,
  gapStudy,
  type GapAxis,
  type GapCurve,
  type GapFit,
  type GapPoint,
  type GapPrint,
  type GapStudy,
} from './gap/gap-study.ts';
export {
  compareSwitches,
  ownSwitch,
  inSeries,
  usualStock,
  type Duty,
  type SwitchChoice,
  type SwitchStock,
} from './solid-state/switches.ts';
export {
  faultLevels,
  faultStudy,
  type Carried,
  type BlindFault,
  type Fault,
  type FaultLevel,
  type FaultStudy,
  type LeftThere,
} from './fault/faults.ts';
export { contained, type Remedy } from './fault/remedy.ts';
export { buildSheet, type BuildSheet, type Wire } from './guard/build-sheet.ts';
export { interlockStudy, type InterlockStudy } from './guard/guard.ts';
export * from './vary/index.ts';
export * from './design/index.ts';
