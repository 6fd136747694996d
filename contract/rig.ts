import { z } from 'zod';
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

/** GET /api/rigs/uses: the rigs on the list that use parts of the shelf. */
export const rigUseSchema = z.object({
  rigId: z.uuid(),
  name: z.string().max(80),
  built: z.boolean(),
  parts: z.array(z.uuid()).max(20_000),
});
export type RigUse = Readonly<z.infer<typeof rigUseSchema>>;
