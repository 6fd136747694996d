export {
  layersInductance,
  layersMutual,
  mu0,
  sheetInductance,
  stripRadius,
  loopField,
  loopMutual,
  sectionAxisField,
  type Layer,
  type Section,
  sectionInductance,
} from './coaxial.ts';
export {
  acRow,
  chargeState,
  chargeTo,
  leftAfter,
  rotaryBreaks,
  steadyAcBreaks,
  steadyBreaks,
  swingPeak,
  type BreakPath,
  acBreaks,
  type SteadyBreaks,
} from './break-cycle.ts';
export { barsForce, barsInductance } from './bars.ts';
export { coupledModes, coupledSamples, type CoupledLoops, type CoupledSamples, coupledRing } from './coupled.ts';
export { spiralTurns, type Turn, skinTurn, turnsInductance, turnsMutual } from './turns.ts';
export { shellResponse, type ShellResponse } from './shell.ts';
export {
  gasBreakdown,
  anySphereGap,
  leastProduct,
  needleGap,
  needleSpacing,
  productFor,
  relativeDensity,
  rodGap,
  uniformAir,
} from './gas-breakdown.ts';
export { ladderLack, ladderTime, mostStages } from './ladder.ts';
export { dampingRatio, dampingShape, reversalFraction } from './rlc-shape.ts';
export { chargeIntegral, standstill, type Drive } from './charge-integral.ts';
export { rectifierDrive } from './rectifier.ts';
export { crossFieldLoss, layersRatio, medhurstCrowding, roundWireRatio } from './skin.ts';
export { torusCapacitance } from './toroid.ts';
