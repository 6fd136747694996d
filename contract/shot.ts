import { z } from 'zod';
import { nameUpTo, textUpTo } from '@vast-surge/core/field';
import { predictedSchema, shotSchema, type Shot, type Values } from '@vast-surge/core/shot';
import { rigIdSchema } from './rig.ts';
import { runIdSchema } from './run.ts';

const idSchema = z.uuid({ error: () => 'must be the id of a shot' });
const versionSchema = z.int({ error: () => 'must be a whole number' }).positive({ error: () => 'must be above 0' });

/** POST /api/shots: a shot of what the rig is now, or was in a run. */
export const createShotSchema = z.strictObject({
  id: idSchema,
  rigId: rigIdSchema,
  version: versionSchema,
  runId: runIdSchema.nullable(),
  shot: shotSchema,
});
export type CreateShot = z.input<typeof createShotSchema>;

/** PUT /api/shots/:id */
export const saveShotSchema = z.strictObject({ version: versionSchema, shot: shotSchema });
export type SaveShot = z.input<typeof saveShotSchema>;

/** PATCH /api/shots/:id: off the list, or back. */
export const removeShotSchema = z.strictObject({ removed: z.boolean({ error: () => 'must be true or false' }) });

/** Most characters of one file of a shot. */
export const shotFileLimit = 12 * 1024 * 1024;

/** Samples as they travel: base64 of 64-bit floating-point numbers, little end first. */
const samplesSchema = z.base64({ error: () => 'must be base64' }).max(shotFileLimit);

export const traceContentSchema = z.strictObject({
  /** How many samples the file had. */
  samples: z.int().min(2),
  said: z.array(z.string().max(400)).max(10),
  channels: z
    .array(
      z.strictObject({
        name: textUpTo(60),
        quantity: z.enum(['voltage', 'current']),
        /** Thinned for drawing: no spike is lost. */
        t: samplesSchema,
        y: samplesSchema,
        /** Means of neighbours, for fits. */
        meanT: samplesSchema,
        meanY: samplesSchema,
      }),
    )
    .min(1)
    .max(4),
});
export type TraceContent = z.infer<typeof traceContentSchema>;

/** Most characters of a photo of a shot, as a data URL. */
export const shotPhotoLimit = 2_000_000;

const photoSchema = z
  .string()
  .max(shotPhotoLimit, { error: () => 'must be at most 1.5 MB' })
  .regex(/^data:image\/(jpeg|png|webp);base64,[A-Za-z0-9+/=]+$/, { error: () => 'must be a JPEG, PNG or WebP picture' });

/** POST /api/shots/:id/files */
export const addFileSchema = z.discriminatedUnion('kind', [
  z.strictObject({ id: z.uuid(), kind: z.literal('trace'), name: nameUpTo(120), content: traceContentSchema }),
  z.strictObject({ id: z.uuid(), kind: z.literal('photo'), name: nameUpTo(120), content: photoSchema }),
]);
export type AddFile = z.infer<typeof addFileSchema>;

export const shotFileHeadSchema = z.object({
  id: z.uuid(),
  kind: z.enum(['trace', 'photo']),
  name: z.string(),
  bytes: z.int(),
  addedAt: z.iso.datetime(),
});
export type ShotFileHead = Readonly<z.infer<typeof shotFileHeadSchema>>;

/** GET /api/shots/files/:id */
export const shotFileSchema = z.discriminatedUnion('kind', [
  shotFileHeadSchema.extend({ kind: z.literal('trace'), content: traceContentSchema }),
  shotFileHeadSchema.extend({ kind: z.literal('photo'), content: z.string() }),
]);
export type ShotFile = z.infer<typeof shotFileSchema>;

/** A shot as the server keeps it. */
export const storedShotSchema = z.object({
  id: z.uuid(),
  rigId: z.uuid(),
  rigName: z.string(),
  revisionId: z.uuid(),
  revision: z.int().positive(),
  runId: z.uuid().nullable(),
  version: z.int().positive(),
  updatedAt: z.iso.datetime(),
  shot: shotSchema,
  predicted: predictedSchema,
  files: z.array(shotFileHeadSchema),
});
export interface StoredShot {
  readonly id: string;
  readonly rigId: string;
  readonly rigName: string;
  readonly revisionId: string;
  readonly revision: number;
  readonly runId: string | null;
  readonly version: number;
  readonly updatedAt: string;
  readonly shot: Shot;
  readonly predicted: Values;
  readonly files: readonly ShotFileHead[];
}

/** GET /api/shots/rigs: the rigs that have shots on the list. */
export const shotRigSchema = z.object({ id: z.uuid(), name: z.string(), shots: z.int().min(1) });
export type ShotRig = Readonly<z.infer<typeof shotRigSchema>>;
