export {
  bandColours,
  decodeBands,
  decodeCapacitor,
  decodeResistor,
  toleranceLetters,
  type Decoded,
  type Reading,
} from './code.ts';
export { balanceOf, type Balance } from './compose/balance.ts';
export { bankWorking, type BankWorking } from './compose/working.ts';
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
export { connectionOf, connectionsOf, elementCapacitances, type Connection } from './connection.ts';
export { dcLimits, polarityOf, type DcLimit, type DcLimits } from './dc-limit.ts';
export { deltaUses, type DeltaCan, type DeltaUse } from './delta.ts';
export { mainValueOf, readFilter, valuesKept, voltageOf, type ReadFilter } from './filter.ts';
export {
  actOn,
  guidedTest,
  startTest,
  verifiedBelow,
  type TestAct,
  type TestAnswer,
  type TestRun,
  type TestStep,
} from './guided-test.ts';
export {
  designSchema,
  deviationOf,
  fitDesign,
  newDesign,
  predictDesign,
  type Design,
  type Fitted,
  type Predicted,
  type Prediction,
} from './home-made/design.ts';
export { shapeOf, shapes, type CutPiece, type Shape } from './home-made/shape.ts';
export { lotSchema, newLot, totalsOf, type Lot, type LotTotals } from './lot/lot.ts';
export { disposalCaution, lotSource, lotSources, type LotSource } from './lot/source.ts';
export { partIdOf, piecesOf, type Kept, type PiecesOf } from './piece.ts';
export { dcRatingBySchool, defaultSchool, ratingSchools, type RatingSchool } from './rating.ts';
export {
  conditions,
  underUnits,
  type Condition,
  type Measure,
  type Measured,
  type PartKind,
  type Verdict,
} from './kind/define.ts';
export { partKind, partKinds } from './kind/registry.ts';
export {
  choiceOf,
  elementsOf,
  elementTitle,
  elementValues,
  labelOf,
  measuredOf,
  newPart,
  partSchema,
  readingIssue,
  verdictOf,
  type MeterReading,
  type Part,
} from './part.ts';
export { meterUncertainty, valuesOf, wordOrigin, type PartValue } from './values.ts';
