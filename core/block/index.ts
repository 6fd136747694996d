export {
  acts,
  slots,
  phases,
  type Act,
  ProgramError,
  Unavailable,
  type ChargeLaw,
  type FigureSpec,
  type LimitSpec,
  type FurtherStore,
  type Offers,
  type Own,
  type Phase,
  type Problem,
  type RigContext,
  type Slot,
  type StepSpec,
} from './context.ts';
export { toolElements, type ToolPart } from './bleed/wired.ts';
export { chargeLeak } from './charge-leak.ts';
export { bleedThrough, tenthThrough } from './bleed-through.ts';
export { arcFall, arcLawText, toepler } from './arc.ts';
export { gapCertainty, selfBreak } from './switch/gap.ts';
export { coilsOf } from './load/coilgun-stage.ts';
export { readCoils, type CoilLine } from './load/further-coils.ts';
export { projectileOf, type Projectile } from './load/projectile.ts';
export {
  inductanceOf,
  isSummed,
  metalOf,
  mostTurns,
  pulseRatio,
  resistanceOf,
  windingOf,
  wireOf,
  wound,
  type Winding,
  type WoundWire,
} from './load/winding.ts';
export { eachStage } from './store/marx-own.ts';
export { readObserved, type Observed } from './switch/observed.ts';
export { triggeredFrom, triggeredTo } from './switch/spark-gap.ts';
export { absorptionBy, dielectricField } from './store/dielectric-field.ts';
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
  type HeldCharge,
  type OneOpen,
  type CircuitPart,
  type Glyph,
  type Instrument,
  type Scene,
  type Terminals,
  type Trial,
} from './define.ts';
export { blockDefinition, blockDefinitions, checkPath, kindsOf, slotTitles } from './registry.ts';
export { type PartRef } from './part-ref.ts';
export { fieldsFrom, outdated, withBank, withoutParts, withPart, type BankOfParts, type Outdated } from './take.ts';
export { blockSchema, changeKind, isInForce, newBlock, type Block } from './schema.ts';
export { meterScale, type Scale, type ScaleMark } from './meter/scale.ts';
export { ifKnown } from './known.ts';
export { breakPath, ofBreaks, verdictOf, type Breaking, type Verdict } from './tank.ts';
export { storeEnergy } from './store-energy.ts';
export { ambient } from './standard-air.ts';
