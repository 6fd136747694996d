import { z } from 'zod';

/** Where the archive routes stop reading: the packed file, which travels as base64 in JSON. */
export const archiveFileLimit = 48 * 1024 * 1024;

const packedSchema = z
  .base64({ error: () => 'must be the archive file as base64' })
  .max(Math.ceil(archiveFileLimit / 3) * 4, { error: () => 'must be of a file of at most 48 MiB' });

/** How a rig of an archive stands against what is kept here. */
export const standings = ['new', 'same', 'different', 'unreadable'] as const;

/** POST /api/archive/preview. Nothing is written. */
export const previewArchiveSchema = z.strictObject({ archive: packedSchema });

export const previewEntrySchema = z.object({
  id: z.uuid(),
  name: z.string(),
  standing: z.enum(standings),
  revisions: z.int().min(0),
  /** Revisions of the archive that are not kept here yet. */
  newRevisions: z.int().min(0),
  /** In words: what differs from what is kept here, or why it cannot be read. */
  says: z.string(),
});
export type PreviewEntry = z.infer<typeof previewEntrySchema>;

export const previewSchema = z.object({ entries: z.array(previewEntrySchema) });
export type Preview = z.infer<typeof previewSchema>;

/**
 * What to do with a rig: leave it; take it (a new rig comes with its revisions, one that is here takes the archive's
 * state as its next version, and what it was stays a revision); or bring it in as another rig of its own.
 */
export const takings = ['leave', 'take', 'copy'] as const;
export type Taking = (typeof takings)[number];

/** POST /api/archive/import: all of the choices, or nothing. A rig without a choice is left. */
export const importArchiveSchema = z.strictObject({
  archive: packedSchema,
  choices: z.record(z.uuid(), z.enum(takings)),
});
export const importedSchema = z.object({ made: z.int().min(0), changed: z.int().min(0), left: z.int().min(0) });
export type Imported = z.infer<typeof importedSchema>;
