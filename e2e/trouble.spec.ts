import { expect, test } from '@playwright/test';
import { newBank, openRig, RigPage } from './pages.ts';

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
  await page.getByRole('link', { name: 'Thimble', exact: true }).click();
  await expect(rig.strip).toContainText('at 38.0 V');
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
  await context.route('**/api/rigs', (route) => route.abort());
  await page.goto('/rigs');
  await expect(page.getByRole('alert')).toContainText('The server does not answer');
  await page.getByRole('link', { name: 'Sums', exact: true }).first().click();
  await expect(page.getByRole('heading', { name: 'Sums' })).toBeVisible();
  await page.getByRole('link', { name: 'Rigs', exact: true }).click();
  await context.unroute('**/api/rigs');
  await expect(page.getByRole('link', { name: 'Anvil', exact: true })).toBeVisible({ timeout: 15_000 });
});

test('a worker that crashes is said to, costs nothing but its numbers, and is started again by itself', async ({
  page,
  context,
}) => {
  await context.route('**/headlines.worker-*.js', (route) => route.abort(), { times: 1 });
  await page.goto('/rigs');
  await expect(page.getByRole('alert')).toContainText('The calculation of this list stopped');
  await expect(page.getByRole('link', { name: 'Thimble', exact: true })).toBeVisible();
  const row = page.locator('tr[data-rig="Thimble"]');
  await expect(row).toContainText('24.3 J');
  await expect(page.getByRole('alert')).toHaveCount(0);
  const [worker] = page.workers();
  if (!worker) throw new Error('the list has no worker');
  const next = page.waitForEvent('worker');
  await worker.evaluate(() => void setTimeout(() => Promise.reject(new Error('boom')).catch((e) => self.reportError(e)), 0));
  await page.getByRole('button', { name: 'Duplicate Thimble', exact: true }).click();
  await next;
  await expect(page.locator('tr[data-rig="Thimble (copy)"]').first()).toContainText('24.3 J');
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
