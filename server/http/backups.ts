import { access, constants, mkdir, stat } from 'node:fs/promises';
import { Router } from 'express';
import { setBackupsSchema, type Backups } from '@vast-surge/contract';
import { backupSettings, lastVerifiedAt, listBackups, setBackups } from '../db/backups.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { messageOf } from '../fail.ts';
import { HttpFault } from './fault.ts';
import { bodyOf, writes } from './write.ts';

const standing = async (db: Queryable): Promise<Backups> => ({
  settings: await backupSettings(db),
  lastVerifiedAt: await lastVerifiedAt(db),
  list: await listBackups(db),
});

/** Sees that a folder is there and can be written, before anything relies on it. @throws HttpFault */
async function expectFolder(folder: string): Promise<void> {
  try {
    // One level at the most: a mistyped path is told and not made.
    if (!(await stat(folder).catch(() => null))) await mkdir(folder);
    if (!(await stat(folder)).isDirectory()) throw new Error('it is not a folder');
    await access(folder, constants.W_OK | constants.X_OK);
  } catch (error) {
    const reason = `cannot be written: ${messageOf(error)}`;
    throw new HttpFault('bad_input', [{ path: 'settings.folder', reason }], `The folder ${folder} ${reason}`);
  }
}

export function backupRoutes(pool: Pool, onSet: () => void): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    res.json(await standing(pool));
  });
  routes.put(
    '/',
    writes(
      pool,
      async (req) => {
        const { settings } = bodyOf(setBackupsSchema, req.body);
        if (settings) await expectFolder(settings.folder);
        return async (client) => {
          await setBackups(client, settings);
          return { status: 200, body: await standing(client) };
        };
      },
      onSet,
    ),
  );
  return routes;
}
