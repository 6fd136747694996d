import { useState } from 'react';
import type { Person, RigHead } from '@vast-surge/contract';
import { useGetRigPeopleQuery, useSetRigPeopleMutation } from '../../app/people-api.ts';
import { Button } from '../../ui/button.tsx';
import { RigPicker } from '../../ui/rig-picker.tsx';
import { Wrong } from './form-parts.tsx';

function OfRig({ rig, people }: { rig: RigHead; people: readonly Person[] }) {
  const { data, error } = useGetRigPeopleQuery(rig.id, { refetchOnMountOrArgChange: true });
  const [set, setting] = useSetRigPeopleMutation();
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const now = chosen ?? data?.accounts ?? [];
  const here = people.filter(({ endedAt, id }) => endedAt === null || now.includes(id));
  if (!data) return <Wrong error={error} />;
  return (
    <fieldset className="mt-3">
      <legend className="font-bold">Who works on {rig.name}</legend>
      {here.map((person) => (
        <label key={person.id} className="flex items-baseline gap-2 py-0.5">
          <input
            type="checkbox"
            checked={now.includes(person.id)}
            onChange={({ target }) => setChosen(target.checked ? [...now, person.id] : now.filter((id) => id !== person.id))}
          />
          {person.name ?? `number ${person.id.slice(0, 8)}`}
          <span className="text-14 text-dim">{person.roles.join(', ')}</span>
        </label>
      ))}
      <p role="status" className="mt-2">
        {now.length === 0
          ? `${rig.name} is everybody’s, by their roles.`
          : `All others watch ${rig.name}. Each does what their roles allow; an abort stays everybody’s.`}
      </p>
      <p className="mt-2 flex gap-3">
        <Button
          look="primary"
          disabled={chosen === null || setting.isLoading}
          onClick={() => void set({ id: rig.id, accounts: [...now] }).then(({ data: kept }) => kept && setChosen(null))}
        >
          Save people
        </Button>
        {chosen !== null && <Button onClick={() => setChosen(null)}>Leave it as it is</Button>}
      </p>
      <Wrong error={setting.error} />
    </fieldset>
  );
}

/** Rigs that are for some people only. */
export function RigPeople({ people }: { people: readonly Person[] }) {
  const [rig, setRig] = useState<RigHead | null>(null);
  return (
    <section aria-label="A rig for some people only" className="mt-6 border-t border-ink pt-3">
      <h2 className="text-17 font-bold">A rig for some people only</h2>
      <p className="max-w-[44rem] text-dim">
        Whoever is not named watches that rig, its runs, shots and campaigns, whatever their roles.
      </p>
      <div className="mt-2 max-w-[24rem]">
        <RigPicker label="Rig" none="Choose …" value={rig?.id ?? ''} onPick={setRig} />
      </div>
      {rig && <OfRig key={rig.id} rig={rig} people={people} />}
    </section>
  );
}
