import { randomUUID } from 'node:crypto';
import { expect, test } from 'vitest';
import type { Fault, Session } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { demoRig } from '../../core/test/rigs.ts';
import { insertRig } from '../db/rigs.ts';
import { apiRoutes } from '../http/openapi/routes.ts';
import { openWorkshop, type Caller } from '../test/workshop.ts';

const messageOf = ({ body }: { body: unknown }): string => (body as Fault).message;

test('a rig for some people only is watched by all others, by every route, and broken off by anybody', async () => {
  const lone = await openWorkshop();
  try {
    const admin = await lone.person('Ann', ['administers']);
    const works = ['designs', 'acts', 'reads'] as const;
    const [inside, outside] = [await lone.person('Ivy', works), await lone.person('Oli', works)];
    const [own, free] = [randomUUID(), randomUUID()];
    for (const id of [own, free]) await insertRig(lone.database.pool, id, { ...newDocument('Thimble'), rig: demoRig('thimble') });
    const people = (accounts: readonly string[], caller: Caller = admin) =>
      caller.call('put', `/people/rigs/${own}`, { accounts });
    expect((await people([inside.id], inside)).status).toBe(403);
    expect(messageOf(await people([randomUUID()]))).toContain('accounts[0] is nobody here');
    expect((await admin.call('put', `/people/rigs/${randomUUID()}`, { accounts: [] })).status).toBe(404);
    await people([inside.id]).expect(200);
    expect(((await outside.call('get', '/session')).body as Session).closedRigs).toEqual([own]);
    expect(((await inside.call('get', '/session')).body as Session).closedRigs).toEqual([]);
    const aShot = { outcome: 'fired', set: {}, measured: {}, own: [], sound: '', remarks: '' };
    // Everything that is made on a rig, by who is named, on both rigs.
    const made = async (caller: Caller, rigId: string) => {
      const version = 1;
      const [run, shot] = [randomUUID(), randomUUID()];
      const began = { id: randomUUID(), at: Date.now(), screen: 'x', type: 'began', acts: 'IV', reads: null };
      const statuses = [
        await caller.call('post', '/runs', { id: run, rigId, version, rehearsal: null }),
        await caller.call('post', `/runs/${run}/events`, { events: [began] }),
        await caller.call('post', '/shots', {
          id: shot,
          rigId,
          version,
          runId: null,
          shot: { ...aShot, at: new Date().toISOString() },
        }),
        await caller.call('patch', `/shots/${shot}`, { removed: true }),
        await caller.call('post', `/rigs/${rigId}/revisions`, { id: randomUUID(), version, name: 'Named' }),
        await caller.call('patch', `/rigs/${rigId}`, { archived: false }),
      ].map(({ status }) => status);
      return { run, shot, statuses };
    };
    const here = await made(inside, own);
    const there = await made(outside, free);
    expect(here.statuses).toEqual(there.statuses);
    expect(here.statuses.slice(0, 2)).toEqual([201, 200]);
    expect(new Set((await made(outside, own)).statuses)).toEqual(new Set([403, 404]));
    // What stands there already: each write route about a rig, its run or its shot, asked by who is not named.
    const ids: Record<string, string> = { rigs: own, runs: here.run, shots: here.shot };
    const open: string[] = [];
    for (const { method, path, may } of apiRoutes) {
      const room = path.split('/')[1] ?? '';
      if (method === 'get' || may === 'anybody' || !path.includes('/:id') || path.startsWith('/shots/files')) continue;
      const id = ids[room];
      if (id === undefined) continue;
      const { status } = await outside.call(method, path.replace(':id', id).replaceAll(':index', '0'), {});
      // An abort of a run is everybody's: it is let in, and told what is wrong in it.
      if (status !== 403 && path !== '/runs/:id/events') open.push(`${method} ${path}: ${status}`);
    }
    expect(open).toEqual([]);
    const events = (caller: Caller, event: object) =>
      caller.call('post', `/runs/${here.run}/events`, {
        events: [{ id: randomUUID(), at: Date.now(), screen: 'y', ...event }],
      });
    expect((await events(outside, { type: 'noted', text: 'not mine' })).status).toBe(403);
    await events(outside, { type: 'aborted', reason: 'smoke' }).expect(200);
    // Everybody's again.
    await people([]).expect(200);
    await events(outside, { type: 'noted', text: 'mine again' }).expect(200);
  } finally {
    await lone.end();
  }
});
