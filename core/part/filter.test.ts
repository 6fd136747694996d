import { describe, expect, test } from 'vitest';
import { labelledPart, reading } from '../test/parts.ts';
import { mainValueOf, readFilter, voltageOf, type Part } from './index.ts';

const shelf: Part[] = [
  { ...labelledPart('capacitor', { C: '30 µF', Vdc: '900 V' }, [reading('capacitance', 36e-6)]), tag: 'C-1', name: 'Blue film' },
  { ...labelledPart('capacitor', { C: '470 µF', Vdc: '400 V', dielectric: 'electrolytic' }), tag: 'C-2', condition: 'suspect' },
  { ...labelledPart('resistor', { R: '4k7', V: '750 V' }), tag: 'R-1', note: 'out of the old pump' },
  { ...labelledPart('diode', {}), tag: 'D-1', place: 'drawer 5' },
];
const found = (text: string, lot = ''): string[] | string => {
  const filter = readFilter(text);
  return filter.ok ? shelf.filter((p) => filter.test(p, lot)).map((p) => p.tag) : filter.reason;
};

describe('the filter of the shelf', () => {
  test.each<[string, string[]]>([
    ['', ['C-1', 'C-2', 'R-1', 'D-1']],
    ['film', ['C-1']],
    ['CAPACITOR suspect', ['C-2']],
    ['pump', ['R-1']],
    ['drawer', ['D-1']],
    // Measured before the label: 36 µF, not 30.
    ['C>35u', ['C-1', 'C-2']],
    ['C>35u C<40u', ['C-1']],
    ['c>=470u', ['C-2']],
    ['vdc>=500', ['C-1']],
    ['V<1k', ['R-1']],
    ['nothing-has-this', []],
  ])('"%s" finds %j', (text, tags) => expect(found(text)).toEqual(tags));

  test('words are found in the name of the lot too', () => expect(found('oven', 'Ovens from the tip')).toHaveLength(4));

  test('a comparison without a value is said to be none', () => {
    expect(found('C>')).toMatch(/followed by a value, such as C>30u/);
    expect(found('C>much')).toMatch(/no value/);
  });

  test('a line shows first what its kind is chosen by, measured before the label', () => {
    expect(shelf.map((p) => mainValueOf(p)?.value ?? null)).toEqual([36e-6, 470e-6, 4700, null]);
    expect(shelf.map((p) => voltageOf(p)?.value ?? null)).toEqual([900, 400, 750, null]);
  });
});
