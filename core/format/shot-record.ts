import { z } from 'zod';
import { predictedSchema, shotSchema } from '../shot/index.ts';

const instant = z.iso.datetime({ error: () => 'must be a date and time in UTC' });

/** A shot with its files, as an archive holds it. */
export const shotRecordSchema = z.strictObject({
  id: z.uuid({ error: () => 'must be the id of a shot' }),
  /** The revision of the rig that was fired, and the run it belongs to. */
  revisionId: z.uuid({ error: () => 'must be the id of a revision' }),
  runId: z.uuid().nullable(),
  version: z.int().positive(),
  createdAt: instant,
  updatedAt: instant,
  removedAt: instant.nullable(),
  shot: shotSchema,
  predicted: predictedSchema,
  files: z
    .array(
      z.strictObject({
        id: z.uuid(),
        kind: z.enum(['trace', 'photo']),
        name: z.string().min(1).max(120),
        addedAt: instant,
        content: z.string().max(12 * 1024 * 1024),
      }),
    )
    .max(200),
});
export type ShotRecord = Readonly<z.infer<typeof shotRecordSchema>>;
