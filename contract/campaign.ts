import { z } from 'zod';
import { campaignSchema, checkSchema, entrySchema, type Campaign, type Check, type Entry } from '@vast-surge/core/campaign';
import { rigIdSchema } from './rig.ts';
import { storedShotSchema, type StoredShot } from './shot.ts';

/** POST /api/campaigns: a campaign of what the rig is now. */
export const createCampaignSchema = z.strictObject({
  id: z.uuid({ error: () => 'must be the id of a campaign' }),
  rigId: rigIdSchema,
  version: z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' }),
  campaign: campaignSchema,
});
export type CreateCampaign = z.input<typeof createCampaignSchema>;

/** POST /api/campaigns/:id/entries: one more line of its book. */
export const addEntrySchema = z.strictObject({ entry: entrySchema });

/** POST /api/checks: a check of the workshop that was made. */
export const addCheckSchema = z.strictObject({ check: checkSchema });

/** GET /api/checks: those of the last time, the newest first. */
export const storedChecksSchema = z.array(checkSchema);
export type StoredChecks = readonly Check[];

/** GET /api/campaigns: what a list shows of a campaign. */
export const storedCampaignHeads = z.array(
  z.object({
    id: z.uuid(),
    rigId: z.uuid(),
    question: z.string(),
    madeAt: z.iso.datetime(),
    /** Shots that were planned, and places that have one that fired. */
    planned: z.int(),
    fired: z.int(),
    isClosed: z.boolean(),
  }),
);
export type CampaignHead = z.output<typeof storedCampaignHeads>[number];

/** GET /api/campaigns/booked: hours of campaigns that are not closed, of every rig. Moments in ms since 1970, lengths in s. */
export const bookedSchema = z
  .array(
    z.object({
      id: z.uuid(),
      rigId: z.uuid(),
      rigName: z.string().max(200),
      question: z.string().max(300),
      sessions: campaignSchema.shape.sessions,
    }),
  )
  .max(200);
export type Booked = z.output<typeof bookedSchema>[number];

/** A campaign as the server keeps it, with its book and its shots, the first first. */
export const storedCampaignSchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  rigName: z.string(),
  revisionId: z.uuid(),
  revision: z.int().positive(),
  madeAt: z.iso.datetime(),
  campaign: campaignSchema,
  entries: z.array(entrySchema),
  shots: z.array(storedShotSchema),
});
export interface StoredCampaign {
  readonly id: string;
  readonly rigId: string;
  readonly rigName: string;
  readonly revisionId: string;
  readonly revision: number;
  readonly madeAt: string;
  readonly campaign: Campaign;
  readonly entries: readonly Entry[];
  readonly shots: readonly StoredShot[];
}
