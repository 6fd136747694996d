export { units, isUnitId, type UnitId } from './unit.ts';
export { wordQuantityIssue, unitName, type QuantityIssue } from './issue.ts';
export { parseQuantity, bounds, awgDiameter, type Parsed, type Quantity, type Tolerance } from './parse.ts';
export {
  printAsTyped,
  printQuantity,
  printExact,
  printPercent,
  printRate,
  printDuration,
  printTolerance,
  type PrintOptions,
} from './print.ts';
export { stepPreferred, type ESeries } from './preferred.ts';
