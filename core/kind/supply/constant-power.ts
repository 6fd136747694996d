import { quantity, type QuantityField, rating } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import type { CircuitPart, Terminals } from '../../block/define.ts';
import { leftOnProblem } from './shared.ts';

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

/**
 * The converter between its terminals. Behind much resistance its terminal falls below the point at which it starts again
 * as soon as it stops: it then hunts faster than anything else here, and stands in as one that holds its cut-off voltage.
 */
export function powerCircuit(own: Own, P: number, R: number, { plus, minus, tag }: Terminals): CircuitPart[] {
  const [Voff, Imax] = [own.quantity('Voff').value, own.quantity('Imax').value];
  const span = Voff * own.quantity('hyst').value;
  const source = { kind: 'power-source', name: `X${tag}`, nodes: [plus, minus], P, Imax } as const;
  if ((P / Voff) * R < 0.5 * span)
    return [{ element: { ...source, Voff, Von: Voff - span }, says: 'converter: constant power up to its cut-off' }];
  return [
    { element: source, says: 'converter: constant power' },
    {
      element: { kind: 'diode', name: `D${tag}`, nodes: [plus, `${plus}v`], Vf: 0, Ron: 1e-3 },
      says: 'takes over at the cut-off',
    },
    {
      element: { kind: 'voltage-source', name: `V${tag}`, nodes: [`${plus}v`, minus], wave: { kind: 'dc', value: Voff } },
      says: 'cut-off voltage, held on the average',
    },
  ];
}
