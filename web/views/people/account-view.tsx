import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { leastPassword, type Account } from '@vast-surge/contract';
import { useGetSessionQuery } from '../../app/base-api.ts';
import {
  useChangePasswordMutation,
  useForgetMeMutation,
  useGetMineQuery,
  useNewFactorQuery,
  useSetFactorMutation,
  usePairDeviceMutation,
  useRevokeOwnDeviceMutation,
  useSignOutMutation,
} from '../../app/people-api.ts';
import { Failure } from '../../app/trouble.tsx';
import { Button } from '../../ui/button.tsx';
import { download } from '../../ui/download.ts';
import { DeviceList } from './device-list.tsx';
import { Passkeys } from './passkeys.tsx';
import { AdminLinks, RoleList, Line, LinesForm, LinkCard, OwnPassword, QrCode, Wrong } from './form-parts.tsx';

function Password() {
  const [change, { error, isLoading }] = useChangePasswordMutation();
  const [was, setWas] = useState('');
  const [next, setNext] = useState('');
  const go = async () => {
    const answer = await change({ was, next });
    if (answer.error) return;
    toast('The password is changed; your other devices are signed out.');
    setWas('');
    setNext('');
  };
  return (
    <LinesForm onSend={() => void go()}>
      <Line title="Password now" type="password" autoComplete="current-password" value={was} onText={setWas} />
      <Line
        title="New password"
        type="password"
        autoComplete="new-password"
        hint={`At least ${leastPassword} characters.`}
        value={next}
        onText={setNext}
      />
      <Wrong error={error} />
      <Button type="submit" className="justify-self-start" disabled={isLoading}>
        Change password
      </Button>
    </LinesForm>
  );
}

/** Switches the second factor on, by the first code of an app that has scanned the secret, or off; the password is asked for both ways. */
function FactorForm({ isOn, onDone }: { isOn: boolean; onDone: () => void }) {
  const { data } = useNewFactorQuery(undefined, { skip: isOn, refetchOnMountOrArgChange: true });
  const [set, { error, isLoading }] = useSetFactorMutation();
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  if (!isOn && !data) return null;
  const go = async () => {
    const answer = await set({ password, factor: isOn || !data ? null : { secret: data.secret, code } });
    if (answer.data) onDone();
  };
  return (
    <LinesForm onSend={() => void go()}>
      {!isOn && data && (
        <>
          <QrCode svg={data.qr} of="secret" />
          <p className="text-14">
            Scan it with an authenticator app, or type <span className="figure break-all">{data.secret}</span>
          </p>
          <Line title="Six digits of the app" autoComplete="one-time-code" value={code} onText={setCode} />
        </>
      )}
      <OwnPassword value={password} onText={setPassword} />
      <Wrong error={error} />
      <p className="flex gap-3">
        <Button type="submit" look="primary" disabled={isLoading}>
          {isOn ? 'Switch off' : 'Switch on'}
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </LinesForm>
  );
}

/** A code of an authenticator app besides the password, for those who choose it. */
function Factor({ isOn }: { isOn: boolean }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <section className="mt-6">
      <h2 className="text-17 font-bold">Second factor: {isOn ? 'on' : 'off'}</h2>
      <p className="max-w-[44rem] text-dim">
        {isOn
          ? 'Signing in asks for the six digits of your authenticator app. With a link to a new password it is off again.'
          : 'Signing in can ask for six digits of an authenticator app as well; best for whoever administers.'}
      </p>
      {!isOpen && (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          {isOn ? 'Switch the second factor off' : 'Switch a second factor on'}
        </Button>
      )}
      {isOpen && <FactorForm isOn={isOn} onDone={() => setOpen(false)} />}
    </section>
  );
}

/** What is kept of a person, and the way out of it. */
function Kept() {
  const { data } = useGetMineQuery(undefined);
  const [forget, { error }] = useForgetMeMutation();
  const [isAsking, setAsking] = useState(false);
  return (
    <section className="mt-6">
      <h2 className="text-17 font-bold">What is kept of you</h2>
      <p className="max-w-[44rem] text-dim">
        Your name, the sum of your password, your devices with the address each was last seen at, and what you did here under a
        number. The name can be taken out; the number stays, so that the record stays whole.
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        <Button
          disabled={!data}
          onClick={() => data && download('what-is-kept-of-me.json', JSON.stringify(data, null, 2), 'application/json')}
        >
          Export it
        </Button>
        {isAsking ? (
          <>
            <Button look="primary" onClick={() => void forget(undefined)}>
              Take my name out and sign me out for good
            </Button>
            <Button onClick={() => setAsking(false)}>Keep it</Button>
          </>
        ) : (
          <Button onClick={() => setAsking(true)}>Take my name out</Button>
        )}
      </p>
      <Wrong error={error} />
    </section>
  );
}

function Head({ account, onSignOut }: { account: Account; onSignOut: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-3">
      <h1 className="mr-auto text-2xl font-bold">{account.name}</h1>
      {account.roles.includes('administers') && <AdminLinks />}
      <Button onClick={onSignOut}>Sign out</Button>
    </div>
  );
}

/** The person who is signed in: roles, devices, password, and what is kept. */
export function AccountView() {
  const { data: session } = useGetSessionQuery(undefined);
  const account = session?.account ?? null;
  const { data: mine, error, refetch } = useGetMineQuery(undefined, { skip: !account, refetchOnMountOrArgChange: true });
  const [pair, pairing] = usePairDeviceMutation();
  const [revoke] = useRevokeOwnDeviceMutation();
  const [signOut] = useSignOutMutation();
  if (session?.mode === 'alone')
    return (
      <main className="mx-auto w-full max-w-[60rem] p-5">
        <h1 className="text-2xl font-bold">Your account</h1>
        <p className="mt-2">
          There are no accounts: this workshop answers this machine alone.{' '}
          <Link className="text-select underline" to="/opening">
            Let other devices in
          </Link>{' '}
          to have some.
        </p>
      </main>
    );
  if (!account) return null;
  return (
    <main className="mx-auto w-full max-w-[60rem] p-5">
      <Head account={account} onSignOut={() => void signOut(undefined)} />
      <RoleList roles={account.roles} className="mt-2" />
      <section className="mt-6">
        <div className="mb-2 flex flex-wrap items-center gap-3">
          <h2 className="mr-auto text-17 font-bold">Your devices</h2>
          <Button onClick={() => void pair(undefined)} disabled={pairing.isLoading}>
            Sign another device in
          </Button>
        </div>
        {error !== undefined && <Failure error={error} onRetry={() => void refetch()} />}
        {mine && <DeviceList devices={mine.devices} here={session?.device ?? null} onRevoke={({ id }) => void revoke(id)} />}
        <Wrong error={pairing.error} />
        {pairing.data && (
          <LinkCard link={pairing.data} says="Scan this with the phone or tablet: it is signed in as you, without a password." />
        )}
      </section>
      <section className="mt-6">
        <h2 className="text-17 font-bold">Password</h2>
        <Password />
      </section>
      {mine && <Passkeys passkeys={mine.passkeys} />}
      <Factor key={String(account.hasFactor)} isOn={account.hasFactor} />
      <Kept />
    </main>
  );
}
