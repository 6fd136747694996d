import { describe, expect, test } from 'vitest';
import { firstWish, readWish, type Wish } from './composer-wish.tsx';

const of = (more: Partial<Wish>) => readWish({ ...firstWish, ...more });
const target = (more: Partial<Wish>) => {
  const read = of(more);
  if (!read.ok) throw new Error(read.reason);
  return read.target;
};
const refused = (more: Partial<Wish>) => {
  const read = of(more);
  return read.ok ? null : read.reason;
};

describe('what a bank is to hold', () => {
  test('is read in any unit, into SI', () => {
    expect(target({ voltage: '2400', amount: '0.2 kJ', margin: '5 %' })).toEqual({ voltage: 2400, energy: 200, margin: 0.05 });
    expect(target({ wanted: 'nothing', amount: 'not looked at' }).energy).toBeNull();
  });

  test('a capacitance is the energy it holds at the voltage: ½·C·V², by hand 84.97 µF at 2.4 kV is 244.7 J', () => {
    expect(target({ voltage: '2.4 kV', wanted: 'capacitance', amount: '84.97 µF' }).energy).toBeCloseTo(244.7136, 4);
    // Twice the voltage, four times the energy.
    const at = (voltage: string) => target({ voltage, wanted: 'capacitance', amount: '10 µF' }).energy ?? NaN;
    expect(at('2 kV') / at('1 kV')).toBeCloseTo(4, 12);
  });

  test.each([
    [{ voltage: '2 kA' }, /^Voltage: /],
    [{ voltage: '' }, /^Voltage: /],
    [{ amount: '200 V' }, /^Energy: /],
    [{ wanted: 'capacitance', amount: '1 J' }, /^Capacitance: /],
    [{ margin: '5 V' }, /^Margin: /],
    [{ voltage: '2.4 kV ±5 %' }, /^Voltage takes no tolerance; the margin stands for it$/],
  ] as const)('what cannot be read is told by its field: %o', (more, reason) => {
    expect(refused(more)).toMatch(reason);
  });
});
