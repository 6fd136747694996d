export { gapCertainty, selfBreak } from './gap/gap.ts';
export { coilsOf, type CoilPlace, type FiredBy } from './coil/coilgun-stage.ts';
export { projectileOf, type Projectile } from './coil/projectile.ts';
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
} from './coil/winding.ts';
export { measuredFieldIds, windingFieldIds } from './coil/winding-fields.ts';
export { eachStage } from './marx/marx-own.ts';
export { readObserved, type Observed } from './gap/observed.ts';
export { triggeredFrom, triggeredTo } from './gap/spark-gap.ts';
export { absorptionBy, dielectricField } from './bank/dielectric-field.ts';
export { allDesks, blockDefinition, blockDefinitions, checkPath, deskOf, groupedStore, kindsOf, slotTitles } from './registry.ts';
export { fieldsFrom, outdated, withBank, withoutParts, withPart, type BankOfParts, type Outdated } from './take.ts';
export { desksTable, kindsTable } from './table.ts';
export { groupsOf, groupTitles, type GroupOfFields } from './groups.ts';
export { blockSchema, changeKind, furtherLoadSchema, isInForce, newBlock, type Block } from './schema.ts';
export { meterScale, type Scale, type ScaleMark } from './meter/scale.ts';
export { breakPath, ofBreaks, verdictOf, type Breaking, type Verdict } from './tesla-coil/tank.ts';
export {
  bankAt,
  gapFor,
  gapTuned,
  ladderFor,
  otherStarts,
  stageAt,
  stagesAt,
  starterBy,
  starters,
  surroundings,
  triggeredAt,
} from './starter/index.ts';
