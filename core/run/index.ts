export { deviationOf, expectedAt, startedBy, type Deviation, type Expected } from './expected.ts';
export { isProofOf, pinCheck, pinPattern, pinProof, type PinCheck } from './pin.ts';
export { planOf, planSchema, voltsAtWorst, voltsOn, type PlanCurve, type PlanStep, type RunPlan } from './plan.ts';
export {
  initialsSchema,
  outcomes,
  outcomeWords,
  runEventSchema,
  type Outcome,
  type RunEvent,
  type RunEventType,
} from './event.ts';
export {
  isFarFrom,
  notBegun,
  replay,
  stepAt,
  stepRun,
  stepsOn,
  waitLeft,
  type Path,
  type Reading,
  type Refusal,
  type Replayed,
  type RunState,
} from './state.ts';
export { refusalWords } from './words.ts';
export { courseOf, type Course } from './course.ts';
