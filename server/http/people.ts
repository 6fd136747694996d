import { Router } from 'express';
import { giveLinkSchema, rigPeopleSchema, setPersonSchema, type RigPeople } from '@vast-surge/contract';
import { findRig } from '../db/rigs.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import type { LinkMaker } from '../opening/links.ts';
import { addLink, findAccount, forget, isAdministered, people, revokeDevice, setEnded, setRoles } from '../people/accounts.ts';
import { auditCsv, auditPage, checkAudit, noteVisitor } from '../people/audit.ts';
import { peopleOfRig, setPeopleOfRig } from '../people/rig-people.ts';
import { visitorNow } from '../people/visitor.ts';
import { HttpFault } from './fault.ts';
import { idIn, pageIn, textOf } from './query.ts';
import { bodyOf, found, idOf, writesUnkept, wrongFields } from './write.ts';

/** @throws HttpFault where nobody would be left to give roles */
async function expectAdministered(db: Queryable, but: string): Promise<void> {
  if (!(await isAdministered(db, but)))
    throw new HttpFault('conflict', [], 'Nobody else administers this workshop: give that role to somebody first.');
}

export function peopleRoutes(pool: Pool, links: LinkMaker, onRevoked: () => void): Router {
  const routes = Router();
  routes.get('/', async (_req, res) => {
    res.json(await people(pool));
  });
  routes.post(
    '/links',
    writesUnkept(pool, (req) => {
      const asked = bodyOf(giveLinkSchema, req.body);
      return async (client) => {
        const by = visitorNow()?.account.id ?? null;
        if (asked.kind === 'password') found(await findAccount(client, asked.account), 'person');
        const link =
          asked.kind === 'account'
            ? await addLink(client, { kind: 'account', roles: asked.roles, by })
            : await addLink(client, { kind: 'password', account: asked.account, by });
        await noteVisitor(client, asked);
        return { status: 201, body: await links(link) };
      };
    }),
  );
  routes.get('/rigs/:id', async (req, res) => {
    res.json({ accounts: await peopleOfRig(pool, idOf(req.params.id, 'rig')) } satisfies RigPeople);
  });
  routes.put(
    '/rigs/:id',
    writesUnkept(pool, (req) => {
      const id = idOf(req.params['id'], 'rig');
      const asked = bodyOf(rigPeopleSchema, req.body);
      return async (client) => {
        found(await findRig(client, id), 'rig');
        for (const [n, account] of asked.accounts.entries())
          if (!(await findAccount(client, account))) throw wrongFields([{ path: `accounts[${n}]`, reason: 'is nobody here' }]);
        await setPeopleOfRig(client, id, asked.accounts);
        await noteVisitor(client, asked);
        return { status: 200, body: { accounts: await peopleOfRig(client, id) } satisfies RigPeople };
      };
    }),
  );
  routes.patch(
    '/:id',
    writesUnkept(
      pool,
      (req) => {
        const id = idOf(req.params['id'], 'person');
        const asked = bodyOf(setPersonSchema, req.body);
        return async (client) => {
          const { account } = found(await findAccount(client, id), 'person');
          const goes = asked.ended === true || (asked.roles !== undefined && !asked.roles.includes('administers'));
          if (goes && account.roles.includes('administers')) await expectAdministered(client, id);
          if (asked.roles) await setRoles(client, id, asked.roles);
          if (asked.ended !== undefined) {
            if (account.name === null) throw wrongFields([{ path: 'ended', reason: 'cannot be set: the name was taken out' }]);
            await setEnded(client, id, asked.ended);
          }
          await noteVisitor(client, asked);
          return { status: 200, body: await people(client) };
        };
      },
      onRevoked,
    ),
  );
  routes.delete(
    '/:id',
    writesUnkept(
      pool,
      (req) => {
        const id = idOf(req.params['id'], 'person');
        return async (client) => {
          const { account } = found(await findAccount(client, id), 'person');
          if (account.roles.includes('administers')) await expectAdministered(client, id);
          await forget(client, id);
          return { status: 200, body: await people(client) };
        };
      },
      onRevoked,
    ),
  );
  routes.delete(
    '/devices/:id',
    writesUnkept(
      pool,
      (req) => {
        const id = idOf(req.params['id'], 'device');
        return async (client) => {
          if (!(await revokeDevice(client, id, null))) found(null, 'device');
          return { status: 200, body: await people(client) };
        };
      },
      onRevoked,
    ),
  );
  return routes;
}

export function auditRoutes(pool: Pool): Router {
  const routes = Router();
  routes.get('/', async (req, res) => {
    const before = textOf(req, 'before');
    if (before !== '' && !/^\d{1,15}$/.test(before))
      throw wrongFields([{ path: 'before', reason: 'must be the number of an entry' }]);
    const { limit } = pageIn(req);
    res.json(
      await auditPage(pool, {
        words: textOf(req, 'q'),
        who: idIn(req, 'who'),
        before: before === '' ? null : Number(before),
        limit,
      }),
    );
  });
  routes.get('/check', async (_req, res) => {
    res.json(await checkAudit(pool));
  });
  routes.get('/file', async (_req, res) => {
    res.type('text/csv').attachment(`audit-${new Date().toISOString().slice(0, 10)}.csv`);
    for await (const line of auditCsv(pool)) if (!res.write(line)) await new Promise((then) => res.once('drain', then));
    res.end();
  });
  return routes;
}
