import { printDuration, printPercent, printQuantity, type UnitId } from '@vast-surge/core/quantity';

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
  if (!Number.isFinite(value)) return waits.has(id) ? 'never' : 'no upper end';
  if (waits.has(id)) return printDuration(value);
  return id === 'voltage-reversal' ? printPercent(value) : printQuantity(value, unit);
}
