export { evaluateRig, figureIn, type Evaluation } from './evaluate.ts';
export { evaluationData, type FigureData, type LimitData } from './data.ts';
export { leversOf, solveRig, type Backwards } from './backwards.ts';
