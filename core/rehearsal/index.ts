export { clashOf, drawFaults, faultIds, faultsOf, faultTitles, type FaultId } from './fault.ts';
export { actGroups, actsOf, isAct, rehearsalActs, type RehearsalAct } from './act.ts';
export { rehearsalSchema, type Rehearsal } from './rehearsal.ts';
export { worldAt, type Happening, type Touch, type World } from './world.ts';
export { meterIn } from './instrument.ts';
export { rehearsalInstruments, type RehearsalInstrument } from './stand-ins.ts';
export { play, playedWords, type Contact, type Played, type Playing } from './player.ts';
export { nearMissesOf, nearMissSchema, type NearMiss } from './near-miss.ts';
export { scoreOf, type FaultOutcome, type Score } from './score.ts';
