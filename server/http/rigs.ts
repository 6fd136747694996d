import { isDeepStrictEqual } from 'node:util';
import { Router } from 'express';
import {
  archiveRigSchema,
  closeRevisionSchema,
  createRigSchema,
  rigSorts,
  saveRigSchema,
  type PageOf,
  type RigHead,
} from '@vast-surge/contract';
import { documentData, type KeptDocument } from '@vast-surge/core/format';
import type { Waiver } from '@vast-surge/core/rig';
import { closeRevision, findRevision, listRevisions } from '../db/revisions.ts';
import { archiveRig, findRig, insertRig, lockRig, updateRig } from '../db/rigs.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { countRigs, putUses, rigHeads, rigUses, staleRigs } from '../db/heads.ts';
import type { RigHeads } from '../jobs/heads.ts';
import { noteBeside } from '../people/audit.ts';
import { expectRigOpen } from '../people/rig-people.ts';
import { visitorNow } from '../people/visitor.ts';
import { HttpFault } from './fault.ts';
import { oneOf, pageIn, textOf } from './query.ts';
import { bodyOf, found, idOf, writes } from './write.ts';

/** A document as it is sent: one that cannot be read goes out as it is kept, and the page says so. */
const wire = <T extends { document: KeptDocument }>({ document, ...rest }: T) => ({
  ...rest,
  document: documentData(document),
});

/** Locks the rig and checks that the request builds on what it is now. @throws HttpFault conflict, not_found, not_allowed */
export async function expectVersion(client: Queryable, id: string, version: number): Promise<void> {
  // Whatever builds on a rig comes through here.
  await expectRigOpen(client, id);
  const current = found(await lockRig(client, id), 'rig');
  if (current !== version)
    throw new HttpFault('conflict', [{ path: 'version', reason: `is ${version}, and the rig is at ${current}` }]);
}

/** What stands waived in a rig as it is kept; nothing of one that cannot be read. */
async function waiversOf(client: Queryable, id: string): Promise<readonly Waiver[]> {
  const kept = (await findRig(client, id))?.document;
  return kept?.ok === true ? kept.document.sheet.waivers : [];
}

/** Ratings that somebody waived, or does no longer, are acts of their own in the audit: by their ids, for names and reasons stand in the rig. */
async function noteWaivers(client: Queryable, id: string, before: readonly Waiver[], after: readonly Waiver[]): Promise<void> {
  const notIn = (list: readonly Waiver[]) => (waiver: Waiver) => !list.some((other) => isDeepStrictEqual(other, waiver));
  const waived = after.filter(notIn(before));
  const withdrawn = before.filter(({ limit }) => !after.some((w) => w.limit === limit));
  if (waived.length > 0)
    await noteBeside(client, 'waived ratings', id, { limits: waived.map(({ limit, upTo }) => ({ limit, upTo })) });
  if (withdrawn.length > 0) await noteBeside(client, 'withdrew waivers', id, { limits: withdrawn.map(({ limit }) => limit) });
}

/** So long a list waits for numbers that are not there yet, ms; what is missing then comes with the next look. */
const patience = 1500;

export function rigRoutes(pool: Pool, heads: RigHeads): Router {
  const routes = Router();
  routes.get('/', async (req, res) => {
    const asked = {
      archived: oneOf(req, 'archived', ['true', 'false'], 'false') === 'true',
      words: textOf(req, 'q'),
      sort: oneOf(req, 'sort', rigSorts, 'changed'),
      program: heads.program,
      ...pageIn(req),
    };
    let page = await rigHeads(pool, asked);
    if (page.stale.length > 0) {
      await heads.freshen(page.stale, patience);
      page = await rigHeads(pool, asked);
    }
    const body: PageOf<RigHead> = {
      rows: page.rows,
      next: page.next,
      total: await countRigs(pool, asked.archived, asked.words),
    };
    res.json(body);
  });
  routes.get('/uses', async (_req, res) => {
    const stale = await staleRigs(pool, heads.program, 200);
    await heads.freshen(
      stale.map(({ id }) => id),
      patience,
    );
    res.json(await rigUses(pool));
  });
  routes.post(
    '/',
    writes(
      pool,
      (req) => {
        const { id, document, branchedFrom } = bodyOf(createRigSchema, req.body);
        return async (client) => {
          if (branchedFrom !== undefined && !(await findRevision(client, branchedFrom)))
            throw new HttpFault('bad_input', [{ path: 'branchedFrom', reason: 'is not a revision that is kept here' }]);
          const made = await insertRig(client, id, document, branchedFrom ?? null);
          if (!made) throw new HttpFault('conflict', [{ path: 'id', reason: 'is that of a rig that is here already' }]);
          await noteWaivers(client, id, [], document.sheet.waivers);
          return { status: 201, body: made };
        };
      },
      () => heads.poke(),
    ),
  );
  routes.get('/:id', async (req, res) => {
    res.json(wire(found(await findRig(pool, idOf(req.params.id, 'rig')), 'rig')));
  });
  routes.put(
    '/:id',
    writes(
      pool,
      (req) => {
        const id = idOf(req.params['id'], 'rig');
        const { version, document } = bodyOf(saveRigSchema, req.body);
        return async (client) => {
          await expectVersion(client, id, version);
          const before = visitorNow() ? await waiversOf(client, id) : [];
          const saved = found(await updateRig(client, id, version, document), 'rig');
          await putUses(client, id, document);
          await noteWaivers(client, id, before, document.sheet.waivers);
          return { status: 200, body: saved };
        };
      },
      () => heads.poke(),
    ),
  );
  routes.patch(
    '/:id',
    writes(pool, (req) => {
      const id = idOf(req.params['id'], 'rig');
      const { archived } = bodyOf(archiveRigSchema, req.body);
      return async (client) => ({ status: 200, body: found(await archiveRig(client, id, archived), 'rig') });
    }),
  );
  routes.get('/:id/revisions', async (req, res) => {
    const id = idOf(req.params.id, 'rig');
    found(await findRig(pool, id), 'rig');
    res.json(await listRevisions(pool, id));
  });
  routes.post(
    '/:id/revisions',
    writes(pool, (req) => {
      const rigId = idOf(req.params['id'], 'rig');
      const { id, version, name } = bodyOf(closeRevisionSchema, req.body);
      return async (client) => {
        await expectVersion(client, rigId, version);
        const revision = found(await closeRevision(client, id, rigId, name ?? null), 'rig');
        return { status: revision.id === id ? 201 : 200, body: revision };
      };
    }),
  );
  return routes;
}

export function revisionRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/:id', async (req, res) => {
    res.json(wire(found(await findRevision(pool, idOf(req.params.id, 'revision')), 'revision')));
  });
  return routes;
}
