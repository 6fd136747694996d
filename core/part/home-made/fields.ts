import type { ChoiceField, QuantityField } from '../../field/index.ts';
import { dielectrics, fillings, foils } from '../../material/index.ts';

/** A length of the design, measured with a rule or a gauge: it may carry a tolerance. */
export const size = (symbol: string, title: string, initial: string, max = 100, help?: string): QuantityField => ({
  type: 'quantity',
  symbol,
  title,
  unit: 'm',
  min: 0,
  max,
  open: true,
  initial,
  tolerance: true,
  ...(help === undefined ? {} : { help }),
});

const choice = (
  title: string,
  options: readonly { readonly id: string; readonly title: string }[],
  help?: string,
): ChoiceField => ({
  type: 'choice',
  title,
  options: options.map((o) => ({ value: o.id, title: o.title })),
  initial: options[0]?.id ?? '',
  ...(help === undefined ? {} : { help }),
});

/** What every design has beside its own dimensions. */
export const commonFields = {
  material: choice('Dielectric', dielectrics),
  er: {
    type: 'quantity',
    symbol: 'εr',
    title: 'Permittivity, if known better',
    unit: '1',
    min: 1,
    max: 1e5,
    initial: null,
    optional: true,
    tolerance: true,
    help: 'Fitted from one that was measured, or from a data sheet. Empty: the range of the material.',
  },
  V: {
    type: 'quantity',
    symbol: 'V',
    title: 'To be charged to',
    unit: 'V',
    min: 0,
    max: 1e6,
    open: true,
    initial: '5 kV',
  },
  margin: size('m', 'Margin, foil to edge', '30 mm', 10, 'How far the dielectric stands out beyond the foil, all round.'),
  medium: choice('Edges lie in', [
    { id: 'air', title: 'air' },
    { id: 'oil', title: 'oil' },
  ]),
  lead: size('l_L', 'Leads, both together', '40 cm', 100),
  wire: size('d_L', 'Lead diameter', '1 mm', 0.1),
} as const satisfies Record<string, QuantityField | ChoiceField>;

export const foilFields = {
  foil: choice('Foil', foils),
  foilThickness: size('t_F', 'Foil thickness', '15 µm', 0.01),
} as const;

export const insideField = {
  inside: choice('Inside', [...foils.map((f) => ({ id: f.id, title: `${f.title} foil` })), ...fillings]),
} as const;
