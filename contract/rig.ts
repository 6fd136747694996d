import { z } from 'zod';
import { rigDocumentSchema, type RigDocument } from '@vast-surge/core/format';

/** A rig as the server keeps it: the document, and what the server adds. */
export const storedRigSchema = z.object({
  id: z.uuid(),
  /** Counts the saves; a save must name the one it builds on. */
  version: z.int().positive(),
  createdAt: z.iso.datetime(),
  updatedAt: z.iso.datetime(),
  archivedAt: z.iso.datetime().nullable(),
  document: rigDocumentSchema,
});

export type StoredRig = Omit<z.output<typeof storedRigSchema>, 'document'> & { readonly document: RigDocument };

export const rigIdSchema = z.uuid({ error: () => 'must be the id of a rig' });

/** POST /api/rigs. The client makes the id, so that a repeated request makes no second rig. */
export const createRigSchema = z.strictObject({ id: rigIdSchema, document: rigDocumentSchema });
export interface CreateRig {
  readonly id: string;
  readonly document: RigDocument;
}

/** PUT /api/rigs/:id */
export const saveRigSchema = z.strictObject({
  version: z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' }),
  document: rigDocumentSchema,
});
export interface SaveRig {
  readonly version: number;
  readonly document: RigDocument;
}

/** PATCH /api/rigs/:id: take a rig off the list, or bring it back. */
export const archiveRigSchema = z.strictObject({ archived: z.boolean({ error: () => 'must be true or false' }) });
export type ArchiveRig = z.infer<typeof archiveRigSchema>;

export const healthSchema = z.object({ server: z.literal('up'), database: z.enum(['up', 'away']), version: z.string() });
export type Health = z.infer<typeof healthSchema>;
