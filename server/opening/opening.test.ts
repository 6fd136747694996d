import { X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { request as requestTls } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect } from 'node:tls';
import { generate } from 'selfsigned';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { openWorkshop, type OpenWorkshop } from '../test/workshop.ts';
import { certificateFor, takeCertificate } from './certificate.ts';
import { keysIn } from './doors.ts';
import { openingOf, setOpening } from './settings.ts';

const day = 86_400_000;
const folders: string[] = [];
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'surge-tls-'));
  folders.push(made);
  return made;
};
afterAll(() => folders.forEach((one) => rmSync(one, { recursive: true, force: true })));

describe('a certificate', () => {
  // CA/Browser Forum Baseline Requirements: at most 398 days, names in subjectAltName, for servers. Read back by OpenSSL, which Node has in it.
  test('is of the workshop’s own authority, holds for its names alone, and its keys are for nobody else to read', async () => {
    const keys = folder();
    const { chain, shown } = await certificateFor(keys, ['bench.test', '192.168.7.4', 'fd00::7']);
    const leaf = new X509Certificate(chain);
    const authority = new X509Certificate(readFileSync(join(keys, 'authority.crt')));
    expect([leaf.verify(authority.publicKey), leaf.checkIssued(authority), authority.ca, leaf.ca]).toEqual([
      true,
      true,
      true,
      false,
    ]);
    expect(['bench.test', 'localhost', 'other.test'].map((name) => leaf.checkHost(name) !== undefined)).toEqual([
      true,
      true,
      false,
    ]);
    expect(['192.168.7.4', 'fd00::7', '127.0.0.1', '192.168.7.5'].map((ip) => leaf.checkIP(ip) !== undefined)).toEqual([
      true,
      true,
      true,
      false,
    ]);
    const days = (Date.parse(leaf.validTo) - Date.parse(leaf.validFrom)) / day;
    expect(days).toBeLessThanOrEqual(398);
    expect(shown).toMatchObject({ isOwn: true, fingerprint: authority.fingerprint256 });
    // Of two hosts: whoever trusts both of one file finds the right one by its name.
    const others = folder();
    await certificateFor(others, ['bench.test']);
    const both = [keys, others].map((one) => readFileSync(join(one, 'authority.crt'), 'utf8'));
    expect(new Set(both.map((pem) => new X509Certificate(pem).subject)).size).toBe(2);
    expect(both.every((pem) => pem.endsWith('-----\n'))).toBe(true);
    for (const name of ['authority.key', 'server.key']) expect(statSync(join(keys, name)).mode & 0o077).toBe(0);
  });

  test('stays while it holds, and is made anew when a name is added or it runs out soon, by the same authority', async () => {
    const keys = folder();
    const first = await certificateFor(keys, ['192.168.7.4']);
    expect((await certificateFor(keys, ['192.168.7.4'])).chain).toBe(first.chain);
    const named = await certificateFor(keys, ['192.168.7.4', 'bench.test']);
    expect(named.chain).not.toBe(first.chain);
    const later = await certificateFor(keys, ['192.168.7.4', 'bench.test'], Date.now() + 370 * day);
    expect(later.chain).not.toBe(named.chain);
    expect([named, later].map(({ shown }) => shown.fingerprint)).toEqual([first.shown.fingerprint, first.shown.fingerprint]);
  });

  test('of the operator is looked at before it is taken: its key, its time and its names', async () => {
    const keys = folder();
    const made = (name: string, from: number, to: number) =>
      generate([{ name: 'commonName', value: name }], {
        keyType: 'ec',
        algorithm: 'sha256',
        notBeforeDate: new Date(Date.now() + from * day),
        notAfterDate: new Date(Date.now() + to * day),
        extensions: [{ name: 'subjectAltName', altNames: [{ type: 2, value: name }] }],
      });
    const [good, old, early, other] = [
      await made('bench.test', -1, 90),
      await made('bench.test', -90, -1),
      await made('bench.test', 2, 90),
      await made('elsewhere.test', -1, 90),
    ];
    const take = (cert: string, key: string) => takeCertificate(keys, cert, key, ['bench.test']);
    await expect(take(good.cert, other.private)).rejects.toThrow('the key is not that of the certificate');
    await expect(take(old.cert, old.private)).rejects.toThrow(/ran out on \d{4}-/);
    await expect(take(early.cert, early.private)).rejects.toThrow('which is not yet');
    await expect(take(other.cert, other.private)).rejects.toThrow('DNS:elsewhere.test, and for none of bench.test');
    await expect(take('nonsense', good.private)).rejects.toThrow('cannot be used');
    // What was refused left nothing: the workshop's own still stands.
    expect((await certificateFor(keys, ['bench.test'])).shown.isOwn).toBe(true);
    await take(good.cert, good.private);
    expect((await certificateFor(keys, ['bench.test'])).shown).toMatchObject({ isOwn: false });
    // One that ran out since is said to have, and nothing weaker takes its place.
    await expect(certificateFor(keys, ['bench.test'], Date.now() + 91 * day)).rejects.toThrow('ran out');
  });
});

describe('the doors', () => {
  let workshop: OpenWorkshop;
  let ca = '';
  beforeAll(async () => {
    workshop = await openWorkshop();
    ca = readFileSync(join(keysIn(workshop.keep), 'authority.crt'), 'utf8');
  });
  afterAll(() => workshop.end());

  const ask = (headers: Record<string, string>, port = workshop.port, trusts = true) =>
    new Promise<{ status: number; headers: Record<string, unknown>; body: string }>((resolve, reject) => {
      const asked = requestTls(
        { host: '127.0.0.1', port, path: '/api/session', headers, servername: 'localhost', ...(trusts ? { ca } : {}) },
        (answer) => {
          let body = '';
          answer.on('data', (chunk: Buffer) => (body += chunk.toString()));
          answer.on('end', () => resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body }));
        },
      );
      asked.on('error', reject);
      asked.end();
    });

  test('answer over TLS whoever trusts the authority, by the names of the workshop and from its own pages alone', async () => {
    const host = `bench.test:${workshop.port}`;
    const own = await ask({ Host: host, Origin: `https://${host}` });
    expect([own.status, JSON.parse(own.body)]).toEqual([200, { mode: 'open', account: null, device: null }]);
    expect(own.headers['strict-transport-security']).toBe('max-age=86400');
    // Never for the machine itself, nor for a bare address, which browsers leave out of it anyway.
    for (const name of ['localhost', `127.0.0.1:${workshop.port}`])
      expect((await ask({ Host: name })).headers['strict-transport-security']).toBeUndefined();
    for (const headers of [
      { Host: 'evil.test' },
      { Host: `bench.test.evil.test:${workshop.port}` },
      { Host: host, Origin: `http://${host}` },
      { Host: host, Origin: 'https://evil.test' },
      { Host: host, 'Sec-Fetch-Site': 'cross-site' },
    ])
      expect((await ask(headers as unknown as Record<string, string>)).status).toBe(403);
    await expect(ask({ Host: host }, workshop.port, false)).rejects.toThrow(/self.signed|unable to (get|verify)/i);
  });

  test('take TLS 1.2 at the least, and no plain request', async () => {
    const version = (most: 'TLSv1.1' | 'TLSv1.2' | 'TLSv1.3') =>
      new Promise<string>((resolve) => {
        // Old versions are asked for with the ciphers that they need: the refusal is then the server's own.
        const socket = connect(
          {
            host: '127.0.0.1',
            port: workshop.port,
            ca,
            servername: 'localhost',
            minVersion: 'TLSv1',
            maxVersion: most,
            ciphers: 'DEFAULT@SECLEVEL=0',
          },
          () => {
            resolve(socket.getProtocol() ?? '');
            socket.end();
          },
        );
        socket.on('error', () => resolve('refused'));
      });
    expect([await version('TLSv1.1'), await version('TLSv1.2'), await version('TLSv1.3')]).toEqual([
      'refused',
      'TLSv1.2',
      'TLSv1.3',
    ]);
    await expect(fetch(`http://127.0.0.1:${workshop.port}/api/session`)).rejects.toThrow();
  });

  test('open and close with the setting, wherever it was set; an address that is not there is told and tried again', async () => {
    const { pool } = workshop.database;
    const before = await openingOf(pool);
    if (!before) throw new Error('not open');
    await setOpening(pool, { ...before, addresses: ['127.0.0.1', '192.0.2.77'] });
    await workshop.doors.look();
    expect(workshop.doors.opened().listening).toEqual([
      { url: `https://127.0.0.1:${workshop.port}`, trouble: null },
      { url: `https://192.0.2.77:${workshop.port}`, trouble: 'this machine does not have this address now' },
    ]);
    expect((await ask({ Host: 'localhost' })).status).toBe(200);
    await setOpening(pool, { ...before, addresses: ['127.0.0.2'] });
    await workshop.doors.look();
    await expect(ask({ Host: 'localhost' })).rejects.toThrow(/ECONNREFUSED/);
    await setOpening(pool, before);
    await workshop.doors.look();
    expect((await ask({ Host: 'localhost' })).status).toBe(200);
  });

  test('a live line ends soon after its device was taken back, by whichever server that was', async () => {
    const person = await workshop.person('Eve', ['watches']);
    const signedIn = await workshop.caller().signIn('Eve');
    const [cookie = ''] = String((signedIn.headers as Record<string, unknown>)['set-cookie']).split(';');
    const ended = new Promise<string>((resolve, reject) => {
      const asked = requestTls(
        {
          host: '127.0.0.1',
          port: workshop.port,
          path: '/api/live',
          ca,
          servername: 'localhost',
          headers: { Host: 'localhost', Cookie: cookie },
        },
        (answer) => {
          let text = `${answer.statusCode} `;
          answer.on('data', (chunk: Buffer) => (text += chunk.toString()));
          answer.on('end', () => resolve(text));
          // Not told to this server: written by another.
          void workshop.database.pool.query('update devices set revoked_at = now() where account_id = $1', [person.id]);
        },
      );
      asked.on('error', reject);
      asked.end();
    });
    expect(await ended).toMatch(/^200 retry: 2000\nevent: beat/);
    expect((await ask({ Host: 'localhost', Cookie: cookie })).body).toContain('"account":null');
  });

  test('a setting that cannot be read closes no door to open another: the server goes on as it was, and one that starts says so', async () => {
    const { pool } = workshop.database;
    const before = await openingOf(pool);
    await pool.query(`update settings set value = value || '{"from": "tomorrow"}' where name = 'opening'`);
    await expect(workshop.doors.look()).rejects.toThrow('cannot be read');
    expect([workshop.doors.isOpen, (await workshop.caller().call('get', '/rigs')).status]).toEqual([true, 401]);
    await setOpening(pool, before);
    await workshop.doors.look();
  });

  test('what cannot be is refused by name, and nothing of it is kept', async () => {
    const admin = await workshop.person('Ada', ['administers']);
    const put = async (more: object) => {
      const answer = await admin.call('put', '/opening', {
        opening: { addresses: ['127.0.0.1'], names: [], port: 4643, ...more },
      });
      return `${answer.status} ${(answer.body as { message?: string }).message ?? ''}`;
    };
    expect(await put({ addresses: ['192.0.2.77'] })).toContain('400 opening.addresses[0] must be an address of this machine');
    expect(await put({ addresses: ['0.0.0.0'] })).toContain('must be an address of this machine');
    expect(await put({ addresses: [] })).toContain('must have at least one address');
    expect(await put({ port: 80 })).toContain('opening.port must be from 1024 to 65535');
    expect(await put({ names: ['Bench Test'] })).toContain('opening.names[0] must be a host name');
    expect((await openingOf(workshop.database.pool))?.names).toEqual(['bench.test']);
  });

  test('the first way in is told once, while nobody administers', async () => {
    const fresh = await openWorkshop();
    try {
      const { pool } = fresh.database;
      const opening = await openingOf(pool);
      const first = await setOpening(pool, opening);
      const one = fresh.caller();
      const body = { token: first?.token, name: 'Ada', password: 'a long way round', device: 'Laptop', forGood: true };
      await one.call('post', '/session/join', body).expect(201);
      expect(await setOpening(pool, opening)).toBeNull();
      await one.call('get', '/people').expect(200);
      await one.call('get', '/rigs').expect(200);
    } finally {
      await fresh.end();
    }
  });
});
