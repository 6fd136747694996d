import { z } from 'zod';
import { nameUpTo } from '@vast-surge/core/field';
import { photoSchema } from '@vast-surge/core/format';
import { lotSchema, partSchema, type Lot, type MeterReading, type Part } from '@vast-surge/core/part';

/** A part as the server keeps it: the part, and what the server adds. */
export interface StoredPart {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly removedAt: string | null;
  readonly hasPhoto: boolean;
  readonly part: Part;
}

export interface StoredLot {
  readonly id: string;
  readonly version: number;
  readonly createdAt: string;
  readonly updatedAt: string;
  readonly lot: Lot;
}

/** A part or a lot that this program cannot read, such as one of a kind from a newer version. */
export interface UnreadableNoun {
  readonly id: string;
  readonly name: string;
  readonly unreadable: string;
}

/** GET /api/parts?after=N. Everything that changed after `mark`, or everything; `mark` is where to go on from. */
export interface Bench {
  /** Another one after the workshop was restored: what a page knew before is no longer so. */
  readonly epoch: string;
  readonly mark: number;
  readonly parts: readonly StoredPart[];
  readonly lots: readonly StoredLot[];
  /** Lots that went away after `mark`. */
  readonly goneLots: readonly string[];
  readonly unreadable: readonly UnreadableNoun[];
}
const kept = { id: z.uuid(), version: z.int().positive(), createdAt: z.iso.datetime(), updatedAt: z.iso.datetime() };
export const benchSchema = z.object({
  epoch: z.string(),
  mark: z.int().min(0),
  parts: z.array(z.object({ ...kept, removedAt: z.iso.datetime().nullable(), hasPhoto: z.boolean(), part: partSchema })),
  lots: z.array(z.object({ ...kept, lot: lotSchema })),
  goneLots: z.array(z.uuid()),
  unreadable: z.array(z.object({ id: z.uuid(), name: z.string(), unreadable: z.string() })),
}) satisfies z.ZodType<Bench>;

const idSchema = z.uuid({ error: () => 'must be a UUID' });
const digestSchema = z
  .string()
  .max(64)
  .regex(/^[0-9a-f]{64}$/, { error: () => 'must be a SHA-256' });
/** Parts in one request: more than anybody selects, and within the room of a body. */
export const batchLimit = 20_000;

/** What stands against the names of a part that is written: what was kept before is read all the same. */
export function partNamesIssue(part: {
  readonly name?: unknown;
  readonly tag?: unknown;
}): { readonly path: string; readonly reason: string } | null {
  for (const [path, most] of [
    ['name', 80],
    ['tag', 24],
  ] as const) {
    const value = part[path];
    if (typeof value !== 'string' || value.trim() === '') continue;
    const read = nameUpTo(most).safeParse(value);
    if (!read.success) return { path, reason: read.error.issues[0]?.message ?? '' };
  }
  return null;
}

const writtenLotSchema = lotSchema.superRefine(({ name }, ctx) => {
  const read = nameUpTo(80).safeParse(name);
  if (!read.success) ctx.addIssue({ code: 'custom', path: ['name'], message: read.error.issues[0]?.message ?? '' });
});

/** One part of a request that makes parts. They are checked one by one, so that a long list holds nobody up. */
export const draftSchema = z.strictObject({
  id: idSchema,
  /** An empty tag asks for the next free one of its kind. */
  part: z.looseObject({ tag: z.string().max(1000).default('') }).transform((part, ctx) => {
    const blank = part.tag.trim() === '';
    const read = partSchema.safeParse(blank ? { ...part, tag: 'new' } : part);
    const names = partNamesIssue(part);
    if (names) {
      ctx.issues.push({ code: 'custom', message: names.reason, path: [names.path], input: undefined });
      return z.NEVER;
    }
    if (read.success) return blank ? { ...read.data, tag: '' } : read.data;
    for (const issue of read.error.issues)
      ctx.issues.push({ code: 'custom', message: issue.message, path: [...issue.path], input: undefined });
    return z.NEVER;
  }),
});

export const lotDraftSchema = z.strictObject({ id: idSchema, lot: writtenLotSchema });

/** POST /api/parts: new parts, all of them or none. */
export const createPartsSchema = z.strictObject({
  parts: z.array(z.unknown()).min(1).max(batchLimit),
  /** New lots that come with them. */
  lots: z.array(z.unknown()).max(1000).default([]),
  /** The file they came from, so that the same file is not taken in twice unnoticed. */
  file: z.strictObject({ name: nameUpTo(200), digest: digestSchema }).optional(),
});
export interface CreateParts {
  readonly parts: readonly { readonly id: string; readonly part: Part }[];
  readonly lots?: readonly { readonly id: string; readonly lot: Lot }[];
  readonly file?: { readonly name: string; readonly digest: string };
}

/** The tags the new parts were given, in their order. */
export const createdPartsSchema = z.object({ tags: z.array(z.string()) });
export type CreatedParts = z.infer<typeof createdPartsSchema>;

/**
 * PATCH /api/parts: changes of fields. `was` says what each field held where the change was made: a field that holds
 * something else now was changed by another hand, and nothing of the request is done.
 */
export const editPartsSchema = z.strictObject({ edits: z.array(z.unknown()).min(1).max(batchLimit) });
const changesSchema = z
  .record(z.string().max(80), z.unknown())
  .refine((changes) => Object.keys(changes).length <= 200, { error: () => 'must have at most 200 fields' });
export const partEditSchema = z.strictObject({ id: idSchema, set: changesSchema, was: changesSchema });
export interface PartEdit {
  readonly id: string;
  /** By path: `name`, `condition`, `fields.C`. */
  readonly set: Readonly<Record<string, unknown>>;
  readonly was: Readonly<Record<string, unknown>>;
}

/** POST /api/parts/readings: readings are added to what is there and never take the place of others. */
export const addReadingsSchema = z.strictObject({ readings: z.array(z.unknown()).min(1).max(batchLimit) });
export const addReadingSchema = z.strictObject({ partId: idSchema, reading: z.looseObject({}) });
export interface AddReading {
  readonly partId: string;
  readonly reading: MeterReading;
}

/** PATCH /api/parts/:id/readings/:index: strikes a reading out, or lets it count again. */
export const strikeReadingSchema = z.strictObject({ struck: z.boolean({ error: () => 'must be true or false' }) });

/** POST /api/parts/removals: takes parts off the bench, or puts them back. */
export const removePartsSchema = z.strictObject({
  ids: z.array(idSchema).min(1).max(batchLimit),
  removed: z.boolean({ error: () => 'must be true or false' }),
  /** Also where a rig stands on one of them: the rig keeps the values and the tag. */
  evenUsed: z.boolean().default(false),
});
export type RemoveParts = z.input<typeof removePartsSchema>;

/** PUT /api/parts/:id/photo; null takes it away. */
export const photoBodySchema = z.strictObject({ photo: photoSchema.nullable() });

/** PUT /api/lots/:id: a new lot where `version` is 0, else the next version of that one. */
export const saveLotSchema = z.strictObject({ version: z.int().min(0), lot: writtenLotSchema });

/** POST /api/parts/files: whether a file was taken in before. */
export const askFileSchema = z.strictObject({ digest: digestSchema });
export const fileTakenSchema = z.object({ takenAt: z.iso.datetime().nullable(), parts: z.int().min(0) });
export type FileTaken = z.infer<typeof fileTakenSchema>;

/** What every write of parts is answered with: how many it changed. */
export const partsReceiptSchema = z.object({ changed: z.int().min(0) });
export type PartsReceipt = z.infer<typeof partsReceiptSchema>;
