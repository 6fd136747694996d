import { useMemo } from 'react';
import type { RunHead, StoredCampaign, StoredShot } from '@vast-surge/contract';
import { progressOf, type Entry, type Kept } from '@vast-surge/core/campaign';
import { calibrationOf, isCalibrated, type Calibration } from '@vast-surge/core/shot';
import type { Rig } from '@vast-surge/core/rig';
import { useAddEntryMutation } from '../../app/api.ts';
import { usePool } from '../shots/use-pool.ts';

/**
 * What the shots of a rig teach of what answers its campaign, told of the shots of the campaign alone: the same as its shot log says. Null of
 * a quantity that people named themselves, and `pending` while it is calculated.
 */
function useLearnt(rig: Rig, { campaign, shots }: StoredCampaign, all: readonly StoredShot[]): Calibration | null | 'pending' {
  const pool = usePool(rig, all);
  return useMemo(() => {
    const { answers } = campaign;
    if (!('measure' in answers) || !isCalibrated(answers.measure) || shots.length === 0 || pool?.reason != null) return null;
    if (!pool?.calculated) return 'pending';
    const { calculated } = pool;
    const found = calibrationOf(
      pool.shots.map(({ shot }, i) => ({ shot, predicted: calculated[i] ?? {} })),
      answers.measure,
    );
    const own = new Set(shots.map(({ shot }) => shot.at));
    return found && { ...found, scored: found.scored.filter(({ at }) => own.has(at)) };
  }, [campaign, shots, pool]);
}

/** Near-misses that runs of the rig noticed while the campaign was under way. */
function caughtIn({ madeAt, entries }: StoredCampaign, runs: readonly RunHead[]): Kept['caught'] {
  const closed = entries.find(({ kind }) => kind === 'closed')?.at ?? '9999';
  return runs.flatMap(({ madeAt: began, nearMisses = [] }) => (began >= madeAt && began <= closed ? nearMisses : []));
}

/**
 * What a campaign has come to so far, from its plan, its book, its shots and the runs of its rig; and whether what they teach is still being
 * calculated.
 */
export function useKept(
  rig: Rig,
  stored: StoredCampaign,
  all: readonly StoredShot[],
  runs: readonly RunHead[],
): { kept: Kept; isLearning: boolean } {
  const { rigName, campaign, entries, shots } = stored;
  const learnt = useLearnt(rig, stored, all);
  const kept = useMemo(() => {
    const own = shots.map(({ id, shot }) => ({ id, shot }));
    const progress = progressOf(campaign, entries, own);
    const caught = caughtIn(stored, runs);
    return { rig: rigName, campaign, entries, shots: own, progress, learnt: learnt === 'pending' ? null : learnt, caught };
  }, [stored, rigName, campaign, entries, shots, learnt, runs]);
  return { kept, isLearning: learnt === 'pending' };
}

/** What an entry is besides its id and its moment. */
export type Said<E extends Entry = Entry> = E extends Entry ? Omit<E, 'id' | 'at'> : never;

/** Writes a line into the book. A second try after a failure is the same line: the server takes its id once. */
export function useWrite(campaign: string) {
  const [add, { isLoading }] = useAddEntryMutation();
  const write = (said: Said, id: string) =>
    add({ id: campaign, entry: { ...said, id, at: new Date().toISOString() } as Entry }).unwrap();
  return { write, isWriting: isLoading };
}
