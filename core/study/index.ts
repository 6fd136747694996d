export { headlineOf, type Headline, type HeadlineFigure } from './headline.ts';
export { predictedNumbers, predictedShot, type Predicted, type PredictedShot } from './predicted-shot.ts';
export { causesOf, symptoms, type Cause, type SymptomId } from './commissioning.ts';
export { bleedStudy, type BleedStudy, type BleedWay, type RuleAnswer } from './bleed.ts';
export { stickFor, stickOf, type Stick } from './stick.ts';
export { coilStudy, type CoilStudy } from './coil.ts';
export * from './launch/index.ts';
export * from './tank/index.ts';
export {
  erectionShot,
  erectionStudy,
  overvoltages,
  type ErectionRate,
  type ErectionStudy,
  type FiredGap,
  type Shot,
} from './erection.ts';
export { stagesStudy, type StagesStudy, type StageThen } from './stages.ts';
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
} from './gap-study.ts';
export { compareSwitches, inSeries, usualStock, type Duty, type SwitchChoice, type SwitchStock } from './switches.ts';
