import { useEffect, useMemo, useState } from 'react';
import type { StoredShot } from '@vast-surge/contract';
import { settingAt, type Campaign } from '@vast-surge/core/campaign';
import type { Rig } from '@vast-surge/core/rig';
import { isComparable, type Values } from '@vast-surge/core/shot';
import { api } from '../../app/api.ts';
import { askedOnce } from '../../app/asked-once.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useAsSet } from '../../workers/studies.ts';

/** Shots that are looked at, the newest first: more teach nothing new of a rig that has been in use since. */
export const mostPooled = 60;

/** What the server has under each of these ids, by id; what has not come yet is not there. */
function useEach<T>(ids: readonly string[], fetched: (id: string) => Promise<T>): ReadonlyMap<string, T> {
  const [known, setKnown] = useState<ReadonlyMap<string, T>>(new Map());
  const key = [...new Set(ids)].sort().join();
  useEffect(() => {
    let wanted = true;
    const asked = key === '' ? [] : key.split(',');
    void Promise.allSettled(asked.map(async (id) => [id, await fetched(id)] as const)).then((all) => {
      if (wanted) setKnown(new Map(all.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []))));
    });
    return () => {
      wanted = false;
    };
    // What is asked follows from the ids alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return known;
}

/** Shots of a rig that teach of it as it is, with what is calculated for each as it was set. */
export interface Pool {
  readonly shots: readonly StoredShot[];
  /** What is calculated for each of them; null until it is. */
  readonly calculated: readonly Values[] | null;
  /** Of the rig as it is set. */
  readonly now: Values | null;
  /** Why it cannot be calculated. */
  readonly reason: string | null;
}

/** @param shots of one rig, the newest first; null until what they were fired with has come */
export function usePool(rig: Rig, shots: readonly StoredShot[]): Pool | null {
  const dispatch = useAppDispatch();
  const revisions = useEach(
    shots.map(({ revisionId }) => revisionId),
    async (id) => (await askedOnce(dispatch(api.endpoints.getRevision.initiate(id)))).document.rig,
  );
  const campaignIds = shots.flatMap(({ shot }) => (shot.campaign ? [shot.campaign.id] : []));
  const campaigns: ReadonlyMap<string, Campaign> = useEach(
    campaignIds,
    async (id) => (await askedOnce(dispatch(api.endpoints.getCampaign.initiate(id)))).campaign,
  );
  const pooled = useMemo(
    () =>
      shots
        .filter(({ revisionId, shot }) => {
          const then = revisions.get(revisionId);
          return then !== undefined && isComparable(then, rig) && (shot.campaign === null || campaigns.has(shot.campaign.id));
        })
        .slice(0, mostPooled),
    [shots, revisions, campaigns, rig],
  );
  const asked = useMemo(
    () => [
      { set: {}, values: [] },
      ...pooled.map(({ shot }) => {
        const campaign = shot.campaign && campaigns.get(shot.campaign.id);
        return { set: shot.set, values: (campaign && settingAt(campaign, shot.campaign)?.values) ?? [] };
      }),
    ],
    [pooled, campaigns],
  );
  const answer = useAsSet(rig, asked);
  if (revisions.size === 0 || (campaignIds.length > 0 && campaigns.size === 0)) return null;
  const [now = null, ...calculated] = answer?.ok ? answer.value : [];
  return {
    shots: pooled,
    calculated: answer?.ok ? calculated : null,
    now,
    reason: answer?.ok === false ? answer.reason : null,
  };
}
