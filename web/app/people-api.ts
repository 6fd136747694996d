import { z } from 'zod';
import {
  auditCheckSchema,
  auditEntrySchema,
  browserOptionsSchema,
  givenLinkSchema,
  linkSchema,
  mineSchema,
  newFactorSchema,
  openedSchema,
  pageOfSchema,
  passkeySchema,
  peopleSchema,
  rigPeopleSchema,
  sessionSchema,
  type AuditCheck,
  type AuditEntry,
  type BrowserOptions,
  type GivenLink,
  type Join,
  type KeepPasskey,
  type Link,
  type Mine,
  type NewFactor,
  type Opened,
  type Opening,
  type PageOf,
  type Passkey,
  type PasskeySignIn,
  type Person,
  type RigPeople,
  type Role,
  type Session,
  type SetFactor,
  type SetPerson,
  type SignIn,
} from '@vast-surge/contract';
import { baseApi, listQuery, read, write } from './base-api.ts';
import { hearAll } from './live.ts';

/** What is asked once somebody has signed in, or out: everything anew. */
async function renewed({ queryFulfilled }: { queryFulfilled: Promise<unknown> }): Promise<void> {
  await queryFulfilled.then(hearAll, () => undefined);
}

const asSession = (raw: unknown): Session => read(sessionSchema, raw);
const asLink = (raw: unknown): GivenLink => read(givenLinkSchema, raw);
const asPeople = (raw: unknown): Person[] => read(peopleSchema, raw);

const idPath = (room: string, id: string) => `${room}/${encodeURIComponent(id)}`;

/** People, devices, the audit, and how the workshop is open. */
const peopleApi = baseApi.injectEndpoints({
  endpoints: (build) => ({
    signIn: build.mutation<Session, SignIn>({
      query: (body) => write('POST', '/session/sign-in', body),
      transformResponse: asSession,
      onQueryStarted: (_asked, how) => renewed(how),
    }),
    passkeyOptions: build.mutation<BrowserOptions, undefined>({
      query: () => write('POST', '/session/passkey-options', {}),
      transformResponse: (raw: unknown) => read(browserOptionsSchema, raw),
    }),
    signInByPasskey: build.mutation<Session, PasskeySignIn>({
      query: (body) => write('POST', '/session/passkey-sign-in', body),
      transformResponse: asSession,
      onQueryStarted: (_asked, how) => renewed(how),
    }),
    askPasskey: build.mutation<BrowserOptions, { password: string }>({
      query: (body) => write('POST', '/session/passkeys/options', body),
      transformResponse: (raw: unknown) => read(browserOptionsSchema, raw),
    }),
    addPasskey: build.mutation<Passkey, KeepPasskey>({
      query: (body) => write('POST', '/session/passkeys', body),
      transformResponse: (raw: unknown) => read(passkeySchema, raw),
      invalidatesTags: ['people'],
    }),
    removePasskey: build.mutation<unknown, string>({
      query: (id) => write('DELETE', idPath('/session/passkeys', id), {}),
      invalidatesTags: ['people'],
    }),
    getRigPeople: build.query<RigPeople, string>({
      query: (id) => idPath('/people/rigs', id),
      transformResponse: (raw: unknown) => read(rigPeopleSchema, raw),
      providesTags: ['people'],
    }),
    setRigPeople: build.mutation<RigPeople, RigPeople & { readonly id: string }>({
      query: ({ id, accounts }) => write('PUT', idPath('/people/rigs', id), { accounts }),
      transformResponse: (raw: unknown) => read(rigPeopleSchema, raw),
      invalidatesTags: ['people', 'session', 'audit'],
    }),
    askLink: build.query<Link, string>({
      query: (token) => write('POST', '/session/link', { token }),
      transformResponse: (raw: unknown) => read(linkSchema, raw),
    }),
    join: build.mutation<Session, Join>({
      query: (body) => write('POST', '/session/join', body),
      transformResponse: asSession,
      onQueryStarted: (_asked, how) => renewed(how),
    }),
    signOut: build.mutation<Session, undefined>({
      query: () => write('POST', '/session/sign-out', {}),
      transformResponse: asSession,
      onQueryStarted: (_asked, how) => renewed(how),
    }),
    changePassword: build.mutation<Session, { was: string; next: string }>({
      query: (body) => write('POST', '/session/password', body),
      transformResponse: asSession,
      invalidatesTags: ['session', 'people'],
    }),
    newFactor: build.query<NewFactor, undefined>({
      query: () => '/session/factor',
      transformResponse: (raw: unknown) => read(newFactorSchema, raw),
      // A secret is shown once and not kept.
      keepUnusedDataFor: 0,
    }),
    setFactor: build.mutation<Session, SetFactor>({
      query: (body) => write('PUT', '/session/factor', body),
      transformResponse: asSession,
      invalidatesTags: ['session', 'audit'],
    }),
    pairDevice: build.mutation<GivenLink, undefined>({
      query: () => write('POST', '/session/devices', {}),
      transformResponse: asLink,
    }),
    revokeOwnDevice: build.mutation<{ id: string }, string>({
      query: (id) => write('DELETE', idPath('/session/devices', id), {}),
      transformResponse: (raw: unknown) => read(z.object({ id: z.string() }), raw),
      invalidatesTags: ['session', 'people'],
    }),
    getMine: build.query<Mine, undefined>({
      query: () => '/session/mine',
      transformResponse: (raw: unknown) => read(mineSchema, raw),
      providesTags: ['session', 'people'],
    }),
    forgetMe: build.mutation<{ id: string }, undefined>({
      query: () => write('DELETE', '/session/mine', {}),
      onQueryStarted: (_asked, how) => renewed(how),
    }),
    getPeople: build.query<Person[], undefined>({
      query: () => '/people',
      transformResponse: asPeople,
      providesTags: ['people'],
    }),
    giveLink: build.mutation<GivenLink, { kind: 'account'; roles: readonly Role[] } | { kind: 'password'; account: string }>({
      query: (body) => write('POST', '/people/links', body),
      transformResponse: asLink,
    }),
    setPerson: build.mutation<Person[], SetPerson & { id: string }>({
      query: ({ id, ...body }) => write('PATCH', idPath('/people', id), body),
      transformResponse: asPeople,
      invalidatesTags: ['people', 'audit', 'session'],
    }),
    forgetPerson: build.mutation<Person[], string>({
      query: (id) => write('DELETE', idPath('/people', id), {}),
      transformResponse: asPeople,
      invalidatesTags: ['people', 'audit', 'session'],
    }),
    revokeDevice: build.mutation<Person[], string>({
      query: (id) => write('DELETE', idPath('/people/devices', id), {}),
      transformResponse: asPeople,
      invalidatesTags: ['people', 'audit', 'session'],
    }),
    listAudit: build.infiniteQuery<PageOf<AuditEntry>, { q: string }, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: ({ next }) => next ?? undefined },
      query: ({ queryArg, pageParam }) => `/audit?${listQuery({ ...queryArg, before: pageParam ?? '' }, null)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(auditEntrySchema), raw),
      providesTags: ['audit'],
    }),
    checkAudit: build.query<AuditCheck, undefined>({
      query: () => '/audit/check',
      transformResponse: (raw: unknown) => read(auditCheckSchema, raw),
      providesTags: ['audit'],
    }),
    getOpening: build.query<Opened, undefined>({
      query: () => '/opening',
      transformResponse: (raw: unknown) => read(openedSchema, raw),
      providesTags: ['opening'],
    }),
    setOpening: build.mutation<Opened, Opening | null>({
      query: (opening) => write('PUT', '/opening', { opening }),
      transformResponse: (raw: unknown) => read(openedSchema, raw),
    }),
  }),
});

export const {
  useSignInMutation,
  useGetRigPeopleQuery,
  useSetRigPeopleMutation,
  usePasskeyOptionsMutation,
  useSignInByPasskeyMutation,
  useAskPasskeyMutation,
  useAddPasskeyMutation,
  useRemovePasskeyMutation,
  useAskLinkQuery,
  useJoinMutation,
  useSignOutMutation,
  useChangePasswordMutation,
  useNewFactorQuery,
  useSetFactorMutation,
  usePairDeviceMutation,
  useRevokeOwnDeviceMutation,
  useGetMineQuery,
  useForgetMeMutation,
  useGetPeopleQuery,
  useGiveLinkMutation,
  useSetPersonMutation,
  useForgetPersonMutation,
  useRevokeDeviceMutation,
  useListAuditInfiniteQuery,
  useLazyCheckAuditQuery,
  useGetOpeningQuery,
  useSetOpeningMutation,
} = peopleApi;
