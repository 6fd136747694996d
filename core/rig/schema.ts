import { z } from 'zod';
import { slots, type channelSlots, type Desk, type rigSlots, type Slot } from '../block/index.ts';
import { blockDefinition, blockSchema, kindsOf, newBlock, type Block } from '../kind/index.ts';

export type ChannelSlot = (typeof channelSlots)[number];
export type Channel = { readonly [K in ChannelSlot]: Block };

/** supply → charging → channels, each channel store → switch → load with its own bleed and metering. */
export interface Rig {
  readonly supply: Block;
  readonly charging: Block;
  readonly channels: readonly Channel[];
}

const channelSchema = z.strictObject({
  store: blockSchema('store'),
  switch: blockSchema('switch'),
  load: blockSchema('load'),
  bleeder: blockSchema('bleeder'),
  tool: blockSchema('tool'),
  meter: blockSchema('meter'),
  // Rigs of before these places were there have none.
  monitor: blockSchema('monitor').prefault({ kind: 'none' }),
  trigger: blockSchema('trigger').prefault({ kind: 'none' }),
  dump: blockSchema('dump').prefault({ kind: 'none' }),
});

export const rigSchema = z.strictObject({
  supply: blockSchema('supply'),
  charging: blockSchema('charging'),
  channels: z
    .array(channelSchema)
    .length(1, { error: () => 'must hold exactly one channel: this version knows rigs of one channel only' }),
});

const first = (slot: Slot): Block => {
  const [definition] = kindsOf(slot);
  if (!definition) throw new Error(`no kind of ${slot} is registered`);
  return newBlock(definition);
};

/** A new rig: the first kind of every slot with its initial values, each marked as a default. */
export const newRig = (): Rig => ({
  supply: first('supply'),
  charging: first('charging'),
  channels: [
    {
      store: first('store'),
      switch: first('switch'),
      load: first('load'),
      bleeder: first('bleeder'),
      tool: first('tool'),
      meter: first('meter'),
      monitor: first('monitor'),
      trigger: first('trigger'),
      dump: first('dump'),
    },
  ],
});

const isRigSlot = (slot: Slot): slot is (typeof rigSlots)[number] => slot === 'supply' || slot === 'charging';

/** The block in a slot of the rig's first channel. */
export function blockIn(rig: Rig, slot: Slot): Block {
  if (isRigSlot(slot)) return rig[slot];
  const channel = rig.channels[0];
  if (!channel) throw new Error('a rig has at least one channel');
  return channel[slot];
}

/** The same rig with another block in a slot. */
export function withBlock(rig: Rig, slot: Slot, block: Block): Rig {
  if (isRigSlot(slot)) return { ...rig, [slot]: block };
  return { ...rig, channels: rig.channels.map((channel, i) => (i === 0 ? { ...channel, [slot]: block } : channel)) };
}

/** Pages that the blocks of a rig bring with them, each once, in the order of the line. */
export const desksOf = (rig: Rig): Desk[] => [
  ...new Set(slots.flatMap((slot) => blockDefinition(slot, blockIn(rig, slot).kind).desks ?? [])),
];
