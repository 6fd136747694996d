import { z } from 'zod';
import { axisScales, distributions, leastSamples, mostAxes, mostSamples } from '@vast-surge/core/study';
import { rigIdSchema } from './rig.ts';

/** Figures and limits that one study asks for at the most. */
export const mostOutputs = 20;
/** Studies that one person may have under way. */
export const mostUnderWay = 4;

const outputsSchema = z
  .array(z.string().min(1).max(80), { error: () => 'must be a list' })
  .min(1, { error: () => 'must name at least one figure or limit' })
  .max(mostOutputs, { error: () => `must name at most ${mostOutputs} figures and limits` });

/** Samples over the tolerances of a rig, of which figures and limits. */
const samplesQuestionSchema = z.strictObject({
  of: z.literal('samples'),
  outputs: outputsSchema,
  samples: z
    .int({ error: () => 'must be a whole number' })
    .min(leastSamples, { error: () => `must be from ${leastSamples} to ${mostSamples}` })
    .max(mostSamples, { error: () => `must be from ${leastSamples} to ${mostSamples}` }),
  seed: z
    .int({ error: () => 'must be a whole number' })
    .min(0, { error: () => 'must be from 0 to 2147483647' })
    .max(2_147_483_647, { error: () => 'must be from 0 to 2147483647' }),
  distribution: z.enum(distributions, { error: () => `must be one of ${distributions.join(', ')}` }),
  withModel: z.boolean({ error: () => 'must be true or false' }),
  withShots: z.boolean({ error: () => 'must be true or false' }),
});

const textOfAxis = (most: number) =>
  z.string({ error: () => 'must be a text' }).max(most, { error: () => `has at most ${most} characters` });

/** How a field is varied, as a person writes it: the values are read where they are used. */
const askedAxisSchema = z.strictObject({
  path: textOfAxis(80),
  scale: z.enum(axisScales, { error: () => `must be one of ${axisScales.join(', ')}` }),
  from: textOfAxis(60),
  to: textOfAxis(60),
  steps: z.number({ error: () => 'must be a number' }),
  values: textOfAxis(20_000),
});

/** Fields varied, one to three at once, and what is asked at every point. */
const sweepQuestionSchema = z.strictObject({
  of: z.literal('sweep'),
  outputs: outputsSchema,
  axes: z
    .array(askedAxisSchema, { error: () => 'must be a list' })
    .min(1, { error: () => 'must name a field' })
    .max(mostAxes, { error: () => `must name at most ${mostAxes} fields` }),
});

/** What is asked of a rig. */
export const studyQuestionSchema = z.discriminatedUnion('of', [samplesQuestionSchema, sweepQuestionSchema], {
  error: () => 'must be of samples, or of a sweep',
});
export type StudyQuestion = z.output<typeof studyQuestionSchema>;
export type SamplesQuestion = z.output<typeof samplesQuestionSchema>;
export type SweepQuestion = z.output<typeof sweepQuestionSchema>;

export const studyPriorities = ['first', 'usual', 'last'] as const;

/** POST /api/studies: asked of what the rig is now. */
export const createStudySchema = z.strictObject({
  id: z.uuid({ error: () => 'must be the id of a study' }),
  rigId: rigIdSchema,
  version: z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' }),
  question: studyQuestionSchema,
  priority: z.enum(studyPriorities, { error: () => `must be one of ${studyPriorities.join(', ')}` }).default('usual'),
});
export type CreateStudy = z.input<typeof createStudySchema>;

/** PATCH /api/studies/:id: paused, taken up again, or given up. */
export const setStudySchema = z.strictObject({
  state: z.enum(['asked', 'paused', 'cancelled'], { error: () => 'must be asked, paused or cancelled' }),
});
export type SetStudy = z.input<typeof setStudySchema>;

export const studyStates = ['asked', 'paused', 'done', 'cancelled', 'failed'] as const;

/** GET /api/studies: studies of a rig, the newest first. */
export const storedStudySchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  revisionId: z.uuid(),
  revision: z.int().positive(),
  question: studyQuestionSchema,
  /** What worked it out: another program makes other numbers. */
  program: z.string(),
  /** Whether that is the program of this server. */
  isOfNow: z.boolean(),
  priority: z.enum(studyPriorities),
  state: z.enum(studyStates),
  fault: z.string().nullable(),
  /** SHA-256 over all its chunks, once it is done: the same question of the same revision has the same. */
  digest: z.string().nullable(),
  /** Samples or points of all of it, and those that are there. */
  total: z.int(),
  done: z.int(),
  /** s of work in them, and hosts that worked on it. */
  seconds: z.number(),
  hosts: z.array(z.string()),
  madeAt: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
});
export type StoredStudy = z.output<typeof storedStudySchema>;

/** What the samples of one output come to so far. */
export const storedSpreadSchema = z
  .object({
    n: z.int(),
    missing: z.int(),
    mean: z.number(),
    deviation: z.number(),
    percentiles: z.array(z.object({ share: z.number(), value: z.number(), low: z.number(), high: z.number() })).readonly(),
    bars: z.array(z.object({ from: z.number(), to: z.number(), count: z.int() })).readonly(),
    /** The samples with the greatest value, once all are there. */
    highest: z.array(z.object({ sample: z.int(), value: z.number() })).readonly(),
  })
  .nullable();

/** GET /api/studies/:id: a study with what it has come to, an entry for each output; of a sweep none. */
export const storedStudyWithSpreadsSchema = storedStudySchema.extend({ spreads: z.array(storedSpreadSchema) });
export type StoredStudyWithSpreads = z.output<typeof storedStudyWithSpreadsSchema>;

/** GET /api/studies/:id/met: how many samples meet a goal, and the share of all that do, 19 times out of 20. */
export const storedStudyMetSchema = z.object({ met: z.int(), of: z.int(), low: z.number(), high: z.number() });
export type StoredStudyMet = z.output<typeof storedStudyMetSchema>;

/** GET /api/studies/:id/points: what is there of a sweep. Its columns lie as {@link SweepLayout} says. */
export const storedSweepSchema = z.object({
  layout: z.object({
    axes: z
      .array(
        z.object({
          path: z.string(),
          title: z.string(),
          unit: z.string(),
          typed: z.string(),
          isLog: z.boolean(),
          isWhole: z.boolean(),
          values: z.array(z.number()).readonly(),
        }),
      )
      .readonly(),
    outputs: z
      .array(
        z.object({
          id: z.string(),
          title: z.string(),
          of: z.string(),
          unit: z.string(),
          from: z.enum(['figure', 'limit', 'solver']),
        }),
      )
      .readonly(),
    limits: z.array(z.string()).readonly(),
  }),
  /** Columns: numbers of 8 bytes, the lowest first, one column behind the other, in base64. A number may be endless, which JSON cannot say. */
  stretches: z.array(z.object({ from: z.int(), numbers: z.base64() })).readonly(),
});
export type StoredSweep = z.output<typeof storedSweepSchema>;

/** GET /api/studies/workers: who works on studies now. */
export const storedStudyWorkersSchema = z.array(
  z.object({ host: z.string(), program: z.string(), isOfNow: z.boolean(), threads: z.int() }),
);
export type StoredStudyWorkers = z.output<typeof storedStudyWorkersSchema>;
