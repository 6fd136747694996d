import type { PathText, Slot } from '../block/index.ts';
import { blockDefinition } from '../kind/index.ts';
import { readQuantityText, textOf, type QuantityField, type QuantityValue } from '../field/index.ts';
import { bounds, inSI, printAsTyped, printTolerance } from '../quantity/index.ts';
import { blockIn, spotAt, spotTitle, withBlock, type Spot } from './channel.ts';
import type { Rig } from './schema.ts';

/** A quantity field of a rig by its path, such as `store.C`. */
export interface QuantityAt {
  /** Where its block stands. */
  readonly spot: Spot;
  readonly slot: Slot;
  readonly id: string;
  readonly field: QuantityField;
  readonly value: QuantityValue | null;
}

/** @returns null where the rig has no quantity under this path */
export function quantityAt<P extends string>(rig: Rig, path: PathText<P>): QuantityAt | null {
  const [spot, id = ''] = path.split('.') as [Spot, string];
  const { slot, channel } = spotAt(spot);
  if (channel !== null && !rig.channels[channel]) return null;
  const block = blockIn(rig, spot);
  const field = blockDefinition(slot, block.kind).fields[id];
  if (field?.type !== 'quantity') return null;
  const value = block.fields[id] ?? null;
  if (value === null) {
    const usual = field.emptyAs?.(block.fields) ?? null;
    return { spot, slot, id, field, value: usual && { ...usual, text: '' } };
  }
  return { spot, slot, id, field, value: typeof value === 'string' ? null : value };
}

/** A quantity that is known to a tolerance, with its ends, SI; null where the rig has none under this path, or it is exact. */
export function endsAt(rig: Rig, path: string): { readonly value: number; readonly low: number; readonly high: number } | null {
  const quantity = quantityAt<string>(rig, path)?.value;
  if (!quantity?.tolerance) return null;
  const { low, high } = bounds(quantity);
  return low < high ? { value: quantity.value, low, high } : null;
}

/** A title inside a sentence: "Charged to" loses its capital, "ESR of one" keeps them. */
export const midSentence = (title: string): string =>
  /^[A-Z][a-z ]/.test(title) ? title.charAt(0).toLowerCase() + title.slice(1) : title;

/** "Store, charged to": how a field is named in a sentence. */
export function fieldName(rig: Rig, path: string): string {
  const at = quantityAt<string>(rig, path);
  return at ? `${spotTitle(rig, at.spot)}, ${midSentence(at.field.title)}` : path;
}

/** The rig with one quantity at another value and its tolerance kept, for trying what would be. No range is checked. */
export function withTrialValue<P extends string>(rig: Rig, path: PathText<P>, value: number): Rig {
  const at = quantityAt<string>(rig, path);
  if (!at) throw new Error(`${path} is no quantity of this rig`);
  const block = blockIn(rig, at.spot);
  const tolerance = at.value?.tolerance ? { tolerance: at.value.tolerance } : {};
  return withBlock(rig, at.spot, { ...block, fields: { ...block.fields, [at.id]: { value, text: '', ...tolerance } } });
}

/**
 * What would be typed to set a quantity to `value` with its tolerance kept; null where the field does not let it through.
 *
 * @param as the text whose unit it is written in, where that is not the one that stands there, and to how many digits
 */
export function typedAt<P extends string>(
  rig: Rig,
  path: PathText<P>,
  value: number,
  as: { readonly typed?: string; readonly digits?: number } = {},
): QuantityValue | null {
  const at = quantityAt<string>(rig, path);
  if (!at) return null;
  const tolerance = at.value?.tolerance ? { tolerance: at.value.tolerance } : {};
  const text = textOf({ value, ...tolerance }, at.field.unit);
  // In the unit that stood there, where that says the value as well.
  const before = as.typed ?? at.value?.text;
  const { digits = 6 } = as;
  const typed = before === undefined ? '' : inSI(() => printAsTyped(value, at.field.unit, before, { digits, trim: true }));
  const own = typed === '' ? null : readQuantityText(at.field, typed + printTolerance({ value, ...tolerance }));
  if (own?.ok && own.value && Math.abs(own.value.value - value) <= 1e-5 * Math.abs(value)) return own.value;
  const read = readQuantityText(at.field, text);
  return read.ok ? read.value : null;
}
