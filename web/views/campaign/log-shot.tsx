import { useState, type RefObject } from 'react';
import { z } from 'zod';
import type { StoredCampaign } from '@vast-surge/contract';
import { setFor, type Place } from '@vast-surge/core/campaign';
import { outcomes, outcomeWords, type Outcome } from '@vast-surge/core/run';
import { axisOf, type Shot } from '@vast-surge/core/shot';
import { failureOf, useCreateShotMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { useDraft } from '../../ui/draft.ts';
import { Select } from '../../ui/select.tsx';
import { parseTyped, readTyped } from '../../ui/typed.ts';
import { fieldOf } from '../shots/shot-fields.tsx';

interface Draft {
  readonly id: string;
  readonly outcome: Outcome;
  readonly reading: string;
  readonly remarks: string;
}
const newDraft = (): Draft => ({ id: crypto.randomUUID(), outcome: 'fired', reading: '', remarks: '' });
const draftSchema = z.object({
  id: z.uuid(),
  outcome: z.enum(outcomes),
  reading: z.string(),
  remarks: z.string(),
});
const isDraft = (value: unknown): value is Draft => draftSchema.safeParse(value).success;

/** Which setting, where it is another than the one that was planned for the place. */
function otherSetting({ settings, row }: StoredCampaign['campaign'], { place, setting }: Place): { setting?: number } {
  const k = settings.indexOf(setting);
  return k === row[place] || k < 0 ? {} : { setting: k };
}

/** Writes down what the shot of a place came to, with one reading: the rest of the shot is on its own page. */
export function LogShot({
  stored,
  place,
  people,
  first,
}: {
  stored: StoredCampaign;
  place: Place;
  people: readonly string[];
  first: RefObject<HTMLInputElement | null>;
}) {
  const { answers } = stored.campaign;
  const { draft, set, sent } = useDraft(`campaign-shot.${stored.id}.${place.place}.${place.shots.length}`, newDraft, isDraft);
  // A second try after a failure, or after a reload, is the same shot.
  const { id, outcome, reading, remarks } = draft;
  const [trouble, setTrouble] = useState<string | null>(null);
  const [create, { isLoading }] = useCreateShotMutation();
  const base = useAppSelector((s) => s.editor.base);
  const { title } = axisOf(answers);
  const read = (): Pick<Shot, 'measured' | 'own'> | string => {
    if (reading.trim() === '')
      return outcome === 'fired'
        ? `${title} is empty: enter what was read, or say that it did not fire`
        : { measured: {}, own: [] };
    if ('measure' in answers) {
      const got = readTyped(fieldOf(answers.measure), reading);
      if (!got.ok) return `${title} ${got.reason}`;
      return { measured: { [answers.measure]: got.value?.value }, own: [] };
    }
    const got = parseTyped(reading, '1');
    if (!got.ok || Math.abs(got.quantity.value) > 1e15)
      return `${answers.name} is "${reading.slice(0, 20)}"; it must be a number in ${answers.unit}, without its unit, from −1e15 to 1e15`;
    const { value } = got.quantity;
    return { measured: {}, own: [{ name: answers.name, unit: answers.unit, value }] };
  };
  const save = async () => {
    const got = read();
    if (typeof got === 'string') {
      setTrouble(`${got}.`);
      return;
    }
    const [acts, reads] = people.map((one) => one.trim());
    const said = [acts ? `${acts} acted` : '', reads ? `${reads} read` : ''].filter(Boolean).join(', ');
    try {
      const version = await versionOnceSaved(stored.rigId, base?.version ?? 1);
      if (version === null) {
        setTrouble(unsavedWords);
        return;
      }
      await create({
        id,
        rigId: stored.rigId,
        version,
        runId: null,
        shot: {
          at: new Date().toISOString(),
          outcome,
          set: setFor(place.setting),
          ...got,
          own: [...got.own],
          sound: '',
          remarks: [remarks.trim(), said].filter(Boolean).join(' · '),
          campaign: { id: stored.id, place: place.place, ...otherSetting(stored.campaign, place) },
        },
      }).unwrap();
      sent();
    } catch (error) {
      setTrouble(failureOf(error).message);
    }
  };
  return (
    <form
      aria-label="What the shot came to"
      className="no-print mt-3 flex flex-wrap items-end gap-3 border-t border-rule pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <label>
        {title}
        <input
          ref={first}
          className="figure mt-0.5 block w-36 border border-rule bg-ground px-2 py-1 text-17"
          value={reading}
          onChange={(event) => set({ reading: event.target.value })}
        />
      </label>
      <label>
        Outcome
        <Select className="mt-0.5 block" value={outcome} onChange={(event) => set({ outcome: event.target.value as Outcome })}>
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
          value={remarks}
          maxLength={1000}
          onChange={(event) => set({ remarks: event.target.value })}
        />
      </label>
      <Button type="submit" look="primary" disabled={isLoading}>
        Save shot {place.place + 1}
      </Button>
      {trouble !== null && (
        <p role="alert" className="w-full font-bold text-over">
          {trouble}
        </p>
      )}
    </form>
  );
}
