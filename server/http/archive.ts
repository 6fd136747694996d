import { Router, type Response } from 'express';
import { archiveFileLimit, importArchiveSchema, previewArchiveSchema, type Preview } from '@vast-surge/contract';
import type { Workshop } from '@vast-surge/core/format';
import { packWorkshop, unpackWorkshop } from '../archive/archive.ts';
import { benchPreview, previewOf } from '../archive/preview.ts';
import type { Pool } from '../db/pool.ts';
import { inTransaction } from '../db/transaction.ts';
import { importWorkshop, readWorkshop } from '../db/workshop.ts';
import { HttpFault } from './fault.ts';
import { bodyOf, idOf, writes } from './write.ts';

/** Room for the base64 of the largest archive and its choices. */
export const archiveBodyLimit = Math.ceil((archiveFileLimit * 4) / 3) + 4 * 1024 * 1024;

/** @throws HttpFault naming the file and what is wrong with it */
function workshopIn(base64: string): Workshop {
  const read = unpackWorkshop(Buffer.from(base64, 'base64'));
  if (read.ok) return read.workshop;
  const fields = read.issues.map(({ path, reason }) => ({ path, reason }));
  throw new HttpFault(
    'bad_input',
    fields,
    fields
      .map((f) => `${f.path} ${f.reason}`)
      .join('; ')
      .slice(0, 1000),
  );
}

const oneMoment = (pool: Pool, rigId: string | null) =>
  inTransaction(pool, (client) => readWorkshop(client, rigId), 'repeatable read');

function send(res: Response, workshop: Workshop, name: string) {
  res
    .type('application/zip')
    .attachment(name)
    .send(Buffer.from(packWorkshop(workshop)));
}

export function archiveRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    send(res, await oneMoment(pool, null), 'workshop.zip');
  });
  routes.get('/rigs/:id', async (req, res) => {
    const workshop = await oneMoment(pool, idOf(req.params.id, 'rig'));
    if (workshop.rigs.length === 0) throw new HttpFault('not_found', [], 'There is no rig under this address.');
    send(res, workshop, 'rig.zip');
  });
  routes.post('/preview', async (req, res) => {
    const archive = workshopIn(bodyOf(previewArchiveSchema, req.body).archive);
    const kept = await oneMoment(pool, null);
    const body: Preview = { entries: previewOf(archive, kept), bench: benchPreview(archive, kept) };
    res.json(body);
  });
  routes.post(
    '/import',
    writes(pool, (req) => {
      const { archive, choices, bench } = bodyOf(importArchiveSchema, req.body);
      const workshop = workshopIn(archive);
      return async (client) => ({ status: 200, body: await importWorkshop(client, workshop, choices, bench) });
    }),
  );
  return routes;
}
