import { above, quantity } from '../../field/index.ts';
import type { FieldValue, QuantityField } from '../../field/index.ts';
import { anyInsulation, insulationConstants } from '../../material/index.ts';
import type { Quantity } from '../../quantity/index.ts';

type Values = Readonly<Record<string, FieldValue>>;

/** SI value of a quantity that is typed; null where it is empty, or none. */
export const typedValue = (value: FieldValue | undefined): number | null =>
  value === null || value === undefined || typeof value === 'string' || !(value.value > 0) ? null : value.value;

/** Insulation that nobody measured: its dielectric has a time constant, poor or new, and the capacitance makes it a resistance. */
const usual =
  (capacitanceOf: (values: Values) => number | null) =>
  (values: Values): Quantity | null => {
    const C = capacitanceOf(values);
    if (C === null) return null;
    const { low, high } = insulationConstants.find(({ id }) => id === values['dielectric']) ?? anyInsulation;
    const middle = Math.sqrt(low * high);
    return { value: middle / C, tolerance: { minus: 1 - low / middle, plus: high / middle - 1 } };
  };

/**
 * Insulation resistance of one capacitor; empty where nobody measured it.
 *
 * @param capacitanceOf F of it by the fields of its block; its field `C` if left out
 */
export const insulationField = (
  title: string,
  capacitanceOf: (values: Values) => number | null = ({ C }) => typedValue(C),
): QuantityField =>
  quantity(title, 'Ω', above(0, 1e15), null, {
    symbol: 'Ri',
    tolerance: true,
    emptyAs: usual(capacitanceOf),
    help: 'As measured. It decides how long a store with an open bleeder stays charged. Empty: the typical span of its dielectric.',
  });
