import { spawn, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { fileURLToPath } from 'node:url';
import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import { beginRun, pickRig, RigPage } from './pages.ts';
import { findings, inEachOthersWay, widths } from './screen-checks.ts';

/** A server of its own: one that other devices come into asks everybody who they are. */
let server: ChildProcess;
let base = '';
const password = 'copper and salt water';

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });

test.beforeAll(async () => {
  const port = await freePort();
  base = `http://127.0.0.1:${port}`;
  server = spawn(process.execPath, [fileURLToPath(new URL('serve.mjs', import.meta.url))], {
    cwd: fileURLToPath(new URL('..', import.meta.url)),
    env: { ...process.env, PORT: String(port), E2E_DATABASE: 'e2e_open', VAST_SURGE_RATE: '100000' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    server.stdout?.on('data', (said: Buffer) => said.toString().includes('Vast Surge is at') && resolve());
    server.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
});
test.afterAll(() => {
  server.removeAllListeners('exit');
  server.kill('SIGTERM');
});

/** Nothing on a page lies on something else, by four widths, and everyone can use it. */
async function expectUsable(page: Page): Promise<void> {
  const before = page.viewportSize();
  for (const width of widths) {
    await page.setViewportSize({ width, height: 800 });
    expect(await inEachOthersWay(page), `${page.url()} at ${width} px`).toEqual([]);
  }
  if (before) await page.setViewportSize(before);
  for (const theme of ['night', 'day'] as const) expect(await findings(page, theme), page.url()).toEqual([]);
}

/** A phone of somebody who got a link: it comes over TLS. */
async function joined(browser: Browser, link: string, name: string): Promise<{ context: BrowserContext; page: Page }> {
  // The authority of a workshop that stands for one test is trusted by nobody; a test of the server holds the certificate to it.
  const context = await browser.newContext({
    ignoreHTTPSErrors: true,
    viewport: { width: 390, height: 800 },
    baseURL: new URL(link).origin,
  });
  const page = await context.newPage();
  await page.goto(link);
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Make account' }).click();
  await expect(page.getByRole('heading', { name: 'Rigs', exact: true })).toBeVisible();
  return { context, page };
}

/** A passkey is made and signs in, at a host name; one that was removed signs nobody in. */
async function withPasskey(browser: Browser, address: string): Promise<void> {
  const context = await browser.newContext({ baseURL: address });
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send('WebAuthn.enable');
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  });
  await page.goto('/account');
  // Nobody has one yet: the browser gives none, and that is told.
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await expect(page.getByRole('alert')).toContainText('The browser gave no passkey');
  await page.getByLabel('Name', { exact: true }).fill('Ines Wendt');
  await page.getByLabel('Password').fill(password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('button', { name: 'Add a passkey' }).click();
  await page.getByLabel('Name of the passkey').fill('Bench key');
  await page.getByLabel('Password of this account').fill('not this one at all');
  await page.getByRole('button', { name: 'Make the passkey' }).click();
  await expect(page.getByRole('alert')).toContainText('is not the password of this account');
  await page.getByLabel('Password of this account').fill(password);
  await page.getByRole('button', { name: 'Make the passkey' }).click();
  const key = page.getByRole('listitem').filter({ hasText: 'Bench key' });
  await expect(key).toContainText('for localhost');
  await expect(key).toContainText('not used yet');
  expect(await findings(page, 'day')).toEqual([]);
  const out = () => page.getByRole('button', { name: 'Sign out', exact: true }).click();
  await out();
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await expect(key).toContainText('last used');
  await page.getByRole('button', { name: 'Remove the passkey Bench key' }).click();
  await expect(key).toHaveCount(0);
  await out();
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click();
  await expect(page.getByRole('alert')).toContainText('This passkey is not one of a person here');
  await context.close();
}

test('a workshop is opened, people come in with what they may do, run with it, and are found in the audit', async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const desk = await (await browser.newContext({ baseURL: base })).newPage();
  await desk.goto('/rigs');
  await desk.getByRole('button', { name: 'Other devices' }).click();
  await expect(desk.getByRole('heading', { name: 'Other devices: none' })).toBeVisible();
  await expect(desk.getByRole('checkbox', { name: /^127\.0\.0\.1/ })).toBeVisible();
  for (const box of await desk.getByRole('checkbox').all()) await box.uncheck();
  await desk.getByRole('checkbox', { name: /^127\.0\.0\.1/ }).check();
  await desk.getByLabel('Port').fill('80');
  await desk.getByRole('button', { name: 'Let other devices in' }).click();
  await expect(desk.getByRole('alert')).toContainText('opening.port must be from 1024 to 65535');
  const port = await freePort();
  await desk.getByLabel('Port').fill(String(port));
  await desk.getByRole('button', { name: 'Let other devices in' }).click();

  // The first account: a slip is told by name, and nothing is lost by it.
  await desk.getByLabel('Name', { exact: true }).fill('Ines Wendt');
  await desk.getByLabel('Password').fill('short');
  await desk.getByRole('button', { name: 'Make account' }).click();
  await expect(desk.getByRole('alert')).toContainText('at least 12 characters');
  await expectUsable(desk);
  await desk.getByLabel('Password').fill(password);
  await desk.getByRole('button', { name: 'Make account' }).click();
  await desk.getByRole('link', { name: 'Your account: Ines Wendt' }).click();
  await desk.getByRole('button', { name: 'Sign another device in' }).click();
  await expect(desk.getByRole('img', { name: 'The link as a QR code' })).toBeVisible();
  await desk.getByRole('button', { name: 'Switch a second factor on' }).click();
  await expect(desk.getByRole('img', { name: 'The secret as a QR code' })).toBeVisible();
  await desk.getByLabel('Six digits of the app').fill('000 000');
  await desk.getByLabel('Password of this account').fill(password);
  await desk.getByRole('button', { name: 'Switch on' }).click();
  await expect(desk.getByRole('alert')).toContainText('code is not one of now');
  await expectUsable(desk);

  const invited = async (...roles: string[]): Promise<string> => {
    await desk.goto('/people');
    for (const role of ['watches', ...roles])
      await desk.getByRole('group', { name: 'Roles of the invitation' }).getByLabel(role).click();
    await desk.getByRole('button', { name: 'Make a link' }).click();
    return (await desk.getByText(/^https:.*\/join#/).textContent()) ?? '';
  };
  // A rig for some people only: said, and taken back, for the tests below use it.
  await desk.goto('/people');
  const some = desk.getByRole('region', { name: 'A rig for some people only' });
  await pickRig(some, 'Rig', 'Anvil');
  await some.getByRole('checkbox', { name: /^Ines Wendt/ }).check();
  await some.getByRole('button', { name: 'Save people' }).click();
  await expect(some.getByRole('status')).toContainText('All others watch Anvil');
  await expectUsable(desk);

  const link = await invited('reads');
  expect(link).toContain(`https://127.0.0.1:${port}/join#`);
  const reader = await joined(browser, link, 'Jo Reader');
  const guest = await joined(browser, await invited('watches'), 'Guest');
  await expectUsable(desk);
  // A link works once.
  const late = await (await browser.newContext({ ignoreHTTPSErrors: true })).newPage();
  await late.goto(link);
  await expect(late.getByRole('heading', { name: 'This link does not work' })).toBeVisible();
  await late.getByRole('link', { name: 'Sign in with name and password' }).click();
  await expect(late.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expectUsable(late);

  // A guest sees everything and saves nothing, and is told so before trying.
  await guest.page.getByRole('link', { name: 'Thimble', exact: true }).click();
  await expect(guest.page.getByRole('status').filter({ hasText: 'Nothing you change on this page is saved' })).toContainText(
    'whoever designs; your role is watches',
  );
  await guest.page.goto('/rigs');
  await guest.page.getByRole('link', { name: 'Anvil', exact: true }).click();
  await expect(guest.page.getByText('This rig is for some people only')).toBeVisible();
  await guest.page.goto('/people');
  await expect(guest.page.getByRole('alert')).toContainText('This is for whoever administers');

  // The key holder at the desk, the others on their phones: they follow, the reader may take over, the guest may only abort.
  await desk.goto('/runs');
  await pickRig(desk, 'Rig to run', 'Thimble');
  await desk.getByRole('button', { name: 'Run or rehearse' }).click();
  await desk.getByLabel('Rehearsal, on a simulated rig').check();
  await desk.getByRole('button', { name: 'Open the rehearsal' }).click();
  await desk.waitForURL(/\/runs\/./);
  const run = new URL(desk.url()).pathname;
  await guest.page.goto(run);
  await expect(guest.page.getByRole('status').filter({ hasText: 'It has not begun' })).toContainText(
    'whoever designs or acts or reads',
  );
  await beginRun(desk);
  await reader.page.goto(run);
  await expect(reader.page.getByRole('button', { name: 'Ask to take over' })).toBeVisible();
  // The first hold is of two: the reader answers it on a phone, without a PIN; who acts could not have.
  await expect(desk.getByText('Or CD answers on a device of their own')).toBeVisible();
  await expect(desk.getByRole('button', { name: /^Enter the PIN/ })).toBeVisible();
  await expect(guest.page.getByRole('button', { name: 'Answer the hold' })).toHaveCount(0);
  await reader.page.getByRole('button', { name: 'Answer the hold' }).click();
  await expect(desk.getByRole('button', { name: /^(Done|Wait)/ })).toBeVisible();
  await expect(reader.page.getByRole('button', { name: 'Answer the hold' })).toHaveCount(0);
  await expect(guest.page.getByText('acts on another screen; this one watches.')).toBeVisible();
  await expect(guest.page.getByRole('button', { name: 'take over' })).toHaveCount(0);
  // The key is asked for: kept once, then given, and asked back.
  const ask = async (page: Page, by: string) => {
    await page.getByLabel('Your initials').fill(by);
    await page.getByRole('button', { name: 'Ask to take over' }).click();
  };
  await ask(reader.page, 'cd');
  await expect(reader.page.getByText('AB can answer for')).toBeVisible();
  await expect(desk.getByText('CD asks to take over.')).toBeVisible();
  await expectUsable(desk);
  await desk.getByRole('button', { name: 'Keep the key' }).click();
  await expect(reader.page.getByText('AB keeps the key')).toBeVisible();
  await ask(reader.page, 'cd');
  await desk.getByRole('button', { name: 'Give CD the key' }).click();
  await expect(desk.getByText('CD acts on another screen')).toBeVisible();
  await ask(desk, 'ab');
  await reader.page.getByRole('button', { name: 'Give AB the key' }).click();
  await expect(desk.getByRole('alert').filter({ hasText: 'asks to take over' })).toHaveCount(0);
  await expect(desk.getByRole('button', { name: /^(Done|Wait)/ })).toBeVisible();
  await guest.page.getByRole('button', { name: /ABORT/ }).click();
  await guest.page.getByRole('button', { name: /ABORT/ }).click();
  await expect(desk.getByText(/abort/i).first()).toBeVisible();
  await expect
    .poll(async () =>
      ((await (await desk.request.get(`/api${run}`)).json()) as { events: { event: { type: string } }[] }).events.map(
        ({ event }) => event.type,
      ),
    )
    .toContain('aborted');

  // Taken back while a page stands there: it signs in over it, and what was typed stays.
  await desk.goto('/people');
  const row = desk.getByRole('listitem').filter({ has: desk.getByRole('heading', { name: /^Jo Reader/ }) });
  await row.getByRole('button', { name: /^Sign .* out$/ }).click();
  await reader.page.goto(`${new URL(reader.page.url()).origin}/rigs`);
  await expect(reader.page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await reader.page.getByLabel('Name', { exact: true }).fill('jo reader');
  await reader.page.getByLabel('Password').fill('not the right one');
  await reader.page.getByRole('button', { name: 'Sign in' }).click();
  await expect(reader.page.getByRole('alert')).toContainText('The name or the password is wrong');
  await reader.page.getByLabel('Password').fill(password);
  await reader.page.getByRole('button', { name: 'Sign in' }).click();
  await expect(reader.page.getByRole('link', { name: 'Thimble', exact: true })).toBeVisible();

  // Whoever designs is saved as before.
  const rig = new RigPage(desk);
  await desk.goto('/rigs');
  await desk.getByRole('link', { name: 'Thimble', exact: true }).click();
  await rig.block('Store');
  await rig.type('Charged to', '35 V');
  await rig.saved();

  await desk.goto('/audit');
  await desk.getByRole('button', { name: 'Check the chain' }).click();
  await expect(desk.getByRole('status')).toContainText('Whole:');
  for (const [who, what] of [
    ['Ines Wendt', 'saved a rig'],
    ['Jo Reader', 'signed in'],
    ['Jo Reader', 'sign-in refused'],
    ['Ines Wendt', 'signed a device out'],
    ['Guest', 'acted in a run'],
    ['Guest', 'took an invitation up'],
    ['the machine itself', 'opened the workshop'],
  ] as const)
    // A save that is on its way comes into the list a moment later.
    await expect(
      desk.locator('tbody tr').filter({ hasText: who }).filter({ hasText: what }).first(),
      `${who} ${what}`,
    ).toBeVisible();
  await expectUsable(desk);

  await withPasskey(browser, base.replace('127.0.0.1', 'localhost'));

  // Closed again, nobody is asked who they are.
  await desk.goto('/opening');
  await expect(desk.getByText('answers', { exact: true })).toBeVisible();
  await expectUsable(desk);
  await desk.getByRole('button', { name: 'Close the workshop' }).click();
  await desk.getByRole('button', { name: /^Close it/ }).click();
  await expect(desk.getByRole('heading', { name: 'Other devices: none' })).toBeVisible();
  await expect(desk.getByRole('button', { name: 'Other devices', exact: true })).toBeVisible();
});
