import { useState } from 'react';
import { Link as RouterLink, useNavigate } from 'react-router';
import { leastPassword, type Link } from '@vast-surge/contract';
import { failureOf } from '../../app/base-api.ts';
import { useAskLinkQuery, useJoinMutation } from '../../app/people-api.ts';
import { Button } from '../../ui/button.tsx';
import { RoleList, Line, useDeviceAsked, Wrong } from './form-parts.tsx';

const titles: { readonly [K in Link['kind']]: string } = {
  account: 'Make your account',
  password: 'Choose a new password',
  device: 'Sign this device in',
};

/** What the link is for: an account with its roles, or one that there is. */
function ForWhom({ link, isNew }: { link: Link; isNew: boolean }) {
  return (
    <>
      <p className="text-17 font-bold">Vast Surge</p>
      <h1 className="text-2xl font-bold">{titles[link.kind]}</h1>
      {isNew ? (
        <RoleList roles={link.roles} />
      ) : (
        <p>
          For <b>{link.name}</b>.{link.kind === 'password' && ' All devices of this account are signed out by it.'}
        </p>
      )}
    </>
  );
}

function JoinForm({ token, link }: { token: string; link: Link }) {
  const navigate = useNavigate();
  const [join, { error, isLoading }] = useJoinMutation();
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const { asked, lines } = useDeviceAsked();
  const isNew = link.kind === 'account';
  const go = async () => {
    const answer = await join({
      token,
      name: isNew ? name : null,
      password: link.kind === 'device' ? null : password,
      ...asked,
    });
    if (answer.data) void navigate('/rigs', { replace: true });
  };
  return (
    <form
      className="grid w-[min(24rem,92vw)] gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <ForWhom link={link} isNew={isNew} />
      {isNew && <Line title="Name" autoComplete="username" value={name} onText={setName} />}
      {link.kind !== 'device' && (
        <Line
          title="Password"
          type="password"
          autoComplete="new-password"
          hint={`At least ${leastPassword} characters. Four words are easier to remember than signs.`}
          value={password}
          onText={setPassword}
        />
      )}
      {lines}
      <Wrong error={error} />
      <Button type="submit" look="primary" className="justify-center" disabled={isLoading}>
        {isNew ? 'Make account' : 'Sign in'}
      </Button>
      {isNew && (
        <p className="text-14 text-dim">
          The name stands beside what you do in runs, shots and the audit. You can take it out again under your account.
        </p>
      )}
    </form>
  );
}

/** Where a one-time link leads. Its secret stands behind `#` and goes to the server in a body alone. */
export function JoinView() {
  const [token] = useState(() => location.hash.slice(1));
  const { data, error } = useAskLinkQuery(token);
  return (
    <main className="flex h-full flex-col items-center overflow-y-auto p-5 pt-[10vh]">
      <title>Join · Vast Surge</title>
      {data && <JoinForm token={token} link={data} />}
      {error !== undefined && (
        <div className="grid w-[min(26rem,92vw)] gap-3">
          <h1 className="text-2xl font-bold">This link does not work</h1>
          <p>{failureOf(error).message}</p>
          <RouterLink className="text-select underline" to="/rigs">
            Sign in with name and password
          </RouterLink>
        </div>
      )}
    </main>
  );
}
