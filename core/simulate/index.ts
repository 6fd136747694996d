export { nameIn, nodeIn } from './channel-parts.ts';
export { inWordsOf, rigCircuit, type RigCircuit } from './rig-circuit.ts';
export { bleedTraces, bleedTracesToGoal, oneOpenOf } from './bleed-down.ts';
export { chargeSpan, chargeTraces, dischargeTraces, rlcDischarge, rlcSeries, type Trace } from './closed-form.ts';
export {
  closerLook,
  crossing,
  dischargeFigures,
  sceneNetlist,
  solveRigScene,
  worthSaying,
  type Compared,
  type Solved,
  type SolveAnswer,
} from './solved.ts';
