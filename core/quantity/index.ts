export { units, isUnitId, type UnitId } from './unit.ts';
export { wordQuantityIssue, unitName, type QuantityIssue } from './issue.ts';
export { parseQuantity, bounds, awgDiameter, type Parsed, type Quantity, type Tolerance } from './parse.ts';
export {
  printAsTyped,
  printQuantity,
  printExact,
  printFixed,
  printMargin,
  printPercent,
  printRate,
  printDuration,
  printTolerance,
  printWire,
  type PrintOptions,
} from './print.ts';
export { stepPreferred, stepTyped, type ESeries } from './preferred.ts';
export { readHours, readMoney, type Amount } from './money.ts';
export { formOf, inManner, inSI, mannerNow, manners, printIn, siManner, type Manner } from './manner.ts';
