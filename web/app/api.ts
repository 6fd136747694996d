import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import {
  faultSchema,
  storedRigSchema,
  type ArchiveRig,
  type CreateRig,
  type SaveRig,
  type StoredRig,
} from '@vast-surge/contract';

/** A rig of the list that this program cannot read, such as one with a block from a newer version. */
export interface UnreadableRig {
  readonly id: string;
  readonly name: string;
  readonly unreadable: string;
}

export type ListedRig = StoredRig | UnreadableRig;

const nameOf = (raw: unknown): { id: string; name: string } => {
  const { id, document } = (raw ?? {}) as { id?: unknown; document?: { name?: unknown } };
  return { id: String(id ?? ''), name: String(document?.name ?? 'unnamed') };
};

function readListed(raw: unknown): ListedRig {
  const read = storedRigSchema.safeParse(raw);
  if (read.success) return read.data;
  const issue = read.error.issues[0];
  return { ...nameOf(raw), unreadable: `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}`.trim() };
}

export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api', timeout: 10_000 }),
  tagTypes: ['rig'],
  endpoints: (build) => ({
    listRigs: build.query<ListedRig[], undefined>({
      query: () => '/rigs',
      transformResponse: (raw: unknown) => (Array.isArray(raw) ? raw.map(readListed) : []),
      providesTags: ['rig'],
    }),
    getRig: build.query<StoredRig, string>({
      query: (id) => `/rigs/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => storedRigSchema.parse(raw),
      keepUnusedDataFor: 0,
    }),
    createRig: build.mutation<StoredRig, CreateRig>({
      query: (body) => ({ url: '/rigs', method: 'POST', body }),
      invalidatesTags: ['rig'],
    }),
    saveRig: build.mutation<StoredRig, SaveRig & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/rigs/${encodeURIComponent(id)}`, method: 'PUT', body }),
      invalidatesTags: ['rig'],
    }),
    archiveRig: build.mutation<StoredRig, ArchiveRig & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/rigs/${encodeURIComponent(id)}`, method: 'PATCH', body }),
      invalidatesTags: ['rig'],
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
  return { code: 'unreadable', message: `The answer cannot be read: ${message}` };
}

export const { useListRigsQuery, useGetRigQuery, useCreateRigMutation, useArchiveRigMutation } = api;
