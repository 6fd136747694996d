import { useState } from 'react';
import { Outlet } from 'react-router';
import { later } from '../ui/later.tsx';
import { useGetSessionQuery } from './base-api.ts';

const SignIn = later(() => import('../views/people/sign-in.tsx').then((script) => script.SignIn));

/**
 * Every page, for whoever is let in. Who was in already and is so no longer signs in over the page: what was typed there stays.
 */
export function Admitted() {
  const { data } = useGetSessionQuery(undefined);
  const [wasIn, setWasIn] = useState(false);
  const isOut = data?.mode === 'open' && data.account === null;
  if (data && !isOut && !wasIn) setWasIn(true);
  return (
    <>
      {(!isOut || wasIn) && <Outlet />}
      {isOut && <SignIn />}
    </>
  );
}
