import { above, choice, choiceOf, fields, onlyWith, quantity, within } from '../../field/index.ts';
import type { QuantityField } from '../../field/index.ts';
import { dielectrics, fillings, foils } from '../../material/index.ts';

/** A length of the design, measured with a rule or a gauge: it may carry a tolerance. */
export const size = (symbol: string, title: string, initial: string, max = 100, help?: string): QuantityField =>
  quantity(title, 'm', above(0, max), initial, { symbol, tolerance: true, ...(help === undefined ? {} : { help }) });

/** A choice among a table of materials, the first to begin with. */
const firstOf = (title: string, table: readonly { readonly id: string; readonly title: string }[]) =>
  choiceOf(title, table, table[0]?.id ?? '');

/** What every design has beside its own dimensions. */
export const commonFields = fields({
  material: firstOf('Dielectric', dielectrics),
  er: quantity('Permittivity, if known better', '1', within(1, 1e5), null, {
    symbol: 'εr',
    tolerance: true,
    help: 'Fitted from one that was measured, or from a data sheet. Empty: the range of the material.',
  }),
  V: quantity('To be charged to', 'V', above(0, 1e6), '5 kV'),
  margin: size('m', 'Margin, foil to edge', '30 mm', 10, 'How far the dielectric stands out beyond the foil, all round.'),
  medium: choice('Edges are in', { air: 'air', oil: 'oil' }),
  lead: size('l_L', 'Leads, both together', '40 cm', 100),
  wire: size('d_L', 'Lead diameter', '1 mm', 0.1),
});

export const foilFields = {
  foil: firstOf('Foil', foils),
  foilThickness: size('t_F', 'Foil thickness', '15 µm', 0.01),
} as const;

const liquids = fillings.map(({ id }) => id);

export const insideField = {
  inside: firstOf('Inside', [...foils.map((f) => ({ id: f.id, title: `${f.title} foil` })), ...fillings]),
  electrode: onlyWith('inside', liquids, choice('Electrode in it', { top: 'dips in at the top', rod: 'a rod to the bottom' })),
  rod: onlyWith('electrode', ['rod'], size('d_r', 'Rod diameter', '6 mm', 1)),
} as const;
