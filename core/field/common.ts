import type { UnitId } from '../quantity/index.ts';
import type { BlockField, ChoiceField, FieldGroup, QuantityField } from './field.ts';

/** What a value may be, in the SI unit of its field. */
export type Range = Pick<QuantityField, 'min' | 'max' | 'open' | 'integer'>;

/** From the least to the greatest, both allowed. */
export const within = (min: number, max: number): Range => ({ min, max });
/** The least itself is not allowed. */
export const above = (min: number, max: number): Range => ({ min, max, open: true });
/** Whole numbers alone. */
export const whole = (min: number, max: number): Range => ({ min, max, integer: true });

type More = Partial<
  Pick<QuantityField, 'symbol' | 'tolerance' | 'optional' | 'turnedBy' | 'ofOneThing' | 'wire' | 'emptyAs' | 'help' | 'group'>
>;

/**
 * A quantity field.
 *
 * @param initial what a new block starts with; null: empty at first and allowed to stay so, “not known”
 * @param more `symbol` where it is not the id of the field, which {@link fields} puts in
 */
export const quantity = (title: string, unit: UnitId, range: Range, initial: string | null, more: More = {}): QuantityField => ({
  type: 'quantity',
  symbol: '',
  title,
  unit,
  ...range,
  initial,
  ...(initial === null ? { optional: true } : {}),
  ...more,
});

/** A rating that may be unknown, as on a salvaged part: above nought, empty at first. */
export const rating = (title: string, unit: UnitId, max: number, more: More = {}): QuantityField =>
  quantity(title, unit, above(0, max), null, { group: 'ratings', ...more });

/** How many of equal parts, one at first. */
export const countOf = (title: string, more: More = {}): QuantityField => quantity(title, '1', whole(1, 1000), '1', more);

/** A choice among few, by value and title; the first is what a new block starts with, unless another is named. */
export const choice = <const V extends string>(
  title: string,
  options: { readonly [K in V]: string },
  { initial, help }: { readonly initial?: NoInfer<V>; readonly help?: string } = {},
): ChoiceField<V> => {
  const all = (Object.entries(options) as [V, string][]).map(([value, name]) => ({ value, title: name }));
  const [first] = all;
  if (!first) throw new Error(`${title}: a choice has options`);
  return { type: 'choice', title, options: all, initial: initial ?? first.value, ...(help === undefined ? {} : { help }) };
};

/** A choice among the entries of a table, such as materials. */
export const choiceOf = <const V extends string>(
  title: string,
  table: readonly { readonly id: V; readonly title: string }[],
  initial: NoInfer<V>,
  help?: string,
): ChoiceField<V> => ({
  type: 'choice',
  title,
  options: table.map((entry) => ({ value: entry.id, title: entry.title })),
  initial,
  ...(help === undefined ? {} : { help }),
});

/** A field that counts only while a choice of its block has one of these values: it is then shown, and else said not to be in force. */
export const onlyWith = <const F extends BlockField>(on: string, values: readonly string[], field: F) => ({
  ...field,
  onlyWith: { choice: on, values },
});

/** Fields of a load that stand in the first channel of a rig, for all of them. */
export const once = <const F extends Readonly<Record<string, BlockField>>>(of: F): F =>
  Object.fromEntries(Object.entries(of).map(([id, field]) => [id, { ...field, once: true }])) as F;

/**
 * Fields by their ids; where one names no symbol, its id is what formulas write.
 *
 * @throws Error where a field names another that is none of them: a mistake of the program
 * @param groups under what a form lists them, where that is not what the field says itself
 */
export const fields = <const F extends Readonly<Record<string, BlockField>>>(
  of: F,
  groups: { readonly [G in FieldGroup]?: readonly (keyof F)[] } = {},
): F => {
  const groupOf = new Map<string, FieldGroup>(
    (Object.keys(groups) as FieldGroup[]).flatMap((group) => (groups[group] ?? []).map((id) => [String(id), group] as const)),
  );
  for (const [id, field] of Object.entries(of))
    if (field.type === 'quantity' && field.turnedBy !== undefined && of[field.turnedBy]?.type !== 'quantity')
      throw new Error(`${id} is turned by ${field.turnedBy}, which is no quantity beside it`);
  return Object.fromEntries(
    Object.entries(of).map(([id, field]) => {
      const group = groupOf.get(id);
      const named = field.type === 'quantity' && field.symbol === '' ? { ...field, symbol: id } : field;
      return [id, group ? { ...named, group } : named];
    }),
  ) as F;
};
