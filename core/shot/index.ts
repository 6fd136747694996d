export {
  bandShare,
  calibratedTitle,
  calibrationOf,
  calibrationsOf,
  isCalibrated,
  causeOf,
  ratesOf,
  type Calibrated,
  type Calibration,
  type Rate,
  type Recorded,
} from './calibration.ts';
export { fieldsLearnt, type FieldLearnt } from './fields-learnt.ts';
export { controlChart, type ControlChart } from './control-chart.ts';
export { axesOf, axisOf, ownAxes, ownIn, type Axis } from './axis.ts';
export {
  measurable,
  measureIds,
  measures,
  measureNamed,
  ofTheAir,
  predictedSchema,
  rangeOf,
  settable,
  settingTitle,
  shotSchema,
  type MeasureId,
  type Shot,
  type Values,
} from './shot.ts';
export { isComparable } from './pool.ts';
export { measureAt, predictShot, rigAsSet } from './predict.ts';
export {
  guessLayout,
  keptRecord,
  layoutSignature,
  mostChannels,
  mostColumns,
  NoScopeFile,
  readNumber,
  ScopeReader,
  type KeptRecord,
  type ScopeChannel,
  type ScopeLayout,
  type ScopeRecord,
} from './scope-layout.ts';
export { fieldsOfGap, gapShots, withBreakdowns, type GapShots } from './gap-shots.ts';
export { lifeUsed, type LifeUsed } from './life.ts';
export { shotsOfRun, type ShotOfRun } from './of-run.ts';
export { fieldsOfFit, withMeasured, type MeasuredField, type TraceFit } from './accept.ts';
