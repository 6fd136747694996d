import { z } from 'zod';
import { wordRange } from '../formula/index.ts';
import {
  bounds,
  parseQuantity,
  printExact,
  printTolerance,
  unitName,
  wordQuantityIssue,
  type Quantity,
  type UnitId,
} from '../quantity/index.ts';

/** Of a field that counts only while a choice of its own block has one of these values. */
export interface OnlyWith {
  readonly choice: string;
  readonly values: readonly string[];
}

/** Under what a form lists a field. Those without one stand first, as many as are looked at together. */
export const fieldGroups = ['essentials', 'moving', 'geometry', 'ratings', 'protection', 'life'] as const;
export type FieldGroup = (typeof fieldGroups)[number];

/** A quantity field: a form draws itself from this, and the file schema and the checks are made of it. */
export interface QuantityField {
  readonly type: 'quantity';
  readonly group?: FieldGroup;
  readonly onlyWith?: OnlyWith;
  /** Of a load: it stands in the first channel of the rig, for all of them. */
  readonly once?: true;
  /** As the field's formulas write it. */
  readonly symbol: string;
  readonly title: string;
  readonly unit: UnitId;
  readonly min: number;
  readonly max: number;
  /** The value must lie above `min`. */
  readonly open?: boolean;
  readonly integer?: boolean;
  /** What a new block starts with; null where the value may stay unknown, as a rating on a salvaged part. */
  readonly initial: string | null;
  /** Empty is allowed and means "not known". */
  readonly optional?: boolean;
  /** Whether a tolerance may be written behind the value. */
  readonly tolerance?: boolean;
  /** The diameter of a wire: a gauge says as much. */
  readonly wire?: true;
  /** What one instrument bears: another kind of block is another instrument, and begins with its own. */
  readonly ofOneThing?: true;
  /** The field of the same block that says how far one turn of a screw moves it, in the unit of this one. */
  readonly turnedBy?: string;
  /** What is usual where it is empty, with its span, by what else the block says; null where that is not known either. */
  readonly emptyAs?: (fields: Readonly<Record<string, FieldValue>>) => Quantity | null;
  readonly help?: string;
}

export interface ChoiceField<V extends string = string> {
  readonly type: 'choice';
  readonly group?: FieldGroup;
  readonly onlyWith?: OnlyWith;
  readonly once?: true;
  readonly title: string;
  readonly options: readonly { readonly value: V; readonly title: string }[];
  readonly initial: V;
  readonly help?: string;
}

/** Lines of text that a block reads by itself: things that were observed, one to a line. */
export interface LinesField {
  readonly type: 'lines';
  readonly group?: FieldGroup;
  readonly onlyWith?: OnlyWith;
  readonly once?: true;
  readonly title: string;
  readonly initial: '';
  /** Why a text may not stand there, naming the line; null where it may. */
  check(text: string): string | null;
  readonly help?: string;
}

/** Characters that a field of lines holds at most. */
export const linesLimit = 4000;

export type FieldSpec = QuantityField | ChoiceField;
/** What a block may have: a part has no lines. */
export type BlockField = FieldSpec | LinesField;

/** The fields of one kind, by id. */
export type Fields = Readonly<Record<string, BlockField>>;

type NamesIn<F, T extends BlockField['type']> = F extends unknown
  ? string extends keyof F
    ? string
    : { [K in keyof F & string]: F[K] extends { readonly type: T } ? K : never }[keyof F & string]
  : never;

/** Ids of the quantities among fields; of several kinds, those that any has. Any text where the kind is not known. */
export type QuantityIn<F> = NamesIn<F, 'quantity'>;
export type ChoiceIn<F> = NamesIn<F, 'choice'>;
export type LinesIn<F> = NamesIn<F, 'lines'>;

/** Quantities of some ids, whatever kinds have them. */
export type Quantities<K extends string> = Readonly<Record<K, QuantityField>>;

/** A choice and one of its values, as a pair. */
export type OptionIn<F> = F extends unknown
  ? string extends keyof F
    ? [choice: string, value: string]
    : {
        [K in ChoiceIn<F>]: F[K & keyof F] extends { readonly initial: infer V extends string } ? [choice: K, value: V] : never;
      }[ChoiceIn<F>]
  : never;

/** Where a value came from that nobody typed: the field's initial value, or a part's readings or label. */
export const valueOrigins = ['default', 'measured', 'label'] as const;
export type ValueOrigin = (typeof valueOrigins)[number];

/** A quantity as a rig keeps it: SI value and tolerance, the text as typed, and where it came from if nobody typed it. */
export interface QuantityValue extends Quantity {
  readonly text: string;
  readonly from?: ValueOrigin;
}

export type FieldValue = QuantityValue | null | string;

export type ReadField<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reason: string };

const refuse = (reason: string) => ({ ok: false as const, reason });

function rangeReason(field: QuantityField, quantity: Quantity): string | null {
  const { low, high } = bounds(quantity);
  const outside = (x: number) => x < field.min || x > field.max || (field.open === true && x <= field.min);
  const range = wordRange(field);
  if (outside(quantity.value)) return `is ${printExact(quantity.value, field.unit)}; it must be ${range}`;
  if (field.integer && !Number.isInteger(quantity.value))
    return `is ${printExact(quantity.value, field.unit)}; it must be ${range}`;
  if (quantity.tolerance && !field.tolerance) return 'takes no tolerance';
  if (low < 0 && field.min >= 0) return `with its tolerance reaches ${printExact(low, field.unit)}; it must be ${range}`;
  if (!Number.isFinite(high)) return `with its tolerance is beyond ${range}`;
  return null;
}

/** Reads what was typed into a quantity field; the reason names the allowed range. */
export function readQuantityText(field: QuantityField, text: string): ReadField<QuantityValue | null> {
  if (text.trim() === '') {
    return field.optional
      ? { ok: true, value: null }
      : refuse(`${wordQuantityIssue({ code: 'empty', unit: field.unit })}; it must be ${wordRange(field)}`);
  }
  const parsed = parseQuantity(text, field.unit);
  if (!parsed.ok) return refuse(`${wordQuantityIssue(parsed.issue)}; it must be ${wordRange(field)}`);
  const reason = rangeReason(field, parsed.quantity);
  return reason === null ? { ok: true, value: { ...parsed.quantity, text: text.trim() } } : refuse(reason);
}

/** The text that stands for a quantity where none was typed. */
export const textOf = (quantity: Quantity, unit: UnitId): string => printExact(quantity.value, unit) + printTolerance(quantity);

const quantityShape = z.strictObject({
  value: z.number(),
  text: z.string().max(200).optional(),
  tolerance: z.strictObject({ minus: z.number().min(0).max(0.999999), plus: z.number().min(0).max(100) }).optional(),
  from: z.enum(valueOrigins).optional(),
});

const sameTolerance = (a: Quantity['tolerance'], b: Quantity['tolerance']): boolean =>
  Math.abs((a?.minus ?? 0) - (b?.minus ?? 0)) < 1e-9 && Math.abs((a?.plus ?? 0) - (b?.plus ?? 0)) < 1e-9;

/** Reads a quantity out of a file: a text, a plain number in the SI unit, or the full form that the program writes. */
export function readQuantityData(field: QuantityField, raw: unknown): ReadField<QuantityValue | null> {
  if (raw === null) return readQuantityText(field, '');
  if (typeof raw === 'string') return readQuantityText(field, raw);
  if (typeof raw === 'number') {
    if (!Number.isFinite(raw)) return refuse(`is not a number; it must be ${wordRange(field)}`);
    const reason = rangeReason(field, { value: raw });
    return reason === null ? { ok: true, value: { value: raw, text: textOf({ value: raw }, field.unit) } } : refuse(reason);
  }
  const shape = quantityShape.safeParse(raw);
  if (!shape.success) {
    return refuse(
      `must be a text such as "${field.initial ?? `12 ${unitName(field.unit)}`}", a number in ${unitName(field.unit)}, or an object with value, text and tolerance`,
    );
  }
  const { value, tolerance, from } = shape.data;
  const quantity: Quantity = tolerance ? { value, tolerance } : { value };
  const reason = rangeReason(field, quantity);
  if (reason !== null) return refuse(reason);
  const text = shape.data.text ?? textOf(quantity, field.unit);
  const parsed = parseQuantity(text, field.unit);
  const agrees =
    parsed.ok &&
    Math.abs(parsed.quantity.value - value) <= 1e-9 * Math.abs(value) &&
    sameTolerance(parsed.quantity.tolerance, tolerance);
  if (!agrees)
    return refuse(`says ${textOf(quantity, field.unit)} as value and "${text.slice(0, 40)}" as text; the two must agree`);
  return { ok: true, value: { ...quantity, text, ...(from ? { from } : {}) } };
}

/** What a quantity may be written as in a file: a text as typed, a number in the SI unit, or the full form that the program writes. */
const quantityForms = [
  { type: 'string', maxLength: 200 },
  { type: 'number' },
  {
    type: 'object',
    required: ['value'],
    additionalProperties: false,
    properties: {
      value: { type: 'number' },
      text: { type: 'string', maxLength: 200 },
      tolerance: {
        type: 'object',
        required: ['minus', 'plus'],
        additionalProperties: false,
        properties: { minus: { type: 'number' }, plus: { type: 'number' } },
      },
      from: { enum: [...valueOrigins] },
    },
  },
];

/** What the JSON Schema of a file with fields refers to, under `$defs`. */
export const fieldDefinitions = {
  quantity: { anyOf: quantityForms },
  'quantity-or-unknown': { description: 'null means not known.', anyOf: [...quantityForms, { type: 'null' }] },
};

const quantityJsonSchema = (field: QuantityField) => ({
  title: field.title,
  description: `${field.symbol} in ${unitName(field.unit)}, ${wordRange(field)}.`,
  $ref: `#/$defs/${field.optional ? 'quantity-or-unknown' : 'quantity'}`,
});

/** What a field holds when nobody has typed anything: its initial value, marked as such. */
export function initialValue(field: BlockField): FieldValue {
  if (field.type === 'choice' || field.type === 'lines') return field.initial;
  if (field.initial === null) return null;
  const read = readQuantityText(field, field.initial);
  if (!read.ok) throw new Error(`initial value of ${field.title}: ${read.reason}`);
  return read.value && { ...read.value, from: 'default' };
}

/** The file schema of one field. A field left out takes its initial value and says so. */
export function fieldSchema(field: BlockField) {
  if (field.type === 'choice') {
    const values = field.options.map((o) => o.value);
    return z
      .enum(values, { error: () => `must be one of ${values.join(', ')}` })
      .default(field.initial)
      .meta({ title: field.title });
  }
  if (field.type === 'lines')
    return z
      .string()
      .max(linesLimit, { error: () => `must be at most ${linesLimit} characters` })
      .check((ctx) => {
        const reason = field.check(ctx.value);
        if (reason !== null) ctx.issues.push({ code: 'custom', message: reason, input: ctx.value });
      })
      .default(field.initial)
      .meta({ title: field.title });
  return z
    .unknown()
    .transform((raw, ctx): FieldValue => {
      if (raw === undefined) return initialValue(field);
      const read = readQuantityData(field, raw);
      if (read.ok) return read.value;
      ctx.issues.push({ code: 'custom', message: read.reason, input: raw });
      return z.NEVER;
    })
    .optional()
    .transform((value): FieldValue => (value === undefined ? initialValue(field) : value))
    .meta(quantityJsonSchema(field));
}
