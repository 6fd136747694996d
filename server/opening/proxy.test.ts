import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { openWorkshop, type OpenWorkshop } from '../test/workshop.ts';
import { setOpening } from './settings.ts';
import { readProxy } from './proxy.ts';

describe('the setting of a proxy', () => {
  test('is an address or a range and what people ask it by; anything else names what is wrong', () => {
    expect(readProxy('', '')).toBeNull();
    expect(readProxy(' 127.0.0.1, 192.168.7.0/24,::1', 'https://bench.example')).toMatchObject({
      trusted: ['127.0.0.1', '192.168.7.0/24', '::1'],
    });
    const url = 'https://bench.example';
    for (const list of ['', 'true', 'loopback', '*', '0.0.0.0/0', '10.0.0.0/7', '10.0.0.0/33', '1.2.3', '10.0.0.1/8/8'])
      expect(() => readProxy(list, url), list).toThrow('VAST_SURGE_PROXY');
    for (const wrong of ['', 'bench.example', 'http://bench.example', 'https://bench.example/surge', 'https://a:b@bench.example'])
      expect(() => readProxy('127.0.0.1', wrong), wrong).toThrow('VAST_SURGE_URL');
  });
});

describe('behind a proxy', () => {
  let workshop: OpenWorkshop;
  let unbelieved: OpenWorkshop;
  const url = new URL('https://bench.example');
  const through = (address: string, more: Record<string, string> = {}) => ({
    Host: 'bench.example',
    'X-Forwarded-For': address,
    'X-Forwarded-Proto': 'https',
    ...more,
  });
  beforeAll(async () => {
    workshop = await openWorkshop({ trusted: ['127.0.0.1'], url });
    unbelieved = await openWorkshop({ trusted: ['10.9.9.9'], url });
  });
  afterAll(async () => {
    await workshop.end();
    await unbelieved.end();
  });

  test('the one who asks is the one it says, over TLS or not at all, and signs in with a cookie for TLS alone', async () => {
    const admin = await workshop.person('Zoe', ['administers']);
    const phone = workshop.caller();
    expect((await phone.call('get', '/rigs', undefined, through('203.0.113.5'))).status).toBe(401);
    const clear = await phone.call('get', '/rigs', undefined, through('203.0.113.5', { 'X-Forwarded-Proto': 'http' }));
    expect([clear.status, (clear.body as { message: string }).message]).toEqual([
      403,
      'Other devices are answered over TLS alone.',
    ]);
    const stranger = await phone.call('get', '/rigs', undefined, through('203.0.113.5', { Host: 'other.example' }));
    expect(stranger.status).toBe(403);
    const signIn = (address: string, password: string) =>
      workshop
        .caller()
        .call(
          'post',
          '/session/sign-in',
          { name: 'Zoe', password, device: 'Phone', forGood: false },
          through(address, { Origin: 'https://bench.example' }),
        );
    const signed = await signIn('203.0.113.5', 'a long way round').expect(200);
    expect(String(signed.headers['set-cookie'])).toMatch(/; Secure/);
    expect(signed.headers['strict-transport-security']).toBe('max-age=86400');
    const { devices } = (await admin.call('get', '/session/mine').expect(200)).body as {
      devices: { name: string; address: string }[];
    };
    expect(devices.find(({ name }) => name === 'Phone')?.address).toBe('203.0.113.5');
    // What a device claims of itself stands before what the proxy adds, and is not believed.
    await signIn('198.51.100.1, 203.0.113.6', 'a long way round').expect(200);
    const seen = (await admin.call('get', '/session/mine').expect(200)).body as { devices: { address: string }[] };
    expect(seen.devices.map(({ address }) => address)).toContain('203.0.113.6');
    expect(seen.devices.map(({ address }) => address)).not.toContain('198.51.100.1');
    // A link leads through it.
    const link = await admin.call('post', '/session/devices').expect(201);
    expect((link.body as { url: string }).url).toMatch(/^https:\/\/bench\.example\/join#/);
  });

  test('a workshop that is closed again answers nobody through it', async () => {
    await setOpening(workshop.database.pool, null);
    await workshop.doors.look();
    for (const host of ['bench.example', '127.0.0.1'])
      expect((await workshop.caller().call('get', '/rigs', undefined, through('203.0.113.5', { Host: host }))).status).toBe(403);
    expect((await workshop.caller().call('get', '/rigs')).status).toBe(200);
  });

  test('who is not on the list is believed nothing', async () => {
    const claimed = await unbelieved.caller().call('get', '/rigs', undefined, { 'X-Forwarded-For': '203.0.113.5' });
    expect(claimed.status).toBe(401);
    await unbelieved.person('Yui', ['administers']);
    const { rows } = await unbelieved.database.pool.query<{ address: string }>('select address from devices');
    expect(rows.map(({ address }) => address)).toEqual(['127.0.0.1']);
  });
});
