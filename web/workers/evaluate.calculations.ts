import { evaluateRig, packEvaluation, type PackedEvaluation } from '@vast-surge/core/evaluation';
import type { Rig } from '@vast-surge/core/rig';

/** The evaluation of a rig, away from the page: while a slider is held. */
export const calculations = { evaluate: (rig: Rig): PackedEvaluation => packEvaluation(evaluateRig(rig)) };
export type EvaluateCalculations = typeof calculations;
