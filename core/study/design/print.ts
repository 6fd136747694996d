import { printQuantity } from '../../quantity/index.ts';
import type { Reached } from './design.ts';

/** From what to what a number that was wanted goes over all tolerances; null where nothing moves it, or its page does not say. */
export function printReached({ unit, band }: Reached): string | null {
  if (band === null || !(band.low < band.high)) return null;
  const [low, high] = [band.low, band.high].map((value) => printQuantity(value, unit));
  return low === high ? null : `${low} to ${high}`;
}
