import { z } from 'zod';
import { rehearsalSchema } from '../rehearsal/index.ts';
import { planSchema, runEventSchema } from '../run/index.ts';

const instant = z.iso.datetime({ error: () => 'must be a date and time in UTC' });

/** A run with all that was done in it, as an archive holds it. */
export const runRecordSchema = z.strictObject({
  id: z.uuid({ error: () => 'must be the id of a run' }),
  /** The revision of the rig that was run. */
  revisionId: z.uuid({ error: () => 'must be the id of a revision' }),
  rehearsal: rehearsalSchema.nullable(),
  madeAt: instant,
  plan: planSchema,
  events: z.array(z.strictObject({ number: z.int().positive(), receivedAt: instant, event: runEventSchema })).max(100_000),
});
export type RunRecord = Readonly<z.infer<typeof runRecordSchema>>;
