import { z } from 'zod';
import { campaignSchema, entrySchema, mostEntries, mostShots, progressOf, type Kept } from '../campaign/index.ts';
import { calibrationOf, isCalibrated, predictedSchema, shotSchema } from '../shot/index.ts';
import { nearMissSchema } from '../rehearsal/index.ts';
import { fieldIssues, type FileIssue } from './rig-file.ts';

export const campaignFileMark = 'vast-surge-campaign';
export const campaignFileVersion = 1;
/** Bytes: a campaign of so many shots with everything that is usually written of them. */
export const campaignFileLimit = 32 * 1024 * 1024;

const schema = z.object({
  format: z.literal(campaignFileMark, { error: () => `must be "${campaignFileMark}"` }),
  version: z.literal(campaignFileVersion, { error: () => `must be ${campaignFileVersion}` }),
  rigName: z.string().max(200),
  campaign: campaignSchema,
  entries: z.array(entrySchema).max(mostEntries),
  // A misfire is fired again.
  shots: z.array(z.object({ id: z.uuid(), shot: shotSchema, predicted: predictedSchema })).max(4 * mostShots),
  caught: z.array(nearMissSchema).max(4000).default([]),
});

export type ReadCampaignFile =
  { readonly ok: true; readonly kept: Kept } | { readonly ok: false; readonly issues: readonly FileIssue[] };

/**
 * A campaign as its page saves it, with what it has come to by its own shots. What was calculated of a shot is what was written down with it.
 *
 * @param data what was read of the file
 */
export function readCampaignData(data: unknown): ReadCampaignFile {
  const read = schema.safeParse(data);
  if (!read.success) return { ok: false, issues: fieldIssues(read.error) };
  const { rigName, campaign, entries, shots, caught } = read.data;
  const { answers } = campaign;
  const learnt = 'measure' in answers && isCalibrated(answers.measure) ? calibrationOf(shots, answers.measure) : null;
  return {
    ok: true,
    kept: { rig: rigName, campaign, entries, shots, learnt, caught, progress: progressOf(campaign, entries, shots) },
  };
}
