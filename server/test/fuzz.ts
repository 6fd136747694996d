import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { writeKeyHeader } from '@vast-surge/contract';
import { newLot, newPart } from '@vast-surge/core/part';
import { newRig } from '@vast-surge/core/rig';
import { onePixel } from './records.ts';

/** A request to one of the routes that take a body. */
export interface FuzzedRequest {
  readonly method: string;
  readonly path: string;
  readonly body: string;
}

/** A valid value with some nodes of it replaced by anything. */
function mutated(value: unknown, any: fc.Arbitrary<unknown>): fc.Arbitrary<unknown> {
  if (Array.isArray(value)) {
    const items = fc.tuple(...value.map((item) => mutated(item, any)));
    return fc.oneof({ weight: 12, arbitrary: items }, { weight: 1, arbitrary: any });
  }
  if (typeof value === 'object' && value !== null) {
    const whole = fc.record(Object.fromEntries(Object.entries(value).map(([k, v]) => [k, mutated(v, any)])));
    return fc.oneof({ weight: 12, arbitrary: whole }, { weight: 1, arbitrary: any });
  }
  return fc.oneof({ weight: 12, arbitrary: fc.constant(value) }, { weight: 1, arbitrary: any });
}

/** JSON text with a piece cut out and something put in. */
const cut = (text: string): fc.Arbitrary<string> =>
  fc
    .tuple(fc.nat(text.length), fc.nat(20), fc.string({ maxLength: 6, unit: 'binary' }))
    .map(([at, length, put]) => text.slice(0, at) + put + text.slice(at + length));

/** Bodies for every writing route: anything JSON can hold, valid bodies with mutated nodes, and valid texts cut up. */
function requests(rigId: string, partId: string): fc.Arbitrary<FuzzedRequest> {
  const part = newPart('capacitor', 'Fuzzed', '');
  const reading = { measure: 'capacitance', element: 1, value: 1e-6, at: '2026-01-01T00:00:00.000Z' };
  const document = { name: 'Fuzzed', note: 'a note', rig: newRig() };
  const valid: readonly { method: string; path: string; body: object }[] = [
    { method: 'POST', path: '/api/rigs', body: { id: '44444444-4444-4444-8444-444444444444', document } },
    { method: 'PUT', path: `/api/rigs/${rigId}`, body: { version: 1, document } },
    { method: 'PATCH', path: `/api/rigs/${rigId}`, body: { archived: false } },
    {
      method: 'POST',
      path: `/api/rigs/${rigId}/revisions`,
      body: { id: '55555555-5555-4555-8555-555555555555', version: 1, name: 'x' },
    },
    {
      method: 'POST',
      path: '/api/parts',
      body: {
        parts: [{ id: '66666666-6666-4666-8666-666666666666', part }],
        lots: [{ id: '77777777-7777-4777-8777-777777777777', lot: newLot('Box') }],
      },
    },
    {
      method: 'PATCH',
      path: '/api/parts',
      body: { edits: [{ id: partId, set: { name: 'a', 'fields.C': '4u7' }, was: { name: 'b' } }] },
    },
    { method: 'POST', path: '/api/parts/readings', body: { readings: [{ partId, reading }] } },
    { method: 'PATCH', path: `/api/parts/${partId}/readings/0`, body: { struck: true } },
    { method: 'POST', path: '/api/parts/removals', body: { ids: [partId], removed: false } },
    { method: 'POST', path: '/api/parts/files', body: { digest: 'ab'.repeat(32) } },
    { method: 'PUT', path: `/api/parts/${partId}/photo`, body: { photo: onePixel } },
    { method: 'PUT', path: '/api/lots/77777777-7777-4777-8777-777777777777', body: { version: 0, lot: newLot('Box') } },
    {
      method: 'POST',
      path: '/api/archive/uploads/88888888-8888-4888-8888-888888888888/import',
      body: { choices: { [rigId]: 'take' }, bench: 'add' },
    },
    { method: 'PUT', path: '/api/backups', body: { settings: null } },
    {
      method: 'POST',
      path: '/api/runs',
      body: { id: '99999999-9999-4999-8999-999999999999', rigId, version: 1, rehearsal: null },
    },
    {
      method: 'POST',
      path: '/api/runs/99999999-9999-4999-8999-999999999999/events?after=0',
      body: {
        events: [
          { id: 'aaaaaaaa-aaaa-4aaa-8aaa-aaaaaaaaaaaa', at: 1e12, screen: 'left', type: 'began', acts: 'AB', reads: null },
          { id: 'bbbbbbbb-bbbb-4bbb-8bbb-bbbbbbbbbbbb', at: 1e12, screen: 'left', type: 'clock', by: 30 },
        ],
      },
    },
    {
      method: 'POST',
      path: '/api/shots',
      body: {
        id: 'cccccccc-cccc-4ccc-8ccc-cccccccccccc',
        rigId,
        version: 1,
        runId: null,
        shot: { at: '2026-01-01T00:00:00.000Z', outcome: 'fired', set: { voltage: 30 }, measured: {}, sound: '', remarks: '' },
      },
    },
  ];
  const any = fc.oneof(
    fc.jsonValue({ maxDepth: 2 }),
    fc.constantFrom<unknown>('\u0000', '1e999', -0, 1e308, '__proto__', [], {}, ''),
  );
  return fc.constantFrom(...valid).chain(({ method, path, body }) => {
    const text = fc.oneof(
      { weight: 2, arbitrary: any.map((value) => JSON.stringify(value)) },
      { weight: 5, arbitrary: mutated(body, any).map((value) => JSON.stringify(value)) },
      { weight: 3, arbitrary: cut(JSON.stringify(body)) },
    );
    return text.map((t) => ({ method, path, body: t }));
  });
}

export interface FuzzResult {
  readonly sent: number;
  readonly byStatus: Readonly<Record<number, number>>;
  /** Requests that were answered with a 5xx, a stack, or not in the words of the contract. */
  readonly bad: readonly (FuzzedRequest & { readonly answer: string })[];
}

/** Sends fuzzed requests to a server on this machine, a few at a time. */
export async function fuzz(
  address: string,
  { rigId, partId }: { rigId: string; partId: string },
  runs: number,
  seed: number,
): Promise<FuzzResult> {
  const open = fc.sample(requests(rigId, partId), { numRuns: runs, seed });
  const bad: (FuzzedRequest & { answer: string })[] = [];
  const byStatus: Record<number, number> = {};
  const worker = async () => {
    for (let request = open.pop(); request; request = open.pop()) {
      const answer = await fetch(address + request.path, {
        method: request.method,
        headers: { 'Content-Type': 'application/json', [writeKeyHeader]: randomUUID() },
        body: request.body,
      });
      const text = await answer.text();
      byStatus[answer.status] = (byStatus[answer.status] ?? 0) + 1;
      const worded = answer.status < 400 || /^\{"code":"\w+","message":"[^"]/.test(text);
      if (answer.status >= 500 || !worded || /\.ts:\d+|node_modules/.test(text))
        bad.push({ ...request, answer: `${answer.status} ${text.slice(0, 300)}` });
    }
  };
  await Promise.all([1, 2, 3, 4].map(worker));
  return { sent: runs, byStatus, bad };
}
