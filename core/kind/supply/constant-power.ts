import { quantity, type QuantityField, rating, above, fields, within } from '../../field/index.ts';
import { printQuantity } from '../../quantity/index.ts';
import type { Own, Problem, RigContext } from '../../block/context.ts';
import type { CircuitPart, Terminals } from '../../block/define.ts';
import { leftOnProblem } from './shared.ts';

export const power = (help?: string): QuantityField =>
  quantity('Output power', 'W', above(0, 1e7), '30 W', {
    symbol: 'P',
    tolerance: true,
    ...(help === undefined ? {} : { help }),
  });

export const efficiency = quantity('Efficiency', '1', above(0, 1), '75 %', { symbol: 'η' });

/** Where a constant-power converter stops, starts again, and what it gives into an empty store. */
export const outputFields = fields({
  Voff: quantity('Cut-off voltage', 'V', above(0, 1e6), '400 V', { tolerance: true, help: 'Where its comparator stops it.' }),
  hyst: quantity('Hysteresis', '1', within(0, 0.9), '2 %', { symbol: 'h', help: 'It starts again this far below the cut-off.' }),
  Imax: quantity('Current into an empty store', 'A', above(0, 1e4), '500 mA', {
    tolerance: true,
    help: 'At low voltage it gives no more than this, whatever its power.',
  }),
  I: rating('Rectifier current rating', 'A', 1e4, { symbol: 'Ir' }),
});

/** What goes on at the voltages between which the converter rests. */
export const hysteresisProblem = (own: Own<typeof outputFields>, rig: RigContext): Problem[] => {
  const [Voff, V0] = [own.quantity('Voff').value, rig.offer('chargedTo').value];
  const back = Voff * (1 - own.quantity('hyst').value);
  const left = leftOnProblem(rig, 'Voff');
  if (V0 > Voff || V0 > back || own.quantity('hyst').value === 0) return left;
  const text = `Its cut-off at ${printQuantity(Voff, 'V')} does not stop the charge at the ${printQuantity(V0, 'V')} set: left on, it charges to the cut-off and then hunts between ${printQuantity(back, 'V')} and there.`;
  return [...left, { severity: 'warning', slot: 'supply', field: 'Voff', text }];
};

/**
 * The converter between its terminals. Behind much resistance its terminal falls below the point at which it starts again
 * as soon as it stops: it then hunts faster than anything else here, and stands in as one that holds its cut-off voltage.
 */
export function powerCircuit(
  own: Own<typeof outputFields>,
  P: number,
  R: number,
  { plus, minus, tag }: Terminals,
): CircuitPart[] {
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
