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

/** How the parts bench of an archive stands against the one here; null where the archive has none. */
export const previewBenchSchema = z.object({
  parts: z.int().min(0),
  lots: z.int().min(0),
  /** Parts and lots together. */
  new: z.int().min(0),
  same: z.int().min(0),
  different: z.int().min(0),
  unreadable: z.int().min(0),
});
export type PreviewBench = z.infer<typeof previewBenchSchema>;

export const previewSchema = z.object({ entries: z.array(previewEntrySchema), bench: previewBenchSchema.nullable() });
export type Preview = z.infer<typeof previewSchema>;

/**
 * What to do with a rig: leave it; take it (a new rig comes with its revisions, one that is here takes the archive's
 * state as its next version, and what it was stays a revision); or bring it in as another rig of its own.
 */
export const takings = ['leave', 'take', 'copy'] as const;
export type Taking = (typeof takings)[number];

/** What to do with the parts bench: leave it, add what is not here, or also take the archive's state of what differs. */
export const benchTakings = ['leave', 'add', 'take'] as const;
export type BenchTaking = (typeof benchTakings)[number];

/** POST /api/archive/import: all of the choices, or nothing. A rig without a choice is left, and so is the bench. */
export const importArchiveSchema = z.strictObject({
  archive: packedSchema,
  choices: z.record(z.uuid(), z.enum(takings)),
  bench: z.enum(benchTakings).default('leave'),
});
export const importedSchema = z.object({
  made: z.int().min(0),
  changed: z.int().min(0),
  left: z.int().min(0),
  parts: z.object({ made: z.int().min(0), changed: z.int().min(0) }),
});
export type Imported = z.infer<typeof importedSchema>;
