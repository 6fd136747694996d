import { z } from 'zod';
import { textUpTo } from '../field/index.ts';
import { pinCheckSchema, pinProofSchema } from './pin.ts';

/** Two letters to four that stand for a person in the record. */
export const initialsSchema = textUpTo(4)
  .trim()
  .min(1, { error: () => 'must be one to four letters' })
  .regex(/^[\p{L}\p{N}]+$/u, { error: () => 'must be one to four letters' });

const stepId = textUpTo(60);
const screenSchema = textUpTo(60).min(1, { error: () => 'must name the screen' });

/** How a shot went. */
export const outcomes = ['fired', 'misfire', 'pre-fire', 'partial'] as const;
export type Outcome = (typeof outcomes)[number];
export const outcomeWords: { readonly [K in Outcome]: string } = {
  fired: 'Fired',
  misfire: 'Misfire: nothing happened',
  'pre-fire': 'Pre-fire',
  partial: 'Partial: less than it should',
};

const common = {
  /** Made by the screen that acted, so that an event that is sent twice is kept once. */
  id: z.uuid({ error: () => 'must be a UUID' }),
  /** ms since 1970 by the clock of the screen that acted. */
  at: z
    .number({ error: () => 'must be a time, ms' })
    .min(0, { error: () => 'must be a time, ms' })
    .max(4e12, { error: () => 'must be a time, ms' }),
  screen: screenSchema,
};

/** Whose device it came from, in a workshop with accounts: the server says so, whatever a page sends. */
const fromAccount = { account: z.uuid({ error: () => 'must be the id of an account' }).optional() };

const event = <T extends string, S extends z.ZodRawShape>(type: T, shape: S) =>
  z.strictObject({ ...common, type: z.literal(type), ...shape });

/** One thing that a person did, or that a screen noticed, in a run. */
export const runEventSchema = z.discriminatedUnion('type', [
  /** Who runs it. Before it nothing can be done. */
  event('began', {
    acts: initialsSchema,
    reads: initialsSchema.nullable(),
    pin: pinCheckSchema.optional(),
    /** Whoever wants to take over asks for the key first. Runs from before there was that, and those of a machine without accounts, lack it. */
    takeOver: z.literal('asked').optional(),
    ...fromAccount,
  }),
  /** A step is done. */
  event('done', { step: stepId }),
  /** The voltage of the store as it was read, V. `confirmed` says that a reading far from what is expected was asked back. */
  event('read', {
    step: stepId,
    value: z
      .number({ error: () => 'must be a voltage, V' })
      .min(-1e7, { error: () => 'must be from -10 MV to 10 MV' })
      .max(1e7, { error: () => 'must be from -10 MV to 10 MV' }),
    source: textUpTo(60).min(1),
    confirmed: z.boolean(),
  }),
  /**
   * The second person answered: by an account of their own, from a device of their own; else with the PIN where the run has one. Alone, the
   * second look was taken.
   */
  event('answered', { step: stepId, proof: pinProofSchema.optional(), ...fromAccount }),
  /** The second person has forgotten the PIN and set another: it stands in the record. */
  event('pin-set', { pin: pinCheckSchema }),
  event('outcome', { step: stepId, outcome: z.enum(outcomes) }),
  /** Back one step. */
  event('back', {}),
  /** Back to the tool, or to another charge. */
  event('again', { to: z.enum(['tool', 'charge']) }),
  event('aborted', { reason: textUpTo(300) }),
  event('noted', {
    text: textUpTo(1000)
      .trim()
      .min(1, { error: () => 'must not be empty' }),
  }),
  /** From here on this screen acts, and the others watch. */
  event('took-over', { by: initialsSchema, ...fromAccount }),
  /** A screen that watches asks who acts for the key. */
  event('asked-for-key', { by: initialsSchema, ...fromAccount }),
  /** Who acts gives the key to whoever asked: their screen takes over as soon as it hears of it. Until then nothing changes. */
  event('gave-key', {}),
  event('kept-key', {}),
  /** The clock of the screen jumped against its own running time, s; ahead also after the device slept. */
  event('clock', {
    by: z
      .number({ error: () => 'must be a time, s' })
      .min(-4e9, { error: () => 'must be a time that a clock can jump by, s' })
      .max(4e9, { error: () => 'must be a time that a clock can jump by, s' }),
  }),
  /** In a rehearsal: something done to the simulated rig beside the steps. */
  event('acted', { act: textUpTo(40).min(1) }),
  /** In a rehearsal: a fault that the trainee says is there. */
  event('suspected', { fault: textUpTo(40).min(1) }),
]);

export type RunEvent = Readonly<z.infer<typeof runEventSchema>>;
export type RunEventType = RunEvent['type'];

/** Events whose account counts. */
const ofAccounts: ReadonlySet<RunEventType> = new Set(['began', 'took-over', 'asked-for-key', 'answered']);

/**
 * An event as it is kept: with the account of the device that it came from, where that counts, whatever it says itself.
 *
 * @param account null on a machine without accounts
 */
export function cameFrom<E extends { readonly type: RunEventType }>(account: string | null, event: E): E {
  if (!ofAccounts.has(event.type)) return event;
  const kept: E & { account?: string; takeOver?: 'asked' } = { ...event };
  delete kept.account;
  delete kept.takeOver;
  if (account === null) return kept;
  return { ...kept, account, ...(event.type === 'began' ? { takeOver: 'asked' } : {}) };
}
