export * as storeFormulas from './store.ts';
export * as chargeFormulas from './charge.ts';
export * as supplyFormulas from './supply.ts';
export * as sourceFormulas from './source.ts';
export * as chokeFormulas from './choke.ts';
export * as multiplierFormulas from './multiplier.ts';
export * as dischargeFormulas from './discharge.ts';
export * as bleedFormulas from './bleed.ts';
export * as lampFormulas from './lamp.ts';
export * as inductanceFormulas from './inductance.ts';
export * as gapFormulas from './gap.ts';
export * as marxFormulas from './marx.ts';
export * as strayFormulas from './stray.ts';
export * as transferFormulas from './transfer.ts';
export * as stackFormulas from './stack.ts';
export * as triggerFormulas from './trigger.ts';
export * as breakFormulas from './breaks.ts';
export * as ringFormulas from './ring.ts';
export * as tankFormulas from './tank.ts';
export * as secondaryFormulas from './secondary.ts';
export * as meterFormulas from './meter.ts';
export * as coilFormulas from './coil.ts';
export * as coilLossFormulas from './coil-loss.ts';
export * as canFormulas from './can.ts';
export * as capacitorFormulas from './capacitor.ts';
export { formulas, formulaById } from './registry.ts';
export { solveFormula, withSolution } from './solve.ts';
export {
  checkInputs,
  checkSymbol,
  evaluateFormula,
  FormulaError,
  ProgramError,
  symbolsOf,
  withDefaults,
  wordCertainty,
  wordFormulaIssue,
  wordRange,
  type Certainty,
  type Formula,
  type FormulaIssue,
  type SymbolSpec,
  type Values,
} from './define.ts';
export {
  boundsOf,
  certaintyOf,
  work,
  ruled,
  givens,
  isTypical,
  isTuned,
  modelSpread,
  displaySymbol,
  expressionText,
  substitutionText,
  workingOf,
  type Computed,
  type Given,
  type Origin,
  type Worked,
  type WorkingInput,
  type WorkingLine,
} from './worked.ts';
