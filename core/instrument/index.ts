export { allowedLines, askableKinds, refusedLine, type AskableKind } from './allowed.ts';
export { longestMessage, overRange } from './command.ts';
export { respond, startInstrument, type InstrumentKind, type InstrumentState, type Terminal } from './instrument.ts';
export { benchMeter, charger, fieldMeter, highVoltageProbe, pressureGauge, type BenchMeter } from './kinds.ts';
export { scope, scopeRecord } from './scope.ts';
