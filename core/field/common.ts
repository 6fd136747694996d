import type { UnitId } from '../quantity/index.ts';
import type { BlockField, QuantityField } from './field.ts';

/** A rating that may be unknown, as on a salvaged part: above nought, empty at first. */
export const rating = (symbol: string, title: string, unit: UnitId, max: number, help?: string): QuantityField => ({
  type: 'quantity',
  symbol,
  title,
  unit,
  min: 0,
  max,
  open: true,
  initial: null,
  optional: true,
  ...(help === undefined ? {} : { help }),
});

/** How many of equal parts, one at first. */
export const countOf = (symbol: string, title: string): QuantityField => ({
  type: 'quantity',
  symbol,
  title,
  unit: '1',
  min: 1,
  max: 1000,
  integer: true,
  initial: '1',
});

/** A quantity field without the word that says it is one. */
export const quantity = (field: Omit<QuantityField, 'type'>): QuantityField => ({ type: 'quantity', ...field });

/** A field that counts only while a choice of its block has one of these values: it is then shown, and else said not to be in force. */
export const onlyWith = <const F extends BlockField>(choice: string, values: readonly string[], field: F) => ({
  ...field,
  onlyWith: { choice, values },
});
