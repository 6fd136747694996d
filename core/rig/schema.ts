import { z } from 'zod';
import { type channelSlots, type Slot } from '../block/index.ts';
import { blockSchema, furtherLoadSchema, kindsOf, newBlock, type Block } from '../kind/index.ts';

export type ChannelSlot = (typeof channelSlots)[number];
export type Channel = { readonly [K in ChannelSlot]: Block };

/**
 * supply → charging → channels, each channel store → switch → load with its own bleed and metering. What a kind of load declares
 * to stand once, such as what all stages of a launcher act on, the first channel holds.
 */
export interface Rig {
  readonly supply: Block;
  readonly charging: Block;
  readonly guard: Block;
  readonly air: Block;
  readonly channels: readonly Channel[];
  /** The channel that the rig is seen from, from 0; left out, the first. Never kept: {@link wholeRig} takes it off. */
  readonly front?: number;
}

/** Each stands once in a published schema, however many channels refer to it. */
const blockOf = (slot: Slot) => blockSchema(slot).meta({ id: slot });

const store = blockOf('store');
const switching = blockOf('switch');
const behindLoad = {
  bleeder: blockOf('bleeder'),
  tool: blockOf('tool'),
  meter: blockOf('meter'),
  // Rigs of before these places were there have none.
  monitor: blockOf('monitor').prefault({ kind: 'none' }),
  trigger: blockOf('trigger').prefault({ kind: 'none' }),
  dump: blockOf('dump').prefault({ kind: 'none' }),
  crowbar: blockOf('crowbar').prefault({ kind: 'none' }),
  leads: blockOf('leads').prefault({ kind: 'none' }),
};
const firstChannel = z.strictObject({ store, switch: switching, load: blockOf('load'), ...behindLoad });
const furtherChannel = z.strictObject({ store, switch: switching, load: furtherLoadSchema(), ...behindLoad });

/** Channels that a rig has at most. */
export const mostChannels = 12;

export const rigSchema = z.strictObject({
  supply: blockSchema('supply'),
  charging: blockSchema('charging'),
  // Rigs of before these were there have none.
  guard: blockSchema('guard').prefault({ kind: 'none' }),
  air: blockSchema('air').prefault({ kind: 'standard' }),
  channels: z.tuple([firstChannel], furtherChannel).check((ctx) => {
    const [{ load }, ...more] = ctx.value;
    const say = (message: string) => ctx.issues.push({ code: 'custom', message, input: ctx.value });
    if (more.length >= mostChannels) say(`has ${more.length + 1} channels; it must be from 1 to ${mostChannels}`);
    if (more.some((channel) => channel.load.kind !== load.kind))
      say(`has loads of several kinds: channels after the first have its kind of load, ${load.kind}`);
  }),
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
  guard: first('guard'),
  air: first('air'),
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
      crowbar: first('crowbar'),
      leads: first('leads'),
    },
  ],
});
