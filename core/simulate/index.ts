export { nameIn, nodeIn } from './channel-parts.ts';
export { inWordsOf, rigCircuit, rigNetlistText, terminalsOf, type RigCircuit } from './rig-circuit.ts';
export { bleedSpan, bleedTraces, bleedTracesToGoal, oneOpenOf } from './bleed-down.ts';
export { chargeSpan, chargeTraces, dischargeTraces, rlcDischarge, rlcSeries, type Trace } from './closed-form.ts';
export {
  closerLook,
  crossing,
  dischargeFigures,
  ringOut,
  sceneNetlist,
  solveRigScene,
  worthSaying,
  type Compared,
  type Solved,
  type SolveAnswer,
} from './solved.ts';
