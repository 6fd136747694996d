import { above, quantity } from '../../field/index.ts';
import type { FieldValue, QuantityField } from '../../field/index.ts';
import { anyInsulation, insulationConstants } from '../../material/index.ts';
import type { Quantity } from '../../quantity/index.ts';

/** Insulation that nobody measured: its dielectric has a time constant, poor or new, and the capacitance makes it a resistance. */
function usual({ dielectric, C }: Readonly<Record<string, FieldValue>>): Quantity | null {
  if (C === null || C === undefined || typeof C === 'string' || !(C.value > 0)) return null;
  const { low, high } = insulationConstants.find(({ id }) => id === dielectric) ?? anyInsulation;
  const middle = Math.sqrt(low * high);
  return { value: middle / C.value, tolerance: { minus: 1 - low / middle, plus: high / middle - 1 } };
}

/** Insulation resistance of one capacitor; empty where nobody measured it. */
export const insulationField = (title: string): QuantityField =>
  quantity(title, 'Ω', above(0, 1e15), null, {
    symbol: 'Ri',
    tolerance: true,
    emptyAs: usual,
    help: 'As measured. It decides how long a store with an open bleeder stays charged. Empty: the typical span of its dielectric.',
  });
