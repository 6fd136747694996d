import { inSI } from './manner.ts';
import { printAsTyped, scaleTyped } from './print.ts';
import type { UnitId } from './unit.ts';

/**
 * Preferred numbers of the E series. Source: IEC 60063.
 */
const series = {
  E6: [1, 1.5, 2.2, 3.3, 4.7, 6.8],
  E12: [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2],
  E24: [1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1],
} as const;

export type ESeries = keyof typeof series;

/**
 * The next preferred number above (`direction` 1) or below (−1) a positive value.
 *
 * @returns a number of the series strictly beyond `value`; `value` itself where it is not positive and finite
 */
export function stepPreferred(value: number, direction: 1 | -1, name: ESeries = 'E12'): number {
  if (!(value > 0) || !Number.isFinite(value)) return value;
  const decade = Math.floor(Math.log10(value));
  const candidates: number[] = [];
  for (let d = decade - 1; d <= decade + 1; d++) {
    for (const m of series[name]) candidates.push(Number(`${m}e${d}`));
  }
  const slack = value * 1e-9;
  const beyond =
    direction === 1 ? candidates.filter((c) => c > value + slack) : candidates.filter((c) => c < value - slack).reverse();
  return beyond[0] ?? value;
}

const gauge = /^(\d{1,2})\s*AWG$/i;

/**
 * What would be typed for the next value of a row, in the unit in which the one before was written: a gauge more or less, or a preferred
 * number of psi, inches, minutes.
 *
 * @param value in the SI unit @param typed how it was written
 */
export function stepTyped(value: number, unit: UnitId, typed: string, direction: 1 | -1): string {
  const wire = unit === 'm' ? gauge.exec(typed.trim()) : null;
  // A greater number is a thinner wire.
  if (wire) return `${Math.min(50, Math.max(0, Number(wire[1]) - direction))} AWG`;
  const { factor, offset } = scaleTyped(typed, unit);
  const next = stepPreferred((value - offset) / factor, direction) * factor + offset;
  return inSI(() => printAsTyped(next, unit, typed, { digits: 6, trim: true }));
}
