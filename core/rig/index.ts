export {
  blockIn,
  channelSlots,
  newRig,
  rigNameSchema,
  rigNoteSchema,
  rigSchema,
  rigSlots,
  withBlock,
  type Channel,
  type Rig,
} from './schema.ts';
