export * as storeFormulas from './store/store.ts';
export * as chargeFormulas from './charging/charge.ts';
export * as supplyFormulas from './charging/supply.ts';
export * as sourceFormulas from './charging/source.ts';
export * as chokeFormulas from './charging/choke.ts';
export * as multiplierFormulas from './charging/multiplier.ts';
export * as dischargeFormulas from './store/discharge.ts';
export * as bleedFormulas from './store/bleed.ts';
export * as fuseFormulas from './fault/fuse.ts';
export * as lampFormulas from './store/lamp.ts';
export * as inductanceFormulas from './coil/inductance.ts';
export * as airFormulas from './spark/air.ts';
export * as gapFormulas from './spark/gap.ts';
export * as coronaFormulas from './spark/corona.ts';
export * as marxFormulas from './spark/marx.ts';
export * as strayFormulas from './spark/stray.ts';
export * as transferFormulas from './store/transfer.ts';
export * as stackFormulas from './spark/stack.ts';
export * as triggerFormulas from './spark/trigger.ts';
export * as breakFormulas from './tesla-coil/breaks.ts';
export * as leadsFormulas from './store/leads.ts';
export * as pulseLineFormulas from './store/pulse-line.ts';
export * as probeFormulas from './store/probe.ts';
export * as solutionFormulas from './store/solution.ts';
export * as switchFormulas from './store/switch.ts';
export * as reachFormulas from './fault/reach.ts';
export * as ringFormulas from './tesla-coil/ring.ts';
export * as tankFormulas from './tesla-coil/tank.ts';
export * as secondaryFormulas from './tesla-coil/secondary.ts';
export * as meterFormulas from './store/meter.ts';
export * as coilFormulas from './coil/coil.ts';
export * as pulseTransformerFormulas from './coil/pulse-transformer.ts';
export * as coilLossFormulas from './coil/coil-loss.ts';
export * as canFormulas from './coil/can.ts';
export * as capacitorFormulas from './store/capacitor.ts';
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
  withErrors,
  certaintyOf,
  work,
  ruled,
  givens,
  isTypical,
  isTuned,
  modelSpread,
  displaySymbol,
  expressionIn,
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
