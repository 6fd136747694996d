import { useMemo } from 'react';
import type { StoredCampaign } from '@vast-surge/contract';
import { liftedMisfires, progressOf, type Entry, type Kept } from '@vast-surge/core/campaign';
import { axisOf, calibrationOf, lifeUsed, type Calibrated, type Calibration } from '@vast-surge/core/shot';
import type { Rig } from '@vast-surge/core/rig';
import { useAddEntryMutation } from '../../app/api.ts';

const calibrated: readonly string[] = ['voltage', 'current', 'time', 'speed', 'spark'] satisfies readonly Calibrated[];
const isCalibrated = (id: string): id is Calibrated => calibrated.includes(id);

/** What the shots of a campaign teach of what answers it; null of a quantity that people named themselves. */
function useLearnt({ campaign, shots }: StoredCampaign): Calibration | null {
  return useMemo(() => {
    const { answers } = campaign;
    return 'measure' in answers && isCalibrated(answers.measure) ? calibrationOf(shots, answers.measure) : null;
  }, [campaign, shots]);
}

/** What a campaign has come to so far, from its plan, its book and its shots. */
export function useKept(stored: StoredCampaign): Kept {
  const { rigName, campaign, entries, shots } = stored;
  const learnt = useLearnt(stored);
  return useMemo(() => {
    const own = shots.map(({ id, shot }) => ({ id, shot }));
    const remarks = entries.filter(({ kind }) => kind === 'remark');
    const progress = liftedMisfires(progressOf(campaign, entries, own), remarks);
    return { rig: rigName, campaign, entries, shots: own, progress, learnt };
  }, [rigName, campaign, entries, shots, learnt]);
}

/** Share of the capacitors' life that these shots used up; null where none is rated. */
export const useLifeUsed = (rig: Rig, { shots }: StoredCampaign): number | null =>
  useMemo(
    () =>
      lifeUsed(
        rig,
        shots.map(({ shot }) => shot),
      )?.used ?? null,
    [rig, shots],
  );

/** The last shot that lay outside the band told before it, as long as nobody has written what it was. */
export function outsideOf(learnt: Calibration | null, { shots, entries }: StoredCampaign) {
  const last = learnt?.scored.at(-1);
  if (!last || last.isInside) return null;
  const shot = shots.find((one) => one.shot.at === last.at);
  if (!shot || entries.some((entry) => entry.kind === 'looked-into' && entry.shot === shot.id)) return null;
  return { shot, ...last };
}

/** The last shot of which what answers was read: of it one says what a reading far off was. */
export const lastRead = ({ campaign, shots }: StoredCampaign) => {
  const axis = axisOf(campaign.answers);
  return shots.findLast(({ shot }) => axis.of(shot) !== undefined) ?? null;
};

/** What an entry is besides its id and its moment. */
type Said<E extends Entry = Entry> = E extends Entry ? Omit<E, 'id' | 'at'> : never;

/** Writes a line into the book. A second try after a failure is the same line, with the same key. */
export function useWrite(campaign: string) {
  const [add, { isLoading }] = useAddEntryMutation();
  const write = (said: Said, id: string) =>
    add({ id: campaign, entry: { ...said, id, at: new Date().toISOString() } as Entry, key: crypto.randomUUID() }).unwrap();
  return { write, isWriting: isLoading };
}
