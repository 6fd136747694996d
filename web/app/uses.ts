import { useMemo } from 'react';
import type { RigUse } from '@vast-surge/contract';
import { useRigUsesQuery } from './api.ts';

/** A rig that uses a part. */
export interface Use {
  readonly rigId: string;
  readonly name: string;
  readonly built: boolean;
}

/** The rigs that use each part. */
export function usesByPart(rigs: readonly RigUse[]): Map<string, readonly Use[]> {
  const uses = new Map<string, readonly Use[]>();
  for (const { rigId, name, built, parts } of rigs)
    for (const id of parts) uses.set(id, [...(uses.get(id) ?? []), { rigId, name, built }]);
  return uses;
}

/** The rigs on the list that use each part, but for one rig where that is asked. */
export function useUses(except: string | null = null): ReadonlyMap<string, readonly Use[]> {
  const { data } = useRigUsesQuery(undefined);
  return useMemo(() => usesByPart((data ?? []).filter(({ rigId }) => rigId !== except)), [data, except]);
}
