import { parseQuantity } from './parse.ts';

/** An amount of money or of hours as it was typed, or why it cannot be read. */
export type Amount =
  { readonly ok: true; readonly value: number; readonly sign: string | null } | { readonly ok: false; readonly reason: string };

const refused = (reason: string): Amount => ({ ok: false, reason });

/** £5, 5 €, EUR 5, 5.50 kr: the sign before the amount or behind it, or none. */
const priced = /^(?<before>\p{Sc}|\p{L}{2,3}\.?)?\s*(?<amount>[\d.,' \u00a0]*\d)\s*(?<behind>\p{Sc}|\p{L}{2,3}\.?)?$/u;

/**
 * Reads a price.
 *
 * @param currency the sign of the workshop's own currency; empty while it has none
 * @returns the amount and the sign it was typed with; refused where it is in another currency: nothing here knows what that is worth
 */
export function readMoney(text: string, currency: string): Amount {
  const found = priced.exec(text.trim())?.groups;
  if (!found) return refused('must be an amount such as 5 or £5');
  const { before, amount = '', behind } = found;
  const sign = before ?? behind ?? null;
  if (before !== undefined && behind !== undefined && before !== behind)
    return refused(`is in two currencies, ${before} and ${behind}`);
  if (sign !== null && currency !== '' && sign !== currency)
    return refused(`is in ${sign}, and prices here are in ${currency}: enter what it comes to in ${currency}`);
  const read = parseQuantity(amount.replaceAll(/[\s']/g, ''), '1');
  return read.ok ? { ok: true, value: read.quantity.value, sign } : refused('must be an amount such as 5 or 5.50');
}

const spelled = /^(?:(?<h>[\d.,]+)\s*(?:h|hours?|hrs?)\.?)?\s*(?:(?<min>[\d.,]+)\s*(?:m|min|minutes?)\.?)?$/i;
const clock = /^(?<h>\d{1,6}):(?<min>[0-5]\d)$/;

/** Reads hours of work: 1.5, 1.5 h, 90 min, 1 h 30 min, 1:30. The value is in hours. */
export function readHours(text: string): Amount {
  const trimmed = text.trim();
  const found = clock.exec(trimmed)?.groups ?? (trimmed === '' ? undefined : spelled.exec(trimmed)?.groups);
  const parts = found ? [found['h'], found['min']] : [trimmed, undefined];
  const [h, min] = parts.map((part) => (part === undefined ? 0 : (parsed(part) ?? NaN)));
  const value = (h ?? NaN) + (min ?? NaN) / 60;
  return Number.isFinite(value) ? { ok: true, value, sign: null } : refused('must be hours such as 1.5, 1.5 h, 90 min or 1:30');
}

function parsed(text: string): number | null {
  const read = parseQuantity(text, '1');
  return read.ok ? read.quantity.value : null;
}
