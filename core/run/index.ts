export { deviationOf, expectedAt, startedBy, type Deviation, type Expected } from './expected.ts';
export { isProofOf, pinCheck, pinPattern, pinProof, type PinCheck } from './pin.ts';
export { planOf, planSchema, voltsAtWorst, voltsOn, type PlanCurve, type PlanStep, type RunPlan } from './plan.ts';
export {
  cameFrom,
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
  keyAnswerTime,
  notBegun,
  replay,
  stepAt,
  stepRun,
  stepsOn,
  untilTaken,
  waitLeft,
  type Path,
  type Reading,
  type Refusal,
  type Replayed,
  type RunState,
} from './state.ts';
export { refusalWords } from './words.ts';
export { courseOf, type Course } from './course.ts';
