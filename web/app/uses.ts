import { useMemo } from 'react';
import { slots } from '@vast-surge/core/block';
import { blockIn, type Rig } from '@vast-surge/core/rig';
import { useListRigsQuery, type ListedRig } from './api.ts';

/** A rig that stands on a part. */
export interface Use {
  readonly rigId: string;
  readonly name: string;
  readonly built: boolean;
}

/** Ids of all parts that a rig stands on. */
export const partsOf = (rig: Rig): string[] => [
  ...new Set(slots.flatMap((slot) => (blockIn(rig, slot).parts ?? []).map((ref) => ref.id))),
];

/** The rigs on the list that stand on each part. */
export function usesIn(rigs: readonly ListedRig[]): Map<string, readonly Use[]> {
  const uses = new Map<string, readonly Use[]>();
  for (const rig of rigs) {
    if ('unreadable' in rig) continue;
    const { name, built } = rig.document;
    for (const id of partsOf(rig.document.rig)) uses.set(id, [...(uses.get(id) ?? []), { rigId: rig.id, name, built }]);
  }
  return uses;
}

export function useUses(): ReadonlyMap<string, readonly Use[]> {
  const { data } = useListRigsQuery('live');
  return useMemo(() => usesIn(data ?? []), [data]);
}
