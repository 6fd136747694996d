import { slots } from '../block/index.ts';
import { blockIn, type Rig } from './schema.ts';

/** Ids of all parts of the shelf that the blocks of a rig use. */
export const partsUsed = (rig: Rig): string[] => [
  ...new Set(slots.flatMap((slot) => (blockIn(rig, slot).parts ?? []).map((ref) => ref.id))),
];
