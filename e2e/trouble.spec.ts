import { expect, test } from '@playwright/test';
import { newBank, openRig } from './pages.ts';

test('edits made while the server is away are kept in the page, said to be, and saved when it is back', async ({
  page,
  context,
}) => {
  const rig = await newBank(page);
  await rig.saved();
  await context.route('**/api/**', (route) => route.abort());
  await rig.type('Charged to', '44 V');
  await expect(page.getByRole('alert').filter({ hasText: 'Not saved' })).toBeVisible();
  await expect(rig.strip).toContainText('at 44.0 V');
  await context.unroute('**/api/**');
  await rig.saved();
  await page.reload();
  await expect(rig.strip).toContainText('at 44.0 V');
});

test('leaving a rig before it is saved, for another one, drops nothing', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const address = page.url();
  await context.route('**/api/rigs/*', (route) => (route.request().method() === 'PUT' ? route.abort() : route.continue()));
  await rig.type('Charged to', '45 V');
  await page.getByRole('link', { name: 'Rigs', exact: true }).click();
  await expect(page.getByRole('status').filter({ hasText: 'Edits of New capacitor bank are not saved yet' })).toBeVisible();
  await page.getByRole('link', { name: 'Thimble', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Edits of New capacitor bank are not saved yet');
  await context.unroute('**/api/rigs/*');
  await expect(rig.strip).toContainText('at 38.0 V', { timeout: 15_000 });
  await page.goto(address);
  await expect(rig.strip).toContainText('at 45.0 V');
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

test('two tabs on one rig: the later save is refused, and neither version is lost', async ({ page, context }) => {
  const rig = await newBank(page);
  await rig.saved();
  const other = await context.newPage();
  await other.goto(page.url());
  await other.getByLabel('Charged to').fill('41 V');
  await expect(other.locator('[data-save="saved"]')).toContainText('ago');
  await rig.type('Charged to', '43 V');
  const conflict = page.getByRole('alert').filter({ hasText: 'Changed elsewhere' });
  await expect(conflict).toBeVisible();
  await conflict.getByRole('button', { name: 'Keep mine as a copy' }).click();
  await expect(rig.strip).toContainText('at 41.0 V');
  await page.goto('/rigs');
  await expect(page.locator('tr[data-rig="New capacitor bank (copy)"]').first()).toContainText('43.0 V');
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
