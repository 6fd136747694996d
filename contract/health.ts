import { z } from 'zod';

/** GET /api/health: how the program stands. 503 where it cannot work. */
export const healthSchema = z.object({
  server: z.literal('up'),
  database: z.enum(['up', 'away', 'read-only']),
  version: z.string().max(40),
  /** The script that the page of this server is made of; a page with another one is of an older version. */
  page: z.string().max(200).nullable(),
  /** The last migration of the database. */
  schema: z.string().max(200).nullable(),
  /** The disk of the data folder, bytes; null where the server has none of its own. */
  disk: z.object({ free: z.number(), total: z.number(), full: z.boolean(), writable: z.boolean() }).nullable(),
  /** When the last backup was made that was read back. */
  lastBackupAt: z.iso.datetime().nullable(),
  /** Whether backups are made by themselves. */
  backsUp: z.boolean(),
});
export type Health = z.infer<typeof healthSchema>;
