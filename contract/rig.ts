import { z } from 'zod';
import type { Headline } from '@vast-surge/core/runsheet';
import { nameUpTo } from '@vast-surge/core/field';
import { rigDocumentSchema, type RigDocument } from '@vast-surge/core/rig';

/** A rig as the server keeps it: the document, and what the server adds. */
export const storedRigSchema = z.object({
  id: z.uuid(),
  /** Counts the saves; a save must name the one it builds on. */
  version: z.int().positive(),
  createdAt: z.iso.datetime(),
  updatedAt: z.iso.datetime(),
  archivedAt: z.iso.datetime().nullable(),
  /** The revision of another rig it was branched from. */
  branchedFrom: z.uuid().nullable(),
  /** The last revision: its number, and the version it holds. Null before the first. */
  revision: z.object({ number: z.int().positive(), version: z.int().positive() }).nullable(),
  document: rigDocumentSchema,
});

export type StoredRig = Omit<z.output<typeof storedRigSchema>, 'document'> & { readonly document: RigDocument };

export const rigIdSchema = z.uuid({ error: () => 'must be the id of a rig' });
export const revisionIdSchema = z.uuid({ error: () => 'must be the id of a revision' });
const versionSchema = z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' });

/**
 * Every write carries this header: a key made by the client, the same when the request is sent again. The server does
 * each key once and answers a repetition with what it answered first.
 */
export const writeKeyHeader = 'Idempotency-Key';
export const writeKeySchema = z.uuid({ error: () => 'must be a UUID' });

/** A document as it may be written: what was kept before under another name is read all the same. */
const writtenDocumentSchema = rigDocumentSchema.superRefine(({ name }, ctx) => {
  const read = nameUpTo(80).safeParse(name);
  if (!read.success) ctx.addIssue({ code: 'custom', path: ['name'], message: read.error.issues[0]?.message ?? '' });
});

/** POST /api/rigs. The client makes the id, so that a repeated request makes no second rig. */
export const createRigSchema = z.strictObject({
  id: rigIdSchema,
  document: writtenDocumentSchema,
  branchedFrom: revisionIdSchema.optional(),
});
export interface CreateRig {
  readonly id: string;
  readonly document: RigDocument;
  readonly branchedFrom?: string;
}

/** PUT /api/rigs/:id */
export const saveRigSchema = z.strictObject({ version: versionSchema, document: writtenDocumentSchema });
export interface SaveRig {
  readonly version: number;
  readonly document: RigDocument;
}

/** PATCH /api/rigs/:id: take a rig off the list, or bring it back. */
export const archiveRigSchema = z.strictObject({ archived: z.boolean({ error: () => 'must be true or false' }) });
export type ArchiveRig = z.infer<typeof archiveRigSchema>;

/** What every write of one rig is answered with: where the rig stands now. The document is what was sent. */
export const rigReceiptSchema = z.object({ id: z.uuid(), version: z.int().positive(), updatedAt: z.iso.datetime() });
export type RigReceipt = z.infer<typeof rigReceiptSchema>;

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

/** GET /api/rigs/uses: the rigs on the list that use parts of the shelf. */
export const rigUseSchema = z.object({
  rigId: z.uuid(),
  name: z.string().max(80),
  built: z.boolean(),
  parts: z.array(z.uuid()).max(20_000),
});
export type RigUse = Readonly<z.infer<typeof rigUseSchema>>;
