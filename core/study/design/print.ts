import { printQuantity } from '../../quantity/index.ts';
import { quantityAt } from '../../rig/index.ts';
import type { Designed, Reached } from './design.ts';

/** From what to what a number that was wanted goes over all tolerances; null where nothing moves it, or its page does not say. */
export function printReached({ unit, band }: Reached): string | null {
  if (band === null || !(band.low < band.high)) return null;
  const [low, high] = [band.low, band.high].map((value) => printQuantity(value, unit));
  return low === high ? null : `${low} to ${high}`;
}

/** What the voltage of a design is called: its store is charged to it, of a Marx each stage. */
export const chargedTo = ({ rig }: Pick<Designed, 'rig'>): string => quantityAt(rig, 'store.V0')?.field.title ?? 'Charged to';
