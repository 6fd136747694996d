import { printDuration, printPercent, printQuantity, printRate, type UnitId } from '../quantity/index.ts';

const waits = new Set([
  'charge-time',
  'charge-time-fraction',
  'bleed-time',
  'bleed-time-open',
  'bleed-time-tenth',
  'bleed-time-open-tenth',
  'tool-time',
  'tool-time-tenth',
]);

/** A figure's value as it is best read: waiting times in minutes and hours, fractions in per cent. */
export function printFigure(id: string, value: number, unit: UnitId): string {
  if (!Number.isFinite(value)) return waits.has(id) ? 'never' : 'no value in the worst case';
  if (waits.has(id)) return printDuration(value);
  if (unit === 'Hz' && value > 0 && value < 1) return printRate(value);
  return id === 'voltage-reversal' ? printPercent(value) : printQuantity(value, unit);
}

/** A number with one unit behind it, in its two parts; null of what has more of them, such as `10 min 20 s`. */
const parted = (text: string): readonly string[] | null => {
  const parts = text.split(' ');
  return parts.length === 2 ? parts : null;
};

/** From the least to the greatest, the unit once where both have the same. */
export function printBand(id: string, low: number, high: number, unit: UnitId): string {
  // Rare events are told by the time between two of them, the shortest first.
  if (unit === 'Hz' && low > 0 && low < 1) return `every ${printDuration(1 / high)} to ${printDuration(1 / low)}`;
  const [from, to] = [printFigure(id, low, unit), printFigure(id, high, unit)];
  const [short, long] = [parted(from), parted(to)];
  return short && long && short[1] === long[1] ? `${short[0]} to ${to}` : `${from} to ${to}`;
}
