import { readFileSync } from 'node:fs';
import { rm, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { RequestHandler } from 'express';
import type { Health } from '@vast-surge/contract';
import { backupSettings, lastVerifiedAt } from '../db/backups.ts';
import type { Pool } from '../db/pool.ts';

export interface HealthOptions {
  readonly db: Pool;
  readonly version: string;
  /** The folder of data: its disk is looked at, and whether it can be written. */
  readonly keep: string | null;
  readonly webRoot?: string;
}

/** Below this the disk counts as full: the database stops before the last byte. */
const fullBelow = 64 * 1024 * 1024;
/** A look at disk and folder serves so long, ms. */
const lookLife = 5000;

async function lookAtDisk(folder: string): Promise<Health['disk']> {
  try {
    const { bavail, blocks, bsize } = await statfs(folder);
    const [free, total] = [bavail * bsize, blocks * bsize];
    const probe = join(folder, `.writable-${process.pid}`);
    const writable = await writeFile(probe, 'x').then(
      () => rm(probe, { force: true }).then(() => true),
      () => false,
    );
    return { free, total, full: free < fullBelow, writable };
  } catch {
    return null;
  }
}

async function lookAtDatabase(db: Pool): Promise<Pick<Health, 'database' | 'schema' | 'lastBackupAt' | 'backsUp'>> {
  try {
    const { rows } = await db.query<{ name: string; stuck: boolean }>(
      "select name, current_setting('transaction_read_only') = 'on' as stuck from migrations order by id desc limit 1",
    );
    return {
      database: rows[0]?.stuck ? 'read-only' : 'up',
      schema: rows[0]?.name ?? null,
      lastBackupAt: await lastVerifiedAt(db),
      backsUp: (await backupSettings(db)) !== null,
    };
  } catch {
    return { database: 'away', schema: null, lastBackupAt: null, backsUp: false };
  }
}

/** The name of the page's own script, which bears a sum of all it is made of: a page that has another one is older. */
function pageOf(webRoot: string | undefined): string | null {
  if (webRoot === undefined) return null;
  try {
    return /\/assets\/([\w.-]+\.js)"/.exec(readFileSync(join(webRoot, 'index.html'), 'utf8'))?.[1] ?? null;
  } catch {
    return null;
  }
}

/** How the program stands: database, its tables, disk, and the last backup that reads back. 503 where it cannot work. */
export function health({ db, version, keep, webRoot }: HealthOptions): RequestHandler {
  let look: { readonly at: number; readonly page: string | null; readonly disk: Promise<Health['disk']> } | null = null;
  return async (_req, res) => {
    // The page as it is on the disk, for that is what is sent: it may have been built anew under a server that runs.
    if (look === null || Math.abs(Date.now() - look.at) > lookLife)
      look = { at: Date.now(), page: pageOf(webRoot), disk: keep === null ? Promise.resolve(null) : lookAtDisk(keep) };
    const [{ page }, found] = [look, await look.disk];
    const body: Health = { server: 'up', version, page, ...(await lookAtDatabase(db)), disk: found };
    const works = body.database === 'up' && found?.writable !== false;
    if (!works) res.set('Retry-After', '2');
    res
      .set('Cache-Control', 'no-store')
      .status(works ? 200 : 503)
      .json(body);
  };
}
