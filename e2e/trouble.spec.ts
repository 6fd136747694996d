import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { newBank, openRig, rigInList, RigPage } from './pages.ts';

test('edits made while the server is away are kept on the device, said to be, and sent after a reload when it is back', async ({
  page,
  context,
}) => {
  const rig = await newBank(page);
  await rig.saved();
  await context.route('**/api/**', (route) => route.abort());
  await rig.type('Charged to', '44 V');
  await expect(page.locator('[data-save="kept"]')).toHaveText('kept on this device, server not reached');
  await expect(rig.strip).toContainText('at 44.0 V');
  await page.reload();
  await expect(rig.strip).toContainText('at 44.0 V');
  await expect(page.locator('[data-save="kept"]')).toBeVisible();
  await context.unroute('**/api/**');
  await rig.saved();
  await page.reload();
  await expect(rig.strip).toContainText('at 44.0 V');
});

test('a server that goes away right after a save takes nothing back on the page', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  await rig.type('Charged to', '44 V');
  await rig.saved();
  await context.route('**/api/**', (route) => route.abort());
  await expect(page.getByText('saved; server not reached')).toBeVisible();
  await page.waitForTimeout(4000);
  await expect(rig.strip).toContainText('at 44.0 V');
  await context.unroute('**/api/**');
  await rig.saved();
  await expect(rig.strip).toContainText('at 44.0 V');
});

test('edits that this version cannot read are said to be there, saved as a file, and only then removed', async ({ page }) => {
  await page.goto('/sums');
  await page.evaluate(() => localStorage.setItem('vast-surge.edit.gone.some-rig', '{"from":"tomorrow"}'));
  await page.goto('/rigs');
  const note = page.getByRole('alert').filter({ hasText: 'that this version cannot read' });
  await expect(note).toBeVisible();
  await expect(note.getByRole('button', { name: 'Remove them' })).toBeDisabled();
  const [file] = await Promise.all([page.waitForEvent('download'), note.getByRole('button', { name: 'Save them' }).click()]);
  expect(file.suggestedFilename()).toBe('kept-edits.json');
  await note.getByRole('button', { name: 'Remove them' }).click();
  await expect(note).toHaveCount(0);
  expect(await page.evaluate(() => localStorage.getItem('vast-surge.edit.gone.some-rig'))).toBeNull();
});

test('edits left behind by a tab that was closed are sent by the next one, wherever it is opened', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const address = page.url();
  await context.route('**/api/rigs/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await rig.type('Charged to', '45 V');
  await expect(page.locator('[data-save="kept"]')).toBeVisible();
  await page.close();
  const next = await context.newPage();
  await next.goto('/sums');
  const note = next.getByRole('status').filter({ hasText: 'Edits of New capacitor bank are kept on this device' });
  await expect(note).toBeVisible();
  await context.unroute('**/api/rigs/*');
  await expect(note).toHaveCount(0);
  await next.goto(address);
  await expect(new RigPage(next).strip).toContainText('at 45.0 V');
});

test('leaving a rig before it is saved, for another one, drops nothing', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const address = page.url();
  await context.route('**/api/rigs/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await rig.type('Charged to', '45 V');
  await page.getByRole('link', { name: 'Rigs', exact: true }).click();
  const note = page.getByRole('status').filter({ hasText: 'Edits of New capacitor bank are kept on this device' });
  await expect(note).toBeVisible();
  await (await rigInList(page, 'Thimble')).click();
  await expect(rig.strip).toContainText('at 37.0 V');
  await expect(note).toBeVisible();
  await context.unroute('**/api/rigs/*');
  await expect(note).toHaveCount(0);
  await page.goto(address);
  await expect(rig.strip).toContainText('at 45.0 V');
});

test('a database that stops while a rig is open is said to, and the page comes back by itself', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const fault = { code: 'database_away', message: 'The database does not answer; nothing was written.', fields: [] };
  await context.route('**/api/**', (route) => route.fulfill({ status: 503, json: fault }));
  await rig.type('Charged to', '46 V');
  await expect(page.locator('[data-save="kept"]')).toHaveAttribute('title', fault.message);
  await context.unroute('**/api/**');
  await rig.saved();
});

test('a list that cannot be fetched says so and comes back by itself', async ({ page, context }) => {
  await context.route('**/api/rigs?*', (route) => route.abort());
  await page.goto('/rigs');
  await expect(page.getByRole('alert')).toContainText('The server does not answer');
  await page.getByRole('link', { name: 'Sums', exact: true }).first().click();
  await expect(page.getByRole('heading', { name: 'Sums' })).toBeVisible();
  await page.getByRole('link', { name: 'Rigs', exact: true }).click();
  await context.unroute('**/api/rigs?*');
  await expect(page.locator('tr[data-rig]').first()).toBeVisible({ timeout: 15_000 });
});

test('a list that is longer than a screen is searched and sorted by the server; its numbers show their working', async ({
  page,
}) => {
  await page.goto('/rigs');
  await page.getByLabel('Search the rigs').fill('teaching');
  // Other tests may have copied it by now.
  await expect(page.locator('tr[data-rig]:not([data-rig*="Thimble"])')).toHaveCount(0);
  await page.locator('tr[data-rig="Thimble"]').getByTitle('Working of Stored energy').click();
  await expect(page.getByRole('dialog', { name: /^Stored energy/ })).toContainText(/=\s*23\s*J/);
  await page.keyboard.press('Escape');
  await page.getByLabel('Search the rigs').fill('no such rig');
  await expect(page.getByText('No results.')).toBeVisible();
  // Copies and samples that other tests made of it begin with other words, or with its name and more.
  await page.getByLabel('Search the rigs').fill('anvil');
  await page.getByLabel('Order of the rigs').selectOption('by name');
  await expect(page.locator('tr[data-rig]').first()).toHaveAttribute('data-rig', 'Anvil');
});

test('a page of an older version, and a full disk, are said by name on every page', async ({ page, context }) => {
  await context.route('**/api/health', async (route) => {
    const answer = await route.fetch();
    const health = (await answer.json()) as object;
    await route.fulfill({
      response: answer,
      json: { ...health, page: 'index-newer.js', disk: { free: 1e6, total: 1e9, full: true, writable: true } },
    });
  });
  await page.goto('/sums');
  await expect(page.getByRole('alert').filter({ hasText: 'This page is older than the server' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'The disk of the server is full: 1 MB are free' })).toBeVisible();
  await context.unroute('**/api/health');
  await page.getByRole('button', { name: 'Reload' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('while the workshop is being restored edits are kept on the device and sent when it is over', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const fault = { code: 'restoring', message: 'The workshop is being restored from a backup; nothing was written.', fields: [] };
  await context.route('**/api/rigs/*', (route) =>
    route.request().method() === 'PUT'
      ? route.fulfill({ status: 503, headers: { 'Retry-After': '1' }, json: fault })
      : route.continue(),
  );
  await rig.type('Charged to', '47 V');
  await expect(page.locator('[data-save="kept"]')).toContainText('the workshop is being restored');
  await context.unroute('**/api/rigs/*');
  await rig.saved();
});

test('backups: how old the last is, made on schedule once that is switched on, and wrong folders told', async ({ page }) => {
  await page.goto('/rigs');
  await page
    .getByRole('link', { name: /backup/i })
    .first()
    .click();
  await expect(page.getByRole('heading', { name: 'Backups', exact: true })).toBeVisible();
  const folder = mkdtempSync(join(tmpdir(), 'surge-e2e-backups-'));
  await page.getByLabel('Folder').fill('backups');
  await page.getByRole('button', { name: 'Switch on' }).click();
  await expect(page.getByRole('alert')).toContainText('must be the whole path of a folder');
  await page.getByLabel('Folder').fill(folder);
  await page.getByRole('button', { name: 'Switch on' }).click();
  await expect(page.getByRole('heading', { name: 'Scheduled backups: on' })).toBeVisible();
  await expect(
    page
      .getByRole('listitem')
      .filter({ hasText: /scheduled, read back/ })
      .first(),
  ).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Switch off' }).click();
  await expect(page.getByRole('heading', { name: 'Scheduled backups: off' })).toBeVisible();
  await page.goto('/rigs');
  await expect(page.getByRole('link', { name: /^Last backup \d+ \w+ ago/ })).toBeVisible();
  rmSync(folder, { recursive: true, force: true });
});

test('a rig that is not there, and a page that is not there, say so', async ({ page }) => {
  await page.goto('/rigs/00000000-0000-4000-8000-000000000000');
  await expect(page.getByRole('alert')).toContainText('There is no rig under this address');
  await page.goto('/nowhere');
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
  await page.goto('/sums/nonsense');
  await expect(page.getByRole('alert')).toContainText('There is no formula');
});

test('nothing reaches beyond the own server, and the console stays silent', async ({ page }) => {
  const strangers: string[] = [];
  const said: string[] = [];
  page.on('request', (request) => {
    if (!request.url().startsWith('http://127.0.0.1') && !/^(data|blob):/.test(request.url())) strangers.push(request.url());
  });
  page.on('console', (message) => {
    if (message.type() === 'error' || message.type() === 'warning') said.push(message.text());
  });
  const rig = await openRig(page, 'Thimble');
  for (const tab of ['Charge', 'Discharge', 'Bleed']) await page.getByRole('tab', { name: tab, exact: true }).click();
  await page.keyboard.press('w');
  await rig.block('Load');
  await page.goto('/sums/rlc-peak-current');
  expect(strangers).toEqual([]);
  expect(said).toEqual([]);
});

test('a page whose script does not come says so and opens once it does; the others are here before they are asked for', async ({
  page,
  context,
}) => {
  const later = page.waitForResponse(/assets\/sums-view/, { timeout: 90_000 });
  await context.route(/assets\/runs-view/, (route) => route.abort());
  await page.goto('/rigs');
  await page.getByRole('link', { name: 'Runs', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'This page is not loaded yet' })).toBeVisible();
  await context.unroute(/assets\/runs-view/);
  await page.getByRole('button', { name: 'Reload' }).click();
  await expect(page.getByRole('heading', { name: 'Runs' })).toBeVisible();
  await later;
  await context.route('**/*', (route) => route.abort());
  await page.getByRole('link', { name: 'Sums', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Sums' })).toBeVisible();
});
