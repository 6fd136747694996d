export { fieldName, midSentence, quantityAt, typedAt, withTrialValue, type QuantityAt } from './field-path.ts';
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
