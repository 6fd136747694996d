import type { UnknownAction } from '@reduxjs/toolkit';
import { passing } from '@vast-surge/contract';
import { baseApi, failureOf } from './base-api.ts';
import { store } from './base-store.ts';

/** ms after which what a page shows and could not be fetched is asked for again. */
const every = 3000;

/** Every read as one that can be begun, also those that other scripts put in. */
const endpoints = baseApi.endpoints as unknown as Record<
  string,
  { initiate: (args: unknown, how: { forceRefetch: true; subscribe: false }) => UnknownAction } | undefined
>;

type Api = ReturnType<typeof store.getState>['api'];

/** Reads that failed by the way or by a server that has to be waited for, and that a page still shows. */
function failed({ queries, subscriptions }: Api) {
  return Object.entries(queries).flatMap(([key, query]) => {
    if (query?.status !== 'rejected' || Object.keys(subscriptions[key] ?? {}).length === 0) return [];
    const { code } = failureOf(query.error);
    // Whoever signs in is asked for everything anew.
    return code === 'server_away' || (passing.has(code) && code !== 'signed_out') ? [query] : [];
  });
}

/** Asks again by itself for what failed, on every page; what a person has to mend is left as it is. @returns ends it */
export function askFailedAgain(): () => void {
  const timer = setInterval(() => {
    if (document.hidden) return;
    for (const { endpointName, originalArgs } of failed(store.getState().api)) {
      const { initiate } = endpoints[endpointName] ?? {};
      if (initiate) store.dispatch(initiate(originalArgs, { forceRefetch: true, subscribe: false }));
    }
  }, every);
  return () => clearInterval(timer);
}
