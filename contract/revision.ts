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

/** GET /api/revisions/:id */
export const revisionSchema = revisionHeadSchema.extend({ document: rigDocumentSchema });
export type Revision = RevisionHead & { readonly document: RigDocument };

const nameSchema = nameUpTo(80);

const versionSchema = z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' });

/** POST /api/rigs/:id/revisions: closes the edits up to `version` into a revision. */
export const closeRevisionSchema = z.strictObject({ id: revisionIdSchema, version: versionSchema, name: nameSchema.optional() });
export type CloseRevision = z.infer<typeof closeRevisionSchema>;
