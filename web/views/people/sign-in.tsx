import { useState } from 'react';
import { failureOf } from '../../app/base-api.ts';
import { usePasskeyOptionsMutation, useSignInByPasskeyMutation, useSignInMutation } from '../../app/people-api.ts';
import { Button } from '../../ui/button.tsx';
import { TroubleLine } from '../../ui/trouble-line.tsx';
import { hasPasskeys, signedByPasskey } from './passkey-browser.ts';
import { Line, useDeviceAsked, Wrong } from './form-parts.tsx';

/** The way in without a password, where the browser and the host allow it. */
function usePasskeySignIn(asked: ReturnType<typeof useDeviceAsked>['asked']) {
  const [options] = usePasskeyOptionsMutation();
  const [signInByPasskey, byKey] = useSignInByPasskeyMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const byPasskey = async () => {
    setTrouble(null);
    const { data, error: refused } = await options(undefined);
    if (!data) {
      setTrouble(failureOf(refused).message);
      return;
    }
    const response = await signedByPasskey(data).catch(() => null);
    if (response) await signInByPasskey({ response: { ...response }, ...asked });
    else setTrouble('The browser gave no passkey: it was cancelled, took too long, or there is none for this host.');
  };
  return { trouble, byKey, byPasskey };
}

const NoAccount = () => (
  <p className="text-14 text-dim">
    No account yet, or the password is lost: whoever administers the workshop gives you a link. What was typed on this device and
    not sent yet is kept and goes out once you are signed in.
  </p>
);

/** Over every page of a workshop that is open to other devices, until somebody is signed in. */
export function SignIn() {
  const [signIn, { error, isLoading }] = useSignInMutation();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [asksCode, setAsksCode] = useState(false);
  const { asked, lines } = useDeviceAsked();
  const go = async () => {
    const { error: refused } = await signIn({ name, password, ...asked, ...(asksCode ? { code } : {}) });
    if (refused && failureOf(refused).code === 'code_needed') setAsksCode(true);
  };
  const { trouble, byKey, byPasskey } = usePasskeySignIn(asked);
  return (
    <main
      role="dialog"
      aria-modal="true"
      aria-label="Sign in"
      className="fixed inset-0 z-50 flex flex-col items-center overflow-y-auto bg-ground p-5 pt-[12vh]"
    >
      <title>Sign in · Vast Surge</title>
      <form
        className="grid w-[min(24rem,92vw)] gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <p className="text-17 font-bold">Vast Surge</p>
        <h1 className="text-2xl font-bold">Sign in</h1>
        <Line title="Name" autoComplete="username" value={name} onText={setName} />
        <Line title="Password" type="password" autoComplete="current-password" value={password} onText={setPassword} />
        {asksCode && (
          <Line title="Six digits of the authenticator app" autoComplete="one-time-code" value={code} onText={setCode} />
        )}
        {lines}
        <Wrong error={error ?? byKey.error} />
        <Button type="submit" look="primary" className="justify-center" disabled={isLoading}>
          Sign in
        </Button>
        {hasPasskeys() && (
          <Button className="justify-center" onClick={() => void byPasskey()}>
            Sign in with a passkey
          </Button>
        )}
        <TroubleLine>{trouble}</TroubleLine>
        <NoAccount />
      </form>
    </main>
  );
}
