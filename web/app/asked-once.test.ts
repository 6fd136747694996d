// @vitest-environment jsdom
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { newDocument } from '@vast-surge/core/rig';
import { api, failureOf } from './api.ts';
import { askedOnce } from './asked-once.ts';
import { store } from './base-store.ts';

const rigId = '11111111-1111-4111-8111-111111111111';
const rig = {
  id: rigId,
  version: 3,
  createdAt: '2026-01-01T00:00:00.000Z',
  updatedAt: '2026-01-01T00:00:00.000Z',
  archivedAt: null,
  revision: null,
  branchedFrom: null,
  document: newDocument('Across'),
};
/** Lets the answers go that wait. */
let answers: (() => void)[] = [];
let status = 200;

beforeEach(() => {
  answers = [];
  status = 200;
  vi.stubGlobal(
    'fetch',
    () =>
      new Promise<Response>((resolve) => {
        const body = status === 200 ? rig : { code: 'not_found', message: 'There is no such rig.' };
        answers.push(() => resolve(Response.json(body, { status })));
      }),
  );
  // A browser makes an address of a path by itself.
  vi.stubGlobal(
    'Request',
    class extends Request {
      constructor(url: string, init?: RequestInit) {
        super(new URL(url, 'http://localhost'), init);
      }
    },
  );
});
afterEach(() => {
  store.dispatch(api.util.resetApiState());
  vi.unstubAllGlobals();
});

const ask = () => askedOnce(store.dispatch(api.endpoints.getRig.initiate(rigId, { forceRefetch: true })));
const come = async () => {
  await vi.waitFor(() => expect(answers.length).toBeGreaterThan(0));
  answers.splice(0).forEach((answer) => answer());
};

test('an answer is not lost where a rig is told to have changed while it is on its way', async () => {
  const asked = ask();
  store.dispatch(api.util.invalidateTags(['archived', 'rig']));
  await come();
  expect(await asked).toMatchObject({ id: rigId, version: 3 });
});

test('a failure is thrown, and nothing is held afterwards', async () => {
  status = 404;
  const asked = ask().then(
    () => null,
    (error: unknown) => failureOf(error).code,
  );
  await come();
  expect(await asked).toBe('not_found');
  // Nobody shows it: it is not asked for again.
  store.dispatch(api.util.invalidateTags(['archived', 'rig']));
  await new Promise((resolve) => setTimeout(resolve, 30));
  expect(answers).toEqual([]);
});
