import { z } from 'zod';
import {
  storedStudyMetSchema,
  storedStudySchema,
  storedStudyWithSpreadsSchema,
  storedStudyWorkersSchema,
  storedSweepSchema,
  type CreateStudy,
  type SetStudy,
  type StoredStudy,
  type StoredStudyMet,
  type StoredStudyWithSpreads,
  type StoredStudyWorkers,
  type StoredSweep,
} from '@vast-surge/contract';
import type { SweepLayout } from '@vast-surge/core/study';
import { baseApi, read, write } from './base-api.ts';

const asStudy = (raw: unknown): StoredStudy => read(storedStudySchema, raw);
/** ms that the server may take to see how long a sample takes: it may first have to start a thread, beside all else that it does. */
const askPatience = 60_000;
const studyPath = (id: string): string => `/studies/${encodeURIComponent(id)}`;

/** What is there of a sweep. */
interface KeptSweep {
  readonly layout: SweepLayout;
  readonly stretches: StoredSweep['stretches'];
}

/** Studies that are kept and worked out by whoever is free. */
const studyApi = baseApi.injectEndpoints({
  endpoints: (build) => ({
    listStudies: build.query<StoredStudy[], string>({
      query: (rig) => `/studies?rig=${encodeURIComponent(rig)}`,
      transformResponse: (raw: unknown) => read(z.array(storedStudySchema), raw),
      providesTags: ['study'],
    }),
    studyWorkers: build.query<StoredStudyWorkers, undefined>({
      query: () => '/studies/workers',
      transformResponse: (raw: unknown) => read(storedStudyWorkersSchema, raw),
      providesTags: ['study'],
    }),
    getStudy: build.query<StoredStudyWithSpreads, string>({
      query: studyPath,
      transformResponse: (raw: unknown) => read(storedStudyWithSpreadsSchema, raw),
      providesTags: ['study'],
    }),
    getSweep: build.query<KeptSweep, string>({
      query: (id) => `${studyPath(id)}/points`,
      // Units and names are those of the core: the server made them with it.
      transformResponse: (raw: unknown) => read(storedSweepSchema, raw) as KeptSweep,
      providesTags: ['study'],
    }),
    studyMet: build.query<StoredStudyMet, { id: string; output: string; from: number | null; to: number | null }>({
      query: ({ id, output, from, to }) =>
        `${studyPath(id)}/met?${new URLSearchParams({ output, from: String(from ?? ''), to: String(to ?? '') }).toString()}`,
      transformResponse: (raw: unknown) => read(storedStudyMetSchema, raw),
    }),
    createStudy: build.mutation<StoredStudy, CreateStudy>({
      query: (body) => ({ ...write('POST', '/studies', body), timeout: askPatience }),
      transformResponse: asStudy,
      invalidatesTags: ['study', 'revision'],
    }),
    setStudy: build.mutation<StoredStudy, SetStudy & { id: string }>({
      query: ({ id, ...body }) => write('PATCH', studyPath(id), body),
      transformResponse: asStudy,
      invalidatesTags: ['study'],
    }),
    deleteStudy: build.mutation<StoredStudy, string>({
      query: (id) => write('DELETE', studyPath(id), {}),
      transformResponse: asStudy,
      invalidatesTags: ['study'],
    }),
  }),
});

export const {
  useListStudiesQuery,
  useStudyWorkersQuery,
  useGetStudyQuery,
  useGetSweepQuery,
  useStudyMetQuery,
  useCreateStudyMutation,
  useSetStudyMutation,
  useDeleteStudyMutation,
} = studyApi;
