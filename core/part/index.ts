export {
  bandColours,
  decodeBands,
  decodeCapacitor,
  decodeResistor,
  toleranceLetters,
  type Decoded,
  type Reading,
} from './code.ts';
export { judge, type JudgedBank, type JudgedGroup, type Piece } from './compose/bank.ts';
export {
  arrangements,
  compose,
  composeFor,
  ComposeError,
  wordComposeIssue,
  type Arrangement,
  type ComposeIssue,
  type Composed,
  type Target,
} from './compose/compose.ts';
export { deltaUses, type DeltaCan, type DeltaUse } from './delta.ts';
export { dcRatingBySchool, defaultSchool, ratingSchools, type RatingSchool } from './rating.ts';
export { conditions, type Condition, type Measure, type Measured, type PartKind, type Verdict } from './kind/define.ts';
export { partKind, partKinds } from './kind/registry.ts';
export {
  guidedTest,
  measuredOf,
  newPart,
  partSchema,
  readingIssue,
  verdictOf,
  type MeterReading,
  type Part,
  type TestStep,
} from './part.ts';
