export { gaussRule, gaussRuleOfUnit, overPanels, type GaussRule } from './gauss.ts';
export { edge, minimum, root, type Edge, type EdgeOptions, type RootOptions } from './root.ts';
export { dot, inversePositive, lowerTriangle, solveDense } from './dense.ts';
export { estimate, fitModel, studentFactor, type Estimate, type Fitted } from './levenberg.ts';
export { optimise, type Found, type Search, type Variable } from './optimise.ts';
export { binomialInterval } from './binomial.ts';
export { normals, uniforms } from './random.ts';
export { normalAt, uniformAt } from './counted.ts';
