import { channelSlots, ifKnown, isChannelSlot, type Slot } from '../../block/index.ts';
import { errorsOf, limitsOf } from '../../evaluation/index.ts';
import type { QuantityField } from '../../field/index.ts';
import { Corners, RigReading } from '../../figure/index.ts';
import { blockDefinition, withPart, type Block } from '../../kind/index.ts';
import { limitSpecs, type Limit } from '../../limit/index.ts';
import type { Kept } from '../../part/index.ts';
import { printQuantity, stepPreferred } from '../../quantity/index.ts';
import { blockIn, inChannel, spotIn, wholeRig, withBlock, type Rig, type Spot } from '../../rig/index.ts';
import { withAssumed } from './banks.ts';
import { capacitorClass, capacitorClasses, stockOf } from './stock.ts';
import type { DraftBank } from './goal.ts';

/** Places that a part of the shelf may fill, in the order in which they are filled; the store is filled with its bank. */
const places: readonly Slot[] = ['supply', 'switch', 'charging', 'bleeder', 'dump', 'tool'];

/** How far a resistance of the shelf may be from what was worked out, as a ratio either way. */
const near = 2.2;
/** A nominal stress is below the worst one by about so much. */
const worse = 1.15;

/** Whether a block keeps all its limits, nominally and with room; with a rating that is not known it does not. */
function holds(rig: Rig, slot: Slot, margin: number): boolean {
  const reading = new RigReading(rig);
  const keeps = limitSpecs(rig)
    .filter((spec) => spec.slot === slot)
    .every((spec) => {
      const pair = ifKnown(() => ({ stress: spec.stress(reading).value, rating: spec.rating(reading) }));
      if (!pair?.rating) return spec.onlyIfKnown === true;
      return pair.stress * (1 + margin) * worse <= pair.rating.value;
    });
  return keeps && errorsOf(rig).length === 0;
}

/** Blocks that parts of the shelf make in a place, the nearest to what stands there first. */
function offers(block: Block, slot: Slot, shelf: readonly Kept[], left: ReadonlyMap<string, number>) {
  const definition = blockDefinition(slot, block.kind);
  const { takes } = definition;
  if (!takes) return [];
  const R = (of: Block): number => {
    const [one, n] = [of.fields['R'], of.fields['n']];
    const value = typeof one === 'object' && one !== null ? one.value : NaN;
    return value * (typeof n === 'object' && n !== null ? n.value : 1);
  };
  const inRow = 'n' in definition.fields;
  const found: { block: Block; id: string; count: number; off: number }[] = [];
  for (const kept of shelf) {
    const { id, part } = kept;
    if (part.kind !== takes.part || part.condition !== 'good' || takes.unsuited?.(part)) continue;
    const most = left.get(id) ?? part.quantity;
    for (let count = 1; count <= (inRow ? Math.min(most, 60) : Math.min(most, 1)); count++) {
      const made = withPart(block, definition, kept);
      const counted = inRow ? withAssumed(made, slot, { n: count }) : made;
      const placed: Block = { ...counted, parts: [{ id, tag: part.tag, ...(count > 1 ? { count } : {}) }] };
      const off = part.kind === 'resistor' ? Math.abs(Math.log(R(placed) / R(block))) : 0;
      if (off <= Math.log(near)) found.push({ block: placed, id, count, off });
    }
  }
  return found.sort((a, b) => a.off - b.off);
}

/** A rig with parts of the shelf wherever one keeps its limits; the ids of places that stand on one. */
function withShelf(
  rig: Rig,
  shelf: readonly Kept[],
  margin: number,
  without: ReadonlySet<Spot>,
): { readonly rig: Rig; readonly fromShelf: ReadonlySet<Spot> } {
  const left = new Map<string, number>();
  const fromShelf = new Set<Spot>();
  let made = rig;
  const fill = (slot: Slot, channel: number) => {
    const spot = spotIn(slot, channel);
    if (without.has(spot)) return;
    const found = offers(blockIn(made, spot), slot, shelf, left).find(({ block }) =>
      holds(inChannel(withBlock(made, spot, block), channel), slot, margin),
    );
    if (!found) return;
    made = withBlock(made, spot, found.block);
    const { quantity } = shelf.find(({ id }) => id === found.id)?.part ?? { quantity: 0 };
    left.set(found.id, (left.get(found.id) ?? quantity) - found.count);
    fromShelf.add(spot);
  };
  for (const slot of places) {
    const isOfChannel = (channelSlots as readonly Slot[]).includes(slot);
    for (let channel = 0; channel < (isOfChannel ? made.channels.length : 1); channel++) fill(slot, channel);
  }
  return { rig: wholeRig(made), fromShelf };
}

/** What is bought to a rating, by its place and field: at least so much, SI. */
export type Bought = ReadonlyMap<Spot, ReadonlyMap<string, number>>;

export type Rated =
  | { readonly ok: true; readonly rig: Rig; readonly bought: Bought; readonly fromShelf: ReadonlySet<Spot> }
  | { readonly ok: false; readonly by: string; readonly reason: string };

const fieldOfLimit = new Map<string, string | null>();

/** The empty field of its block that a limit is waiting for; null where there is none. */
function ratingField(rig: Rig, slot: Slot, id: string): string | null {
  const block = blockIn(rig, slot);
  // What is chosen in it decides what its limits ask for.
  const chosen = Object.values(block.fields).filter((value) => typeof value === 'string');
  const key = [slot, block.kind, id, ...chosen].join('/');
  const known = fieldOfLimit.get(key);
  if (known !== undefined) return known;
  const spec = limitSpecs(rig).find((one) => one.id === id);
  const { fields } = blockDefinition(slot, block.kind);
  const open = Object.entries(fields).flatMap(([name, field]) =>
    field.type === 'quantity' && field.initial === null ? [[name, field] as const] : [],
  );
  // Of a block of which nothing is known that may stay unknown: the one field that makes a rating.
  const bare = { ...block, fields: { ...block.fields, ...Object.fromEntries(open.map(([name]) => [name, null])) } };
  const rates = (tried: Block) => spec && ifKnown(() => spec.rating(new RigReading(withBlock(rig, slot, tried)))) != null;
  const found = rates(bare)
    ? null
    : (open.find(([name, field]) => rates(withAssumed(bare, slot, { [name]: trialOf(field) })))?.[0] ?? null);
  fieldOfLimit.set(key, found);
  return found;
}

const trialOf = ({ max, min }: QuantityField): number => (max <= 1 ? max / 2 : Math.max(min, Math.min(max / 2, 100)));

/** What is sold that is not below: E6, or where it is a share, to five per cent. */
const sold = (need: number, field: QuantityField): number =>
  field.max <= 1 ? Math.max(0.1, Math.ceil(need * 20 - 1e-9) / 20) : stepPreferred(Math.max(need, 1e-9) * (1 - 1e-6), 1, 'E6');

/** Of a share that is rated for all there can be nothing is beyond: no margin is asked of it. */
const isWhole = ({ rating, worst }: Limit): boolean => rating?.unit === '1' && rating.value >= 1 && (worst ?? 2) <= 1 + 1e-6;

/** Whether a limit has the room that is asked for, at its worst corner. */
export const hasRoom = (limit: Limit, margin: number): boolean =>
  limit.worst !== null && (limit.worst * (1 + margin) <= 1 + 1e-6 || isWhole(limit));

interface Need {
  readonly spot: Spot;
  readonly slot: Slot;
  readonly field: string;
  readonly value: number;
  readonly limit: Limit;
}

/** What a limit needs its rating to be; null where it is kept, or its rating is none that is chosen here. */
function needOf(rig: Rig, limit: Limit, margin: number, bought: Map<Spot, Map<string, number>>): Need | null | 'unjudged' {
  const channel = limit.channel ?? 0;
  const seen = inChannel(rig, isChannelSlot(limit.slot) ? channel : 0);
  const spot = spotIn(limit.slot, channel);
  const id = limit.id.replace(/-of-\d+$/, '');
  const field = ratingField(seen, limit.slot, id);
  if (limit.rating === null) {
    if (field === null) return 'unjudged';
    const spec = limitSpecs(seen).find((one) => one.id === id);
    const block = blockIn(seen, limit.slot);
    const definition = blockDefinition(limit.slot, block.kind).fields[field] as QuantityField;
    const trial = trialOf(definition);
    const tried = withBlock(seen, limit.slot, withAssumed(block, limit.slot, { [field]: trial }));
    const rating = spec && ifKnown(() => spec.rating(new RigReading(tried)));
    if (!rating) return 'unjudged';
    return { spot, slot: limit.slot, field, value: (trial * limit.band.high * (1 + margin)) / rating.value, limit };
  }
  const now = field === null ? undefined : bought.get(spot)?.get(field);
  if (field === null || now === undefined || hasRoom(limit, margin)) return null;
  return { spot, slot: limit.slot, field, value: now * (limit.worst ?? 1) * (1 + margin), limit };
}

/**
 * What capacitors of the shelf are taken to stand where their label is silent: as the class of their dielectric, and no voltage at all. It has
 * to be confirmed before they are built in, and the bill says so.
 */
function practiceOf({ fields }: Block): { readonly Vmax: number; readonly reversal: number } {
  const reversal = capacitorClasses.find(({ dielectric }) => dielectric === fields['dielectric'])?.reversal ?? 0;
  return { Vmax: 0, reversal };
}

/** The most of a rating that can be had: of what is sold, and of what the field can hold. */
function mostOf(rig: Rig, need: Need, bank: DraftBank): number {
  const block = blockIn(rig, need.spot);
  const field = blockDefinition(need.slot, block.kind).fields[need.field] as QuantityField;
  const most = stockOf(need.slot, block.kind).most[need.field] ?? Infinity;
  const ofCapacitor = (): number => {
    if (need.slot !== 'store') return Infinity;
    const { Vmax, reversal } = bank.from === 'stock' ? capacitorClass(bank.class) : practiceOf(block);
    return need.field === 'Vr' ? Vmax : need.field === 'reversal' ? reversal : Infinity;
  };
  return Math.min(field.max, most, ofCapacitor());
}

/**
 * A rig with every rating that its limits wait for: what is bought is bought to the next size that has room, at the worst corner, and parts
 * of the shelf that turn out too small there give way to what is bought.
 */
export function withRatings(started: Rig, bank: DraftBank, shelf: readonly Kept[], margin: number): Rated {
  const without = new Set<Spot>();
  let { rig, fromShelf } = withShelf(started, shelf, margin, without);
  const bought = new Map<Spot, Map<string, number>>();
  for (let round = 0; round < 8; round++) {
    const { limits, blind } = limitsOf(new Corners(rig));
    const [unknown] = blind;
    if (unknown) return { ok: false, by: unknown.title, reason: `it cannot be judged: ${unknown.reason}` };
    const tooSmall = limits.find(
      (limit) => limit.worst !== null && !hasRoom(limit, margin) && fromShelf.has(spotIn(limit.slot, limit.channel ?? 0)),
    );
    if (tooSmall) {
      without.add(spotIn(tooSmall.slot, tooSmall.channel ?? 0));
      bought.clear();
      ({ rig, fromShelf } = withShelf(started, shelf, margin, without));
      continue;
    }
    const needs: Need[] = [];
    for (const limit of limits) {
      const need = needOf(rig, limit, margin, bought);
      if (need === 'unjudged') return { ok: false, by: limit.title, reason: 'nothing that is asked here gives its rating' };
      if (need) needs.push(need);
    }
    if (needs.length === 0) return { ok: true, rig, bought, fromShelf };
    for (const need of needs) {
      const block = blockIn(rig, need.spot);
      const field = blockDefinition(need.slot, block.kind).fields[need.field] as QuantityField;
      const most = mostOf(rig, need, bank);
      const value = Math.min(sold(need.value, field), most);
      // Rated for all there can be it is rated for what a margin would put beyond that.
      const isEnough = field.max <= 1 && most >= 1 ? need.value <= 1 + margin : need.value <= most;
      if (!isEnough) {
        const [wanted, has] = [need.value, most].map((one) => printQuantity(one, field.unit));
        return { ok: false, by: need.limit.title, reason: `it takes ${wanted}, and ${has} is the most that is sold` };
      }
      const known = bought.get(need.spot) ?? new Map<string, number>();
      if ((known.get(need.field) ?? 0) >= value) continue;
      known.set(need.field, value);
      bought.set(need.spot, known);
      rig = withBlock(rig, need.spot, withAssumed(block, need.slot, { [need.field]: value }));
    }
  }
  return { ok: false, by: 'its ratings', reason: 'they do not settle' };
}

/** What a field of a block holds, SI; NaN where it holds nothing. */
export function valueIn(block: Block, id: string): number {
  const value = block.fields[id];
  return typeof value === 'object' && value !== null ? value.value : NaN;
}
