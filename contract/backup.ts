import { z } from 'zod';
import { isAbsolute } from './path.ts';

/** Where backups are made by themselves, how often, and how many of them are kept. */
export const backupSettingsSchema = z.strictObject({
  folder: z
    .string({ error: () => 'must be a folder' })
    .trim()
    .max(500, { error: () => 'must be at most 500 characters' })
    .refine(isAbsolute, { error: () => 'must be the whole path of a folder of this machine, such as /home/me/backups' }),
  /** Hours from one to the next. */
  every: z
    .number({ error: () => 'must be a number of hours' })
    .min(0.25, { error: () => 'must be from 0.25 to 8760 hours' })
    .max(8760, { error: () => 'must be from 0.25 to 8760 hours' }),
  keep: z
    .int({ error: () => 'must be a whole number' })
    .min(1, { error: () => 'must be from 1 to 1000' })
    .max(1000, { error: () => 'must be from 1 to 1000' }),
});
export type BackupSettings = z.infer<typeof backupSettingsSchema>;

export const backupKinds = ['asked', 'scheduled', 'download', 'before-restore'] as const;

/** A backup that was made and read back; `failed` says why one could not be made. */
export const backupRowSchema = z.object({
  id: z.uuid(),
  madeAt: z.iso.datetime(),
  kind: z.enum(backupKinds),
  path: z.string().max(1000),
  bytes: z.int().min(0),
  records: z.int().min(0),
  failed: z.string().max(500).nullable(),
});
export type BackupRow = Readonly<z.infer<typeof backupRowSchema>>;

/** GET /api/backups, and the answer to PUT: null settings where they are off. */
export const backupsSchema = z.object({
  settings: backupSettingsSchema.nullable(),
  lastVerifiedAt: z.iso.datetime().nullable(),
  list: z.array(backupRowSchema).max(20),
});
export type Backups = z.infer<typeof backupsSchema>;

/** PUT /api/backups */
export const setBackupsSchema = z.strictObject({ settings: backupSettingsSchema.nullable() });
