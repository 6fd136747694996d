import { z } from 'zod';

/** How a rig of an archive stands against what is kept here. */
export const standings = ['new', 'same', 'different', 'unreadable'] as const;

export const previewEntrySchema = z.object({
  id: z.uuid(),
  name: z.string(),
  standing: z.enum(standings),
  revisions: z.int().min(0),
  /** Revisions of the archive that are not kept here yet. */
  newRevisions: z.int().min(0),
  /** Runs and rehearsals of it, shots, those that are not here yet, and their photos and traces. */
  runs: z.int().min(0),
  shots: z.int().min(0),
  newShots: z.int().min(0),
  campaigns: z.int().min(0),
  photos: z.int().min(0),
  traces: z.int().min(0),
  /** In words: what differs from what is kept here, or why it cannot be read. */
  says: z.string(),
});
export type PreviewEntry = z.infer<typeof previewEntrySchema>;

/** How the parts bench of an archive stands against the one here; null where the archive has none. */
export const previewBenchSchema = z.object({
  parts: z.int().min(0),
  lots: z.int().min(0),
  /** Parts with a photo. */
  photos: z.int().min(0),
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
 * POST /api/archive/uploads takes the file as it is, as application/zip. It is kept for an hour; nothing is written by that. The answer is
 * its id and what it would bring.
 */
export const uploadedSchema = z.object({ id: z.uuid(), preview: previewSchema });
export type Uploaded = z.infer<typeof uploadedSchema>;

/**
 * What to do with a rig: leave it; take it (a new rig comes with its revisions, one that is here takes the archive's
 * state as its next version, and what it was stays a revision); or bring it in as another rig of its own.
 */
export const takings = ['leave', 'take', 'copy'] as const;
export type Taking = (typeof takings)[number];

/** What to do with the parts bench: leave it, add what is not here, or also take the archive's state of what differs. */
export const benchTakings = ['leave', 'add', 'take'] as const;
export type BenchTaking = (typeof benchTakings)[number];

/** POST /api/archive/uploads/:id/import: all of the choices, or nothing. A rig without a choice is left, and so is the bench. */
export const importArchiveSchema = z.strictObject({
  choices: z.record(z.uuid(), z.enum(takings)).refine((choices) => Object.keys(choices).length <= 20_000, {
    error: () => 'must be of at most 20 000 rigs',
  }),
  bench: z.enum(benchTakings).default('leave'),
});
export const importedSchema = z.object({
  made: z.int().min(0),
  changed: z.int().min(0),
  left: z.int().min(0),
  parts: z.object({ made: z.int().min(0), changed: z.int().min(0) }),
});
export type Imported = z.infer<typeof importedSchema>;
