import { readdir, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Logger } from 'pino';
import type { BackupSettings } from '@vast-surge/contract';
import type { Written } from '../archive/backup.ts';
import { backupSettings, forgetBackup, noteBackup, scheduledBackups } from '../db/backups.ts';
import { isDatabaseAway, type Pool } from '../db/pool.ts';
import { messageOf } from '../fail.ts';
import type { Repeated } from './repeat.ts';
import { repeat } from './repeat.ts';

/** After one that failed it is tried again so soon, ms. */
const retryAfter = 10 * 60_000;

/** `vast-surge-2026-03-14T18-02-00.zip` */
export const backupName = (at: Date): string => `vast-surge-${at.toISOString().slice(0, 19).replace(/:/g, '-')}.zip`;

/** Whether one is due: the last that was made is older than the settings say, or the last that failed is long enough ago. */
export function isDue(
  { every }: BackupSettings,
  list: readonly { madeAt: string; failed: string | null }[],
  now: number,
): boolean {
  const made = list.find((b) => b.failed === null);
  const failed = list[0]?.failed ? list[0] : undefined;
  const age = (at: string) => now - Date.parse(at);
  // A clock that was set back makes the last one come from the future: that is no reason to wait for it.
  const recent = (at: string, within: number) => age(at) < within && age(at) > -60_000;
  if (failed && recent(failed.madeAt, retryAfter)) return false;
  return made === undefined || !recent(made.madeAt, every * 3_600_000);
}

/** Removes the oldest of those that were made here by themselves, beyond the number that is kept; nothing else in the folder is touched. */
async function thinOut(pool: Pool, { folder, keep }: BackupSettings): Promise<void> {
  const made = (await scheduledBackups(pool)).filter((b) => b.failed === null && dirname(b.path) === folder);
  for (const old of made.slice(keep)) {
    await rm(old.path, { force: true });
    await forgetBackup(pool, old.id);
  }
}

/** Makes one now, and sees to how many are kept. @returns its path, or null where it could not be made: then the row says why */
export async function backUpBySchedule(
  pool: Pool,
  backUp: (path: string) => Promise<Written>,
  settings: BackupSettings,
  now = new Date(),
): Promise<string | null> {
  const path = join(settings.folder, backupName(now));
  try {
    // What one that was killed in the middle left behind.
    for (const name of await readdir(settings.folder))
      if (/^vast-surge-[\dT-]+\.zip\.part$/.test(name)) await rm(join(settings.folder, name), { force: true });
    const { bytes, records } = await backUp(path);
    await noteBackup(pool, { kind: 'scheduled', path, bytes, records });
  } catch (error) {
    if (isDatabaseAway(error)) throw error;
    await noteBackup(pool, { kind: 'scheduled', path, failed: messageOf(error) });
    return null;
  }
  await thinOut(pool, settings);
  return path;
}

/** Makes backups when they are due, where that is switched on. Off by default. */
export function startBackups(pool: Pool, log: Logger, backUp: (path: string) => Promise<Written>, every = 60_000): Repeated {
  const job = repeat(every, async () => {
    try {
      const settings = await backupSettings(pool);
      if (!settings || !isDue(settings, await scheduledBackups(pool), Date.now())) return;
      if ((await backUpBySchedule(pool, backUp, settings)) === null) log.error('a scheduled backup could not be made');
    } catch (error) {
      if (isDatabaseAway(error)) {
        log.warn('the backup waits: the database does not answer');
        // What waits for a moment need not wait for the next round.
        setTimeout(() => job.poke(), Math.min(every, 5000)).unref();
      } else log.error({ err: error }, 'a scheduled backup failed');
    }
  });
  return job;
}
