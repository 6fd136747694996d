import { z } from 'zod';
import { nameUpTo } from '@vast-surge/core/field';
import { rigDocumentSchema, type RigDocument } from '@vast-surge/core/rig';
import { revisionIdSchema } from './rig.ts';

/** A revision without its document, as the list has it. The list is the newest first. */
export const revisionHeadSchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  number: z.int().positive(),
  /** The version of the rig it holds. */
  version: z.int().positive(),
  name: z.string().nullable(),
  madeAt: z.iso.datetime(),
});
export type RevisionHead = z.infer<typeof revisionHeadSchema>;

/** A field in which a revision differs from the one before it, as a person reads it; null where a side has no such field. */
const revisionChangeSchema = z.object({ title: z.string(), from: z.string().nullable(), to: z.string().nullable() });
export type RevisionChange = z.infer<typeof revisionChangeSchema>;

/** GET /api/rigs/:id/revisions: the newest first. */
export const revisionRowSchema = revisionHeadSchema.extend({
  /** The first changes since the revision before; null of the first one, and where one of the two cannot be read. */
  changes: z.array(revisionChangeSchema).nullable(),
  /** Changes that are not among them. */
  furtherChanges: z.int().min(0),
});
export type RevisionRow = z.infer<typeof revisionRowSchema>;

/** GET /api/revisions/:id */
export const revisionSchema = revisionHeadSchema.extend({ document: rigDocumentSchema });
export type Revision = RevisionHead & { readonly document: RigDocument };

const nameSchema = nameUpTo(80);

const versionSchema = z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' });

/** POST /api/rigs/:id/revisions: closes the edits up to `version` into a revision. */
export const closeRevisionSchema = z.strictObject({ id: revisionIdSchema, version: versionSchema, name: nameSchema.optional() });
export type CloseRevision = z.infer<typeof closeRevisionSchema>;
