import { randomUUID } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { Validator } from '@seriousme/openapi-schema-validator';
import { pino } from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { z } from 'zod';
import { writeKeyHeader } from '@vast-surge/contract';
import { newPart } from '@vast-surge/core/part';
import { newDocument } from '@vast-surge/core/rig';
import { testDatabase, type TestDatabase } from '../../test/database.ts';
import { createApp } from '../app.ts';
import { openApi } from './document.ts';
import { apiRoutes } from './routes.ts';

interface Layer {
  readonly rawPath?: string;
  readonly route?: { readonly path: string; readonly methods: Readonly<Record<string, boolean>> };
  readonly handle?: { readonly stack?: readonly Layer[] };
}

/** Every route below a router, as `get /rigs/:id`. */
const served = (layers: readonly Layer[], below = ''): string[] =>
  layers.flatMap(({ rawPath = '', route, handle }) => {
    if (route && typeof route.path === 'string')
      return Object.keys(route.methods).map((method) => `${method} ${`${below}${route.path}`.replace(/(.)\/$/, '$1')}`);
    return handle?.stack ? served(handle.stack, below + (rawPath === '/' ? '' : rawPath)) : [];
  });

let database: TestDatabase;
let stop: () => Promise<void>;
let base = '';
let app: ReturnType<typeof createApp>;

beforeAll(async () => {
  database = await testDatabase();
  app = createApp({ db: database.pool, log: pino({ level: 'silent' }), version: 'test', rate: 1e9 });
  const server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
  stop = async () => {
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  };
});
afterAll(async () => {
  await stop();
  await database.drop();
});

test('every route that is served is described, and none else', () => {
  const api = served((app.router as unknown as { stack: readonly Layer[] }).stack)
    .filter((route) => / \/api\//.test(route) && !/ \/api\/docs/.test(route))
    .map((route) => route.replace(' /api', ' '));
  expect(api.length).toBeGreaterThan(40);
  expect(apiRoutes.map(({ method, path }) => `${method} ${path}`).sort()).toEqual([...new Set(api)].sort());
});

// Held against the schema of the OpenAPI Initiative, by a validator of another hand; every reference is followed.
test('the description is OpenAPI 3.1, and each of its references leads somewhere', async () => {
  const document = JSON.parse(JSON.stringify(openApi('1.2.3'))) as Record<string, unknown>;
  const validator = new Validator();
  const result = await validator.validate(document);
  expect(result.errors ?? []).toEqual([]);
  expect(validator.version).toBe('3.1');
  const text = JSON.stringify(document);
  const at = (path: string) =>
    path
      .slice(2)
      .split('/')
      .reduce<unknown>((node, key) => (node as Record<string, unknown> | undefined)?.[key], document);
  const references = [...new Set([...text.matchAll(/"\$ref":"([^"]+)"/g)].map(([, path = '']) => path))];
  expect(references.length).toBeGreaterThan(20);
  for (const reference of references) expect(at(reference), reference).toBeDefined();
  expect(text).not.toContain('#/$defs/');
});

test('what is answered is what is described', async () => {
  const described = (method: string, path: string) => apiRoutes.find((r) => r.method === method && r.path === path);
  async function ask(method: string, path: string, body?: object, ids: Readonly<Record<string, string>> = {}): Promise<unknown> {
    const route = described(method, path);
    if (!route || typeof route.answer[1] === 'string') throw new Error(`${method} ${path} is not described`);
    const address = path.replaceAll(/:(\w+)/g, (_, name: string) => ids[name] ?? '');
    const response = await fetch(base + address, {
      method: method.toUpperCase(),
      headers: { 'Content-Type': 'application/json', ...(route.writes ? { [writeKeyHeader]: randomUUID() } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    expect(response.status, `${method} ${path}`).toBe(route.answer[0]);
    const answer: unknown = await response.json();
    expect((route.answer[1] as z.ZodType).safeParse(answer).error?.issues ?? [], `${method} ${path}`).toEqual([]);
    return answer;
  }
  const [rig, part] = [randomUUID(), randomUUID()];
  await ask('post', '/rigs', { id: rig, document: newDocument('Described') });
  await ask('put', '/rigs/:id', { version: 1, document: newDocument('Described again') }, { id: rig });
  await ask('post', '/rigs/:id/revisions', { id: randomUUID(), version: 2 }, { id: rig });
  await ask('post', '/parts', { parts: [{ id: part, part: newPart('capacitor', 'Described', 'D-1') }], lots: [] });
  const rehearsal = { seed: 1, speed: 10, faults: 0 };
  await ask('post', '/runs', { id: randomUUID(), rigId: rig, version: 2, rehearsal });
  for (const path of [
    '/health',
    '/backups',
    '/rigs',
    '/rigs/uses',
    '/runs',
    '/runs/open',
    '/runs/people',
    '/shots',
    '/shots/rigs',
  ])
    await ask('get', path);
  for (const path of ['/rigs/:id', '/rigs/:id/revisions']) await ask('get', path, undefined, { id: rig });
  await ask('get', '/parts/:id/photo', undefined, { id: part });
  for (const path of ['/parts', '/instruments', '/openapi.json']) await ask('get', path);
});

test('its page is served with its scripts, and asks no other machine', async () => {
  const page = await (await fetch(`${base}/docs`)).text();
  const [begin, bundle] = [await fetch(`${base}/docs/begin.js`), await fetch(`${base}/docs/swagger-ui-bundle.js`)];
  expect(page).not.toMatch(/https?:/);
  expect(await begin.text()).toContain("url: '/api/openapi.json'");
  expect(bundle.status).toBe(200);
  expect(bundle.headers.get('content-type')).toMatch(/javascript/);
});
