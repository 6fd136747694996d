export { deckNumber } from './deck/number.ts';
export { recordedCoil } from './deck/own.ts';
export { netlistLimit, readNetlist, type LineIssue, type ReadNetlist } from './deck/read.ts';
export { netlistText, type DeckOptions } from './deck/write.ts';
export { CircuitError, checkNetlist, elementLimit, type CircuitIssue } from './check.ts';
export {
  waveAt,
  type Arc,
  type Capacitor,
  type Coil,
  type CoilReading,
  type Control,
  type Element,
  type Gap,
  type LineEnd,
  type Netlist,
  type Nodes,
  type Wave,
} from './element.ts';
export { decimated, stretchOf, traceAt, type Trace } from './trace.ts';
export type { CircuitEvent, CircuitRun, Probe, RunOptions } from './run.ts';
export { prepareCircuit, simulateCircuit } from './solver/transient.ts';
