import { blockIn, spotsOf } from './channel.ts';
import type { Rig } from './schema.ts';

/** Ids of all parts of the shelf that the blocks of a rig use. */
export const partsUsed = (rig: Rig): string[] => [
  ...new Set(spotsOf(rig).flatMap((spot) => (blockIn(rig, spot).parts ?? []).map((ref) => ref.id))),
];
