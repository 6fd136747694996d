import { useState } from 'react';
import { format } from 'date-fns';
import { useNavigate } from 'react-router';
import type { Opened, Opening } from '@vast-surge/contract';
import { failureOf } from '../../app/base-api.ts';
import { useGetOpeningQuery, useSetOpeningMutation } from '../../app/people-api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { AdminLinks, Line, Wrong } from './form-parts.tsx';

const usualPort = 4643;

const reaches: { readonly [K in Opened['available'][number]['reach']]: string } = {
  machine: ', this machine alone: to try it',
  private: '',
  public: ', a public address: the whole internet may knock',
};

/** The addresses of this machine, each with how far it reaches. */
function Addresses({
  available,
  addresses,
  setAddresses,
}: {
  available: Opened['available'];
  addresses: readonly string[];
  setAddresses: (addresses: readonly string[]) => void;
}) {
  return (
    <fieldset>
      <legend className="text-14">Addresses of this machine to answer at</legend>
      {available.every(({ reach }) => reach === 'machine') && (
        <p>This machine has no address that another device could reach: join a network first.</p>
      )}
      {available.map(({ address, network, reach }) => (
        <label key={address} className="flex min-h-7 items-baseline gap-2">
          <input
            type="checkbox"
            checked={addresses.includes(address)}
            onChange={({ target }) =>
              setAddresses(target.checked ? [...addresses, address] : addresses.filter((one) => one !== address))
            }
          />
          <span className="figure">{address}</span>
          <span className="text-14 text-dim">
            {network}
            {reaches[reach]}
          </span>
        </label>
      ))}
    </fieldset>
  );
}

/** Where the workshop answers: addresses of this machine, names they have, one port. */
function OpeningForm({ opened, onSet }: { opened: Opened; onSet: (opening: Opening) => void }) {
  const { opening, available } = opened;
  const [addresses, setAddresses] = useState<readonly string[]>(
    () => opening?.addresses ?? available.filter(({ reach }) => reach === 'private').map(({ address }) => address),
  );
  const [names, setNames] = useState(opening?.names.join(', ') ?? '');
  const [port, setPort] = useState(String(opening?.port ?? usualPort));
  const isPublic = available.some(({ address, reach }) => reach === 'public' && addresses.includes(address));
  return (
    <form
      className="mt-3 grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onSet({ addresses: [...addresses], names: names.split(/[\s,]+/).filter(Boolean), port: Number(port) });
      }}
    >
      <Addresses available={available} addresses={addresses} setAddresses={setAddresses} />
      {isPublic && (
        <p role="alert" className="border-l-4 border-warning pl-2">
          A public address is chosen. This server is made for the network of a workshop: put a firewall before it.
        </p>
      )}
      <Line
        title="Host names, if the network has any"
        autoComplete="off"
        hint="Such as bench.local; several with commas. Links are told by the first."
        value={names}
        onText={setNames}
      />
      <Line title="Port" autoComplete="off" value={port} onText={setPort} />
      <Button type="submit" look="primary" className="justify-self-start" disabled={addresses.length === 0}>
        {opening ? 'Save' : 'Let other devices in'}
      </Button>
    </form>
  );
}

function Standing({ opened }: { opened: Opened }) {
  const { listening, certificate } = opened;
  return (
    <section className="mt-4">
      <ul>
        {listening.map(({ url, trouble }) => (
          <li key={url} className="flex flex-wrap items-baseline gap-3 border-t border-rule py-1">
            <span className="figure text-20 font-bold">{url}</span>
            {trouble === null ? (
              <span className="text-dim">answers</span>
            ) : (
              <b className="text-over">does not answer: {trouble}</b>
            )}
          </li>
        ))}
      </ul>
      {certificate && (
        <p className="mt-2 text-14">
          {certificate.isOwn ? 'Certificate by the workshop’s own authority' : 'Certificate of the operator'}, until{' '}
          {format(new Date(certificate.expiresAt), 'd MMM yyyy')}
          {certificate.isOwn ? '; it is made anew a month before' : ''}. SHA-256{' '}
          <span className="figure break-all">{certificate.fingerprint}</span>
        </p>
      )}
    </section>
  );
}

/** How a phone learns to trust the workshop, once. */
function Trust({ url }: { url: string }) {
  return (
    <section className="mt-6">
      <h2 className="text-17 font-bold">First time on a device</h2>
      <ol className="ml-5 list-decimal">
        <li>
          Open <span className="figure">{url}</span> there. The browser warns that it does not know who answers: that is so until
          step 3.
        </li>
        <li>
          Download the authority of the workshop,{' '}
          <a className="text-select underline" href="/api/opening/authority" download>
            vast-surge-authority.crt
          </a>
          , there or here, and bring it over.
        </li>
        <li>
          In the settings of the device install it as a certificate authority, and compare its SHA-256 fingerprint with the one
          above. On some phones it has to be trusted in a second place.
        </li>
        <li>Close the browser there and open the address again: there is no warning any more.</li>
      </ol>
      <p className="mt-1 text-14 text-dim">
        Without step 3 somebody on the same network could answer in its place. Take it off again when the device leaves.
      </p>
    </section>
  );
}

/** Closes the workshop to others, once it was asked for twice. */
function Close({ onClose }: { onClose: () => void }) {
  const [isClosing, setClosing] = useState(false);
  if (!isClosing) return <Button onClick={() => setClosing(true)}>Close the workshop</Button>;
  return (
    <>
      <Button look="primary" onClick={onClose}>
        Close it: this machine alone again
      </Button>
      <Button onClick={() => setClosing(false)}>Leave it open</Button>
    </>
  );
}

/** Other devices of the workshop: none by default; over TLS and with accounts where they are let in. */
export function OpeningView() {
  const { data, error, refetch } = useGetOpeningQuery(undefined, { refetchOnMountOrArgChange: true, pollingInterval: 5000 });
  const [set, setting] = useSetOpeningMutation();
  const navigate = useNavigate();
  const open = async (opening: Opening) => {
    const { data: now } = await set(opening);
    // The first account is made here and now: from this moment on whoever has none stands outside.
    if (now?.first) void navigate(now.first.path);
    else void refetch();
  };
  return (
    <main className="mx-auto w-full max-w-[60rem] p-5">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="mr-auto text-2xl font-bold">Other devices: {data?.opening ? 'let in' : 'none'}</h1>
        {data?.opening && <AdminLinks but="/opening" />}
      </div>
      <p className="mt-1 max-w-[46rem] text-dim">
        {data?.opening
          ? 'Phones and tablets come in over TLS, and everybody signs in.'
          : 'This workshop answers this machine alone, and nobody has to sign in. A phone beside the guard or a tablet two metres off can come in over the network: then it answers over TLS, and everybody signs in, here as well.'}
      </p>
      {error !== undefined &&
        (failureOf(error).code === 'not_allowed' ? (
          <Wrong error={error} />
        ) : (
          <Failure error={error} onRetry={() => void refetch()} />
        ))}
      {data?.opening && <Standing opened={data} />}
      {data && <OpeningForm key={JSON.stringify(data.opening)} opened={data} onSet={(opening) => void open(opening)} />}
      <Wrong error={setting.error} />
      {data?.opening && (
        <p className="mt-4 flex flex-wrap items-baseline gap-3">
          <Close onClose={() => void set(null).then(() => location.reload())} />
          <span className="text-14 text-dim">Accounts, devices and the audit stay for the next time.</span>
        </p>
      )}
      {data?.opening && data.certificate?.isOwn && <Trust url={data.listening[0]?.url ?? ''} />}
    </main>
  );
}
