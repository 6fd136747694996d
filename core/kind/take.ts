import { mean } from 'simple-statistics';
import { textOf, readQuantityText, type FieldValue, type QuantityField, type QuantityValue } from '../field/index.ts';
import { polarityOf, valuesOf, type JudgedBank, type Part, type PartValue } from '../part/index.ts';
import type { BlockDefinition } from '../block/define.ts';
import type { PartRef } from '../block/part-ref.ts';
import type { Block } from './schema.ts';

/** Five digits: more than any meter on a bench resolves, few enough to read. */
const rounded = (value: number): number => Number(value.toPrecision(5));

/** A part's value as a field holds it; null where the field does not let it through. */
function fieldValueOf(field: QuantityField, { value, tolerance, from }: PartValue): QuantityValue | null {
  const quantity = {
    value: rounded(value),
    ...(tolerance && field.tolerance ? { tolerance: { minus: rounded(tolerance.minus), plus: rounded(tolerance.plus) } } : {}),
  };
  const read = readQuantityText(field, textOf(quantity, field.unit));
  return read.ok && read.value ? { ...read.value, from } : null;
}

type Kept = { readonly id: string; readonly part: Part };

/** The fields of a block as a part gives them: measured values first, then what its label says. */
export function fieldsFrom(definition: BlockDefinition, part: Part): Record<string, FieldValue> {
  const { takes } = definition;
  if (takes?.part !== part.kind) return {};
  const values = valuesOf(part);
  const taken = Object.entries(takes.fields).flatMap(([id, of]): [string, FieldValue][] => {
    const field = definition.fields[id];
    const value = of === undefined ? undefined : values[of];
    const made = field?.type === 'quantity' && value ? fieldValueOf(field, value) : null;
    return made ? [[id, made]] : [];
  });
  return { ...Object.fromEntries(taken), ...takes.choices?.(part) };
}

/** The block standing on one part, with what is known of it. Fields that the part says nothing of stay as they are. */
export const withPart = (block: Block, definition: BlockDefinition, { id, part }: Kept): Block => ({
  ...block,
  fields: { ...block.fields, ...fieldsFrom(definition, part) },
  parts: [{ id, tag: part.tag }],
});

/** The block standing on no part any more; its values stay and count as typed. */
export function withoutParts({ kind, fields }: Block): Block {
  const typed = (value: FieldValue): FieldValue => {
    if (typeof value !== 'object' || value === null || value.from === 'default') return value;
    const { from: _from, ...rest } = value;
    return rest;
  };
  return { kind, fields: Object.fromEntries(Object.entries(fields).map(([id, value]) => [id, typed(value)])) };
}

/** A field of a block that the bench now says otherwise than the rig has it. */
export interface Outdated {
  readonly field: string;
  readonly value: FieldValue;
}

const differs = (a: FieldValue, b: FieldValue): boolean => {
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null) return a !== b;
  return a.value !== b.value || a.tolerance?.minus !== b.tolerance?.minus || a.tolerance?.plus !== b.tolerance?.plus;
};

/**
 * What the part of a block has come to say since the rig took it. Fields that were typed over in the rig stay out of
 * it; so do banks of several parts, which the composer makes anew.
 */
export function outdated(block: Block, definition: BlockDefinition, part: Part): Outdated[] {
  const now = fieldsFrom(definition, part);
  return Object.entries(now).flatMap(([field, value]) => {
    const was = block.fields[field] ?? null;
    const taken = typeof was === 'object' && was !== null && (was.from === 'measured' || was.from === 'label');
    return taken && differs(was, value) ? [{ field, value }] : [];
  });
}

/** A composed bank with the parts its pieces are of. */
export interface BankOfParts {
  readonly bank: JudgedBank;
  readonly parts: ReadonlyMap<string, Part>;
  /** The part behind a piece. */
  partId(piece: { readonly id: string }): string;
}

/**
 * A capacitor bank standing on composed groups. Its capacitance is that of the groups; the share of the group that takes
 * the most stands in place of the spread of a tolerance, so that the limits are those of these very capacitors.
 */
export function withBank(block: Block, definition: BlockDefinition, { bank, parts, partId }: BankOfParts): Block {
  const pieces = bank.groups.flatMap((group) => group.pieces);
  const [ns, np] = [bank.groups.length, bank.groups[0]?.pieces.length ?? 1];
  const uncertainty = Math.max(...pieces.map((p) => p.uncertainty));
  const rating = Math.min(...bank.groups.map((g) => g.rating));
  const all = [...new Set(pieces.map(partId))].flatMap((id) => parts.get(id) ?? []);
  const known = (id: string) => all.map((part) => valuesOf(part)[id]).filter((v) => v !== undefined);
  const set = (id: string, value: number, from: PartValue['from'], tolerance: PartValue['tolerance'] = null) => {
    const field = definition.fields[id];
    const made =
      field?.type === 'quantity'
        ? fieldValueOf(field, { title: field.title, unit: field.unit, value, tolerance, from, count: 1 })
        : null;
    return made ? { [id]: made } : {};
  };
  const measured = known('C').every((v) => v.from === 'measured') ? ('measured' as const) : ('label' as const);
  const averaged = (id: string, of: string) => {
    const values = known(of);
    // A mean of some of them would pass for one of all.
    if (values.length < all.length || values.length === 0) return {};
    const numbers = values.map((v) => v.value);
    const m = mean(numbers);
    const spread = { minus: 1 - Math.min(...numbers) / m, plus: Math.max(...numbers) / m - 1 };
    return set(id, m, values.every((v) => v.from === 'measured') ? 'measured' : 'label', {
      minus: Math.min(Math.max(spread.minus, 0.01), 0.99),
      plus: Math.max(spread.plus, 0.01),
    });
  };
  const refs = new Map<string, PartRef>();
  bank.groups.forEach((group, g) => {
    for (const piece of group.pieces) {
      const id = partId(piece);
      const key = `${id} ${g}`;
      const had = refs.get(key);
      const count = had ? (had.count ?? 1) + 1 : 1;
      refs.set(key, { id, tag: parts.get(id)?.tag ?? id.slice(0, 8), group: g + 1, ...(count > 1 ? { count } : {}) });
    }
  });
  const polar = all.some((part) => polarityOf(part) === 'polar');
  // Of one kind of dielectric it is known; of several none is that of the bank.
  const dielectrics = new Set(all.map((part) => definition.takes?.choices?.(part)['dielectric']));
  const [dielectric] = dielectrics.size === 1 ? dielectrics : [];
  return {
    kind: block.kind,
    fields: {
      ...block.fields,
      ...set('C', (bank.capacitance * ns) / np, measured, { minus: uncertainty, plus: uncertainty }),
      ...set('ns', ns, measured),
      ...set('np', np, measured),
      ...set('Vr', rating, 'label'),
      // The share at which the bank's worst corner and that of the groups are one and the same.
      ...(ns > 1 ? set('share', Math.min(1, rating / bank.worstUsableVoltage), measured) : { share: null }),
      ...averaged('ESR', 'ESR'),
      ...averaged('ESL', 'ESL'),
      ...averaged('Ri', 'Ri'),
      polarity: polar ? 'polar' : 'non-polar',
      ...(dielectric === undefined || dielectric === null ? {} : { dielectric }),
    },
    parts: [...refs.values()],
  };
}
