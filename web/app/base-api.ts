import {
  createApi,
  fetchBaseQuery,
  retry,
  type BaseQueryFn,
  type FetchArgs,
  type FetchBaseQueryError,
  type FetchBaseQueryMeta,
} from '@reduxjs/toolkit/query/react';
import { z } from 'zod';
import {
  faultSchema,
  healthSchema,
  pageOfSchema,
  rigHeadSchema,
  runHeadSchema,
  sessionSchema,
  writeKeyHeader,
  type ArchiveRig,
  type Health,
  type PageOf,
  type RigHead,
  type RigReceipt,
  type RigSort,
  type RunHead,
  type Session,
} from '@vast-surge/contract';
import type { BenchRequest } from './bench-write.ts';

/** The server as every page asks it, and what the first page needs of it. All else is in `api.ts`, with what it is checked by. */

/** What stands against reading something the server keeps, in words. */
const unreadableWords = (error: z.ZodError): string => {
  const [issue] = error.issues;
  return `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}`.trim();
};

/** As the server sent it. @throws Error saying what this program cannot read */
export function read<T extends z.ZodType>(schema: T, raw: unknown): z.output<T> {
  const result = schema.safeParse(raw);
  if (result.success) return result.data;
  throw new Error(unreadableWords(result.error));
}

/** Reads are asked again by their views. A write that got no answer is sent again with its key, which does no harm. */
const plainQuery = fetchBaseQuery({ baseUrl: '/api', timeout: 10_000 });

/** As the plain one, and notes in `meta` when the request went out: an answer is of that time or later, whenever it arrives. */
const datedQuery: BaseQueryFn<
  string | FetchArgs,
  unknown,
  FetchBaseQueryError,
  object,
  FetchBaseQueryMeta & { askedAt: number }
> = async (args, context, extra) => {
  const askedAt = Date.now();
  const { meta, ...result } = await plainQuery(args, context, extra);
  return { ...result, ...(meta ? { meta: { ...meta, askedAt } } : {}) };
};

/** Those that are sent again by what sends them. */
const ownRetry = new Set(['saveRig', 'appendEvents', 'getEvents', 'measure']);

/** As the dated one; where the server says that nobody is signed in, the page finds out who is. */
const admittedQuery: typeof datedQuery = async (args, context, extra) => {
  const answer = await datedQuery(args, context, extra);
  if (answer.error?.status === 401 && failureOf(answer.error).code === 'signed_out')
    context.dispatch(baseApi.util.invalidateTags(['session']));
  return answer;
};

const baseQuery = retry(admittedQuery, {
  retryCondition: (error, _args, { attempt, baseQueryApi }) =>
    baseQueryApi.type === 'mutation' &&
    !ownRetry.has(baseQueryApi.endpoint) &&
    (error as FetchBaseQueryError).status === 'FETCH_ERROR' &&
    attempt <= 2,
  backoff: (attempt) => new Promise((resolve) => setTimeout(resolve, 400 * attempt)),
});

export const rigPath = (id: string) => `/rigs/${encodeURIComponent(id)}`;

/** A write: its own key unless the caller made one. */
export const write = (method: BenchRequest['method'], url: string, body: object, key: string = crypto.randomUUID()) => ({
  url,
  method,
  body,
  headers: { [writeKeyHeader]: key },
});

/** How a list of rigs is asked for. */
export interface RigList {
  readonly archived: boolean;
  readonly q: string;
  readonly sort: RigSort;
}

export const paging = {
  initialPageParam: null as string | null,
  getNextPageParam: ({ next }: PageOf<unknown>) => next ?? undefined,
};

/** What is asked for as an address, what is empty left out. */
export function listQuery(asked: object, after: string | null): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries({ ...asked, after: after ?? '' }) as [string, string | undefined][])
    if (value) query.set(name, value);
  return query.toString();
}

/** What the answers of the server are tagged by, so that they are asked for again. */
export const tagTypes = [
  'rig',
  'revision',
  'archived',
  'bench',
  'run',
  'shot',
  'campaign',
  'check',
  'backup',
  'study',
  'session',
  'people',
  'audit',
  'opening',
] as const;
export type Tag = (typeof tagTypes)[number];

export const baseApi = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes,
  endpoints: (build) => ({
    listRigs: build.infiniteQuery<PageOf<RigHead>, RigList, string | null>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => `/rigs?${listQuery({ ...queryArg, archived: String(queryArg.archived) }, pageParam)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(rigHeadSchema), raw),
      providesTags: ['rig'],
    }),
    archiveRig: build.mutation<RigReceipt, ArchiveRig & { id: string }>({
      query: ({ id, ...body }) => write('PATCH', rigPath(id), body),
      invalidatesTags: (_receipt, _error, { id }) => ['rig', { type: 'archived', id }],
    }),
    /** Live runs over a store that may be charged. */
    openRuns: build.query<RunHead[], undefined>({
      query: () => '/runs/open',
      transformResponse: (raw: unknown) => read(z.array(runHeadSchema), raw),
      providesTags: ['run'],
    }),
    /** Who is signed in; alone nobody has to be. */
    getSession: build.query<Session, undefined>({
      query: () => '/session',
      transformResponse: (raw: unknown) => read(sessionSchema, raw),
      providesTags: ['session'],
    }),
    getHealth: build.query<Health, undefined>({
      // Also where it cannot work it says how it stands.
      query: () => ({ url: '/health', validateStatus: ({ status }) => status === 200 || status === 503 }),
      transformResponse: (raw: unknown) => read(healthSchema, raw),
      providesTags: ['backup'],
    }),
  }),
});

/** Any failure of a request, as one sentence and a code one can act on. */
export function failureOf(error: unknown): { code: string; message: string } {
  const { status, data } = (error ?? {}) as Partial<FetchBaseQueryError>;
  const fault = faultSchema.safeParse(data);
  if (fault.success) return { code: fault.data.code, message: fault.data.message };
  if (status === 'FETCH_ERROR' || status === 'TIMEOUT_ERROR')
    return { code: 'server_away', message: 'The server does not answer.' };
  if (status !== undefined) return { code: 'server_away', message: 'The server gave an answer this page does not understand.' };
  const message =
    error instanceof Error || (typeof error === 'object' && error !== null && 'message' in error)
      ? String((error as { message: unknown }).message).slice(0, 200)
      : 'no reason given';
  return { code: 'unreadable', message: `This cannot be read, perhaps because a newer version wrote it: ${message}.` };
}

export const { useListRigsInfiniteQuery, useArchiveRigMutation, useOpenRunsQuery, useGetHealthQuery, useGetSessionQuery } =
  baseApi;
