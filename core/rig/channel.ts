import { channelSlots, isChannelSlot, rigSlots, slots, type Desk, type DeskRoute, type Slot } from '../block/index.ts';
import { blockDefinition, slotTitles, type Block } from '../kind/index.ts';
import { mostChannels, type Channel, type ChannelSlot, type Rig } from './schema.ts';

/** A place of a rig: of the channel it is seen from, or of one by its number from 1, as `store@2`. */
export type Spot = Slot | `${ChannelSlot}@${number}`;

const frontOf = ({ front = 0, channels }: Rig): number => (front < channels.length ? front : 0);

/** The slot of a place, and its channel from 0; null: that which the rig is seen from, or none. */
export function spotAt(spot: string): { readonly slot: Slot; readonly channel: number | null } {
  const [slot, number] = spot.split('@') as [Slot, string?];
  return { slot, channel: number === undefined || !isChannelSlot(slot) ? null : Number(number) - 1 };
}

/** The place of a slot in a channel from 0: the first has no number. */
export const spotIn = (slot: Slot, channel: number): Spot =>
  channel === 0 || !isChannelSlot(slot) ? slot : (`${slot}@${channel + 1}` as Spot);

/** The same with its number, also of the first: where it is not the channel that the rig is seen from. */
export const numberedSpot = (slot: Slot, channel: number): Spot => (isChannelSlot(slot) ? `${slot}@${channel + 1}` : slot);

const views = new WeakMap<Rig, Map<number, Rig>>();

/** The rig as it is kept: seen from its first channel. */
export function wholeRig(rig: Rig): Rig {
  if (rig.front === undefined) return rig;
  const { supply, charging, guard, air, channels } = rig;
  return { supply, charging, guard, air, channels };
}

/** The rig seen from one of its channels, from 0: each slot is that channel's. The same one for the same rig. */
export function inChannel(rig: Rig, channel: number): Rig {
  if (frontOf(rig) === channel) return rig;
  const made = views.get(rig) ?? new Map<number, Rig>();
  views.set(rig, made);
  const known = made.get(channel);
  if (known) return known;
  const { supply, charging, guard, air, channels } = rig;
  if (!channels[channel]) throw new Error(`a rig of ${channels.length} channels has no channel ${channel + 1}`);
  const view: Rig = { supply, charging, guard, air, channels, ...(channel === 0 ? {} : { front: channel }) };
  made.set(channel, view);
  return view;
}

/** The channel that a rig is seen from, from 0. */
export const channelOf = (rig: Rig): number => frontOf(rig);

/** What its load calls a channel of this rig, "stage"; null where there is only one and there can be no more. */
export const channelNoun = (rig: Rig): string | null => {
  const [first] = rig.channels;
  return (first && blockDefinition('load', first.load.kind).channels?.one) ?? null;
};

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** "Stages": what the channels of a rig are called. */
export const channelsTitle = (rig: Rig): string => capital(`${channelNoun(rig) ?? 'channel'}s`);

/** "Stage 2": what a channel of a rig is called, from 0. */
export const channelTitle = (rig: Rig, channel: number): string => capital(`${channelNoun(rig) ?? 'channel'} ${channel + 1}`);

/** "Store", or "Stage 2, store" where the place says which. */
export function spotTitle(rig: Rig, spot: string): string {
  const { slot, channel } = spotAt(spot);
  return channel === null ? slotTitles[slot] : `${channelTitle(rig, channel)}, ${slotTitles[slot].toLowerCase()}`;
}

/** Ids of the fields of a kind of load that stand once, in the first channel. */
const onceIn = (kind: string): string[] =>
  Object.entries(blockDefinition('load', kind).fields).flatMap(([id, field]) => (field.once ? [id] : []));

const pick = (block: Block, ids: readonly string[]): Block['fields'] =>
  Object.fromEntries(ids.flatMap((id) => (id in block.fields ? [[id, block.fields[id] ?? null]] : [])));

const joined = new WeakMap<Block, WeakMap<Block, Block>>();

/** A further channel's load with what stands once. */
function withOnce(first: Block, own: Block): Block {
  if (first.kind !== own.kind) return own;
  const known = joined.get(first) ?? new WeakMap<Block, Block>();
  joined.set(first, known);
  const made = known.get(own) ?? { ...own, fields: { ...own.fields, ...pick(first, onceIn(own.kind)) } };
  known.set(own, made);
  return made;
}

function without(block: Block, ids: readonly string[]): Block {
  return { ...block, fields: Object.fromEntries(Object.entries(block.fields).filter(([id]) => !ids.includes(id))) };
}

/** The block at a place of a rig. */
export function blockIn(rig: Rig, spot: Spot): Block {
  const { slot, channel } = spotAt(spot);
  if (!isChannelSlot(slot)) return rig[slot];
  const at = channel ?? frontOf(rig);
  const [first] = rig.channels;
  const own = rig.channels[at];
  if (!first || !own) throw new Error(`a rig of ${rig.channels.length} channels has no channel ${at + 1}`);
  return slot === 'load' && at > 0 ? withOnce(first.load, own.load) : own[slot];
}

/** The same rig with another block at a place; what stands once goes to the first channel. */
export function withBlock(rig: Rig, spot: Spot, block: Block): Rig {
  const { slot, channel } = spotAt(spot);
  if (!isChannelSlot(slot)) return { ...rig, [slot]: block };
  const at = channel ?? frontOf(rig);
  const once = at > 0 && slot === 'load' ? onceIn(block.kind) : [];
  const put = (into: Channel, k: number): Channel => {
    if (k === at) return { ...into, [slot]: once.length > 0 ? without(block, once) : block };
    if (k > 0 || once.length === 0) return into;
    return { ...into, load: { ...into.load, fields: { ...into.load.fields, ...pick(block, once) } } };
  };
  return { ...rig, channels: rig.channels.map(put) };
}

/** The same rig with the block that another holds at a place, and what stands once as it is. */
export function withBlockOf(rig: Rig, from: Rig, spot: Spot): Rig {
  const { slot, channel } = spotAt(spot);
  const own = from.channels[channel ?? frontOf(from)];
  if (!isChannelSlot(slot) || !own) return withBlock(rig, spot, blockIn(from, spot));
  const at = channel ?? frontOf(rig);
  return { ...rig, channels: rig.channels.map((into, k) => (k === at ? { ...into, [slot]: own[slot] } : into)) };
}

/**
 * The rig with one more channel at its end, like the last, with parts of its own still to be chosen; null where it takes no more.
 * A load may say what differs from one channel to the next.
 */
export function withChannelAdded(rig: Rig): Rig | null {
  const [first, last] = [rig.channels[0], rig.channels.at(-1)];
  if (!first || !last || rig.channels.length >= mostChannels) return null;
  const { channels } = blockDefinition('load', first.load.kind);
  if (!channels) return null;
  const once = onceIn(first.load.kind);
  const like = Object.fromEntries(
    Object.entries(last).map(([slot, { kind, fields }]) => [slot, { kind, fields }]),
  ) as unknown as Channel;
  const load = without({ ...like.load, fields: channels.next(withOnce(first.load, last.load).fields) }, once);
  return { ...rig, channels: [...rig.channels, { ...like, load }] };
}

/** The rig without one of its channels behind the first, from 1. */
export const withoutChannel = (rig: Rig, channel: number): Rig => ({
  ...wholeRig(rig),
  channels: rig.channels.filter((_, k) => k !== channel || k === 0),
});

/** The rig with another kind of load in its first channel: one that stands alone leaves no further channels. */
export const withLoadKind = (rig: Rig, block: Block): Rig => {
  const made = withBlock(rig, 'load', block);
  const [first] = made.channels;
  return first && first.load.kind !== rig.channels[0]?.load.kind ? { ...made, channels: [first] } : made;
};

/** Pages that the blocks of a rig bring with them, each once, in the order of the line. */
export const desksOf = (rig: Rig): Desk[] => [
  ...new Set(slots.flatMap((slot) => blockDefinition(slot, blockIn(rig, slot).kind).desks ?? [])),
];

export const hasDesk = (rig: Rig, route: DeskRoute): boolean => desksOf(rig).some((desk) => desk.route === route);

/** Every place of a rig: those it has once, then channel by channel. */
export const spotsOf = (rig: Rig): Spot[] => [
  ...rigSlots,
  ...rig.channels.flatMap((_, k) => channelSlots.map((slot) => spotIn(slot, k))),
];
