import { z } from 'zod';
import { rehearsalSchema, type Rehearsal } from '@vast-surge/core/rehearsal';
import { planSchema, runEventSchema, type RunEvent, type RunPlan } from '@vast-surge/core/run';
import { rigIdSchema } from './rig.ts';

export const runIdSchema = z.uuid({ error: () => 'must be the id of a run' });

/** How a rehearsal is asked for: its faults are chosen, or so many are drawn by the seed. */
const askedRehearsalSchema = rehearsalSchema.extend({
  faults: z.union([
    rehearsalSchema.shape.faults,
    z
      .int({ error: () => 'must be a list of faults, or how many are drawn, from 0 to 5' })
      .min(0)
      .max(5, { error: () => 'must be a list of faults, or how many are drawn, from 0 to 5' }),
  ]),
});
export type AskedRehearsal = z.infer<typeof askedRehearsalSchema>;

const versionSchema = z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' });

/** POST /api/runs: begins a run of what the rig is now. Its edits are closed into a revision, which the run points at. */
export const createRunSchema = z.strictObject({
  id: runIdSchema,
  rigId: rigIdSchema,
  version: versionSchema,
  rehearsal: askedRehearsalSchema.nullable(),
});
export type CreateRun = z.input<typeof createRunSchema>;

/** POST /api/runs/:id/events: what was done, in order. Events that are here already are passed over. */
export const appendEventsSchema = z.strictObject({
  events: z
    .array(runEventSchema)
    .min(1, { error: () => 'must have at least one event' })
    .max(500, { error: () => 'has more than 500 events; send the rest afterwards' }),
});

/** An event as it is kept: its place in the run, and when the server had it. */
export const keptEventSchema = z.object({
  number: z.int().positive(),
  receivedAt: z.iso.datetime(),
  event: runEventSchema,
});
export interface KeptEvent {
  readonly number: number;
  readonly receivedAt: string;
  readonly event: RunEvent;
}

/** GET /api/runs/people: rehearsals that ended, by who acted. */
export const rehearsedSchema = z.object({ who: z.string(), rehearsals: z.int(), last: z.number(), best: z.number() });
export type Rehearsed = Readonly<z.infer<typeof rehearsedSchema>>;

/** GET /api/runs/:id */
export const storedRunSchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  revisionId: z.uuid(),
  revision: z.int().positive(),
  rehearsal: rehearsalSchema.nullable(),
  madeAt: z.iso.datetime(),
  plan: planSchema,
  events: z.array(keptEventSchema),
});
export interface StoredRun {
  readonly id: string;
  readonly rigId: string;
  readonly revisionId: string;
  readonly revision: number;
  readonly rehearsal: Rehearsal | null;
  readonly madeAt: string;
  readonly plan: RunPlan;
  readonly events: readonly KeptEvent[];
}

/** GET /api/runs/:id/events?after=n, and the answer to an append: what was kept after a number, and the time of the server. */
export const runTailSchema = z.object({ events: z.array(keptEventSchema), now: z.iso.datetime() });
export interface RunTail {
  readonly events: readonly KeptEvent[];
  readonly now: string;
}

/** GET /api/instruments: those on the list, and with `?run=` the stand-ins of that rehearsal, with their addresses. */
export const instrumentSchema = z.object({
  id: z.string(),
  title: z.string(),
  address: z.string(),
  isStandIn: z.boolean(),
  unit: z.enum(['V', 'Pa']),
  /** It reads the voltage of the store: a step can take its reading. */
  readsStore: z.boolean(),
  /** What a page may send to it. */
  asks: z.array(z.string().max(100)).max(50),
});
export type InstrumentHead = Readonly<z.infer<typeof instrumentSchema>>;

/** POST /api/runs/:id/measure */
export const measureSchema = z.strictObject({
  instrument: z
    .string({ error: () => 'must be the id of an instrument' })
    .min(1)
    .max(60),
});
export const measuredSchema = z.object({
  /** V; null where the instrument says that it is above its range. */
  value: z.number().nullable(),
  /** What the instrument sent. */
  reply: z.string(),
});
export type Measured = Readonly<z.infer<typeof measuredSchema>>;

/** POST /api/runs/:id/ask: one command to an instrument, of those that may be sent to its kind: no page switches a charger on. */
export const askSchema = measureSchema.extend({
  line: z
    .string({ error: () => 'must be a line of text' })
    .trim()
    .min(2, { error: () => 'must be a command, such as *IDN?' })
    .max(200, { error: () => 'must be at most 200 characters' })
    .regex(/^[\x20-\x7e]+$/, { error: () => 'must be one line of plain letters' }),
});
export const askedSchema = z.object({ reply: z.string() });
export type Asked = Readonly<z.infer<typeof askedSchema>>;
