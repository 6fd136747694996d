import type { Formula } from './define.ts';
import * as bleed from './bleed.ts';
import * as capacitor from './capacitor.ts';
import * as charge from './charge.ts';
import * as discharge from './discharge.ts';
import * as inductance from './inductance.ts';
import * as store from './store.ts';

/** Every formula, in the order in which it is listed: subjects along the line, the most asked first. A new formula is one line here. */
export const formulas = [
  store.storedEnergy,
  store.storedCharge,
  store.seriesParallelCapacitance,
  store.bankRating,
  store.seriesElementVoltage,
  store.groupVoltage,
  store.usableVoltage,
  store.reverseVoltageOfOne,
  store.bankResistance,
  store.bankInductance,
  store.seriesResistance,
  store.shareOfString,
  charge.rcChargeTime,
  charge.chargingLoss,
  charge.initialCurrent,
  charge.loadedSupplyVoltage,
  charge.fractionOfVoltage,
  charge.parallelResistance,
  charge.seriesSum,
  discharge.rlcPeakCurrent,
  discharge.rlcTimeToPeak,
  discharge.rlcDampingRatio,
  discharge.rlcVoltageReversal,
  discharge.actionIntegral,
  discharge.actionOfHalfCycle,
  discharge.initialRateOfRise,
  discharge.heatFromAction,
  discharge.driveVoltage,
  discharge.storeReversal,
  discharge.reversedVoltage,
  bleed.rcBleedTime,
  bleed.rcTimeToTenth,
  bleed.bleedPeakPower,
  bleed.resistorPowerFromCurrent,
  bleed.energyShare,
  capacitor.plateCapacitance,
  capacitor.stackCapacitance,
  capacitor.cylinderCapacitance,
  capacitor.bottleCapacitance,
  capacitor.rolledCapacitance,
  capacitor.dielectricStress,
  capacitor.dcRatingFromAc,
  capacitor.balanceResistor,
  capacitor.reversalDerating,
  capacitor.voltageLife,
  capacitor.deltaElement,
  capacitor.edgeCreepage,
  capacitor.foilResistance,
  capacitor.columnResistance,
  capacitor.wireLeadResistance,
  inductance.straightWireInductance,
  inductance.loopInductance,
  inductance.loopOfLead,
  inductance.inductanceSum,
] as unknown as readonly Formula[];

export const formulaById: ReadonlyMap<string, Formula> = new Map(formulas.map((formula) => [formula.id, formula]));
