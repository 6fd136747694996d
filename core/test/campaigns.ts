import { campaignSchema, type Campaign, type KeptShot } from '../campaign/index.ts';
import type { Shot } from '../shot/index.ts';

/** An id by its number. */
export const testId = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** A campaign of what is given: settings, row and what a test is about; the rest is as plain as can be. */
export const testCampaign = (more: object): Campaign =>
  campaignSchema.parse({
    question: 'Which?',
    answers: { measure: 'current' },
    design: 'factorial',
    order: 'rising',
    before: 0,
    after: 0,
    rest: 0,
    sessions: [{ start: 0, seconds: 3600, people: 'AB' }],
    stopAfter: 3,
    by: 'AB',
    ...more,
  });

/** A shot of a campaign that fired and of which nothing was read, unless the test says otherwise. @param at ms since 1970 */
export const testShot = (n: number, place: number, at: number, more: Partial<Shot> = {}): KeptShot => ({
  id: testId(n),
  shot: {
    at: new Date(at).toISOString(),
    outcome: 'fired',
    set: {},
    measured: {},
    own: [],
    sound: '',
    remarks: '',
    campaign: { id: testId(900), place },
    ...more,
  },
});
