import { z } from 'zod';
import { faultIds } from './fault.ts';

/** How a rehearsal is played: as it is kept, sent and archived. */
export const rehearsalSchema = z.strictObject({
  seed: z
    .int({ error: () => 'must be a whole number from 1 to 999999' })
    .min(1, { error: () => 'must be a whole number from 1 to 999999' })
    .max(999_999, { error: () => 'must be a whole number from 1 to 999999' }),
  /** How many times faster than the clock. */
  speed: z
    .number({ error: () => 'must be from 1 to 60' })
    .min(1, { error: () => 'must be from 1 to 60' })
    .max(60, { error: () => 'must be from 1 to 60' }),
  faults: z
    .array(z.enum(faultIds, { error: () => `must be one of ${faultIds.join(', ')}` }))
    .max(5, { error: () => 'has more than 5 faults' })
    .readonly(),
});
export type Rehearsal = Readonly<z.infer<typeof rehearsalSchema>>;
