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
import { partKinds } from '@vast-surge/core/part';
import type { RunEvent } from '@vast-surge/core/run';
import {
  faultSchema,
  fileTakenSchema,
  importedSchema,
  previewSchema,
  revisionHeadSchema,
  askedSchema,
  instrumentSchema,
  measuredSchema,
  revisionSchema,
  runHeadSchema,
  runTailSchema,
  storedRigSchema,
  storedRunSchema,
  shotFileSchema,
  storedShotSchema,
  writeKeyHeader,
  type AddFile,
  type ArchiveRig,
  type Bench,
  type BenchTaking,
  type CloseRevision,
  type CreateRig,
  type CreateRun,
  type CreateShot,
  type FileTaken,
  type Imported,
  type Asked,
  type InstrumentHead,
  type Measured,
  type Preview,
  type Revision,
  type RevisionHead,
  type RigReceipt,
  type RunHead,
  type RunTail,
  type SaveRig,
  type SaveShot,
  type ShotFile,
  type StoredRig,
  type StoredRun,
  type StoredShot,
  type Taking,
} from '@vast-surge/contract';

import { emptyBench, type BenchRequest, type KnownBench } from './bench-write.ts';

/** A rig of the list that this program cannot read, such as one with a block from a newer version. */
export interface UnreadableRig {
  readonly id: string;
  readonly name: string;
  readonly unreadable: string;
}

/** A rig with the time at which it was asked for, ms: the server had it so then or later. */
export type FetchedRig = StoredRig & { readonly askedAt: number };

export type ListedRig = StoredRig | UnreadableRig;

/** What stands against reading something the server keeps, in words. */
const unreadableWords = (error: z.ZodError): string => {
  const [issue] = error.issues;
  return `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}`.trim();
};

/** As the server sent it. @throws Error saying what this program cannot read */
function read<T extends z.ZodType>(schema: T, raw: unknown): z.output<T> {
  const result = schema.safeParse(raw);
  if (result.success) return result.data;
  throw new Error(unreadableWords(result.error));
}

const nameOf = (raw: unknown): { id: string; name: string } => {
  const { id, document } = (raw ?? {}) as { id?: unknown; document?: { name?: unknown } };
  return { id: String(id ?? ''), name: String(document?.name ?? 'unnamed') };
};

function readListed(raw: unknown): ListedRig {
  const result = storedRigSchema.safeParse(raw);
  return result.success ? result.data : { ...nameOf(raw), unreadable: unreadableWords(result.error) };
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

const baseQuery = retry(datedQuery, {
  retryCondition: (error, _args, { attempt, baseQueryApi }) =>
    baseQueryApi.type === 'mutation' &&
    !ownRetry.has(baseQueryApi.endpoint) &&
    (error as FetchBaseQueryError).status === 'FETCH_ERROR' &&
    attempt <= 2,
  backoff: (attempt) => new Promise((resolve) => setTimeout(resolve, 400 * attempt)),
});

const rigPath = (id: string) => `/rigs/${encodeURIComponent(id)}`;

/** What the cache holds of the bench. Read by its name: the endpoint cannot refer to itself while it is being made. */
const knownBench = (state: unknown): KnownBench | undefined =>
  (state as { api: { queries: Record<string, { data?: unknown } | undefined> } }).api.queries['getBench(undefined)']?.data as
    KnownBench | undefined;

const kinds = new Set(partKinds.map((k) => k.kind));

/**
 * The known bench with what changed. The server reads every part before it sends it, so it is not read again here; a part
 * of a kind that this page does not know, from a server that was renewed under it, is set aside.
 */
function mergedBench(known: KnownBench, { mark, parts, lots, goneLots, unreadable }: Bench): KnownBench {
  if (mark === known.mark) return known;
  const strange = parts.filter((p) => !kinds.has(p.part.kind));
  const nextParts = new Map(known.parts);
  for (const part of parts) if (kinds.has(part.part.kind)) nextParts.set(part.id, part);
  const nextLots = new Map(known.lots);
  for (const lot of lots) nextLots.set(lot.id, lot);
  for (const id of goneLots) nextLots.delete(id);
  const later = new Set([...parts, ...unreadable].map((p) => p.id));
  return {
    mark,
    parts: nextParts,
    lots: nextLots,
    unreadable: [
      ...known.unreadable.filter((u) => !later.has(u.id)),
      ...unreadable,
      ...strange.map(({ id, part }) => ({
        id,
        name: part.tag,
        unreadable: `is of a kind this page does not know, ${part.kind}`,
      })),
    ],
  };
}

/** A write: its own key unless the caller made one. */
const write = (method: BenchRequest['method'], url: string, body: object, key: string = crypto.randomUUID()) => ({
  url,
  method,
  body,
  headers: { [writeKeyHeader]: key },
});

export const api = createApi({
  reducerPath: 'api',
  baseQuery,
  tagTypes: ['rig', 'revision', 'archived', 'bench', 'run', 'shot'],
  endpoints: (build) => ({
    listRigs: build.query<ListedRig[], 'live' | 'archived'>({
      query: (which) => (which === 'archived' ? '/rigs?archived=true' : '/rigs'),
      transformResponse: (raw: unknown) => (Array.isArray(raw) ? raw.map(readListed) : []),
      providesTags: ['rig'],
    }),
    getRig: build.query<FetchedRig, string>({
      query: rigPath,
      transformResponse: (raw: unknown, meta) => ({ ...read(storedRigSchema, raw), askedAt: meta?.askedAt ?? 0 }),
      keepUnusedDataFor: 0,
      providesTags: (_rig, _error, id) => [{ type: 'archived', id }],
    }),
    createRig: build.mutation<RigReceipt, CreateRig>({
      query: (body) => write('POST', '/rigs', body),
      invalidatesTags: ['rig'],
    }),
    saveRig: build.mutation<RigReceipt, SaveRig & { id: string; key: string }>({
      query: ({ id, key, ...body }) => write('PUT', rigPath(id), body, key),
      invalidatesTags: ['rig'],
    }),
    archiveRig: build.mutation<RigReceipt, ArchiveRig & { id: string }>({
      query: ({ id, ...body }) => write('PATCH', rigPath(id), body),
      invalidatesTags: (_receipt, _error, { id }) => ['rig', { type: 'archived', id }],
    }),
    listRevisions: build.query<RevisionHead[], string>({
      query: (id) => `${rigPath(id)}/revisions`,
      transformResponse: (raw: unknown) => read(z.array(revisionHeadSchema), raw),
      providesTags: ['revision'],
    }),
    getRevision: build.query<Revision, string>({
      query: (id) => `/revisions/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => read(revisionSchema, raw),
    }),
    closeRevision: build.mutation<RevisionHead, CloseRevision & { rigId: string }>({
      query: ({ rigId, ...body }) => write('POST', `${rigPath(rigId)}/revisions`, body),
      invalidatesTags: ['revision', 'rig'],
    }),
    listRuns: build.query<RunHead[], string | null>({
      query: (rig) => (rig === null ? '/runs' : `/runs?rig=${encodeURIComponent(rig)}`),
      transformResponse: (raw: unknown) => read(z.array(runHeadSchema), raw),
      providesTags: ['run'],
    }),
    getRun: build.query<StoredRun, string>({
      query: (id) => `/runs/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => read(storedRunSchema, raw),
      keepUnusedDataFor: 0,
    }),
    beginRun: build.mutation<RunHead, CreateRun>({
      query: (body) => write('POST', '/runs', body),
      transformResponse: (raw: unknown) => read(runHeadSchema, raw),
      invalidatesTags: ['run', 'revision', 'rig'],
    }),
    appendEvents: build.mutation<RunTail, { id: string; after: number; events: readonly RunEvent[] }>({
      query: ({ id, after, events }) => write('POST', `/runs/${encodeURIComponent(id)}/events?after=${after}`, { events }),
      transformResponse: (raw: unknown) => read(runTailSchema, raw),
    }),
    getEvents: build.mutation<RunTail, { id: string; after: number }>({
      query: ({ id, after }) => `/runs/${encodeURIComponent(id)}/events?after=${after}`,
      transformResponse: (raw: unknown) => read(runTailSchema, raw),
    }),
    listShots: build.query<StoredShot[], string | null>({
      query: (rig) => (rig === null ? '/shots' : `/shots?rig=${encodeURIComponent(rig)}`),
      transformResponse: (raw: unknown) => read(z.array(storedShotSchema), raw),
      providesTags: ['shot'],
    }),
    getShot: build.query<StoredShot, string>({
      query: (id) => `/shots/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => read(storedShotSchema, raw),
      providesTags: ['shot'],
    }),
    createShot: build.mutation<StoredShot, CreateShot>({
      query: (body) => write('POST', '/shots', body),
      transformResponse: (raw: unknown) => read(storedShotSchema, raw),
      invalidatesTags: ['shot', 'revision', 'rig'],
    }),
    saveShot: build.mutation<StoredShot, SaveShot & { id: string }>({
      query: ({ id, ...body }) => write('PUT', `/shots/${encodeURIComponent(id)}`, body),
      transformResponse: (raw: unknown) => read(storedShotSchema, raw),
      invalidatesTags: ['shot'],
    }),
    removeShot: build.mutation<unknown, { id: string; removed: boolean }>({
      query: ({ id, removed }) => write('PATCH', `/shots/${encodeURIComponent(id)}`, { removed }),
      invalidatesTags: ['shot'],
    }),
    addShotFile: build.mutation<StoredShot, { id: string; file: AddFile }>({
      query: ({ id, file }) => write('POST', `/shots/${encodeURIComponent(id)}/files`, file),
      transformResponse: (raw: unknown) => read(storedShotSchema, raw),
      invalidatesTags: ['shot'],
    }),
    removeShotFile: build.mutation<unknown, string>({
      query: (id) => write('DELETE', `/shots/files/${encodeURIComponent(id)}`, {}),
      invalidatesTags: ['shot'],
    }),
    getShotFile: build.query<ShotFile, string>({
      query: (id) => `/shots/files/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => read(shotFileSchema, raw),
    }),
    listInstruments: build.query<InstrumentHead[], string>({
      query: (run) => `/instruments?run=${encodeURIComponent(run)}`,
      transformResponse: (raw: unknown) => read(z.array(instrumentSchema), raw),
    }),
    askInstrument: build.mutation<Asked, { id: string; instrument: string; line: string }>({
      query: ({ id, ...body }) => ({ url: `/runs/${encodeURIComponent(id)}/ask`, method: 'POST', body }),
      transformResponse: (raw: unknown) => read(askedSchema, raw),
    }),
    measure: build.mutation<Measured, { id: string; instrument: string }>({
      query: ({ id, instrument }) => ({ url: `/runs/${encodeURIComponent(id)}/measure`, method: 'POST', body: { instrument } }),
      transformResponse: (raw: unknown) => read(measuredSchema, raw),
    }),
    previewArchive: build.mutation<Preview, string>({
      query: (archive) => ({ url: '/archive/preview', method: 'POST', body: { archive } }),
      transformResponse: (raw: unknown) => read(previewSchema, raw),
    }),
    importArchive: build.mutation<Imported, { archive: string; choices: Record<string, Taking>; bench: BenchTaking }>({
      query: (body) => write('POST', '/archive/import', body),
      transformResponse: (raw: unknown) => read(importedSchema, raw),
      invalidatesTags: ['revision', 'rig', 'bench'],
    }),
    getBench: build.query<KnownBench, undefined>({
      // Only what changed since the last look is sent; what is known already stays the same object.
      queryFn: async (_none, { getState }, _extra, fetchBase) => {
        const known = knownBench(getState());
        const answer = await fetchBase(`/parts?after=${known?.mark ?? 0}`);
        if (answer.error) return { error: answer.error };
        return { data: mergedBench(known ?? emptyBench, answer.data as Bench) };
      },
      keepUnusedDataFor: 3600,
      structuralSharing: false,
      providesTags: ['bench'],
    }),
    writeBench: build.mutation<unknown, BenchRequest & { key: string }>({
      query: ({ method, url, body, key }) => write(method, url, body, key),
    }),
    getPhoto: build.query<string | null, { id: string; version: number }>({
      query: ({ id }) => `/parts/${encodeURIComponent(id)}/photo`,
      transformResponse: (raw: unknown) => read(z.object({ photo: z.string().nullable() }), raw).photo,
    }),
    askFile: build.mutation<FileTaken, string>({
      query: (digest) => ({ url: '/parts/files', method: 'POST', body: { digest } }),
      transformResponse: (raw: unknown) => read(fileTakenSchema, raw),
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

export const {
  useListRigsQuery,
  useGetRigQuery,
  useCreateRigMutation,
  useArchiveRigMutation,
  useListRevisionsQuery,
  useGetRevisionQuery,
  useCloseRevisionMutation,
  usePreviewArchiveMutation,
  useImportArchiveMutation,
  useGetBenchQuery,
  useGetPhotoQuery,
  useListRunsQuery,
  useGetRunQuery,
  useBeginRunMutation,
  useAskInstrumentMutation,
  useListInstrumentsQuery,
  useMeasureMutation,
  useListShotsQuery,
  useGetShotQuery,
  useCreateShotMutation,
  useSaveShotMutation,
  useRemoveShotMutation,
  useAddShotFileMutation,
  useRemoveShotFileMutation,
  useGetShotFileQuery,
  useAskFileMutation,
} = api;
