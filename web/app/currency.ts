import { readMoney, type Amount } from '@vast-surge/core/quantity';

const key = 'vast-surge.currency';

/** The sign that prices are in on this device; empty until one was typed. */
function currency(): string {
  try {
    return (localStorage.getItem(key) ?? '').slice(0, 4);
  } catch {
    return '';
  }
}

/** From now on prices are in it. Where the device keeps nothing it is typed again. */
function keepCurrency(sign: string): void {
  try {
    localStorage.setItem(key, sign.trim().slice(0, 4));
  } catch {
    // Only a convenience: amounts are kept without a sign.
  }
}

/** Reads a price: the first sign that somebody types is the workshop's. */
export function readPrice(text: string): Amount {
  const read = readMoney(text, currency());
  if (read.ok && read.sign !== null && currency() === '') keepCurrency(read.sign);
  return read;
}

/** An amount with its sign, the more digits the less it is. */
export const printPrice = (value: number): string => {
  const places = Math.abs(value) >= 100 || Number.isInteger(value) ? 0 : 2;
  const digits = value.toLocaleString('en', { minimumFractionDigits: places, maximumFractionDigits: places });
  const sign = currency();
  return sign === '' ? digits : /^\p{Sc}$/u.test(sign) ? `${sign}${digits}`.replace(`${sign}-`, `−${sign}`) : `${digits} ${sign}`;
};
