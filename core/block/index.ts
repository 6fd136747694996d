export { ProgramError } from '../formula/index.ts';
export {
  channelSlots,
  isChannelSlot,
  rigSlots,
  slots,
  type Desk,
  type PageGroup,
  type DeskRoute,
  type FieldId,
  type FieldPath,
  type FieldsIn,
  type FigureId,
  type FigureIds,
  type PathText,
  type KindFields,
  type Slot,
} from './names.ts';
export {
  acts,
  phases,
  type Act,
  Unavailable,
  type ChargeLaw,
  type PulseLaw,
  type FigureSpec,
  type LimitSpec,
  type Offers,
  type Own,
  type Phase,
  type Problem,
  type RigContext,
  type StepSpec,
  questions,
  type Question,
} from './context.ts';
export { toolElements, type ToolPart } from './wired.ts';
export { staysConnected } from './charger-at-shot.ts';
export { chargeLeak } from './charge-leak.ts';
export { bleedThrough, tenthThrough } from './bleed-through.ts';
export { arcFall, arcLawText, toepler } from './arc.ts';
export {
  bleedGoal,
  goalBeside,
  highestVoltage,
  holdOf,
  longestBleed,
  setVoltage,
  residualVoltage,
  type BleedGoal,
} from './goal.ts';
export {
  type BlockDefinition,
  type FieldValues,
  type HeldCharge,
  type OneOpen,
  type CircuitPart,
  type Instrument,
  type Scene,
  type Terminals,
  type Trial,
} from './define.ts';
export {
  behindDoor,
  chainFaults,
  chainHoles,
  chainPhases,
  chainState,
  twoDumpsFrom,
  type Chain,
  type ChainFault,
  type ChainHole,
  type ChainState,
  type Hands,
} from './interlock.ts';
export type { Used, Warmed } from './shot-needs.ts';
export { faultMoments, type FaultMode, type FaultMoment, type PlacedPart } from './fault.ts';
export { type PartRef } from './part-ref.ts';
export { ifKnown } from './known.ts';
export { storeEnergy } from './store-energy.ts';
export { airOf, inStandardAir, standardAir, type Air } from './standard-air.ts';
export {
  absent,
  arcs,
  box,
  circle,
  ellipse,
  gapInRail,
  breakMark,
  columnsOf,
  middleOf,
  nothing,
  over,
  plates,
  upright,
  type Glyph,
  type Place,
  type Stroke,
} from './glyph.ts';
export type { Asked, Setting, Settings, Starter, Tuned, Wishes } from './starter.ts';
export { freewheelOf } from './freewheel.ts';
