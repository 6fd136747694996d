import { rm } from 'node:fs/promises';
import { once } from 'node:events';
import { basename, dirname } from 'node:path';
import { Router, type Response } from 'express';
import { importArchiveSchema, type Uploaded } from '@vast-surge/contract';
import type { Archives } from '../archive/archives.ts';
import { noteBackup } from '../db/backups.ts';
import type { Pool } from '../db/pool.ts';
import { findRig } from '../db/rigs.ts';
import { HttpFault } from './fault.ts';
import { bodyOf, found, idOf, keyOf, requestOf } from './write.ts';

/** Sends a file that was made for this answer, and removes it. */
async function sendFile(res: Response, path: string, name?: string): Promise<void> {
  // Named below its folder, so that a temporary folder below a dotted one serves as well.
  res
    .type('application/zip')
    // Without a name it is called as the page that asks for it says.
    .attachment(name)
    .set('Cache-Control', 'no-store')
    .sendFile(basename(path), { root: dirname(path) });
  try {
    await Promise.race([once(res, 'finish'), once(res, 'close')]);
  } finally {
    await rm(path, { force: true });
  }
}

export function archiveRoutes(pool: Pool, archives: Archives): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    const path = await archives.passing();
    const { bytes, records } = await archives.backUp(path);
    await noteBackup(pool, { kind: 'download', path: 'workshop.zip', bytes, records });
    await sendFile(res, path, 'workshop.zip');
  });
  routes.get('/rigs/:id', async (req, res) => {
    const id = idOf(req.params.id, 'rig');
    found(await findRig(pool, id), 'rig');
    const path = await archives.passing();
    await archives.backUp(path, id);
    await sendFile(res, path);
  });
  routes.post('/uploads', async (req, res) => {
    if (!req.is('application/zip')) throw new HttpFault('unsupported_type', [], 'An archive is sent as application/zip.');
    const body: Uploaded = await archives.take(req);
    res.status(201).json(body);
  });
  routes.post('/uploads/:id/import', async (req, res) => {
    const asked = bodyOf(importArchiveSchema, req.body);
    const id = idOf(req.params.id, 'file');
    const answer = await archives.bringIn(id, { key: keyOf(req), request: requestOf(req), ...asked });
    if (!answer) throw new HttpFault('not_found', [], 'This file is no longer kept here: choose it again. Nothing was written.');
    res.status(answer.status).json(answer.body);
  });
  return routes;
}
