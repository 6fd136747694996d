import { readQuantityText, textOf, type QuantityField, type QuantityValue, type ReadField } from '@vast-surge/core/field';
import { wordRange } from '@vast-surge/core/formula';
import {
  formOf,
  mannerNow,
  parseQuantity,
  printQuantity,
  printTolerance,
  printWire,
  wordQuantityIssue,
  type Parsed,
  type Quantity,
  type UnitId,
} from '@vast-surge/core/quantity';

/** Whoever writes decimals with a comma may mean a thousand by 1.234. */
const doubtful = (text: string): boolean =>
  mannerNow().decimal === 'comma' && /^\s*[+\-\u2212]?[1-9]\d{0,2}\.\d{3}(?!\d)/.test(text);

/** Reads what a person typed: as the parser does, but for what is doubtful to those who write decimals with a comma. */
export const parseTyped = (text: string, unit: UnitId): Parsed =>
  doubtful(text) ? { ok: false, issue: { code: 'point_or_thousands', unit, text: text.trim() } } : parseQuantity(text, unit);

/** The same for a field; the reason names the allowed range. */
export function readTyped(field: QuantityField, text: string): ReadField<QuantityValue | null> {
  if (!doubtful(text)) return readQuantityText(field, text);
  const reason = wordQuantityIssue({ code: 'point_or_thousands', unit: field.unit, text: text.trim() });
  return { ok: false, reason: `${reason}; it must be ${wordRange(field)}` };
}

/** A text that the program made for a field, with the decimal sign of the person where it is read to the same. */
export function ownText(text: string, unit: UnitId): string {
  if (mannerNow().decimal === 'point') return text;
  const own = text.replaceAll(/(?<=\d)\.(?=\d)/g, ',');
  return parseQuantity(own, unit).ok ? own : text;
}

/** A quantity as the person reads it, to all its digits where it is in its own unit. */
export function shownOf(quantity: Quantity, { unit, wire }: Pick<QuantityField, 'unit' | 'wire'>): string {
  const tolerance = printTolerance(quantity);
  if (wire && mannerNow().wire === 'AWG') return printWire(quantity.value, { trim: true }) + tolerance;
  const inOwn =
    formOf(quantity.value, unit, mannerNow()) ===
    formOf(quantity.value, unit, { ...mannerNow(), measures: 'metric', pressure: 'Pa' });
  return inOwn
    ? ownText(textOf(quantity, unit), unit)
    : printQuantity(quantity.value, unit, { digits: 4, trim: true }) + tolerance;
}
