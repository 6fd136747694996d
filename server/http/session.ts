import { Router, type Request } from 'express';
import QRCode from 'qrcode';
import {
  askLinkSchema,
  askPasskeySchema,
  changePasswordSchema,
  joinSchema,
  keepPasskeySchema,
  passkeySignInSchema,
  setFactorSchema,
  signInSchema,
  type Account,
  type Link,
  type Mine,
  type NewFactor,
  type Session,
} from '@vast-surge/contract';
import {
  accountNamed,
  addAccount,
  addDevice,
  addLink,
  deviceThatAsks,
  devicesOf,
  findAccount,
  findLink,
  forget,
  isAdministered,
  revokeDevice,
  revokeDevices,
  setFactor,
  setPassword,
  takeStep,
  takeLink,
  type FoundLink,
  type KeptAccount,
} from '../people/accounts.ts';
import { auditPage, noteAct, noteVisitor } from '../people/audit.ts';
import { addressOf, type Doors } from '../people/gate.ts';
import { newFactor, stepOf } from '../people/factor.ts';
import {
  keepPasskey,
  passkeySigned,
  passkeysOf,
  passkeyToAsk,
  passkeyToMake,
  removePasskey,
  removePasskeys,
} from '../people/passkeys.ts';
import { hashOf, isPassword } from '../people/password.ts';
import { studiesOfPerson } from '../db/studies.ts';
import { closedRigs, rigsOfPerson } from '../people/rig-people.ts';
import { beginSession, endSession } from '../people/sessions.ts';
import { Throttle } from '../people/throttle.ts';
import { visitorNow } from '../people/visitor.ts';
import type { Pool, Queryable } from '../db/pool.ts';
import { isTaken } from '../db/pool.ts';
import { inTransaction } from '../db/transaction.ts';
import type { LinkMaker } from '../opening/links.ts';
import { HttpFault } from './fault.ts';
import { bodyOf, idOf, writesUnkept, wrongFields } from './write.ts';

/** The visitor of a route that is for those who are signed in. @throws HttpFault alone, where there is nobody */
function visitor() {
  const now = visitorNow();
  if (now) return now;
  throw new HttpFault('not_found', [], 'There are no accounts: the workshop is not open to other devices.');
}

interface NewDevice {
  readonly device: string;
  readonly forGood: boolean;
}

/** Signs an account in on a device, within the transaction that let it. @returns the id of the device */
async function signedIn(db: Queryable, req: Request, account: string, { device, forGood }: NewDevice, act: string) {
  // Who signs in again on a device is one entry of the list, and the session before is worth nothing.
  const before = req.session.device;
  if (before !== undefined) await revokeDevice(db, before, null);
  const id = await addDevice(db, account, { name: device, forGood, address: addressOf(req) });
  await noteAct(db, { who: account, device: id, act, about: null });
  return id;
}

/** What a link is taken up with. @throws HttpFault naming what is missing */
async function accountByLink(
  db: Queryable,
  link: FoundLink,
  { name, password }: { readonly name: string | null; readonly password: string | null },
): Promise<string> {
  if (link.kind === 'device') return link.account ?? '';
  if (password === null) throw wrongFields([{ path: 'password', reason: 'is missing' }]);
  const kept = await hashOf(password);
  if (link.kind === 'password') {
    const account = link.account ?? '';
    await setPassword(db, account, kept);
    // A phone that is lost is lost with its app.
    await setFactor(db, account, null, 0);
    await removePasskeys(db, account);
    // Whoever needed a new one may have lost a device with the old one.
    await revokeDevices(db, account, null);
    return account;
  }
  if (name === null) throw wrongFields([{ path: 'name', reason: 'is missing' }]);
  try {
    return await addAccount(db, name, kept, link.roles);
  } catch (error) {
    if (isTaken(error)) throw wrongFields([{ path: 'name', reason: 'is that of somebody else here: take another' }]);
    throw error;
  }
}

/** @throws HttpFault where it is not a code of now, or was taken before */
async function expectCode(pool: Pool, { account, factor }: KeptAccount, code: string): Promise<void> {
  const step = factor === null ? null : stepOf(factor, code, Date.now());
  if (step !== null && (await takeStep(pool, account.id, step))) return;
  await noteAct(pool, { who: account.id, device: null, act: 'sign-in refused', about: null });
  throw wrongFields([
    {
      path: 'code',
      reason: step === null ? 'is not one of now: check the clock of the phone' : 'was used: wait for the next one',
    },
  ]);
}

export function sessionRoutes(pool: Pool, doors: Doors, links: LinkMaker): Router {
  const routes = Router();
  const throttle = new Throttle(pool);

  routes.get('/', async (_req, res) => {
    const now = visitorNow();
    const body: Session = {
      mode: doors.isOpen ? 'open' : 'alone',
      account: now?.account ?? null,
      device: now?.device ?? null,
      ...(now ? { closedRigs: await closedRigs(pool, now.account.id) } : {}),
    };
    res.set('Cache-Control', 'no-store').json(body);
  });

  const answer = (account: Account | null, device: string): Session => ({ mode: 'open', account, device });

  /** Once more the password of whoever is signed in. @throws HttpFault naming the field where it is another, or was tried too often */
  const expectPassword = async (req: Request, field: string, password: string): Promise<void> => {
    const { account, device } = visitor();
    const attempt = { name: account.name ?? account.id, address: addressOf(req), known: device };
    await throttle.begin(attempt);
    if (!(await isPassword(password, (await findAccount(pool, account.id))?.password ?? null)))
      throw wrongFields([{ path: field, reason: 'is not the password of this account' }]);
    await throttle.succeed(attempt);
  };

  /** A device that was signed in to this account before. */
  const knownOn = async (req: Request, account: Account | null): Promise<string | null> => {
    const id = req.session.device;
    const before = id === undefined ? null : await deviceThatAsks(pool, id);
    return before && before.device.revokedAt === null && before.account.id === account?.id ? before.device.id : null;
  };

  routes.post('/sign-in', async (req, res) => {
    const { name, password, code, ...device } = bodyOf(signInSchema, req.body);
    if (!doors.isOpen) visitor();
    const found = await accountNamed(pool, name);
    const attempt = { name, address: addressOf(req), known: await knownOn(req, found?.account ?? null) };
    await throttle.begin(attempt);
    const isRight = await isPassword(password, found?.account.endedAt === null ? found.password : null);
    if (!found || !isRight) {
      await noteAct(pool, { who: found?.account.id ?? null, device: null, act: 'sign-in refused', about: null });
      throw new HttpFault('wrong_sign_in');
    }
    if (found.factor !== null) {
      if (code === undefined) {
        await throttle.succeed(attempt);
        throw new HttpFault('code_needed');
      }
      await expectCode(pool, found, code);
    }
    await throttle.succeed(attempt);
    const id = await inTransaction(pool, (client) => signedIn(client, req, found.account.id, device, 'sign-in'));
    await beginSession(req, id, device.forGood);
    res.json(answer(found.account, id));
  });

  routes.post('/link', async (req, res) => {
    const { token } = bodyOf(askLinkSchema, req.body);
    const link = await findLink(pool, token);
    if (!link) throw new HttpFault('link_spent');
    const { kind, name, roles, expiresAt } = link;
    res.json({ kind, name, roles: [...roles], expiresAt } satisfies Link);
  });

  routes.post('/join', async (req, res) => {
    const { token, name, password, ...device } = bodyOf(joinSchema, req.body);
    if (!doors.isOpen) visitor();
    const { account, id } = await inTransaction(pool, async (client) => {
      const link = await takeLink(client, token);
      if (!link) throw new HttpFault('link_spent');
      const by = await accountByLink(client, link, { name, password });
      return { account: by, id: await signedIn(client, req, by, device, `join by ${link.kind}`) };
    });
    await beginSession(req, id, device.forGood);
    res.status(201).json(answer((await findAccount(pool, account))?.account ?? null, id));
  });

  routes.post('/sign-out', async (req, res) => {
    const { account, device } = visitor();
    await inTransaction(pool, async (client) => {
      await revokeDevice(client, device, account.id);
      await noteVisitor(client);
    });
    await endSession(req);
    res.json({ mode: 'open', account: null, device: null } satisfies Session);
  });

  routes.post('/password', async (req, res) => {
    const { was, next } = bodyOf(changePasswordSchema, req.body);
    const { account, device } = visitor();
    await expectPassword(req, 'was', was);
    const kept = await hashOf(next);
    await inTransaction(pool, async (client) => {
      await setPassword(client, account.id, kept);
      await revokeDevices(client, account.id, device);
      await noteVisitor(client);
    });
    res.json(answer(account, device));
  });

  routes.get('/factor', async (_req, res) => {
    const { account } = visitor();
    const { secret, url } = newFactor(account.name ?? '');
    const body: NewFactor = { secret, url, qr: await QRCode.toString(url, { type: 'svg', margin: 2 }) };
    res.set('Cache-Control', 'no-store').json(body);
  });

  routes.put('/factor', async (req, res) => {
    const { password, factor } = bodyOf(setFactorSchema, req.body);
    const { account, device } = visitor();
    await expectPassword(req, 'password', password);
    const step = factor ? stepOf(factor.secret, factor.code, Date.now()) : 0;
    if (step === null) throw wrongFields([{ path: 'factor.code', reason: 'is not one of now: check the clock of the phone' }]);
    await inTransaction(pool, async (client) => {
      await setFactor(client, account.id, factor?.secret ?? null, step);
      await noteVisitor(client);
    });
    res.json(answer({ ...account, hasFactor: factor !== null }, device));
  });

  routes.post('/passkeys/options', async (req, res) => {
    const { password } = bodyOf(askPasskeySchema, req.body);
    const { account } = visitor();
    await expectPassword(req, 'password', password);
    res.set('Cache-Control', 'no-store').json(await passkeyToMake(pool, req, account));
  });

  routes.post(
    '/passkeys',
    writesUnkept(pool, (req) => {
      const asked = bodyOf(keepPasskeySchema, req.body);
      const { account } = visitor();
      return async (client) => ({ status: 201, body: await keepPasskey(client, req, account, asked) });
    }),
  );

  routes.delete(
    '/passkeys/:id',
    writesUnkept(pool, (req) => {
      const id = String(req.params['id']);
      const { account } = visitor();
      return async (client) => {
        if (!(await removePasskey(client, account.id, id)))
          throw new HttpFault('not_found', [], 'There is no passkey of yours under this address.');
        return { status: 200, body: { id } };
      };
    }),
  );

  routes.post('/passkey-options', async (req, res) => {
    if (!doors.isOpen) visitor();
    res.set('Cache-Control', 'no-store').json(await passkeyToAsk(req));
  });

  routes.post('/passkey-sign-in', async (req, res) => {
    const { response, ...device } = bodyOf(passkeySignInSchema, req.body);
    if (!doors.isOpen) visitor();
    const signer = await passkeySigned(pool, req, response);
    const found = signer === null ? null : await findAccount(pool, signer);
    if (!found || found.account.endedAt !== null) {
      if (found) await noteAct(pool, { who: found.account.id, device: null, act: 'sign-in refused', about: null });
      throw new HttpFault('wrong_sign_in', [], 'This passkey is not one of a person here: sign in with name and password.');
    }
    const id = await inTransaction(pool, (client) => signedIn(client, req, found.account.id, device, 'passkey sign-in'));
    await beginSession(req, id, device.forGood);
    res.json(answer(found.account, id));
  });

  routes.post(
    '/devices',
    writesUnkept(pool, () => {
      const { account } = visitor();
      return async (client) => ({
        status: 201,
        body: await links(await addLink(client, { kind: 'device', account: account.id, by: account.id })),
      });
    }),
  );

  routes.delete(
    '/devices/:id',
    writesUnkept(pool, (req) => {
      const id = idOf(req.params['id'], 'device');
      const { account } = visitor();
      return async (client) => {
        if (!(await revokeDevice(client, id, account.id)))
          throw new HttpFault('not_found', [], 'There is no device of yours under this address.');
        return { status: 200, body: { id } };
      };
    }),
  );

  routes.get('/mine', async (_req, res) => {
    const { account } = visitor();
    const { rows } = await auditPage(pool, { words: '', who: account.id, before: null, limit: 10_000 });
    const body: Mine = {
      account,
      devices: await devicesOf(pool, account.id),
      passkeys: await passkeysOf(pool, account.id),
      rigs: await rigsOfPerson(pool, account.id),
      studies: await studiesOfPerson(pool, account.id),
      audit: rows.map((row) => ({ ...row })),
    };
    res.json(body);
  });

  routes.delete(
    '/mine',
    writesUnkept(pool, () => {
      const { account } = visitor();
      return async (client) => {
        if (account.roles.includes('administers') && !(await isAdministered(client, account.id)))
          throw new HttpFault('conflict', [], 'Nobody else administers this workshop: give that role to somebody first.');
        await forget(client, account.id);
        return { status: 200, body: { id: account.id } };
      };
    }),
  );
  return routes;
}
