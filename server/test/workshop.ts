import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import request from 'supertest';
import { writeKeyHeader, type Role } from '@vast-surge/contract';
import { addressOf } from '../db/pool.ts';
import { createApp } from '../http/app.ts';
import { Live } from '../live.ts';
import { WorkshopDoors } from '../opening/doors.ts';
import type { Proxy } from '../opening/proxy.ts';
import { setOpening } from '../opening/settings.ts';
import { addAccount, addLink } from '../people/accounts.ts';
import { hashOf } from '../people/password.ts';
import { testDatabase, type TestDatabase } from './database.ts';
import { freePort } from './site.ts';

type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';

export const password = 'a long way round';
let kept: Promise<string> | null = null;

/** What a person does from one device: it keeps its cookie. */
export class Caller {
  readonly agent;
  constructor(app: ReturnType<typeof createApp>) {
    this.agent = request.agent(app);
  }

  call(method: Method, path: string, body?: object, headers: Record<string, string> = {}): request.Test {
    const call = this.agent[method](`/api${path}`).set('Host', '127.0.0.1').set(writeKeyHeader, randomUUID()).set(headers);
    return body === undefined ? call : call.send(body);
  }

  signIn(name: string, secret = password, forGood = false): request.Test {
    return this.call('post', '/session/sign-in', { name, password: secret, device: 'Test device', forGood });
  }
}

/** A workshop that other devices come into, at this machine's own address and at a port of its own. */
export interface OpenWorkshop {
  readonly database: TestDatabase;
  readonly app: ReturnType<typeof createApp>;
  readonly doors: WorkshopDoors;
  readonly keep: string;
  readonly port: number;
  caller(): Caller;
  /** Somebody with these roles, signed in. @returns also the id of the account */
  person(name: string, roles: readonly Role[]): Promise<Caller & { readonly id: string; readonly device: string }>;
  link(what: Parameters<typeof addLink>[1]): Promise<string>;
  end(): Promise<void>;
}

export async function openWorkshop(proxy: Proxy | null = null): Promise<OpenWorkshop> {
  const database = await testDatabase();
  const keep = mkdtempSync(join(tmpdir(), 'surge-open-'));
  const log = pino({ level: 'silent' });
  const doors = new WorkshopDoors(database.pool, keep, log, undefined, proxy?.url ?? null);
  const live = new Live(addressOf(database.pool), database.pool, 200);
  const app = createApp({ db: database.pool, log, version: 'test', rate: 1e9, keep, doors, live, proxy });
  const port = await freePort();
  await setOpening(database.pool, { addresses: ['127.0.0.1'], names: ['bench.test'], port });
  await doors.start(app);
  const caller = () => new Caller(app);
  return {
    database,
    app,
    doors,
    keep,
    port,
    caller,
    person: async (name, roles) => {
      // One hash for all: making it is what takes time.
      const id = await addAccount(database.pool, name, await (kept ??= hashOf(password)), roles);
      const one = caller();
      const { body } = await one.signIn(name).expect(200);
      return Object.assign(one, { id, device: (body as { device: string }).device });
    },
    link: async (what) => (await addLink(database.pool, what)).token,
    end: async () => {
      await live.close();
      await doors.close();
      await database.drop();
      rmSync(keep, { recursive: true, force: true });
    },
  };
}
