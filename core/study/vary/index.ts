export {
  askedAxis,
  writtenAxis,
  axisScales,
  mostSteps,
  readAxis,
  usualAxis,
  type AskedAxis,
  type Axis,
  type AxisScale,
  type ReadAxis,
} from './axis.ts';
export { outputsOf, tightestLimit, usualOutputs, type At, type Output } from './outputs.ts';
export {
  mostAxes,
  mostPoints,
  pointsOf,
  rigAt,
  sweepChunk,
  sweepRefusal,
  valuesAt,
  type Sweep,
  type SweepPoint,
} from './sweep.ts';
export {
  greatest,
  leastSamples,
  distributions,
  mostSamples,
  rigOfSample,
  samplerOf,
  scatteredOf,
  scatterChunk,
  spreadOf,
  yieldOf,
  type Goal,
  type Distribution,
  type Percentile,
  type Scatter,
  type Spread,
} from './scatter.ts';
export {
  lowestAt,
  matterRows,
  matterRowsChunk,
  mattersFrom,
  mattersOf,
  swingsOf,
  varianceShares,
  type Alone,
  type Cause,
  type Matters,
  type Share,
  type Swing,
  type VarianceRow,
} from './matters.ts';
export { type Uncertain } from './inputs.ts';
export { layoutOf, sweepColumnsChunk, sweepPoints, widthOf, type SweepLayout, type SweepStretch } from './layout.ts';
export { pointsThatMeet, type Chosen } from './goal.ts';
export {
  printFirst,
  printOutput,
  printPlace,
  printScattered,
  printSpan,
  printTotal,
  scatterColumns,
  shotsNote,
  sweepColumns,
  sweptTitle,
  tableOf,
  type StudyColumn,
} from './print.ts';
