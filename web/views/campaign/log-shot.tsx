import { useState, type RefObject } from 'react';
import type { StoredCampaign, StoredShot } from '@vast-surge/contract';
import type { Place } from '@vast-surge/core/campaign';
import { outcomes, outcomeWords, type Outcome } from '@vast-surge/core/run';
import { axisOf, ofTheAir } from '@vast-surge/core/shot';
import { failureOf, useCreateShotMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { useDraft } from '../../ui/draft.ts';
import { Select } from '../../ui/select.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { airOfLast } from '../shots/air-of-last.ts';
import { AirFields } from '../shots/shot-fields.tsx';
import { isDraft, newDraft, shotFrom, type DraftShot } from './draft-shot.ts';

interface Logged {
  readonly stored: StoredCampaign;
  readonly place: Place;
  /** Who acts, who reads. */
  readonly people: readonly string[];
  /** Every shot of the rig, the newest first: the air of the last one holds for a while. */
  readonly all: readonly StoredShot[];
}

/** What is typed of the shot, and how it is saved. A second try after a failure, or after a reload, is the same shot. */
function useLogShot({ stored, place, people, all }: Logged) {
  const { draft, set, sent } = useDraft(`campaign-shot.${stored.id}.${place.place}.${place.shots.length}`, newDraft, isDraft);
  const [opened] = useState(() => new Date().toISOString());
  const lastAir = airOfLast(all, opened);
  const air = draft.air ?? lastAir?.values ?? {};
  const [trouble, setTrouble] = useState<string | null>(null);
  const [create, { isLoading }] = useCreateShotMutation();
  const base = useAppSelector((s) => s.editor.base);
  const save = async () => {
    const shot = shotFrom(stored.campaign, stored.id, place, draft, { people, air, at: new Date().toISOString() });
    if (typeof shot === 'string') {
      setTrouble(`${shot}.`);
      return;
    }
    try {
      const version = await versionOnceSaved(stored.rigId, base?.version ?? 1);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      await create({ id: draft.id, rigId: stored.rigId, version, runId: null, shot: { ...shot, own: [...shot.own] } }).unwrap();
      sent();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return { draft, set, air, airAt: draft.air ? null : (lastAir?.at ?? null), save, trouble, isSaving: isLoading };
}

/** Reading, outcome and remarks of the shot. */
function Fields({
  title,
  draft,
  set,
  first,
}: {
  title: string;
  draft: DraftShot;
  set: (change: Partial<DraftShot>) => void;
  first: RefObject<HTMLInputElement | null>;
}) {
  return (
    <>
      <label>
        {title}
        <input
          ref={first}
          className="figure mt-0.5 block w-36 border border-rule bg-ground px-2 py-1 text-17"
          value={draft.reading}
          onChange={(event) => set({ reading: event.target.value })}
        />
      </label>
      <label>
        Outcome
        <Select
          className="mt-0.5 block"
          value={draft.outcome}
          onChange={(event) => set({ outcome: event.target.value as Outcome })}
        >
          {outcomes.map((one) => (
            <option key={one} value={one}>
              {outcomeWords[one]}
            </option>
          ))}
        </Select>
      </label>
      <label className="min-w-48 flex-1">
        Remarks
        <input
          className="mt-0.5 block w-full border border-rule bg-ground px-2 py-1"
          value={draft.remarks}
          maxLength={1000}
          onChange={(event) => set({ remarks: event.target.value })}
        />
      </label>
    </>
  );
}

/** Writes down what the shot of a place came to, with one reading: the rest of the shot is on its own page. */
export function LogShot({ first, ...logged }: Logged & { first: RefObject<HTMLInputElement | null> }) {
  const { draft, set, air, airAt, save, trouble, isSaving } = useLogShot(logged);
  const { stored, place } = logged;
  return (
    <form
      aria-label="What the shot came to"
      className="no-print mt-3 flex flex-wrap items-end gap-3 border-t border-rule pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Fields title={axisOf(stored.campaign.answers).title} draft={draft} set={set} first={first} />
      <details className="w-full">
        <summary>Air of the day{ofTheAir.every((id) => air[id] === undefined) ? ': not read' : ''}</summary>
        <AirFields asAt={airAt} set={air} onSet={(next) => set({ air: next })} />
      </details>
      <Button type="submit" look="primary" disabled={isSaving}>
        Save shot {place.place + 1}
      </Button>
      <TroubleLine look="words" className="w-full">
        {trouble}
      </TroubleLine>
    </form>
  );
}
