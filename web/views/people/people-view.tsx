import { useState } from 'react';
import { format } from 'date-fns';
import { Link } from 'react-router';
import type { Person, Role } from '@vast-surge/contract';
import { failureOf, useGetSessionQuery } from '../../app/base-api.ts';
import {
  useForgetPersonMutation,
  useGetPeopleQuery,
  useGiveLinkMutation,
  useRevokeDeviceMutation,
  useSetPersonMutation,
} from '../../app/people-api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { DeviceList } from './device-list.tsx';
import { RigPeople } from './rig-people.tsx';
import { AdminLinks, LinkCard, RoleBoxes, Wrong } from './form-parts.tsx';

function Invite() {
  const [give, { data, error, isLoading }] = useGiveLinkMutation();
  const [chosen, setChosen] = useState<Role[]>(['watches']);
  return (
    <section className="mt-4 border-t border-ink pt-3">
      <h2 className="text-17 font-bold">Invite somebody</h2>
      <div className="mt-1">
        <RoleBoxes name="the invitation" chosen={chosen} onChange={setChosen} />
      </div>
      <Button
        look="primary"
        className="mt-2"
        disabled={isLoading || chosen.length === 0}
        onClick={() => void give({ kind: 'account', roles: chosen })}
      >
        Make a link
      </Button>
      <Wrong error={error} />
      {data && <LinkCard link={data} says="Whoever opens this link chooses a name and a password." />}
    </section>
  );
}

/** What can be done about an account, as long as it stands and afterwards. */
function Acts({
  person,
  isChanging,
  onChange,
  onLink,
  onEnd,
  onForget,
}: {
  person: Person;
  isChanging: boolean;
  onChange: () => void;
  onLink: () => void;
  onEnd: (ended: boolean) => void;
  onForget: () => void;
}) {
  return (
    <>
      {person.endedAt === null && (
        <>
          <Button look="quiet" onClick={onChange}>
            {isChanging ? 'Leave roles as they are' : 'Change roles'}
          </Button>
          <Button look="quiet" onClick={onLink}>
            Link to a new password
          </Button>
          <Button look="quiet" onClick={() => onEnd(true)}>
            End account
          </Button>
        </>
      )}
      {person.endedAt !== null && person.name !== null && (
        <>
          <Button look="quiet" onClick={() => onEnd(false)}>
            Let in again
          </Button>
          <Button look="quiet" onClick={onForget}>
            Take the name out
          </Button>
        </>
      )}
    </>
  );
}

function PersonRow({ person, here }: { person: Person; here: string | null }) {
  const [set, setting] = useSetPersonMutation();
  const [give, giving] = useGiveLinkMutation();
  const [forget, forgetting] = useForgetPersonMutation();
  const [revoke] = useRevokeDeviceMutation();
  const [chosen, setChosen] = useState<Role[] | null>(null);
  const name = person.name ?? `number ${person.id.slice(0, 8)}`;
  return (
    <li className="border-t border-rule py-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <h3 className="mr-auto text-17 font-bold">
          {name}{' '}
          <span className="text-14 font-normal text-dim">
            {person.endedAt ? `ended ${format(new Date(person.endedAt), 'd MMM yyyy')}` : person.roles.join(', ')}
          </span>
        </h3>
        <Acts
          person={person}
          isChanging={chosen !== null}
          onChange={() => setChosen(chosen ? null : [...person.roles])}
          onLink={() => void give({ kind: 'password', account: person.id })}
          onEnd={(ended) => void set({ id: person.id, ended })}
          onForget={() => void forget(person.id)}
        />
      </div>
      {chosen && (
        <div className="mt-2">
          <RoleBoxes name={name} chosen={chosen} onChange={setChosen} />
          <Button
            className="mt-2"
            disabled={chosen.length === 0}
            onClick={() => void set({ id: person.id, roles: chosen }).then((answer) => answer.data && setChosen(null))}
          >
            Save roles
          </Button>
        </div>
      )}
      <Wrong error={setting.error ?? giving.error ?? forgetting.error} />
      {giving.data && <LinkCard link={giving.data} says={`Whoever opens this link chooses a new password for ${name}.`} />}
      {person.endedAt === null && <DeviceList devices={person.devices} here={here} onRevoke={({ id }) => void revoke(id)} />}
    </li>
  );
}

/** Everybody who comes in, with roles and devices. */
export function PeopleView() {
  const { data: session } = useGetSessionQuery(undefined);
  const { data, error, refetch } = useGetPeopleQuery(undefined, { refetchOnMountOrArgChange: true });
  return (
    <main className="mx-auto w-full max-w-[60rem] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">People</h1>
        <AdminLinks but="/people" />
      </div>
      {session?.mode === 'alone' && (
        <p className="mt-2">
          This workshop answers this machine alone, and nobody has to sign in. Accounts count once{' '}
          <Link className="text-select underline" to="/opening">
            other devices are let in
          </Link>
          .
        </p>
      )}
      {error !== undefined &&
        (failureOf(error).code === 'not_allowed' ? (
          <Wrong error={error} />
        ) : (
          <Failure error={error} onRetry={() => void refetch()} />
        ))}
      {data && data.length > 0 && (
        <ul className="mt-3">
          {data.map((person) => (
            <PersonRow key={person.id} person={person} here={session?.device ?? null} />
          ))}
        </ul>
      )}
      {data && session?.mode === 'open' && (
        <>
          <RigPeople people={data} />
          <Invite />
        </>
      )}
    </main>
  );
}
