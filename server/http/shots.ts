import { Router } from 'express';
import {
  addFileSchema,
  createShotSchema,
  removeShotSchema,
  saveShotSchema,
  shotPhotoLimit,
  type AddFile,
  type PageOf,
  type StoredShot,
} from '@vast-surge/contract';
import { outcomes } from '@vast-surge/core/run';
import type { KeptRevision } from '../db/revisions.ts';
import { closeRevision, findRevision } from '../db/revisions.ts';
import { findRun } from '../db/runs.ts';
import {
  countShots,
  findFile,
  findShot,
  insertFile,
  insertShot,
  listShots,
  removeFile,
  removeShot,
  rigsWithShots,
  updateShot,
} from '../db/shots.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { campaignOfShot, predictedOf } from './campaigns.ts';
import { expectRigOpen } from '../people/rig-people.ts';
import { HttpFault } from './fault.ts';
import { idIn, oneOf, pageIn, textOf } from './query.ts';
import { expectVersion } from './rigs.ts';
import { traceIssue } from '../trace.ts';
import { bodyOf, found, idOf, pictureOf, writes, wrongFields } from './write.ts';

/** The revision a shot is of: that of its run, or what the rig is now. @throws HttpFault */
async function revisionOf(client: Queryable, rigId: string, version: number, runId: string | null): Promise<KeptRevision> {
  if (runId !== null) {
    const run = await findRun(client, runId);
    if (!run || run.rigId !== rigId) throw new HttpFault('bad_input', [{ path: 'runId', reason: 'is not a run of this rig' }]);
    return found(await findRevision(client, run.revisionId), 'revision');
  }
  await expectVersion(client, rigId, version);
  const head = found(await closeRevision(client, crypto.randomUUID(), rigId, null), 'rig');
  return found(await findRevision(client, head.id), 'revision');
}

/** A file as it is kept: a trace whose numbers hang together, or a picture that is one. @throws HttpFault */
async function checkedFile(file: AddFile): Promise<AddFile> {
  if (file.kind === 'photo') return { ...file, content: await pictureOf(file.content, shotPhotoLimit, 'content') };
  const issue = traceIssue(file.content);
  if (issue) throw wrongFields([issue]);
  return file;
}

export function shotRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (req, res) => {
    const asked = {
      rigId: idIn(req, 'rig'),
      outcome: oneOf(req, 'outcome', ['', ...outcomes], ''),
      words: textOf(req, 'q'),
      ...pageIn(req, 100),
    };
    const body: PageOf<StoredShot> = { ...(await listShots(pool, asked)), total: await countShots(pool, asked) };
    res.json(body);
  });
  routes.get('/rigs', async (_req, res) => {
    res.json(await rigsWithShots(pool));
  });
  routes.post(
    '/',
    writes(pool, (req) => {
      const { id, rigId, version, runId, shot } = bodyOf(createShotSchema, req.body);
      return async (client) => {
        await expectRigOpen(client, rigId);
        const revision = await revisionOf(client, rigId, version, runId);
        const campaign = await campaignOfShot(client, rigId, shot);
        const made = await insertShot(client, {
          id,
          revisionId: revision.id,
          runId,
          shot,
          predicted: predictedOf(revision, shot, campaign),
        });
        if (!made) throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a shot that is here already' }]);
        return { status: 201, body: found(await findShot(client, id), 'shot') };
      };
    }),
  );
  routes.get('/files/:id', async (req, res) => {
    const file = found(await findFile(pool, idOf(req.params.id, 'file')), 'file');
    const content: unknown = file.kind === 'trace' ? JSON.parse(file.content) : file.content;
    res.json({ ...file, content });
  });
  routes.delete(
    '/files/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'file');
      return async (client) => {
        if (!(await removeFile(client, id))) found(null, 'file');
        return { status: 200, body: { id } };
      };
    }),
  );
  routes.get('/:id', async (req, res) => {
    res.json(found(await findShot(pool, idOf(req.params.id, 'shot')), 'shot'));
  });
  routes.put(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'shot');
      const { version, shot } = bodyOf(saveShotSchema, req.body);
      return async (client) => {
        const was = found(await findShot(client, id), 'shot');
        const revision = found(await findRevision(client, was.revisionId), 'revision');
        const campaign = await campaignOfShot(client, was.rigId, shot);
        if ((await updateShot(client, id, version, shot, predictedOf(revision, shot, campaign))) === null)
          throw new HttpFault(
            'conflict',
            [{ path: 'version', reason: `is ${version}, and the shot is at ${was.version}` }],
            'This shot was changed elsewhere in the meantime.',
          );
        return { status: 200, body: found(await findShot(client, id), 'shot') };
      };
    }),
  );
  routes.patch(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'shot');
      const { removed } = bodyOf(removeShotSchema, req.body);
      return async (client) => {
        if (!(await removeShot(client, id, removed))) found(null, 'shot');
        return { status: 200, body: { id } };
      };
    }),
  );
  routes.post(
    '/:id/files',
    writes(pool, async (req) => {
      const id = idOf(req.params['id'], 'shot');
      const file = await checkedFile(bodyOf(addFileSchema, req.body));
      return async (client) => {
        found(await findShot(client, id), 'shot');
        if (!(await insertFile(client, id, file)))
          throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a file that is here already' }]);
        return { status: 201, body: found(await findShot(client, id), 'shot') };
      };
    }),
  );
  return routes;
}
