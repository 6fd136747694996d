import { z } from 'zod';
import type { NearMiss, Rehearsal } from '@vast-surge/core/rehearsal';
import type { Headline } from '@vast-surge/core/runsheet';

/** What a page reads before anything is calculated on it: it stands by itself, so that a list needs none of the computation. */

/**
 * Every write carries this header: a key made by the client, the same when the request is sent again. The server does
 * each key once and answers a repetition with what it answered first.
 */
export const writeKeyHeader = 'Idempotency-Key';

/** How a list of rigs is sorted: by the last change, by name, or by stored energy. */
export const rigSorts = ['changed', 'name', 'energy'] as const;
export type RigSort = (typeof rigSorts)[number];

/** What a list shows of a rig: no document, and the headline numbers as they were worked out when it was saved. */
export const rigHeadSchema = z.object({
  id: z.uuid(),
  version: z.int().positive(),
  name: z.string().max(80),
  /** The first lines of its note. */
  note: z.string().max(300),
  updatedAt: z.iso.datetime(),
  archivedAt: z.iso.datetime().nullable(),
  /** The number of its last revision. */
  revision: z.int().positive().nullable(),
  /** Null while they are being worked out, and of a rig that cannot be read. */
  headline: z.custom<Headline | null>((value) => typeof value === 'object'),
  /** Why this program cannot read it. */
  unreadable: z.string().max(400).nullable(),
  /** The last shot that was logged of it. */
  lastShot: z.object({ id: z.uuid(), at: z.string().max(40), outcome: z.string().max(40) }).nullable(),
});
export type RigHead = Readonly<z.infer<typeof rigHeadSchema>>;

/** A page of a long list; `next` asks for the page after it and is null at the end. */
export const pageOfSchema = <T extends z.ZodType>(row: T) =>
  z.object({
    rows: z.array(row).max(500),
    next: z.string().max(500).nullable(),
    /** How many there are on all pages. */
    total: z.int().min(0),
  });
export interface PageOf<T> {
  readonly rows: readonly T[];
  readonly next: string | null;
  readonly total: number;
}

/** Rows of one page at the most. */
export const pageLimit = 500;

/** What a run is, without its plan and events. */
export const runHeadSchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  rigName: z.string(),
  revision: z.int().positive(),
  rehearsal: z.custom<Rehearsal | null>((value) => typeof value === 'object'),
  madeAt: z.iso.datetime(),
  events: z.int().min(0),
  at: z.enum(['not-begun', 'running', 'ended']),
  mayBeCharged: z.boolean(),
  acts: z.string(),
  reads: z.string().nullable(),
  outcomes: z.array(z.string()),
  aborts: z.int().min(0),
  /** Of a rehearsal that has ended, from 0 to 100. */
  points: z.number().nullable(),
  /** What nearly went wrong in it, as the run itself noticed: ms since 1970, and in words. */
  nearMisses: z.custom<readonly NearMiss[] | undefined>((value) => value === undefined || Array.isArray(value)).optional(),
});
export type RunHead = Readonly<z.infer<typeof runHeadSchema>>;
