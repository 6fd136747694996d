import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Router } from 'express';
import { setOpeningSchema, type Opened } from '@vast-surge/contract';
import type { Pool } from '../db/pool.ts';
import { messageOf } from '../fail.ts';
import { availableAddresses } from '../opening/addresses.ts';
import { certificateFor, NoCertificate } from '../opening/certificate.ts';
import { givenLink } from '../opening/links.ts';
import { keysIn, type WorkshopDoors } from '../opening/doors.ts';
import { setOpening } from '../opening/settings.ts';
import { HttpFault } from './fault.ts';
import { bodyOf, found, writesUnkept, wrongFields } from './write.ts';

export function openingRoutes(pool: Pool, doors: WorkshopDoors, keep: string | null): Router {
  const routes = Router();
  routes.get('/', (_req, res) => {
    res.json(doors.opened());
  });
  routes.get('/authority', async (_req, res) => {
    const file = keep === null ? null : await readFile(join(keysIn(keep), 'authority.crt'), 'utf8').catch(() => null);
    res.type('application/x-x509-ca-cert').attachment('vast-surge-authority.crt').send(found(file, 'authority'));
  });
  routes.put(
    '/',
    writesUnkept(
      pool,
      async (req) => {
        const { opening } = bodyOf(setOpeningSchema, req.body);
        if (opening) {
          const has = availableAddresses().map(({ address }) => address);
          const wrong = opening.addresses.findIndex((address) => !has.includes(address));
          if (wrong >= 0)
            throw wrongFields([
              {
                path: `opening.addresses[${wrong}]`,
                reason: `must be an address of this machine: ${has.join(', ') || 'it has none'}`,
              },
            ]);
          if (keep === null)
            throw new HttpFault('bad_input', [], 'This server has no data folder for its keys: start it by ./surge start.');
          try {
            await certificateFor(keysIn(keep), [...opening.names, ...opening.addresses]);
          } catch (error) {
            if (error instanceof NoCertificate) throw new HttpFault('bad_input', [], messageOf(error));
            throw error;
          }
        }
        return async (client) => {
          const first = await setOpening(client, opening);
          const answer: Opened = { ...doors.opened(), opening, first: null };
          if (!opening || !first) return { status: 200, body: answer };
          return { status: 200, body: { ...answer, first: await givenLink(doors.base(opening), first.token, first.expiresAt) } };
        };
      },
      // The answer goes out before the doors change: the page that asked may have to sign in from then on.
      () => setTimeout(() => void doors.look().catch(() => undefined), 300).unref(),
    ),
  );
  return routes;
}
