import { bleedFormulas, storeFormulas, work, type Worked } from '../formula/index.ts';
import { printQuantity } from '../quantity/index.ts';
import { countOf, rating, above, fields, quantity } from '../field/index.ts';
import type { ToolPart } from './wired.ts';
import type { LimitSpec, Own, RigContext } from './context.ts';
import type { Slot } from './names.ts';
import type { Quantities } from '../field/index.ts';

/** Field along the body of a resistor that it bears without flashover. */
export const surfaceField = quantity('Permissible surface field', 'V/m', above(0, 1e8), '300 V/mm', {
  symbol: 'Es',
  help: 'Common practice, no source: about 300 V/mm along a clean dry body in air; dirt and damp take most of it.',
});

/** Fields of a string of equal resistors: value, number, and the working voltage of one. */
export const stringFields = (initial: string) =>
  fields({
    R: quantity('Resistance, each', 'Ω', above(0, 1e12), initial, { tolerance: true }),
    n: countOf('In series (per string)'),
    V: rating('Working voltage, each', 'V', 1e6, {
      symbol: 'Vr',
      help: 'From the data sheet; a small resistor takes far less than its power would allow.',
    }),
  });

/** The resistors of a string as one. */
export const stringResistance = (own: Own<Quantities<'R' | 'n'>>, title: string): Worked =>
  work(storeFormulas.seriesResistance, { R: own.quantity('R'), n: own.quantity('n') }, title);

/** The resistors of a tool in a row, as one part of it. */
export const stringPart = (own: Own<Quantities<'R' | 'n'>>, nodes: readonly [string, string]): ToolPart => {
  const n = own.quantity('n').value;
  const R = printQuantity(own.quantity('R').value, 'Ω', { trim: true });
  return { kind: 'resistor', name: 'Rt', nodes, R: stringResistance(own, 'resistors').value, label: n === 1 ? R : `${n} × ${R}` };
};

export const stringKey = (own: Own<Quantities<'R' | 'n'>>) => ({
  text: printQuantity(own.quantity('R').value * own.quantity('n').value, 'Ω'),
});

type Voltage = (rig: RigContext) => Worked;
type More = Pick<LimitSpec, 'levers' | 'note'>;

const shareOfOne = (rig: RigContext, slot: Slot, across: Voltage): Worked =>
  work(storeFormulas.shareOfString, { V: across(rig), n: rig.own(slot).quantity('n') });

/** What people rely on to take a charge off: its ratings are asked for. */
const bleeds: readonly Slot[] = ['bleeder', 'dump', 'tool'];

/** Voltage across one resistor of the string in `slot` against its working voltage. */
export const stringVoltageLimit = (slot: Slot, id: string, title: string, across: Voltage, more: More): LimitSpec => ({
  id,
  title: `${title}: voltage, each`,
  slot,
  stress: (rig) => shareOfOne(rig, slot, across),
  rating: (rig) => rig.own(slot).optional('V'),
  ...(bleeds.includes(slot) ? { protects: true as const } : {}),
  ...more,
});

/** Power in one resistor of the string with the voltage across the string, against the rating in field `P`. */
export const stringPowerLimit = (
  slot: Slot,
  id: string,
  title: string,
  kind: 'power' | 'peak power',
  across: Voltage,
  more: More,
): LimitSpec => ({
  id,
  title: `${title}, ${kind}, each`,
  slot,
  stress: (rig) =>
    work(
      bleedFormulas.bleedPeakPower,
      { R: rig.own(slot).quantity('R'), V: shareOfOne(rig, slot, across) },
      `${kind} in one resistor`,
    ),
  rating: (rig) => rig.own(slot).optional('P'),
  ...(slot === 'bleeder' ? { protects: true as const } : {}),
  ...more,
});
