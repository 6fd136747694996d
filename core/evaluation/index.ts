export { errorsOf, evaluateRig, leadsHazard, limitsOf, figureIn, type Evaluation } from './evaluate.ts';
export { evaluationData, type FigureData, type LimitData } from './data.ts';
export {
  compareEvaluations,
  type Comparison,
  type ComparedFigure,
  type ComparedLimit,
  type FigureChange,
  type LimitChange,
} from './compare.ts';
export { leversOf, solveRig, type Backwards } from './backwards.ts';
export { assumed, readWishes, rigOfSettings, startRig, withTuned, type OutOfReach, type Started, type Typed } from './start.ts';
export { neighboursOf, type Neighbours } from './neighbours.ts';
export { packEvaluation, unpackEvaluation, type PackedEvaluation } from './transfer.ts';
