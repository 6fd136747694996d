import { rating, type QuantityField } from '../../field/index.ts';
import type { UnitId } from '../../quantity/index.ts';

/** A value that a label may give, with a tolerance where it has one: above nought, not known at first. */
export const labelled = (
  symbol: string,
  title: string,
  unit: UnitId,
  max: number,
  { tolerance = false, help }: { readonly tolerance?: boolean; readonly help?: string } = {},
): QuantityField => ({
  ...rating(title, unit, max, { symbol, ...(help === undefined ? {} : { help }) }),
  ...(tolerance ? { tolerance } : {}),
});
