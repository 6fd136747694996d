import { expect, test } from 'vitest';
import { readHours, readMoney } from './index.ts';

test.each([
  ['5', 5, null],
  ['£5', 5, '£'],
  ['5 €', 5, '€'],
  ['EUR 12.50', 12.5, 'EUR'],
  ['12,5 kr', 12.5, 'kr'],
  ["1'250 CHF", 1250, 'CHF'],
])('%s is an amount of %d in %s', (text, value, sign) => expect(readMoney(text, '')).toEqual({ ok: true, value, sign }));

test.each([
  ['£5', '€', 'is in £, and prices here are in €: enter what it comes to in €'],
  ['£5 €', '', 'is in two currencies, £ and €'],
  ['five', '', 'must be an amount such as 5 or £5'],
  ['-5', '', 'must be an amount such as 5 or £5'],
  ['1.2.3', '', 'must be an amount such as 5 or 5.50'],
])('%s where prices are in "%s" is refused', (text, currency, reason) =>
  expect(readMoney(text, currency)).toEqual({ ok: false, reason }),
);

test.each([
  ['1.5', 1.5],
  ['1.5 h', 1.5],
  ['1,5h', 1.5],
  ['90 min', 1.5],
  ['1 h 30 min', 1.5],
  ['1:30', 1.5],
  ['0', 0],
])('%s are %d hours', (text, value) => expect(readHours(text)).toEqual({ ok: true, value, sign: null }));

test.each(['', 'long', '1:75', '1 h 30 h', '2 days'])('%s is refused as hours', (text) =>
  expect(readHours(text)).toMatchObject({ ok: false, reason: 'must be hours such as 1.5, 1.5 h, 90 min or 1:30' }),
);
