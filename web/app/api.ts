import { z } from 'zod';
import type { Check, Entry } from '@vast-surge/core/campaign';
import { partKinds } from '@vast-surge/core/part';
import type { RunEvent } from '@vast-surge/core/run';
import {
  fileTakenSchema,
  backupsSchema,
  importedSchema,
  pageOfSchema,
  rehearsedSchema,
  revisionRowSchema,
  rigHeadSchema,
  rigUseSchema,
  shotRigSchema,
  uploadedSchema,
  askedSchema,
  bookedSchema,
  storedCampaignHeads,
  storedCampaignSchema,
  storedChecksSchema,
  instrumentSchema,
  measuredSchema,
  revisionSchema,
  runHeadSchema,
  runTailSchema,
  storedRigSchema,
  storedRunSchema,
  shotFileSchema,
  storedShotSchema,
  type AddFile,
  type Backups,
  type BackupSettings,
  type Bench,
  type Booked,
  type CampaignHead,
  type CreateCampaign,
  type StoredCampaign,
  type StoredChecks,
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
  type PageOf,
  type Rehearsed,
  type Revision,
  type RevisionHead,
  type RevisionRow,
  type RigHead,
  type RigReceipt,
  type RigUse,
  type RunHead,
  type RunTail,
  type SaveRig,
  type SaveShot,
  type ShotFile,
  type ShotRig,
  type StoredRig,
  type StoredRun,
  type StoredShot,
  type Taking,
  type Uploaded,
} from '@vast-surge/contract';

export { failureOf, useArchiveRigMutation, useGetHealthQuery, type RigList } from './base-api.ts';
import { baseApi, listQuery, paging, read, rigPath, write } from './base-api.ts';
import { emptyBench, type BenchRequest, type KnownBench } from './bench-write.ts';

/** A rig with the time at which it was asked for, ms: the server had it so then or later. */
export type FetchedRig = StoredRig & { readonly askedAt: number };

/** What the cache holds of the bench. Read by its name: the endpoint cannot refer to itself while it is being made. */
const knownBench = (state: unknown): KnownBench | undefined =>
  (state as { api: { queries: Record<string, { data?: unknown } | undefined> } }).api.queries['getBench(undefined)']?.data as
    KnownBench | undefined;

const kinds = new Set(partKinds.map((k) => k.kind));

/**
 * The known bench with what changed. The server reads every part before it sends it, so it is not read again here; a part
 * of a kind that this page does not know, from a server that was renewed under it, is set aside.
 */
function mergedBench(known: KnownBench, { epoch, mark, parts, lots, goneLots, unreadable }: Bench): KnownBench {
  if (mark === known.mark && epoch === known.epoch) return known;
  const strange = parts.filter((p) => !kinds.has(p.part.kind));
  const nextParts = new Map(known.parts);
  for (const part of parts) if (kinds.has(part.part.kind)) nextParts.set(part.id, part);
  const nextLots = new Map(known.lots);
  for (const lot of lots) nextLots.set(lot.id, lot);
  for (const id of goneLots) nextLots.delete(id);
  const later = new Set([...parts, ...unreadable].map((p) => p.id));
  return {
    epoch,
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

/** Which runs are asked for; an empty text asks for all. */
export interface RunList {
  readonly q: string;
  readonly rig?: string;
  readonly kind?: '' | 'live' | 'rehearsal';
  readonly limit?: string;
}

/** How the shot book is asked for; `rig` is an id, and empty for all. A large `limit` for those who want every shot. */
export interface ShotList {
  readonly rig: string;
  readonly outcome: string;
  readonly q: string;
  readonly limit?: string;
}

export const api = baseApi.injectEndpoints({
  endpoints: (build) => ({
    /** The first rigs of a search: what a list to choose from shows. */
    findRigs: build.query<PageOf<RigHead>, { q: string; archived?: boolean; limit?: number }>({
      query: ({ q, archived = false, limit = 50 }) =>
        `/rigs?${listQuery({ q, archived: String(archived), sort: q === '' ? 'changed' : 'name', limit: String(limit) }, null)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(rigHeadSchema), raw),
      providesTags: ['rig'],
    }),
    rigUses: build.query<RigUse[], undefined>({
      query: () => '/rigs/uses',
      transformResponse: (raw: unknown) => read(z.array(rigUseSchema), raw),
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
    listRevisions: build.query<RevisionRow[], string>({
      query: (id) => `${rigPath(id)}/revisions`,
      transformResponse: (raw: unknown) => read(z.array(revisionRowSchema), raw),
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
    listRuns: build.infiniteQuery<PageOf<RunHead>, RunList, string | null>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => `/runs?${listQuery(queryArg, pageParam)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(runHeadSchema), raw),
      providesTags: ['run'],
    }),
    rehearsed: build.query<Rehearsed[], undefined>({
      query: () => '/runs/people',
      transformResponse: (raw: unknown) => read(z.array(rehearsedSchema), raw),
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
    listShots: build.infiniteQuery<PageOf<StoredShot>, ShotList, string | null>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => `/shots?${listQuery(queryArg, pageParam)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(storedShotSchema), raw),
      providesTags: ['shot'],
    }),
    /** One page of the same, for what goes through all of them once. */
    shotPage: build.query<PageOf<StoredShot>, ShotList & { after: string | null }>({
      query: ({ after, ...asked }) => `/shots?${listQuery(asked, after)}`,
      transformResponse: (raw: unknown) => read(pageOfSchema(storedShotSchema), raw),
      keepUnusedDataFor: 0,
    }),
    listCampaigns: build.query<CampaignHead[], string>({
      query: (rig) => `/campaigns?rig=${encodeURIComponent(rig)}`,
      transformResponse: (raw: unknown) => read(storedCampaignHeads, raw),
      providesTags: ['campaign'],
    }),
    bookedHours: build.query<Booked[], undefined>({
      query: () => '/campaigns/booked',
      transformResponse: (raw: unknown) => read(bookedSchema, raw),
      providesTags: ['campaign'],
    }),
    getCampaign: build.query<StoredCampaign, string>({
      query: (id) => `/campaigns/${encodeURIComponent(id)}`,
      transformResponse: (raw: unknown) => read(storedCampaignSchema, raw),
      providesTags: ['campaign', 'shot'],
    }),
    createCampaign: build.mutation<StoredCampaign, CreateCampaign>({
      query: (body) => write('POST', '/campaigns', body),
      transformResponse: (raw: unknown) => read(storedCampaignSchema, raw),
      invalidatesTags: ['campaign', 'revision', 'rig'],
    }),
    addEntry: build.mutation<StoredCampaign, { id: string; entry: Entry }>({
      query: ({ id, entry }) => write('POST', `/campaigns/${encodeURIComponent(id)}/entries`, { entry }),
      transformResponse: (raw: unknown) => read(storedCampaignSchema, raw),
      invalidatesTags: ['campaign'],
    }),
    listChecks: build.query<StoredChecks, undefined>({
      query: () => '/checks',
      transformResponse: (raw: unknown) => read(storedChecksSchema, raw),
      providesTags: ['check'],
    }),
    addCheck: build.mutation<StoredChecks, Check>({
      query: (check) => write('POST', '/checks', { check }),
      transformResponse: (raw: unknown) => read(storedChecksSchema, raw),
      invalidatesTags: ['check'],
    }),
    shotRigs: build.query<ShotRig[], undefined>({
      query: () => '/shots/rigs',
      transformResponse: (raw: unknown) => read(z.array(shotRigSchema), raw),
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
    uploadArchive: build.mutation<Uploaded, File>({
      query: (file) => ({
        url: '/archive/uploads',
        method: 'POST',
        body: file,
        headers: { 'Content-Type': 'application/zip' },
        timeout: 600_000,
      }),
      transformResponse: (raw: unknown) => read(uploadedSchema, raw),
    }),
    importArchive: build.mutation<Imported, { id: string; choices: Record<string, Taking>; bench: BenchTaking }>({
      query: ({ id, ...body }) => ({
        ...write('POST', `/archive/uploads/${encodeURIComponent(id)}/import`, body),
        timeout: 600_000,
      }),
      transformResponse: (raw: unknown) => read(importedSchema, raw),
      invalidatesTags: ['revision', 'rig', 'bench', 'run', 'shot'],
    }),
    getBackups: build.query<Backups, undefined>({
      query: () => '/backups',
      transformResponse: (raw: unknown) => read(backupsSchema, raw),
      providesTags: ['backup'],
    }),
    setBackups: build.mutation<Backups, BackupSettings | null>({
      query: (settings) => write('PUT', '/backups', { settings }),
      transformResponse: (raw: unknown) => read(backupsSchema, raw),
      invalidatesTags: ['backup'],
    }),
    getBench: build.query<KnownBench, undefined>({
      // Only what changed since the last look is sent; what is known already stays the same object.
      queryFn: async (_none, { getState }, _extra, fetchBase) => {
        const known = knownBench(getState());
        const answer = await fetchBase(`/parts?after=${known?.mark ?? 0}`);
        if (answer.error) return { error: answer.error };
        const found = answer.data as Bench;
        if (!known || found.epoch === known.epoch) return { data: mergedBench(known ?? emptyBench, found) };
        // The workshop was restored: what is known here may not be there any more.
        const whole = await fetchBase('/parts?after=0');
        if (whole.error) return { error: whole.error };
        return { data: mergedBench(emptyBench, whole.data as Bench) };
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

export const {
  useFindRigsQuery,
  useRigUsesQuery,
  useGetRigQuery,
  useCreateRigMutation,
  useListRevisionsQuery,
  useGetRevisionQuery,
  useUploadArchiveMutation,
  useGetBackupsQuery,
  useSetBackupsMutation,
  useImportArchiveMutation,
  useGetBenchQuery,
  useGetPhotoQuery,
  useListRunsInfiniteQuery,
  useRehearsedQuery,
  useGetRunQuery,
  useBeginRunMutation,
  useAskInstrumentMutation,
  useListInstrumentsQuery,
  useMeasureMutation,
  useListShotsInfiniteQuery,
  useBookedHoursQuery,
  useListCampaignsQuery,
  useGetCampaignQuery,
  useCreateCampaignMutation,
  useAddEntryMutation,
  useListChecksQuery,
  useAddCheckMutation,
  useShotRigsQuery,
  useGetShotQuery,
  useCreateShotMutation,
  useSaveShotMutation,
  useRemoveShotMutation,
  useAddShotFileMutation,
  useRemoveShotFileMutation,
  useGetShotFileQuery,
  useAskFileMutation,
} = api;
