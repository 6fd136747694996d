import { z } from 'zod';
import { manners, printIn, siManner, type Manner } from '@vast-surge/core/quantity';

const key = 'vast-surge.units';

// What another version kept and none of this one is, is as at first.
const kept = z
  .object({
    measures: z.enum(manners.measures).catch(siManner.measures),
    pressure: z.enum(manners.pressure).catch(siManner.pressure),
    wire: z.enum(manners.wire).catch(siManner.wire),
    decimal: z.enum(manners.decimal).catch(siManner.decimal),
  })
  .catch(siManner);

/** How numbers are read on this device. */
function savedManner(): Manner {
  try {
    return kept.parse(JSON.parse(localStorage.getItem(key) ?? 'null'));
  } catch {
    return siManner;
  }
}

export const applySavedManner = (): void => printIn(savedManner());

/** Keeps it for this device. What is on the page already was printed otherwise: it has to be opened anew. */
export function keepManner(manner: Manner): void {
  localStorage.setItem(key, JSON.stringify(manner));
}
