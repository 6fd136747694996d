import type { QuantityField } from '../../field/index.ts';
import { rating } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../context.ts';
import type { CircuitPart, Terminals } from '../define.ts';
import { leftOnProblem } from './shared.ts';

const quantity = (field: Omit<QuantityField, 'type'>): QuantityField => ({ type: 'quantity', ...field });

export const power = (help?: string): QuantityField =>
  quantity({
    symbol: 'P',
    title: 'Output power',
    unit: 'W',
    min: 0,
    max: 1e7,
    open: true,
    initial: '30 W',
    tolerance: true,
    ...(help === undefined ? {} : { help }),
  });

export const efficiency = quantity({
  symbol: 'η',
  title: 'Efficiency',
  unit: '1',
  min: 0,
  max: 1,
  open: true,
  initial: '75 %',
});

/** Where a constant-power converter stops, starts again, and what it gives into an empty store. */
export const outputFields = {
  Voff: quantity({
    symbol: 'Voff',
    title: 'Cut-off voltage',
    unit: 'V',
    min: 0,
    max: 1e6,
    open: true,
    initial: '400 V',
    tolerance: true,
    help: 'Where its comparator stops it.',
  }),
  hyst: quantity({
    symbol: 'h',
    title: 'Hysteresis',
    unit: '1',
    min: 0,
    max: 0.9,
    initial: '2 %',
    help: 'It starts again this far below the cut-off.',
  }),
  Imax: quantity({
    symbol: 'Imax',
    title: 'Current into an empty store',
    unit: 'A',
    min: 0,
    max: 1e4,
    open: true,
    initial: '500 mA',
    tolerance: true,
    help: 'At low voltage it gives no more than this, however much power is left.',
  }),
  I: rating('Ir', 'Current its rectifier bears', 'A', 1e4),
};

/** What goes on at the voltages between which the converter rests. */
export const hysteresisProblem = (own: Own, rig: RigContext): Problem[] => {
  const [Voff, V0] = [own.quantity('Voff').value, rig.offer('chargedTo').value];
  const back = Voff * (1 - own.quantity('hyst').value);
  const left = leftOnProblem(rig, 'Voff');
  if (V0 > Voff || V0 > back || own.quantity('hyst').value === 0) return left;
  const text = `Its cut-off at ${printQuantity(Voff, 'V')} does not stop the charge at the ${printQuantity(V0, 'V')} set: left on it goes on to the cut-off, and then hunts between ${printQuantity(back, 'V')} and there.`;
  return [...left, { severity: 'warning', slot: 'supply', field: 'Voff', text }];
};

export const powerCircuit = (own: Own, P: number, { plus, minus, tag }: Terminals): CircuitPart[] => [
  {
    element: {
      kind: 'power-source',
      name: `X${tag}`,
      nodes: [plus, minus],
      P,
      Imax: own.quantity('Imax').value,
      Voff: own.quantity('Voff').value,
      Von: own.quantity('Voff').value * (1 - own.quantity('hyst').value),
    },
    says: 'converter: constant power up to its cut-off',
  },
];
