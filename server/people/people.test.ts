import { randomUUID } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { roles, type Role, type Session } from '@vast-surge/contract';
import { newDocument } from '@vast-surge/core/rig';
import { demoRig } from '../../core/test/rigs.ts';
import { insertRig } from '../db/rigs.ts';
import { apiRoutes } from '../http/openapi/routes.ts';
import { Caller, openWorkshop, password, type OpenWorkshop } from '../test/workshop.ts';
import { stepOf } from './factor.ts';
import { isPassword, hashOf } from './password.ts';
import { isOver } from './sessions.ts';

let workshop: OpenWorkshop;
beforeAll(async () => {
  workshop = await openWorkshop();
});
afterAll(() => workshop.end());

const device = { device: 'Phone', forGood: false };
const codeOf = (answer: { body: unknown }) => (answer.body as { code?: string }).code;
const messageOf = (answer: { body: unknown }) => (answer.body as { message?: string }).message ?? '';

describe('who may do what', () => {
  // OWASP ASVS 5.0, 8.2 and 8.3: each function and each object is checked on the server; from the one table of routes, so that none is left out.
  test('every route is tried by everybody: it lets in whom the table names, and nobody else', async () => {
    // Of these the first call ends the session, or the answer has no end.
    const apart = new Set(['get /live', 'post /session/sign-out', 'delete /session/mine']);
    const callers = new Map<Role | null, Caller>([[null, workshop.caller()]]);
    for (const role of roles) callers.set(role, await workshop.person(`Only ${role}`, [role]));
    const wrong: string[] = [];
    for (const { method, path, may, abort } of apiRoutes) {
      const name = `${method} ${path}`;
      if (apart.has(name)) continue;
      for (const [role, caller] of callers) {
        const address = path.replaceAll(':index', '0').replaceAll(/:\w+/g, randomUUID());
        const { status } = await caller.call(method, address, method === 'get' ? undefined : {});
        const expected = may === 'anybody' || (role !== null && (may === 'everybody' || may.includes(role) || abort === true));
        const isLetIn = status !== 401 && status !== 403;
        if (isLetIn !== expected || (role === null && !expected && status !== 401))
          wrong.push(`${name} by ${role ?? 'nobody'}: ${status}`);
      }
    }
    expect(wrong).toEqual([]);
    expect(await workshop.caller().call('get', '/live')).toMatchObject({ status: 401 });
    // What is not in the table is nobody's, signed in or not.
    expect((await workshop.caller().call('get', '/docs')).status).toBe(401);
    expect((await workshop.caller().call('get', '/nowhere')).status).toBe(401);
    const watches = callers.get('watches');
    for (const path of ['/nowhere', '//people', '/people/', '/PEOPLE', '/%70eople', '/people/..%2frigs'])
      expect([404, 403], path).toContain((await watches?.call('get', path))?.status);
  });

  test('of one person nobody else has the devices, and what is kept of oneself is told', async () => {
    const [one, other] = [await workshop.person('Ida', ['reads']), await workshop.person('Jon', ['reads'])];
    expect((await one.call('delete', `/session/devices/${other.device}`)).status).toBe(404);
    expect((await other.call('get', '/session/mine')).body).toMatchObject({
      account: { name: 'Jon', roles: ['reads'] },
      devices: [{ id: other.device, name: 'Test device', address: '127.0.0.1', revokedAt: null }],
      audit: [{ act: 'sign-in' }],
    });
    // Nothing of what is kept says a password, in any form.
    expect(JSON.stringify((await other.call('get', '/session/mine')).body)).not.toMatch(/argon|password/);
  });

  test('a live run is begun by whoever acts, watched by all, and broken off by anybody', async () => {
    const [acts, designs, watches] = [
      await workshop.person('Kay', ['acts']),
      await workshop.person('Lou', ['designs']),
      await workshop.person('May', ['watches']),
    ];
    const rigId = randomUUID();
    await insertRig(workshop.database.pool, rigId, { ...newDocument('Thimble'), rig: demoRig('thimble') });
    const begin = (rehearsal: object | null) => ({ id: randomUUID(), rigId, version: 1, rehearsal });
    const refused = await designs.call('post', '/runs', begin(null));
    expect([refused.status, messageOf(refused)]).toEqual([403, expect.stringContaining('whoever acts')]);
    const rehearsed = begin({ seed: 1, speed: 10, faults: 0 });
    expect((await designs.call('post', '/runs', rehearsed)).status).toBe(201);
    const run = begin(null);
    expect((await acts.call('post', '/runs', run)).status).toBe(201);
    const event = (more: object) => ({ events: [{ id: randomUUID(), at: Date.now(), screen: 'x', ...more }] });
    const events = `/runs/${run.id}/events`;
    await acts.call('post', events, event({ type: 'began', acts: 'KA', reads: null, account: watches.id })).expect(200);
    const note = await watches.call('post', events, event({ type: 'noted', text: 'I did this' }));
    expect([note.status, codeOf(note)]).toEqual([403, 'not_allowed']);
    const begins = event({ type: 'began', acts: 'LO', reads: null });
    await designs.call('post', `/runs/${rehearsed.id}/events`, begins).expect(200);
    expect((await designs.call('post', events, event({ type: 'took-over', by: 'LO' }))).status).toBe(403);
    await watches.call('post', events, event({ type: 'aborted', reason: 'smoke' })).expect(200);
    // A phone that is taken back in the middle of it may still break it off; then the run ends, and so does that.
    const admin = await workshop.person('Nia', ['administers']);
    await admin.call('delete', `/people/devices/${watches.device}`).expect(200);
    expect((await watches.call('get', `/runs/${run.id}`)).status).toBe(401);
    await watches.call('post', events, event({ type: 'aborted', reason: 'again' })).expect(200);
    expect((await watches.call('post', events, event({ type: 'noted', text: 'x' }))).status).toBe(403);
    const late = begin(null);
    await acts.call('post', '/runs', late).expect(201);
    expect((await watches.call('post', `/runs/${late.id}/events`, event({ type: 'aborted', reason: 'no' }))).status).toBe(401);
    const { rows } = await workshop.database.pool.query(
      "select event ->> 'type' as type, event ->> 'account' as says, by_account from run_events where run_id = $1 order by number",
      [run.id],
    );
    expect(rows).toEqual([
      // Whatever a page claims: who began it is whose device it came from.
      { type: 'began', says: acts.id, by_account: acts.id },
      { type: 'aborted', says: null, by_account: watches.id },
      { type: 'aborted', says: null, by_account: watches.id },
    ]);
  });

  test('a role that is taken away holds with the next request, and the last who administers stays', async () => {
    const lone = await openWorkshop();
    try {
      const admin = await lone.person('Ann', ['administers', 'designs']);
      const designer = await lone.person('Ben', ['designs']);
      const rig = () => ({ id: randomUUID(), document: newDocument('Mine') });
      await designer.call('post', '/rigs', rig()).expect(201);
      await admin.call('patch', `/people/${designer.id}`, { roles: ['watches'] }).expect(200);
      const now = await designer.call('post', '/rigs', rig());
      expect([now.status, messageOf(now)]).toEqual([403, expect.stringContaining('designs')]);
      for (const body of [{ roles: ['designs'] }, { ended: true }])
        expect(codeOf(await admin.call('patch', `/people/${admin.id}`, body))).toBe('conflict');
      expect(codeOf(await admin.call('delete', '/session/mine'))).toBe('conflict');
      const odd = await admin.call('patch', `/people/${designer.id}`, { roles: ['owns'] });
      expect([odd.status, messageOf(odd)]).toEqual([400, expect.stringContaining('must be one of administers, designs')]);
      await admin.call('patch', `/people/${designer.id}`, { ended: true }).expect(200);
      expect((await designer.call('get', '/rigs')).status).toBe(401);
      expect((await lone.caller().signIn('Ben')).status).toBe(401);
    } finally {
      await lone.end();
    }
  });
});

describe('signing in', () => {
  test('makes a new session each time, and a session that was given before is worth nothing', async () => {
    await workshop.person('Ole', ['watches']);
    const caller = workshop.caller();
    const first = await caller.signIn('ole').expect(200);
    const cookie = (answer: { headers: Record<string, unknown> }) =>
      String((answer.headers['set-cookie'] as string[] | undefined)?.[0]);
    expect(cookie(first)).toMatch(/HttpOnly; SameSite=Lax/);
    const second = await caller.signIn('Ole').expect(200);
    expect(cookie(second).split(';')[0]).not.toBe(cookie(first).split(';')[0]);
    // The old one is gone from the server, not only from the browser.
    const [was = ''] = cookie(first).split(';');
    const stolen = await new Caller(workshop.app).call('get', '/rigs', undefined, { Cookie: was });
    expect(stolen.status).toBe(401);
    // Signed in twice on one device it is one device.
    const mine = (await caller.call('get', '/session/mine').expect(200)).body as { devices: { revokedAt: string | null }[] };
    expect(mine.devices.filter(({ revokedAt }) => revokedAt === null).length).toBe(2);
    await caller.call('post', '/session/sign-out', {}).expect(200);
    expect((await caller.call('get', '/rigs')).status).toBe(401);
    expect(((await caller.call('get', '/session')).body as Session).account).toBeNull();
  });

  test('is slowed for a name that is guessed at, and not for a device that had it, nor for one that is signed in', async () => {
    const known = await workshop.person('Pia', ['acts']);
    const guesser = workshop.caller();
    const codes: (string | undefined)[] = [];
    for (let n = 0; n < 12; n++) codes.push(codeOf(await guesser.signIn('pia', `guess number ${n}`)));
    expect(codes.slice(0, 9)).toEqual(Array(9).fill('wrong_sign_in'));
    expect(codes.slice(-2)).toEqual(['too_many', 'too_many']);
    const barred = await guesser.signIn('Pia');
    expect(messageOf(barred)).toMatch(/wait 1[0-5] min/);
    await known.call('get', '/rigs').expect(200);
    await known.signIn('Pia').expect(200);
  });

  test('tells nobody whether there is such a person, by words or by the clock', async () => {
    await workshop.person('Quy', ['watches']);
    const [there, not] = [
      await workshop.caller().signIn('Quy', 'wrong one here'),
      await workshop.caller().signIn('Nobody', 'wrong one here'),
    ];
    expect(there.body).toEqual(not.body);
    // Both hash once: asked of the function, for clocks are no test.
    const kept = await hashOf(password);
    expect(kept).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    expect([await isPassword(password, kept), await isPassword('other', kept), await isPassword(password, null)]).toEqual([
      true,
      false,
      false,
    ]);
  });

  // RFC 6238, appendix B: the times and codes of its table, the last six digits of its eight.
  test('a code of an authenticator app is that of the standard, a step before and after as well', () => {
    const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
    for (const [seconds, code] of [
      [59, '287082'],
      [1111111109, '081804'],
      [1111111111, '050471'],
      [1234567890, '005924'],
      [2000000000, '279037'],
      [20000000000, '353130'],
    ] as const) {
      const step = Math.floor(seconds / 30);
      expect([stepOf(secret, code, seconds * 1000), stepOf(secret, code, (seconds + 30) * 1000)]).toEqual([step, step]);
      expect(stepOf(secret, code, (seconds + 90) * 1000)).toBeNull();
    }
  });

  test('asks for the code of an app where a person chose one, and takes none twice', async () => {
    const person = await workshop.person('Flo', ['reads']);
    const { secret, url } = (await person.call('get', '/session/factor').expect(200)).body as { secret: string; url: string };
    expect(url).toMatch(/^otpauth:\/\/totp\/Vast%20Surge:Flo\?/);
    const codeAt = (steps: number) =>
      TOTP.generate({ secret: Secret.fromBase32(secret), timestamp: Date.now() + steps * 30_000 });
    const put = (code: string, word = password) =>
      person.call('put', '/session/factor', { password: word, factor: { secret, code } });
    expect(messageOf(await put(codeAt(0), 'not the password'))).toContain('password is not');
    expect(messageOf(await put(codeAt(9)))).toContain('factor.code is not one of now');
    expect(messageOf(await put('12345'))).toContain('six digits');
    // Nothing counts until a code has proved that the app has the secret.
    await workshop.caller().signIn('Flo').expect(200);
    await put(codeAt(-1)).expect(200);
    const other = workshop.caller();
    const signIn = (code?: string) =>
      other.call('post', '/session/sign-in', { name: 'Flo', password, ...device, ...(code === undefined ? {} : { code }) });
    expect(codeOf(await signIn())).toBe('code_needed');
    expect(messageOf(await signIn(codeAt(9)))).toContain('code is not one of now');
    // The one that switched it on was used by that.
    expect(messageOf(await signIn(codeAt(-1)))).toMatch(/was used|is not one of now/);
    const now = codeAt(0);
    await signIn(`${now.slice(0, 3)} ${now.slice(3)}`).expect(200);
    expect(messageOf(await signIn(now))).toContain('was used');
    await person.call('put', '/session/factor', { password, factor: null }).expect(200);
    await signIn().expect(200);
    const kept = (await person.call('get', '/session/mine').expect(200)).body as { audit: { act: string }[] };
    expect(kept.audit.map(({ act }) => act)).toContain('put session factor');
    expect(JSON.stringify(kept)).not.toContain(secret);
  });

  test('a passkey is made with the password, at a host name alone, and what was not asked signs nobody in', async () => {
    const person = await workshop.person('Gus', ['reads']);
    const named = { Host: 'bench.test' };
    const options = (body: object, headers = named) => person.call('post', '/session/passkeys/options', body, headers);
    expect(messageOf(await options({ password: 'not it' }))).toContain('password is not the password of this account');
    expect(messageOf(await options({ password }, { Host: '127.0.0.1' }))).toContain('by its host name');
    const asked = (await options({ password }).expect(200)).body as { rp: { id: string }; challenge: string };
    expect(asked).toMatchObject({ rp: { id: 'bench.test' }, authenticatorSelection: { userVerification: 'required' } });
    const made = { name: 'Key', response: { id: 'x', rawId: 'x', type: 'public-key', response: {}, clientExtensionResults: {} } };
    expect(messageOf(await person.call('post', '/session/passkeys', made, named))).toContain('is not what was asked');
    // A challenge is used once, by whatever came.
    expect(messageOf(await person.call('post', '/session/passkeys', made, named))).toContain('begin again');
    const other = workshop.caller();
    const signIn = () => other.call('post', '/session/passkey-sign-in', { response: made.response, ...device }, named);
    expect(messageOf(await signIn())).toContain('begin again');
    await other.call('post', '/session/passkey-options', {}, named).expect(200);
    expect(codeOf(await signIn())).toBe('wrong_sign_in');
    expect(messageOf(await signIn())).toContain('begin again');
    expect((await person.call('delete', '/session/passkeys/x', undefined, named)).status).toBe(404);
    expect((await workshop.caller().call('post', '/session/passkey-options', {})).status).toBe(409);
  });

  test('ends by itself: unused after half a day or a month, and at the latest after a day or half a year', () => {
    const hour = 3_600_000;
    const now = Date.parse('2026-12-05T10:00:00Z');
    const over = (forGood: boolean, sinceSeen: number, sinceSignIn: number) =>
      isOver({ forGood, seenAt: new Date(now - sinceSeen * hour).toISOString() }, now - sinceSignIn * hour, now);
    expect([over(false, 11, 20), over(false, 13, 20), over(false, 1, 25)]).toEqual([false, true, true]);
    expect([over(true, 29 * 24, 100 * 24), over(true, 31 * 24, 100 * 24), over(true, 1, 181 * 24)]).toEqual([false, true, true]);
    // A clock that was set back by a year makes nothing longer.
    expect(over(false, -365 * 24, -365 * 24)).toBe(true);
  });

  test('another password signs all other devices out; the old one is asked for', async () => {
    const here = await workshop.person('Rut', ['reads']);
    const there = workshop.caller();
    await there.signIn('Rut').expect(200);
    const change = (was: string, next: string) => here.call('post', '/session/password', { was, next });
    expect(messageOf(await change('not this one', 'another long one'))).toContain('was is not the password');
    expect(messageOf(await change(password, 'short'))).toContain('next must have at least 12 characters');
    await change(password, 'another long one').expect(200);
    await here.call('get', '/rigs').expect(200);
    expect((await there.call('get', '/rigs')).status).toBe(401);
    await there.signIn('Rut', 'another long one').expect(200);
  });
});

describe('a link', () => {
  test('makes an account once: of two who take it at the same time one gets in, and later nobody', async () => {
    const token = await workshop.link({ kind: 'account', roles: ['reads'], by: null });
    const asked = await workshop.caller().call('post', '/session/link', { token });
    expect(asked.body).toMatchObject({ kind: 'account', name: null, roles: ['reads'] });
    const join = (name: string) => workshop.caller().call('post', '/session/join', { token, name, password, ...device });
    const both = await Promise.all([join('Sam'), join('Tim')]);
    expect(both.map(({ status }) => status).sort()).toEqual([201, 410]);
    const again = await join('Una');
    expect([again.status, codeOf(again)]).toEqual([410, 'link_spent']);
    expect((await workshop.caller().call('post', '/session/link', { token })).status).toBe(410);
  });

  test('that is wrong, cut off or run out lets nobody in, and a slip in the form does not spend it', async () => {
    const token = await workshop.link({ kind: 'account', roles: ['watches'], by: null });
    const join = (more: object) =>
      workshop.caller().call('post', '/session/join', { token, name: 'Vic', password, ...device, ...more });
    expect(messageOf(await join({ token: token.slice(1) }))).toContain('token must be the end of a link');
    expect((await join({ token: `${token.slice(1)}_` })).status).toBe(410);
    expect(messageOf(await join({ password: 'too short' }))).toContain('at least 12');
    expect(messageOf(await join({ name: null }))).toContain('name is missing');
    expect(messageOf(await join({ name: ' ida ' }))).toContain('somebody else');
    await join({}).expect(201);
    const old = await workshop.link({ kind: 'account', roles: ['watches'], by: null });
    await workshop.database.owner.query("update links set expires_at = now() - interval '1 s' where used_at is null");
    expect((await join({ token: old, name: 'Wim' })).status).toBe(410);
  });

  test('to another device signs the same person in there, and one to a new password signs all others out', async () => {
    const admin = await workshop.person('Xia', ['administers']);
    const person = await workshop.person('Yan', ['acts']);
    const { body } = await person.call('post', '/session/devices').expect(201);
    const { url, qr } = body as { url: string; qr: string };
    expect(url).toMatch(new RegExp(`^https://bench.test:${workshop.port}/join#[\\w-]{43}$`));
    expect(qr).toContain('<svg');
    const phone = workshop.caller();
    const joined = await phone.call('post', '/session/join', { token: url.split('#')[1], name: null, password: null, ...device });
    expect((joined.body as Session).account?.name).toBe('Yan');
    await phone.call('get', '/rigs').expect(200);
    const reset = await admin.call('post', '/people/links', { kind: 'password', account: person.id }).expect(201);
    const token = (reset.body as { path: string }).path.split('#')[1];
    await workshop
      .caller()
      .call('post', '/session/join', { token, name: null, password: 'quite another one', ...device })
      .expect(201);
    expect((await phone.call('get', '/rigs')).status).toBe(401);
    expect((await workshop.caller().signIn('Yan')).status).toBe(401);
    // The secret of a link is kept nowhere: neither in the table of links, nor in what was answered.
    const { rows } = await workshop.database.owner.query(
      `select count(*)::int as n from (select row_to_json(l)::text as t from links l union all select row_to_json(w)::text from writes w
         union all select row_to_json(a)::text from audit a) as all_rows where t like '%' || $1 || '%'`,
      [token],
    );
    expect(rows).toEqual([{ n: 0 }]);
  });
});
