import { Router } from 'express';
import type { z } from 'zod';
import { fieldIssues, forbiddenKey } from '@vast-surge/core/format';
import { archiveRigSchema, createRigSchema, rigIdSchema, saveRigSchema } from '@vast-surge/contract';
import { archiveRig, findRig, insertRig, listRigs, updateRig } from '../db/rigs.ts';
import type { Queryable } from '../db/pool.ts';
import { HttpFault } from './fault.ts';

/** The body as its schema wants it. @throws HttpFault naming every field that is wrong */
function bodyOf<T extends z.ZodType>(schema: T, body: unknown): z.output<T> {
  if (body === undefined) throw new HttpFault('unsupported_type');
  const key = forbiddenKey(body);
  if (key !== null) throw new HttpFault('bad_input', [{ path: key, reason: 'is a key that no request has' }]);
  const read = schema.safeParse(body);
  if (read.success) return read.data;
  const fields = fieldIssues(read.error).map(({ path, reason }) => ({ path, reason }));
  throw new HttpFault(
    'bad_input',
    fields,
    fields
      .map((f) => `${f.path} ${f.reason}`)
      .join('; ')
      .slice(0, 1000),
  );
}

function idOf(value: unknown): string {
  const read = rigIdSchema.safeParse(value);
  if (!read.success)
    throw new HttpFault('not_found', [{ path: 'id', reason: 'is not the id of a rig' }], 'There is no rig under this address.');
  return read.data;
}

const found = <T>(value: T | null): T => {
  if (value === null) throw new HttpFault('not_found', [], 'There is no rig under this address.');
  return value;
};

export function rigRoutes(db: Queryable): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    res.json(await listRigs(db));
  });
  routes.post('/', async (req, res) => {
    const { id, document } = bodyOf(createRigSchema, req.body);
    const { rig, made } = await insertRig(db, id, document);
    res.status(made ? 201 : 200).json(found(rig));
  });
  routes.get('/:id', async (req, res) => {
    res.json(found(await findRig(db, idOf(req.params.id))));
  });
  routes.put('/:id', async (req, res) => {
    const id = idOf(req.params.id);
    const { version, document } = bodyOf(saveRigSchema, req.body);
    const saved = await updateRig(db, id, version, document);
    if (saved) {
      res.json(saved);
      return;
    }
    const current = found(await findRig(db, id));
    throw new HttpFault('conflict', [{ path: 'version', reason: `is ${version}, and the rig is at ${current.version}` }]);
  });
  routes.patch('/:id', async (req, res) => {
    const id = idOf(req.params.id);
    const { archived } = bodyOf(archiveRigSchema, req.body);
    res.json(found(await archiveRig(db, id, archived)));
  });
  return routes;
}
