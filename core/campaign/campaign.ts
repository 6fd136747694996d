import { z } from 'zod';
import { nameUpTo, textUpTo } from '../field/index.ts';
import { measurable, measureAt, predictedSchema, type Shot, type Values } from '../shot/index.ts';
import { designs, orders } from './design.ts';

/**
 * A campaign as it is kept: what was asked and planned when it was begun, which never changes, and a book of entries behind it, which only
 * grows. Its shots are in the shot log and say to which place of the order they belong.
 */

/** More shots than anybody fires for one question. */
export const mostShots = 2000;
export const mostEntries = 1000;

const moment = z
  .number({ error: () => 'must be a moment in ms' })
  .min(0)
  .max(4.1e12);
const seconds = (most: number) => z.number().min(0).max(most);
const initials = nameUpTo(12);

const sessionSchema = z.strictObject({
  start: moment,
  /** s */
  seconds: seconds(86_400).min(60),
  /** Who is there, and who does what. */
  people: textUpTo(200).default(''),
});

/** What answers the question: a measure that every shot has, or a quantity that people name themselves. */
export const answersSchema = z.union([
  z.strictObject({ measure: z.enum(measurable as [(typeof measurable)[number], ...(typeof measurable)[number][]]) }),
  z.strictObject({ name: nameUpTo(40), unit: nameUpTo(16) }),
]);
export type Answers = z.infer<typeof answersSchema>;

const stockId = z.string().max(60);
/** More kinds of things than anybody counts. */
export const mostStocks = 20;

export const seeks = ['curve', 'highest', 'lowest'] as const;

const settingSchema = z.strictObject({
  values: z
    .array(z.strictObject({ path: z.string().max(60), title: z.string().max(80), text: z.string().max(40), value: z.number() }))
    .min(1)
    .max(6),
  predicted: predictedSchema,
  seconds: seconds(86_400),
  life: z.number().nullable(),
  /** s of rest after a shot at it, and what has to cool that long, where that decides. */
  rest: seconds(86_400).default(0),
  cools: textUpTo(240).default(''),
  /** What a shot at it takes of each stock, by its id. */
  uses: z.record(stockId, z.number().min(0)).default({}),
});

const amount = z
  .number({ error: () => 'must be an amount from 0 to 1e12' })
  .min(0, { error: () => 'must be an amount from 0 to 1e12' })
  .max(1e12, { error: () => 'must be an amount from 0 to 1e12' });

const stockSchema = z.strictObject({
  id: stockId,
  title: nameUpTo(60),
  unit: textUpTo(16),
  onHand: amount.nullable(),
  then: textUpTo(80),
});

export const campaignSchema = z
  .strictObject({
    question: nameUpTo(300),
    answers: answersSchema,
    settings: z.array(settingSchema).min(1).max(400),
    /** Shot by shot: which setting, in the order in which they are fired. */
    row: z.array(z.int().min(0)).min(1).max(mostShots),
    design: z.enum(designs),
    order: z.enum(orders),
    /** s before the first shot of a session and after its last. */
    before: seconds(86_400),
    after: seconds(86_400),
    /** s that coils, resistors and electrodes cool before the next shot. */
    rest: seconds(86_400),
    sessions: z.array(sessionSchema).min(1).max(60),
    /** What shots use up. */
    stocks: z.array(stockSchema).max(mostStocks).default([]),
    /** What is asked of the settings: the curve over all of them, or where it is highest or lowest. */
    seeks: z.enum(seeks).default('curve'),
    /** After so many misfires in a row one looks for the reason first. */
    stopAfter: z.int().min(1).max(20),
    by: initials,
  })
  .refine(({ row, settings }) => row.every((k) => k < settings.length), {
    error: () => 'names a setting that it does not have',
    path: ['row'],
  });
export type Campaign = z.output<typeof campaignSchema>;
export type CampaignSetting = Campaign['settings'][number];

/** The setting of a shot: its own, else that of its place in the order; null where the campaign has no such place, or a shot belongs to none. */
export const settingAt = ({ settings, row }: Campaign, of: Shot['campaign']): CampaignSetting | null =>
  settings[of?.setting ?? row[of?.place ?? -1] ?? -1] ?? null;

/** What a shot at a setting is set to, by the names that every shot has: a voltage that does not vary is that of the rig. */
export function setFor({ values, predicted }: CampaignSetting): Values {
  const named = values.flatMap(({ path, value }) => {
    const measure = measureAt(path);
    return measure ? [[measure, value] as const] : [];
  });
  return { ...(predicted.voltage === undefined ? {} : { voltage: predicted.voltage }), ...Object.fromEntries(named) };
}

const head = { id: z.uuid(), at: z.iso.datetime({ error: () => 'must be a date and time in UTC' }), by: initials };
const place = z
  .int({ error: () => 'must be a place in the order' })
  .min(0)
  .max(mostShots - 1);
const told = textUpTo(2000)
  .trim()
  .min(1, { error: () => 'must not be empty' });

/** What is written into the book of a campaign. Nothing is changed or taken out: a correction stands beside what it corrects. */
export const entrySchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...head, kind: z.literal('remark'), text: told }),
  /** Of the entry with this id. */
  z.strictObject({ ...head, kind: z.literal('correction'), of: z.uuid(), text: told }),
  z.strictObject({ ...head, kind: z.literal('near-miss'), text: told, changed: textUpTo(2000).default('') }),
  /** A reading that lay outside what was expected, looked into. */
  z.strictObject({ ...head, kind: z.literal('looked-into'), shot: z.uuid(), text: told }),
  /** Places that are not fired after all. */
  z.strictObject({ ...head, kind: z.literal('dropped'), places: z.array(place).min(1).max(mostShots), text: told }),
  /** A place is fired at another setting than planned: where it teaches more, by what was read so far. */
  z.strictObject({ ...head, kind: z.literal('setting'), place, setting: z.int().min(0).max(399), text: told }),
  /** What is there of a stock from now on: counted, or bought, or dressed. */
  z.strictObject({ ...head, kind: z.literal('stock'), of: stockId, amount, text: told }),
  /** Who has which hours, from now on. */
  z.strictObject({ ...head, kind: z.literal('sessions'), sessions: z.array(sessionSchema).min(1).max(60), text: told }),
  z.strictObject({ ...head, kind: z.literal('closed'), text: told }),
]);
export type Entry = z.output<typeof entrySchema>;
export type EntryKind = Entry['kind'];

/** What a workshop tests again and again, and for how many days each holds. Common practice, no source: your rules may ask for more. */
export const checks = {
  'discharge-stick': { title: 'Discharge stick: resistance measured, lead and hook sound', days: 31 },
  'voltage-meter': { title: 'Voltage meter: held against a known voltage', days: 366 },
  interlock: { title: 'Interlock and dump: tried with the store empty', days: 31 },
  'fire-and-aid': { title: 'Fire extinguisher and first aid: in place, in date', days: 366 },
} as const;
export type CheckId = keyof typeof checks;
export const checkIds = Object.keys(checks) as [CheckId, ...CheckId[]];

/** A check that was made. */
export const checkSchema = z.strictObject({ ...head, what: z.enum(checkIds), text: textUpTo(500).default('') });
export type Check = z.output<typeof checkSchema>;
