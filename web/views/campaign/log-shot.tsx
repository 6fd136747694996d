import { useState, type RefObject } from 'react';
import type { StoredCampaign } from '@vast-surge/contract';
import { setFor, type Place } from '@vast-surge/core/campaign';
import { outcomes, outcomeWords, type Outcome } from '@vast-surge/core/run';
import { axisOf, type Shot } from '@vast-surge/core/shot';
import { failureOf, useCreateShotMutation } from '../../app/api.ts';
import { unsavedWords, versionOnceSaved } from '../../app/commands.ts';
import { useAppSelector } from '../../app/store.ts';
import { Button } from '../../ui/button.tsx';
import { Select } from '../../ui/select.tsx';
import { parseTyped, readTyped } from '../../ui/typed.ts';
import { fieldOf } from '../shots/shot-fields.tsx';

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
  const [outcome, setOutcome] = useState<Outcome>('fired');
  const [reading, setReading] = useState('');
  const [remarks, setRemarks] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const [create, { isLoading }] = useCreateShotMutation();
  // A second try after a failure is the same shot.
  const [id] = useState(() => crypto.randomUUID());
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
          campaign: { id: stored.id, place: place.place },
        },
      }).unwrap();
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
          onChange={(event) => setReading(event.target.value)}
        />
      </label>
      <label>
        Outcome
        <Select className="mt-0.5 block" value={outcome} onChange={(event) => setOutcome(event.target.value as Outcome)}>
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
          onChange={(event) => setRemarks(event.target.value)}
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
