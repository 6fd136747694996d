import { expect, test } from 'vitest';
import { CircuitError, simulateCircuit, type Element } from '../circuit/index.ts';
import { inWordsOf } from './index.ts';

const said = (elements: readonly { element: Element; says: string }[]): string => {
  try {
    inWordsOf(elements, () =>
      simulateCircuit({ title: 'x', elements: elements.map(({ element }) => element) }, { until: 1, tolerance: 1e-3 }),
    );
    return 'solved';
  } catch (error) {
    if (error instanceof CircuitError) return error.message;
    throw error;
  }
};

test('what a circuit of a rig cannot be solved for is said of its parts, without the names of a netlist', () => {
  const source = (name: string, V: number): Element => ({
    kind: 'voltage-source',
    name,
    nodes: ['sup1', '0'],
    wave: { kind: 'dc', value: V },
  });
  const against = said([
    { element: source('Vsup', 5930), says: 'supply, at its output' },
    { element: source('Vst', 100), says: 'the bank as one capacitor' },
  ]);
  expect(against).toBe(
    'supply, the bank as one capacitor: these hold their voltages against each other without any resistance between them',
  );
  const floating = said([
    { element: source('Vsup', 5930), says: 'supply' },
    { element: { kind: 'resistor', name: 'RTq', nodes: ['a_x', 'b_x'], R: 10 }, says: 'front resistor' },
  ]);
  expect(floating).toMatch(/^front resistor: nothing ties these to earth/);
  expect(`${against} ${floating}`).not.toMatch(/Vsup|RTq|a_x|sup1|e\+/);
});
