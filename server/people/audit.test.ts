import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { actWords, linkKinds, type Opened, type PageOf, type AuditEntry, type Person } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { apiRoutes } from '../http/openapi/routes.ts';
import { openWorkshop, type OpenWorkshop } from '../test/workshop.ts';
import { actOf } from './rules.ts';

describe('the audit', () => {
  let own: OpenWorkshop;
  let admin: Awaited<ReturnType<OpenWorkshop['person']>>;
  const page = async (query = '') => (await admin.call('get', `/audit${query}`).expect(200)).body as PageOf<AuditEntry>;
  const check = async () =>
    (await admin.call('get', '/audit/check').expect(200)).body as { entries: number; brokenAt: number | null };
  beforeAll(async () => {
    own = await openWorkshop();
    admin = await own.person('Ada', ['administers', 'designs']);
  });
  afterAll(() => own.end());

  test('has what was done with what was done it to, in the same moment; what was refused leaves nothing', async () => {
    const id = randomUUID();
    await admin.call('post', '/rigs', { id, document: newDocument('Seen') }).expect(201);
    await admin.call('put', `/rigs/${id}`, { version: 1, document: newDocument('Seen again') }).expect(200);
    await admin.call('put', `/rigs/${id}`, { version: 1, document: newDocument('Too late') }).expect(409);
    await admin.call('get', `/archive/rigs/${id}`).expect(200);
    await own.caller().signIn('Ada', 'not the password').expect(401);
    const { rows, total } = await page();
    expect(rows.map(({ act, name }) => [act, name])).toEqual([
      ['sign-in refused', 'Ada'],
      ['get archive rigs', 'Ada'],
      ['put rigs', 'Ada'],
      ['post rigs', 'Ada'],
      ['sign-in', 'Ada'],
      ['opened', null],
    ]);
    expect(rows[2]).toMatchObject({ about: id, who: admin.id, device: 'Test device', number: 4 });
    expect(total).toBe(6);
    expect((await page(`?q=put rigs ada`)).rows.map(({ number }) => number)).toEqual([4]);
    const first = await page('?limit=2');
    expect((await page(`?limit=2&before=${first.next ?? ''}`)).rows.map(({ number }) => number)).toEqual([4, 3]);
  });

  test('has ratings waived and withdrawn, and the key of a run asked for and passed on, as acts of their own', async () => {
    const id = randomUUID();
    const waiver = { limit: 'store-voltage', by: 'Ada Test', reason: 'Tested beyond that on the bench', upTo: 900 };
    const document = (waivers: object[]) => {
      const made = newDocument('Waived');
      return { ...made, sheet: { ...made.sheet, waivers } };
    };
    const put = (version: number, waivers: object[]) =>
      admin.call('put', `/rigs/${id}`, { version, document: document(waivers) }).expect(200);
    await admin.call('post', '/rigs', { id, document: document([]) }).expect(201);
    await put(1, [waiver]);
    await put(2, [waiver]);
    await put(3, [{ ...waiver, upTo: 950 }]);
    await put(4, []);
    const waived = [...(await page('?q=waive')).rows].reverse();
    expect(waived.map(({ act, about, what }) => [act, about, what])).toEqual([
      ['waived ratings', id, { limits: [{ limit: 'store-voltage', upTo: 900 }] }],
      ['waived ratings', id, { limits: [{ limit: 'store-voltage', upTo: 950 }] }],
      ['withdrew waivers', id, { limits: ['store-voltage'] }],
    ]);
    // Names and reasons stand in the rig, and not in what cannot be taken out again.
    expect(JSON.stringify(waived)).not.toContain('Ada Test');
    const other = await own.person('Bea', ['acts']);
    const run = { id: randomUUID(), rigId: id, version: 5, rehearsal: { seed: 1, speed: 1, faults: [] } };
    await admin.call('post', '/runs', run).expect(201);
    const sends = (who: typeof admin, screen: string, event: object) =>
      who
        .call('post', `/runs/${run.id}/events`, { events: [{ id: randomUUID(), at: Date.now(), screen, ...event }] })
        .expect(200);
    await sends(admin, 'desk', { type: 'began', acts: 'AD', reads: null });
    // Not asked for: it is kept, has no effect, and the audit does not say that it had.
    await sends(other, 'phone', { type: 'took-over', by: 'BE' });
    await sends(other, 'phone', { type: 'asked-for-key', by: 'BE' });
    await sends(admin, 'desk', { type: 'gave-key' });
    await sends(other, 'phone', { type: 'took-over', by: 'BE' });
    const keys = (await page('?q=over')).rows.concat((await page('?q=key')).rows);
    expect(keys.map(({ act, name, about }) => [act, name, about])).toEqual([
      ['took over', 'Bea', run.id],
      ['gave the key', 'Ada', run.id],
      ['asked for the key', 'Bea', run.id],
    ]);
  });

  test('has words for everything that can stand in it', () => {
    const noted = apiRoutes.filter((r) => r.writes === true || r.audited === true || (r.method !== 'get' && r.may !== 'anybody'));
    // These ask and change nothing.
    const asks = new Set([
      'post session passkeys options',
      'post archive uploads',
      'post parts files',
      'post runs ask',
      'post runs measure',
    ]);
    const names = noted.map(actOf).filter((name) => !asks.has(name));
    expect(names.length).toBeGreaterThan(30);
    expect(names.filter((name) => actWords[name] === undefined)).toEqual([]);
    const keys = ['asked for the key', 'gave the key', 'kept the key', 'took over'];
    const others = [
      'passkey sign-in',
      'opened',
      'closed',
      'sign-in',
      'sign-in refused',
      'waived ratings',
      'withdrew waivers',
      ...keys,
      ...linkKinds.map((kind) => `join by ${kind}`),
    ];
    expect(Object.keys(actWords).sort()).toEqual([...new Set([...names, ...others])].sort());
  });

  test('twenty writes at once stand one after the other, and the chain holds', async () => {
    const before = (await check()).entries;
    await Promise.all(
      Array.from({ length: 20 }, (_, n) =>
        admin.call('post', '/rigs', { id: randomUUID(), document: newDocument(`At once ${n}`) }).expect(201),
      ),
    );
    expect(await check()).toMatchObject({ entries: before + 20, brokenAt: null });
  });

  test('a name goes and the chain holds; the id stays', async () => {
    const goes = await own.person('Leaver', ['reads']);
    await goes.call('delete', '/session/mine').expect(200);
    expect((await goes.call('get', '/rigs')).status).toBe(401);
    expect((await check()).brokenAt).toBeNull();
    const people = (await admin.call('get', '/people').expect(200)).body as Person[];
    expect(people.find(({ id }) => id === goes.id)).toMatchObject({ name: null, devices: [{ name: 'taken out', address: '' }] });
    expect((await page(`?who=${goes.id}`)).rows.map(({ act, name }) => [act, name])).toEqual([
      ['delete session mine', null],
      ['sign-in', null],
    ]);
    const { rows } = await own.database.owner.query<{ n: number }>(
      "select count(*)::int as n from (select row_to_json(a)::text as t from accounts a union all select row_to_json(u)::text from audit u) as x where t like '%Leaver%'",
    );
    expect(rows).toEqual([{ n: 0 }]);
  });

  test('nobody changes it: not the application, not by a slip of the owner; whoever forces it is found', async () => {
    for (const db of [own.database.pool, own.database.owner])
      for (const sql of ["update audit set act = 'x'", 'delete from audit', 'truncate audit'])
        await expect(db.query(sql)).rejects.toThrow();
    // A forged sum is not taken either: the database makes it.
    await own.database.pool.query("insert into audit (act, number, before, hash) values ('forged', 1, '', '')");
    expect((await check()).brokenAt).toBeNull();
    const { entries } = await check();
    await own.database.owner.query('alter table audit disable trigger audit_stays');
    await own.database.owner.query("update audit set act = 'post parts' where number = 3");
    expect(await check()).toMatchObject({ brokenAt: 3 });
    await own.database.owner.query("update audit set act = 'post rigs' where number = 3");
    expect(await check()).toMatchObject({ brokenAt: null });
    await own.database.owner.query('delete from audit where number = 5');
    expect(await check()).toMatchObject({ brokenAt: 5, entries: 4 });
    expect(entries).toBeGreaterThan(20);
  });

  test('goes out as a table that no program takes for formulas', async () => {
    await own.person('=cmd()', ['watches']);
    const { text, headers } = await admin.call('get', '/audit/file').buffer(true).expect(200);
    expect(headers['content-type']).toContain('text/csv');
    expect(text.split('\n')[0]).toBe('number,at,who,name,device,act,about,what,hash');
    expect(text).toContain("'=cmd()");
    expect(text).not.toMatch(/,=cmd/);
  });
});

test('a workshop that is closed again asks nobody who they are, and answers no other device', async () => {
  const own = await openWorkshop();
  try {
    const admin = await own.person('Ada', ['administers']);
    const closed = await admin.call('put', '/opening', { opening: null }).expect(200);
    expect((closed.body as Opened).opening).toBeNull();
    await own.doors.look();
    expect((await own.caller().call('get', '/session').expect(200)).body).toEqual({ mode: 'alone', account: null, device: null });
    await own.caller().call('get', '/rigs').expect(200);
    await expect(fetch(`https://127.0.0.1:${own.port}/api/session`)).rejects.toThrow();
    // Nothing is asked of accounts that there are not.
    expect((await own.caller().signIn('Ada')).status).toBe(404);
  } finally {
    await own.end();
  }
});
